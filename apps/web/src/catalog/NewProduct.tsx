/** Goods made by hand: one, or a family laid out from its options before it is made. */
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type AttributeAnswer, type ProductAnswer, api, mostByHand } from '@velvet-shelf/contract';
import { axisKindOf, combinationsOf, layOut, newValues, numbersOf, readValueList } from '@velvet-shelf/core/catalog';
import type { Role } from '@velvet-shelf/core/values';
import { useMemo, useState } from 'react';
import { useFieldArray, useWatch } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { z } from 'zod';
import { ask } from '../api/ask';
import { inAddress, useAddress } from '../api/address';
import { call } from '../api/call';
import { useCompany } from '../company/company';
import { Box } from '../design/Box';
import { Loaded, ProblemBox, useTell } from '../design/feedback';
import { Field, Form, useFields } from '../design/Form';
import { Pick } from '../design/Pick';
import { RemoveButton } from '../design/RemoveButton';
import { plural } from '../design/words';
import { GrowFamily } from './GrowFamily';
import { beginLike, blank } from './like';
import { OverLimits } from './OverLimits';
import { asSent, faultsOfVariants, rowsOf, sayMany, sayTooMany, sayValues } from './made';
import { type Laid, type Said, VariantTable } from './VariantTable';

const text = z.string().trim();
const typed = z.object({
  title: text.min(1, 'Give its title').max(500),
  category: z.string(),
  brand: text.max(200),
  sku: text.min(1, 'Give its SKU').max(180),
  gtin: text,
  price: text,
  stock: text,
  axes: z.array(z.object({ name: text.min(1, 'Give the option a name').max(60), values: z.string() })),
});

const address = z.object({ family: inAddress.number, make: inAddress.text, like: inAddress.number });

export function NewProduct() {
  const [{ family, make, like }] = useAddress(address);
  const model = useQuery({ ...ask(api.catalog.product, { params: { id: like ?? 0 } }), enabled: like !== undefined });
  const attributes = useQuery(ask(api.catalog.attributes));
  return (
    <Box as="section" scroll grow pad={[4.5, 6, 6]}>
      <Box as="h1" below={3}>
        {family === undefined ? 'New product' : 'New variants'}
      </Box>
      {family === undefined ? (
        <Loaded query={attributes}>
          {({ items }) =>
            like === undefined ? (
              <ProductForm attributes={items} />
            ) : (
              <Loaded query={model}>{(product) => <ProductForm attributes={items} like={product} />}</Loaded>
            )
          }
        </Loaded>
      ) : (
        <GrowFamily id={family} make={make} />
      )}
    </Box>
  );
}

/** `like`: goods it begins as another of. */
function ProductForm({ attributes, like }: { attributes: readonly AttributeAnswer[]; like?: ProductAnswer }) {
  const { currencies, languages, manyValues } = useCompany();
  const queries = useQueryClient();
  const tell = useTell();
  const navigate = useNavigate();
  const begun = useMemo(
    () => (like ? beginLike(like, attributes, languages[0]) : blank),
    [like, attributes, languages],
  );
  const form = useFields(typed, begun.fields);
  const { control } = form;
  const axes = useFieldArray({ control, name: 'axes' });
  const written = useWatch({ control });
  const [said, setSaid] = useState<Record<string, Said>>({});
  const byRole = (role: Role) => attributes.find((attribute) => attribute.role === role);
  const laid = layOutOf(written, attributes, { language: languages[0], manyValues });
  const rows = laid.rows.map((row): Laid => ({ ...row, ...said[row.id] }));
  const kept = rows.filter(({ isOut }) => !isOut);
  const make = useMutation({
    mutationFn: ({ title, category, brand, sku, gtin, price, stock, axes: given }: z.output<typeof typed>) => {
      const shared = (['title', 'category', 'brand'] as const).flatMap((role) => {
        const key = byRole(role)?.key;
        const value = { title, category, brand }[role];
        return key === undefined || value === '' ? [] : [{ attribute: key, text: value }];
      });
      return call(api.byHand.make, {
        body: {
          shared: [...shared, ...begun.others.map(({ attribute, text }) => ({ attribute, text }))],
          axes: given.map(({ name }) => name),
          variants: given.length === 0 ? [{ sku, options: [], gtin, price, stock }] : kept.map(asSent),
        },
      });
    },
    onSuccess: ({ product }) => {
      tell('It is in the catalog. What else channels ask for is told in its drawer');
      void queries.invalidateQueries();
      void navigate(`/catalog?open=${product}`);
    },
  });
  const faults = faultsOfVariants(make.error, kept);
  const isFamily = axes.fields.length > 0;
  const fault = (field: string) => (isFamily ? undefined : faults.variants.get('')?.[field]);
  return (
    <Form
      form={form}
      onSend={(values) => make.mutate(values)}
      columns="minmax(280px, 340px) minmax(0, 1fr)"
      gap={8}
      align="start"
    >
      <Box columns gap={3} align="start">
        <Field control={control} name="title" label={byRole('title')?.label ?? 'Title'} required autoFocus />
        {byRole('category')?.choices && (
          <Pick
            control={control}
            name="category"
            label={byRole('category')?.label ?? 'Category'}
            choices={(byRole('category')?.choices ?? []).map(({ name }) => ({ code: name, name }))}
          />
        )}
        {byRole('brand') && <Field control={control} name="brand" label={byRole('brand')?.label} />}
        <Field
          control={control}
          name="sku"
          label="SKU"
          required
          fault={fault('sku')}
          helperText={isFamily ? 'The variants’ begin with it' : undefined}
        />
        {!isFamily && byRole('gtin') && (
          <Field control={control} name="gtin" label={byRole('gtin')?.label} fault={fault('gtin')} />
        )}
        <Box columns="1fr 1fr" gap={3}>
          <Field control={control} name="price" label={`Price, ${currencies[0] ?? ''}`} fault={fault('price')} />
          <Field control={control} name="stock" label="Pieces in stock" fault={fault('stock')} />
        </Box>
        <Box small muted>
          {isFamily
            ? 'Price and pieces are each variant’s, where the list does not say another.'
            : 'Everything else is added once it is in the catalog.'}
        </Box>
        {like && (
          <Box small muted>
            As {like.title ?? 'the other'} has it: {begun.others.map(({ label }) => label).join(', ') || 'nothing else'}
            .{isFamily && ' What its variants differ in beside their options is each one’s own.'}
          </Box>
        )}
        <Box row>
          <Button type="submit" variant="contained" disabled={make.isPending || (isFamily && kept.length === 0)}>
            {isFamily ? `Make ${plural(kept.length, 'variant')}` : 'Make it'}
          </Button>
          <Button color="inherit" onClick={() => void navigate('/catalog')}>
            Cancel
          </Button>
        </Box>
        {faults.other.map((words) => (
          <ProblemBox key={words} error={words} title="Nothing was made" />
        ))}
      </Box>
      <Box columns gap={4} align="start">
        <Box>
          <Box as="h2" below={1}>
            Options
          </Box>
          <Box small muted below={2}>
            What variants differ in, such as size or colour. Without one it is a single product.
          </Box>
          {axes.fields.map(({ id }, i) => (
            <Box
              key={id}
              role="group"
              aria-label={`Option ${i + 1}`}
              line="top"
              pad={[3, 0]}
              columns="170px minmax(0, 1fr) auto"
              gap={3}
              align="start"
            >
              <Field control={control} name={`axes.${i}.name`} label="Option" placeholder="Size" />
              <Field
                control={control}
                name={`axes.${i}.values`}
                label="Its values"
                multiline
                maxRows={6}
                placeholder="S, M, L"
                helperText={laid.words[i] ?? 'Paste a list: one a line, or parted by commas, semicolons or tabs'}
              />
              <RemoveButton of={`option ${i + 1}`} onClick={() => axes.remove(i)} />
            </Box>
          ))}
          <Button variant="outlined" onClick={() => axes.append({ name: '', values: '' })}>
            Add an option
          </Button>
        </Box>
        {laid.tooMany && <ProblemBox error={laid.tooMany} title="Too many at once" />}
        <OverLimits variants={kept.length} />
        {rows.length > 0 && (
          <VariantTable
            axes={laid.names}
            rows={rows}
            faults={faults.variants}
            onSay={(id, to) => setSaid((all) => ({ ...all, [id]: { ...all[id], ...to } }))}
          />
        )}
      </Box>
    </Form>
  );
}

interface Written {
  sku?: string | undefined;
  price?: string | undefined;
  stock?: string | undefined;
  axes?: { name?: string | undefined; values?: string | undefined }[] | undefined;
}

/** The variants that what is written amounts to, and what is said of each option's values. */
function layOutOf(
  { sku = '', price = '', stock = '', axes = [] }: Written,
  attributes: readonly AttributeAnswer[],
  { language, manyValues }: { language: string | undefined; manyValues: number },
): { names: string[]; rows: Laid[]; words: (string | undefined)[]; tooMany: string | undefined } {
  const read = axes.map(({ name = '', values = '' }) => {
    const kind = axisKindOf(name, attributes);
    return { name, kind, ...newValues([], readValueList(values), kind) };
  });
  const words = read.map(({ fresh, there }) =>
    fresh.length === 0
      ? undefined
      : [
          sayValues(plural(fresh.length, 'value'), there, 'written twice'),
          ...sayMany(fresh.length, manyValues).map((many) => `${many}; are they two options?`),
        ].join(' · '),
  );
  const laid = read.map(({ kind, fresh }) => ({ kind, values: fresh }));
  const n = combinationsOf(laid);
  if (n > mostByHand) return { names: [], rows: [], words, tooMany: sayTooMany(n, mostByHand) };
  const combinations = layOut(laid, mostByHand, language);
  return {
    names: read.map(({ name }, i) => name || `Option ${i + 1}`),
    rows: rowsOf(combinations, numbersOf(sku, combinations), () => ({ price, stock })),
    words,
    tooMany: undefined,
  };
}
