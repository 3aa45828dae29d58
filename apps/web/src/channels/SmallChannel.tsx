/** A channel whose rules fit on a page: its fields, a market, a tree pasted in, the formats it takes. */
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import type { api } from '@velvet-shelf/contract';
import { smallChannelSchema } from '@velvet-shelf/contract';
import { feedFormats, formats } from '@velvet-shelf/core/feeds';
import { countries, currencies, languages } from '@velvet-shelf/core/values';
import { useMemo } from 'react';
import { useController, useFieldArray, useWatch } from 'react-hook-form';
import { z } from 'zod';
import { useCompany } from '../company/company';
import { Box } from '../design/Box';
import { ProblemBox } from '../design/feedback';
import { Field, Form, useFields } from '../design/Form';
import { Pick } from '../design/Pick';
import { RemoveButton } from '../design/RemoveButton';
import { readPaths } from '../design/paths';
import { linesOf } from '../design/words';

/** What is typed: lists and the tree as lines of text. */
const typed = z.object({
  name: smallChannelSchema.shape.name,
  country: smallChannelSchema.shape.market.shape.country,
  language: smallChannelSchema.shape.market.shape.language,
  currency: smallChannelSchema.shape.market.shape.currency,
  fields: z
    .array(
      z.object({
        label: smallChannelSchema.shape.name,
        type: smallChannelSchema.shape.fields.element.shape.type,
        need: smallChannelSchema.shape.fields.element.shape.need,
        maxLength: z
          .string()
          .trim()
          .regex(/^\d{0,7}$/, 'A number of letters')
          .transform((text) => (text === '' ? undefined : Number(text))),
        values: z.string(),
      }),
    )
    .min(1),
  tree: z.string(),
  needsCategory: z.boolean(),
  formats: smallChannelSchema.shape.formats,
});

const types = [
  ['text', 'text'],
  ['number', 'number'],
  ['measure', 'measure'],
  ['money', 'price'],
  ['date', 'date'],
  ['boolean', 'yes or no'],
  ['link', 'address'],
  ['picture', 'picture'],
  ['gtin', 'GTIN'],
] as const;
const needs = [
  ['required', 'required'],
  ['recommended', 'recommended'],
  ['optional', 'optional'],
] as const;

const blank = { label: '', type: 'text', need: 'optional', maxLength: '', values: '' } as const;
const usual = [
  { ...blank, label: 'Article number', need: 'required' },
  { ...blank, label: 'Title', need: 'required', maxLength: '120' },
  { ...blank, label: 'Description', need: 'recommended' },
  { ...blank, label: 'Price', type: 'money', need: 'required' },
  { ...blank, label: 'GTIN', type: 'gtin' },
  { ...blank, label: 'Brand' },
  { ...blank, label: 'Picture', type: 'picture' },
  { ...blank, label: 'Stock', type: 'number' },
] as const;

export function SmallChannel({
  isBusy,
  error,
  onSend,
}: {
  isBusy: boolean;
  error: unknown;
  onSend: (body: z.input<typeof api.channels.add.body>) => void;
}) {
  const company = useCompany();
  const form = useFields(typed, {
    name: '',
    country: company.market,
    language: company.languages[0] ?? '',
    currency: company.currencies[0] ?? '',
    fields: usual.map((field) => ({ ...field })),
    tree: '',
    needsCategory: false,
    formats: ['csv'],
  });
  const { control } = form;
  const rows = useFieldArray({ control, name: 'fields' });
  const country = useWatch({ control, name: 'country' });
  const lands = useMemo(() => countries(), []);
  const coins = useMemo(() => currencies(), []);
  const tongues = useMemo(() => languages(country), [country]);
  const send = ({ tree, country: land, language, currency, fields, ...rest }: z.output<typeof typed>) =>
    onSend({
      small: {
        ...rest,
        fields: fields.map(({ values, maxLength, ...field }) => ({
          ...field,
          ...(maxLength === undefined ? {} : { maxLength }),
          ...(values.trim() === '' ? {} : { values: linesOf(values) }),
        })),
        market: { name: lands.find(({ code }) => code === land)?.name ?? land, country: land, language, currency },
        categories: readPaths(tree),
      },
    });
  return (
    <Form form={form} onSend={send} columns gap={3}>
      <Field control={control} name="name" label="Name of the channel" required autoFocus />
      <Pick control={control} name="country" label="Market" choices={lands} required />
      <Pick control={control} name="language" label="Language" choices={tongues} required />
      <Pick control={control} name="currency" label="Currency" choices={coins} showsCode required />
      <div>
        <h3>What it asks for</h3>
        <Box small muted below={2}>
          The first field names an item in its files.
        </Box>
        {rows.fields.map(({ id }, i) => (
          <Box
            key={id}
            role="group"
            aria-label={`Field ${i + 1}`}
            line="top"
            pad={[2, 0]}
            columns="1fr 96px 124px"
            gap={2}
          >
            <Field control={control} name={`fields.${i}.label`} label="Field" />
            <Field control={control} name={`fields.${i}.type`} label="Is" options={types} />
            <Field control={control} name={`fields.${i}.need`} label="Need" options={needs} disabled={i === 0} />
            <Field control={control} name={`fields.${i}.values`} label="Closed list, with | between" />
            <Field control={control} name={`fields.${i}.maxLength`} label="Letters" />
            {rows.fields.length > 1 && <RemoveButton of={`field ${i + 1}`} onClick={() => rows.remove(i)} />}
          </Box>
        ))}
        <Button color="secondary" onClick={() => rows.append({ ...blank })}>
          + Field
        </Button>
      </div>
      <Field
        control={control}
        name="tree"
        label="Its category tree"
        multiline
        minRows={3}
        maxRows={10}
        placeholder={'Garden / Pots\nGarden / Tools'}
        helperText="One a line, its parents before it with / or > between; or one below the other, set in by spaces or tabs"
      />
      <Switch control={control} name="needsCategory" label="Goods need one of these categories" />
      <Formats control={control} />
      {error !== null && error !== undefined && <ProblemBox error={error} />}
      <Button type="submit" variant="contained" disabled={isBusy}>
        Make the channel
      </Button>
    </Form>
  );
}

type FormControl = ReturnType<typeof useFields<typeof typed>>['control'];

function Switch({ control, name, label }: { control: FormControl; name: 'needsCategory'; label: string }) {
  const { field } = useController({ control, name });
  return (
    <FormControlLabel
      control={<Checkbox size="small" checked={field.value} onChange={(_, on) => field.onChange(on)} />}
      label={label}
      slotProps={{ typography: { variant: 'body2' } }}
    />
  );
}

function Formats({ control }: { control: FormControl }) {
  const { field, fieldState } = useController({ control, name: 'formats' });
  const toggle = (format: (typeof feedFormats)[number], on: boolean) =>
    field.onChange(on ? [...field.value, format] : field.value.filter((each) => each !== format));
  return (
    <Box role="group" aria-label="Formats it takes">
      <h3>Formats it takes</h3>
      {feedFormats.map((format) => (
        <FormControlLabel
          key={format}
          control={
            <Checkbox size="small" checked={field.value.includes(format)} onChange={(_, on) => toggle(format, on)} />
          }
          label={formats[format].label}
          slotProps={{ typography: { variant: 'body2' } }}
        />
      ))}
      {fieldState.error && <ProblemBox error={fieldState.error.message} title="Formats" />}
    </Box>
  );
}
