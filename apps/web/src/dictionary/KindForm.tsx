/** What an attribute is, changed while goods have values of it: what becomes of each of them is shown before. */
import Button from '@mui/material/Button';
import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import { type DictionaryRow, type WantedKind, api } from '@velvet-shelf/contract';
import { units } from '@velvet-shelf/core/values';
import { useWatch } from 'react-hook-form';
import { z } from 'zod';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { useCompany } from '../company/company';
import { Box } from '../design/Box';
import { DataTable } from '../design/DataTable';
import { ProblemBox, useTell } from '../design/feedback';
import { Field, Form, useFields } from '../design/Form';
import { useSettled } from '../design/settled';
import { count } from '../design/words';
import { ShapeFields, kindFields } from './KindFields';
import { typeWords } from './words';

const asked = z.object({
  type: kindFields.type,
  many: kindFields.many,
  dimension: kindFields.dimension,
  unit: z.string(),
  currency: z.string(),
  decimal: z.enum(['.', ',']),
  dateOrder: z.enum(['dmy', 'mdy', 'ymd']),
});
type Asked = z.input<typeof asked>;

const orders: [Asked['dateOrder'], string][] = [
  ['ymd', 'year, month, day'],
  ['dmy', 'day, month, year'],
  ['mdy', 'month, day, year'],
];

/** Which unit, currency or writing is asked for depends on what it was and shall be. */
const needs = ({ type }: Asked, was: DictionaryRow) => ({
  unit: type === 'measure' || (type === 'number' && was.type === 'measure'),
  currency: type === 'money',
  decimal: (was.type === 'text' || was.type === 'choice') && ['number', 'measure', 'money'].includes(type),
  dateOrder: type === 'date',
});

function wantedOf(typed: Asked, was: DictionaryRow): WantedKind {
  const { type, many, dimension, unit, currency, decimal, dateOrder } = typed;
  const asks = needs(typed, was);
  return {
    type,
    many: type !== 'measure' && many === 'true',
    dimension: type === 'measure' && dimension !== '' ? dimension : null,
    style: {
      decimal: asks.decimal ? decimal : '.',
      dateOrder: asks.dateOrder ? dateOrder : 'ymd',
      ...(asks.unit && unit !== '' ? { unit } : {}),
      ...(asks.currency && currency !== '' ? { currency } : {}),
    },
  };
}

export function KindForm({
  attribute,
  onDone,
  onCancel,
}: {
  attribute: DictionaryRow;
  /** The number it has from then on. */
  onDone: (id: number) => void;
  onCancel: () => void;
}) {
  const tell = useTell();
  const { currencies } = useCompany();
  const { id, label, type, many, dimension } = attribute;
  const form = useFields(asked, {
    type,
    many: many ? 'true' : 'false',
    dimension: dimension ?? 'length',
    unit: '',
    currency: currencies[0] ?? '',
    decimal: '.',
    dateOrder: 'ymd',
  });
  const { control } = form;
  const typed = useWatch({ control }) as Asked;
  const wanted = wantedOf(typed, attribute);
  const isOther = wanted.type !== type || wanted.many !== many || (wanted.dimension ?? null) !== dimension;
  const asks = needs(typed, attribute);
  const measured = typed.type === 'measure' ? typed.dimension : dimension;
  const settled = useSettled(JSON.stringify(wanted), 300);
  const tried = useQuery({
    ...ask(api.dictionary.tryKind, { params: { id }, body: JSON.parse(settled) as WantedKind }),
    enabled: isOther,
    retry: false,
    gcTime: 0,
    placeholderData: keepPreviousData,
  });
  const save = useMutation({
    mutationFn: () =>
      call(api.dictionary.changeKind, { params: { id }, body: { ...wanted, was: { type, many, dimension } } }),
    onSuccess: (answer) => {
      tell(`${label} is ${typeWords[wanted.type]} now`);
      onDone(answer.id);
    },
  });
  const answer = isOther ? tried.data : undefined;
  const isCurrent = settled === JSON.stringify(wanted) && !tried.isPlaceholderData;
  return (
    <Form form={form} onSend={() => save.mutate()} onCancel={onCancel} error={save.error} columns gap={2.5}>
      <Box as="h3" padRight={8}>
        Change what {label} is
      </Box>
      <Box columns="1fr 1fr" gap={2.5}>
        <ShapeFields label="Shall be" />
        {asks.unit && (
          <Field
            control={control}
            name="unit"
            label={typed.type === 'number' ? 'Numbers are in' : 'Bare numbers are in'}
            slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
            options={[
              ['', 'none'],
              ...Object.entries(units)
                .filter(([, unit]) => unit.dimension === measured)
                .map(([code, unit]) => [code, unit.label ?? code] as const),
            ]}
          />
        )}
        {asks.currency && (
          <Field
            control={control}
            name="currency"
            label="Bare numbers are in"
            options={currencies.map((code) => [code, code] as const)}
          />
        )}
        {asks.decimal && (
          <Field
            control={control}
            name="decimal"
            label="Decimals are written"
            options={[
              ['.', '1.5'],
              [',', '1,5'],
            ]}
          />
        )}
        {asks.dateOrder && <Field control={control} name="dateOrder" label="Dates are written" options={orders} />}
      </Box>
      {tried.error && <ProblemBox error={tried.error} />}
      {answer?.objection != null && (
        <Box small tone="blocked" role="status">
          {answer.objection}.
        </Box>
      )}
      {answer?.objection === null && (
        <>
          <Box role="status">
            {count(answer.goods - answer.lost)} of {count(answer.goods)} goods keep their value
            {answer.lost > 0 ? `; ${count(answer.lost)} would have none` : ''}. It can be undone in the history.
          </Box>
          {answer.lostValues.length > 0 && (
            <DataTable
              label="Values that cannot be read so"
              rows={answer.lostValues}
              keyOf={({ text }) => text}
              columns={[
                { head: 'Would be lost', cell: ({ text }) => text },
                { head: 'Goods', look: { num: true }, cell: ({ goods }) => count(goods) },
                { head: 'Because', look: { muted: true }, cell: ({ reason }) => reason },
              ]}
            />
          )}
          {answer.examples.length > 0 && (
            <DataTable
              label="Values as they become"
              rows={answer.examples}
              keyOf={({ before }) => before}
              columns={[
                { head: 'Is', cell: ({ before }) => before },
                { head: 'Becomes', cell: ({ after }) => after },
                { head: 'Goods', look: { num: true }, cell: ({ goods }) => count(goods) },
              ]}
            />
          )}
        </>
      )}
      <Box row>
        <Button type="submit" variant="contained" disabled={save.isPending || !isCurrent || answer?.objection !== null}>
          {answer && answer.lost > 0 ? `Change it; ${count(answer.lost)} lose theirs` : 'Change it'}
        </Button>
        <Button color="inherit" onClick={onCancel}>
          Cancel
        </Button>
      </Box>
    </Form>
  );
}
