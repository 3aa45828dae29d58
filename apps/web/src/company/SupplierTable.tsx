/** Suppliers as they are kept: renamed, with their language and currency, put away and back. */
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type SupplierAnswer, api } from '@velvet-shelf/contract';
import { currencies, foldText, isCurrency, languages, readLanguage, sayLanguage } from '@velvet-shelf/core/values';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { z } from 'zod';
import { ask, keyOf } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { DataTable } from '../design/DataTable';
import { Loaded, ProblemBox } from '../design/feedback';
import { Field, Form, useFields } from '../design/Form';
import { PasteLines, type PastedLine, partedLines } from '../design/PasteLines';
import { Pick } from '../design/Pick';
import { PutAway } from '../design/PutAway';
import { count, plural } from '../design/words';
import { MergeForm } from '../design/MergeForm';
import { NewSupplier } from './NewSupplier';

const { shape: fields } = api.company.changeSupplier.body.shape.to;
const asked = z.object({
  name: fields.name.unwrap(),
  language: fields.language.unwrap(),
  /** Empty = the company's. */
  currency: z.string().transform((code) => (code === '' ? null : code)),
});
type Change = z.input<typeof api.company.changeSupplier.body>;

export function SupplierTable() {
  const suppliers = useQuery(ask(api.company.suppliers));
  const queries = useQueryClient();
  const [adding, setAdding] = useState<'one' | 'many'>();
  const [open, setOpen] = useState<number>();
  const [merging, setMerging] = useState<SupplierAnswer>();
  const change = useMutation({
    mutationFn: ({ id, ...body }: Change & { id: number }) =>
      call(api.company.changeSupplier, { params: { id }, body }),
    onSuccess: () => setOpen(undefined),
    onSettled: () => queries.invalidateQueries({ queryKey: keyOf(api.company.suppliers) }),
  });
  return (
    <Box maxWide={900}>
      <Box as="p" muted around={[0, 0, 3]}>
        In the order of trust, which is set at <Link to="/matching?tab=trust">Whose word counts</Link>.
      </Box>
      <Loaded query={suppliers}>
        {({ items }) => (
          <DataTable
            label="Suppliers"
            look={{ surface: 'card' }}
            rows={items}
            keyOf={({ id }) => id}
            rowLook={({ putAway }) => ({ faded: putAway })}
            columns={[
              {
                head: 'Supplier',
                sortBy: ({ name }) => name,
                cell: (row) => `${row.name}${row.putAway ? ' · put away' : ''}`,
              },
              { head: 'Texts are in', cell: ({ language }) => sayLanguage(language) },
              { head: 'Prices are in', cell: ({ currency }) => currency ?? 'the company’s currency' },
              {
                head: 'Records',
                sortBy: ({ records }) => records,
                look: { num: true },
                cell: ({ records }) => count(records),
              },
              {
                head: '',
                id: 'Change',
                cell: (row) => (
                  <>
                    <Button color="secondary" aria-label={`Change ${row.name}`} onClick={() => setOpen(row.id)}>
                      Change
                    </Button>
                    {row.kind === 'supplier' && (
                      <PutAway
                        of={row}
                        disabled={change.isPending}
                        onChange={(body) => change.mutate({ id: row.id, ...body })}
                      />
                    )}
                  </>
                ),
              },
            ]}
            instead={(row) =>
              row.id === open && (
                <OneSupplier
                  supplier={row}
                  error={change.error}
                  onSend={(body) => change.mutate({ id: row.id, ...body })}
                  onCancel={() => setOpen(undefined)}
                  onMerge={() => {
                    setOpen(undefined);
                    setMerging(row);
                  }}
                />
              )
            }
          />
        )}
      </Loaded>
      {merging && (
        <Box above={3}>
          <MergeForm
            key={merging.id}
            name={merging.name}
            choices={(suppliers.data?.items ?? []).filter(({ id, kind }) => kind === 'supplier' && id !== merging.id)}
            effect={(into) =>
              `The files, sources and ${plural(merging.records, 'record')} of ${merging.name} are those of ${into} from then on. Where both list an article number, the newer file speaks.`
            }
            merge={(into) => call(api.company.mergeSupplier, { params: { id: merging.id }, body: { into } })}
            onDone={() => setMerging(undefined)}
            onCancel={() => setMerging(undefined)}
          />
        </Box>
      )}
      {change.error && open === undefined && <ProblemBox error={change.error} />}
      {adding === 'one' && <NewSupplier onAdded={() => setAdding(undefined)} onCancel={() => setAdding(undefined)} />}
      {adding === 'many' && (
        <PasteLines
          label="Suppliers, one a line"
          help="One a line: its name, then the language of its texts and the currency of its prices, where they are not the company’s, with tabs or semicolons between."
          placeholder={'Oakhollow Textiles\nVinterhus AB; sv; SEK'}
          heads={['Supplier', 'Texts are in', 'Prices are in']}
          noun="supplier"
          read={(text) => readSuppliers(text, suppliers.data?.items ?? [])}
          make={(all) => call(api.company.addSuppliers, { body: { suppliers: all } })}
          onDone={() => setAdding(undefined)}
        />
      )}
      {adding === undefined && (
        <Box row above={2}>
          <Button color="secondary" onClick={() => setAdding('one')}>
            + Supplier
          </Button>
          <Button color="secondary" onClick={() => setAdding('many')}>
            Paste several
          </Button>
        </Box>
      )}
    </Box>
  );
}

type NewSupplier = z.input<typeof api.company.addSuppliers.body>['suppliers'][number];

/** A language by its tag, by its name, or by its name with a country's. */
function languageOf(text: string): string | undefined {
  const sought = foldText(text);
  const all = languages();
  const bases = all.map(({ code }) => code.split('-')[0] ?? code);
  return (
    all.find(({ name }) => foldText(name) === sought)?.code ??
    bases.find((base) => foldText(sayLanguage(base)) === sought) ??
    readLanguage(text)
  );
}

/** Languages by tag or name, currencies by code; a name that is there already is told. */
function readSuppliers(text: string, known: readonly SupplierAnswer[]): PastedLine<NewSupplier>[] {
  const seen = new Map(known.map(({ name }) => [foldText(name), 'is there already']));
  return partedLines(text).map(([name = '', spoken = '', coin = '']) => {
    const language = spoken === '' ? undefined : languageOf(spoken);
    const currency = coin.toUpperCase();
    const fault =
      seen.get(foldText(name)) ??
      (spoken !== '' && language === undefined ? `“${spoken}” is no language` : undefined) ??
      (coin !== '' && !isCurrency(currency) ? `“${coin}” is no currency` : undefined);
    seen.set(foldText(name), 'stands there twice');
    return {
      made: {
        name,
        ...(language === undefined ? {} : { language }),
        ...(coin === '' ? {} : { currency }),
      },
      cells: [name, language === undefined ? spoken : sayLanguage(language), currency],
      fault,
    };
  });
}

function OneSupplier({
  supplier: { name, language, currency, kind },
  error,
  onSend,
  onCancel,
  onMerge,
}: {
  supplier: SupplierAnswer;
  error: unknown;
  onSend: (body: Change) => void;
  onCancel: () => void;
  onMerge: () => void;
}) {
  const form = useFields(asked, { name, language, currency: currency ?? '' });
  const tongues = useMemo(() => languages(), []);
  const coins = useMemo(() => currencies(), []);
  return (
    <Form
      form={form}
      onSend={(to) => onSend({ to, was: { name, language, currency } })}
      onCancel={onCancel}
      error={error}
    >
      <Box columns="1.2fr 1fr 1fr auto auto" gap={2} pad={[2, 0]} align="start">
        <Field control={form.control} name="name" label="Name" autoFocus />
        <Pick control={form.control} name="language" label="Texts are in" choices={tongues} read={readLanguage} />
        <Pick
          control={form.control}
          name="currency"
          label="Prices are in"
          choices={coins}
          showsCode
          helperText="Empty: the company’s"
        />
        <Button type="submit" variant="contained">
          Keep
        </Button>
        <Button color="inherit" onClick={onCancel}>
          Cancel
        </Button>
      </Box>
      {kind === 'supplier' && (
        <Button color="inherit" onClick={onMerge}>
          Make one with another…
        </Button>
      )}
    </Form>
  );
}
