/** A rulebook read field by field, of all goods or as it is asked in one category; small things are said anew, and become a further version. */
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type AskedFieldAnswer, api } from '@velvet-shelf/contract';
import type { AttributeChange } from '@velvet-shelf/core/rulebooks';
import { useState } from 'react';
import type { z } from 'zod';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { DataTable } from '../design/DataTable';
import { Loaded, useTell } from '../design/feedback';
import { Field, Form, useFields } from '../design/Form';
import { RemoveButton } from '../design/RemoveButton';
import { SearchBox } from '../design/SearchBox';
import { plural } from '../design/words';
import { CategoryPick } from './CategoryPick';
import { FieldChange, sayChange } from './FieldChange';

/** A change with what it is of, for people. */
interface Drafted {
  change: AttributeChange;
  words: string;
}

interface Category {
  path: string;
  names: string[];
}

export function RulebookFields({
  placeId,
  rulebookId,
  version,
}: {
  placeId: number;
  rulebookId: number;
  version: string;
}) {
  const [category, setCategory] = useState<Category | null>(null);
  const [search, setSearch] = useState('');
  const [open, setOpen] = useState<string>();
  const [drafts, setDrafts] = useState<Drafted[]>([]);
  const tree = useQuery({ ...ask(api.channels.tree, { params: { id: placeId } }), staleTime: 300_000 });
  const fields = useQuery(
    ask(api.channels.fields, {
      params: { id: placeId, rulebookId },
      query: category === null ? {} : { category: category.path },
    }),
  );
  const draft = (field: AskedFieldAnswer, said: Omit<AttributeChange, 'attribute' | 'in'>) => {
    const change = { attribute: field.key, ...(category === null ? {} : { in: category.path }), ...said };
    const where = category === null ? '' : ` in ${category.names.at(-1)}`;
    const words = `${field.label}${where}: ${sayChange(field, said)}`;
    const isAnother = (each: Drafted) => each.change.attribute !== change.attribute || each.change.in !== change.in;
    setDrafts((held) => [...held.filter(isAnother), { change, words }]);
    setOpen(undefined);
  };
  const isShown = ({ key, label }: AskedFieldAnswer) =>
    `${label} ${key}`.toLowerCase().includes(search.trim().toLowerCase());
  return (
    <Box as="section" above={3} aria-label={`Fields of version ${version}`}>
      <Box row align="end" below={2}>
        <CategoryPick
          label="As it is asked in"
          isShown
          placeholder="all categories"
          width={380}
          options={tree.data?.items ?? []}
          value={category}
          onPick={(path) => setCategory(tree.data?.items.find((item) => item.path === path) ?? null)}
        />
        <SearchBox label="Search fields" value={search} onSearch={setSearch} />
      </Box>
      {drafts.length > 0 && (
        <NewVersion
          {...{ placeId, rulebookId, version, drafts }}
          onDrop={(dropped) => setDrafts(drafts.filter((each) => each !== dropped))}
          onDone={() => setDrafts([])}
        />
      )}
      <Loaded query={fields}>
        {({ items }) => (
          <DataTable
            label={`What version ${version} asks for`}
            rows={items.filter(isShown)}
            keyOf={({ key }) => key}
            columns={[
              {
                head: 'Field',
                sortBy: ({ label }) => label,
                look: { wide: 260 },
                cell: ({ label, key, help }) => (
                  <Box title={help ?? undefined}>
                    <b>{label}</b>{' '}
                    <Box as="span" small muted>
                      {key}
                    </Box>
                  </Box>
                ),
              },
              { head: 'Need', sortBy: ({ need }) => need, cell: ({ need }) => need, look: { wide: 110 } },
              {
                head: 'Takes',
                cell: (field) =>
                  field.key === open ? (
                    <FieldChange
                      field={field}
                      where={category?.names.join(' / ') ?? null}
                      onKeep={(said) => draft(field, said)}
                      onLeave={() => setOpen(undefined)}
                    />
                  ) : (
                    <Takes field={field} isInOne={category !== null} />
                  ),
              },
              {
                head: '',
                id: 'Change',
                look: { wide: 90 },
                cell: ({ key, label }) =>
                  key !== open && (
                    <Button color="secondary" aria-label={`Change ${label}`} onClick={() => setOpen(key)}>
                      Change
                    </Button>
                  ),
              },
            ]}
          />
        )}
      </Loaded>
    </Box>
  );
}

/** Names said at once; the rest are counted. */
const mostNamed = 3;
const named = (names: readonly string[]): string =>
  [...names.slice(0, mostNamed), ...(names.length > mostNamed ? [`${names.length - mostNamed} more`] : [])].join(', ');

function Takes({
  field: { type, many, says, only, elsewhere },
  isInOne,
}: {
  field: AskedFieldAnswer;
  isInOne: boolean;
}) {
  return (
    <>
      {[many ? `a list of ${type}` : type, ...says].join(' · ')}
      {!isInOne && only.length > 0 && (
        <Box small muted>
          only in {named(only)}
        </Box>
      )}
      {!isInOne && elsewhere.length > 0 && (
        <Box small muted>
          otherwise in {named(elsewhere)}
        </Box>
      )}
    </>
  );
}

const tomorrow = () => new Date(Date.now() + 86_400_000).toISOString().slice(0, 10);

/** What was said anew so far, and the version it makes. */
function NewVersion({
  placeId,
  rulebookId,
  version,
  drafts,
  onDrop,
  onDone,
}: {
  placeId: number;
  rulebookId: number;
  version: string;
  drafts: readonly Drafted[];
  onDrop: (dropped: Drafted) => void;
  onDone: () => void;
}) {
  const queries = useQueryClient();
  const tell = useTell();
  const form = useFields(api.channels.changeFields.body.pick({ version: true, validFrom: true }), {
    version: `${version} own`,
    validFrom: tomorrow(),
  });
  const make = useMutation({
    mutationFn: (said: Pick<z.output<typeof api.channels.changeFields.body>, 'version' | 'validFrom'>) =>
      call(api.channels.changeFields, {
        params: { id: placeId, rulebookId },
        body: { ...said, changes: drafts.map(({ change }) => change) },
      }),
    onSuccess: ({ version: made }) => {
      tell(`Version ${made} stands below; it is not in use yet`);
      onDone();
      void queries.invalidateQueries();
    },
  });
  return (
    <Form
      form={form}
      onSend={(said) => make.mutate(said)}
      error={make.error}
      surface="brass"
      rounded
      pad={[2.5, 3.5]}
      below={2}
    >
      <b>{plural(drafts.length, 'change')}, in no version yet</b>
      {drafts.map((each) => (
        <Box row key={each.words} small>
          <Box grow>{each.words}</Box>
          <RemoveButton of={each.words} onClick={() => onDrop(each)} />
        </Box>
      ))}
      <Box row align="start" above={2}>
        <Field control={form.control} name="version" label="As version" />
        <Field control={form.control} name="validFrom" label="Holds from" type="date" />
        <Button type="submit" variant="contained" disabled={make.isPending}>
          Make the version
        </Button>
      </Box>
    </Form>
  );
}
