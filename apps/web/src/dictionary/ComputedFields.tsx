/** How an attribute is worked out where nobody says it, with what comes of that for goods there are. */
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { type DictionaryRow, type WantedComputation, api } from '@velvet-shelf/contract';
import { computedKind, computedKinds } from '@velvet-shelf/core/computed';
import { type Computation, units } from '@velvet-shelf/core/values';
import { useFormContext, useWatch } from 'react-hook-form';
import { z } from 'zod';
import { ask } from '../api/ask';
import { useCompany } from '../company/company';
import { Box } from '../design/Box';
import { DataTable } from '../design/DataTable';
import { ProblemBox } from '../design/feedback';
import { Field } from '../design/Form';
import { Pick } from '../design/Pick';
import { useSettled } from '../design/settled';
import { count } from '../design/words';
import type { kindFields } from './KindFields';
import { computedWords } from './words';

/** The fields as they are typed: '' for not at all. */
export const computedFields = {
  computedKind: z.string(),
  computedOf: z.array(z.string()),
  computedUnit: z.string(),
};
type Typed = z.input<z.ZodObject<typeof computedFields & typeof kindFields>> & { label: string };

/** What it follows from by the keys there are now: one of them may have been made one with another since. */
export const computedTyped = (computed: Computation | null, all: readonly DictionaryRow[]) => ({
  computedKind: computed?.kind ?? '',
  computedOf: (computed?.of ?? []).map((key) => all.find(({ formerKeys }) => formerKeys.includes(key))?.key ?? key),
  computedUnit: computed?.unit ?? '',
});

type Fields = Pick<Typed, 'computedKind' | 'computedOf' | 'computedUnit' | 'type'>;

/** What is typed, as it is kept; null where it is not worked out. */
export function computedOf({
  computedKind: kind,
  computedOf: of,
  computedUnit: unit,
  type,
}: Fields): Computation | null {
  if (kind === '') return null;
  const isCounted = computedKind(kind)?.takes[1] === 0;
  const hasUnit = unit !== '' && (type === 'measure' || type === 'money');
  return { kind, of: isCounted ? [] : of, ...(hasUnit ? { unit } : {}) };
}

/** Inside a form that has `computedFields` and `kindFields` among its own. */
export function ComputedFields({
  attribute,
  all,
}: {
  /** Its key, where there is one already. */
  attribute: string | undefined;
  all: readonly DictionaryRow[];
}) {
  const { control } = useFormContext<Typed>();
  const typed = useWatch({ control }) as Typed;
  const { currencies } = useCompany();
  const { type, dimension, computedKind: chosen } = typed;
  const sources = all.filter(
    (row) =>
      row.key !== attribute &&
      !row.putAway &&
      !row.many &&
      !row.perLanguage &&
      (row.type === 'number' || row.type === 'measure' || row.type === 'money'),
  );
  const inUnits = Object.entries(units).filter(([, unit]) => unit.dimension === dimension);
  const isOfOthers = chosen !== '' && (computedKind(chosen)?.takes[1] ?? 0) > 0;
  const needsCurrency = type === 'money' && computedKind(chosen)?.needs === 'any';
  return (
    <>
      <Field
        control={control}
        name="computedKind"
        label="Where nobody says it, it is"
        slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        options={[['', 'missing'], ...computedKinds.map(({ kind }) => [kind, computedWords[kind] ?? kind] as const)]}
      />
      {isOfOthers && (
        <Pick
          control={control}
          name="computedOf"
          label="Of"
          several
          choices={sources.map(({ key, label }) => ({ code: key, name: label }))}
          helperText="In this order"
        />
      )}
      {chosen !== '' && type === 'measure' && (
        <Field
          control={control}
          name="computedUnit"
          label="Given in"
          options={inUnits.map(([code, { label }]) => [code, label ?? code] as const)}
        />
      )}
      {needsCurrency && (
        <Field
          control={control}
          name="computedUnit"
          label="Of amounts in"
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
          options={[['', 'whatever currency'], ...currencies.map((code) => [code, code] as const)]}
        />
      )}
      {chosen !== '' && <Examples typed={typed} attribute={attribute} />}
    </>
  );
}

function Examples({ typed, attribute }: { typed: Typed; attribute: string | undefined }) {
  const computed = computedOf(typed);
  const { label, type, many, perLanguage, dimension } = typed;
  // As text: it is another only where something was said otherwise.
  const settled = useSettled(
    JSON.stringify({
      attribute: {
        label: label.trim() === '' ? 'It' : label,
        type,
        many: many === 'true',
        perLanguage: perLanguage === 'true',
        dimension: type === 'measure' && dimension !== '' ? dimension : null,
        ...(attribute === undefined ? {} : { key: attribute }),
      },
      computed,
    }),
  );
  const tried = useQuery({
    ...ask(api.dictionary.tryComputed, { body: JSON.parse(settled) as WantedComputation }),
    retry: false,
    gcTime: 0,
    placeholderData: keepPreviousData,
  });
  const answer = tried.data;
  if (tried.error) return <ProblemBox error={tried.error} />;
  if (!answer) return null;
  if (answer.objection !== null)
    return (
      <Box small tone="blocked" role="status">
        {answer.objection}.
      </Box>
    );
  return (
    <Box>
      <Box small muted role="status" below={1}>
        {count(answer.goods)} of {count(answer.of)} goods have what it takes.
      </Box>
      <DataTable
        label="What comes of it"
        rows={answer.examples}
        keyOf={({ id }) => id}
        columns={[
          { head: 'Product', cell: ({ sku, title }) => sku ?? title },
          { head: 'Is', look: { num: true }, cell: ({ text }) => text ?? '–' },
          { head: 'Because', look: { muted: true }, cell: ({ why }) => why },
        ]}
      />
    </Box>
  );
}
