/** One value of a list: its names by language, how else it is written, where it stands. */
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type DictionaryRow, type ListValueAnswer, type ValueFields, api } from '@velvet-shelf/contract';
import { sayLanguage } from '@velvet-shelf/core/values';
import { useState } from 'react';
import { z } from 'zod';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { useCompany } from '../company/company';
import { Box } from '../design/Box';
import { ProblemBox } from '../design/feedback';
import { Field, Form, useFields } from '../design/Form';
import { Pick } from '../design/Pick';
import { linesOf, plural } from '../design/words';
import { MergeForm } from '../design/MergeForm';

const asked = z.object({
  names: z.array(z.object({ language: z.string(), name: z.string().trim().max(200) })),
  spellings: z.string().transform(linesOf),
  /** Number of the value it stands below, as text; empty = at the root. */
  below: z.string(),
  requires: z.array(z.string()),
});

/** Keys of what those above it require. */
function inheritedBy({ parentId }: ListValueAnswer, all: readonly ListValueAnswer[]): string[] {
  const byId = new Map(all.map((row) => [row.id, row]));
  const keys = new Set<string>();
  for (let at = byId.get(parentId ?? 0); at; at = byId.get(at.parentId ?? 0))
    for (const key of at.requires) keys.add(key);
  return [...keys];
}

export const labelOf = (attributes: readonly DictionaryRow[] | undefined, key: string): string =>
  attributes?.find((row) => row.key === key)?.label ?? key;

export function ValueForm({
  value,
  all,
  isTree,
  onDone,
}: {
  value: ListValueAnswer;
  all: readonly ListValueAnswer[];
  isTree: boolean;
  onDone: () => void;
}) {
  const { languages } = useCompany();
  const queries = useQueryClient();
  const spoken = [...new Set([...languages, ...Object.keys(value.names)])];
  const form = useFields(asked, {
    names: spoken.map((language) => ({ language, name: value.names[language] ?? '' })),
    spellings: value.spellings.join('\n'),
    below: value.parentId === null ? '' : String(value.parentId),
    requires: value.requires,
  });
  const attributes = useQuery({ ...ask(api.dictionary.list), enabled: isTree });
  const inherited = inheritedBy(value, all);
  const { control } = form;
  const [isMerging, setMerging] = useState(false);
  const change = useMutation({
    mutationFn: (to: Partial<ValueFields>) => {
      const { names, spellings, parentId, position, requires, hidden } = value;
      return call(api.dictionary.changeValue, {
        params: { id: value.id },
        body: { to, was: { names, spellings, parentId, position, requires, hidden } },
      });
    },
    onSuccess: () => {
      void queries.invalidateQueries();
      onDone();
    },
  });
  if (isMerging) {
    const name = value.path.join(' / ');
    const standing = all.filter(({ parentId }) => parentId === value.id).length;
    return (
      <MergeForm
        name={name}
        choices={all.flatMap(({ id, path }) => (id === value.id ? [] : [{ id, name: path.join(' / ') }]))}
        effect={(into) =>
          `${plural(value.goods, 'product has', 'products have')} ${name} and will have ${into}. ${
            standing > 0 ? `${plural(standing, 'value')} below it will stand below that one. ` : ''
          }Files, maps, fills and conditions that say ${value.path.at(-1) ?? ''} will mean it.`
        }
        merge={(into) => call(api.dictionary.mergeValue, { params: { id: value.id }, body: { into } })}
        onDone={onDone}
        onCancel={() => setMerging(false)}
      />
    );
  }
  // What stands below it cannot be above it.
  const below = all.filter(({ path }) => !value.path.every((name, i) => path[i] === name));
  return (
    <Form
      form={form}
      onSend={({ names, spellings, below: at, requires }) =>
        change.mutate({
          names: Object.fromEntries(names.flatMap(({ language, name }) => (name === '' ? [] : [[language, name]]))),
          spellings,
          ...(isTree ? { parentId: at === '' ? null : Number(at), requires } : {}),
        })
      }
      onCancel={onDone}
      columns
      gap={2}
      pad={[2, 0]}
    >
      {spoken.map((language, i) => (
        <Field
          key={language}
          control={control}
          name={`names.${i}.name`}
          label={sayLanguage(language)}
          autoFocus={i === 0}
        />
      ))}
      <Field control={control} name="spellings" label="Also written" multiline helperText="One a line" />
      {isTree && (
        <Pick
          control={control}
          name="below"
          label="Stands below"
          choices={below.map(({ id, path }) => ({ code: String(id), name: path.join(' / ') }))}
          helperText="Empty: at the root"
        />
      )}
      {isTree && (
        <Pick
          several
          control={control}
          name="requires"
          label="Requires of its goods"
          choices={(attributes.data?.items ?? [])
            .filter(({ putAway, isComputed, key }) => !putAway && !isComputed && !inherited.includes(key))
            .map(({ key, label }) => ({ code: key, name: label }))}
          helperText={
            inherited.length > 0
              ? `Besides what stands above it: ${inherited.map((key) => labelOf(attributes.data?.items, key)).join(', ')}`
              : 'How complete goods are is measured by it, below it as well'
          }
        />
      )}
      {change.error && <ProblemBox error={change.error} />}
      <Box row>
        <Button type="submit" variant="contained" disabled={change.isPending}>
          Keep
        </Button>
        <Button color="inherit" onClick={onDone}>
          Cancel
        </Button>
        <Button color="inherit" disabled={change.isPending} onClick={() => change.mutate({ hidden: !value.hidden })}>
          {value.hidden ? 'Take back' : 'Put away'}
        </Button>
        {all.length > 1 && (
          <Button color="inherit" onClick={() => setMerging(true)}>
            Make one with another…
          </Button>
        )}
      </Box>
    </Form>
  );
}
