/** The company whose shelf this is, and the suppliers its goods come from. */
import { isCountry, isCurrency, isTimeZone, readLanguage } from '@velvet-shelf/core/values';
import { z } from 'zod';
import { effectSchema } from './effect.js';
import { endpoint, idParam } from './endpoint.js';

const noTwice = (list: string[]) => new Set(list).size === list.length;

const languageSchema = z
  .string()
  .max(35)
  .refine((tag) => readLanguage(tag) === tag, 'Choose a language, or give its tag as BCP 47 has it (de-AT)');
const currencySchema = z
  .string()
  .refine((code) => code === code.toUpperCase() && isCurrency(code), 'Choose a currency (ISO 4217)');

/** Shoppers lose their way among more values of one option. */
const usualManyValues = 20;

export const companySchema = z.object({
  name: z.string().trim().min(1, 'Give the company’s name').max(120),
  /** Country it sells in first (ISO 3166-1). */
  market: z.string().refine(isCountry, 'Choose a country'),
  /** BCP 47, its own first. */
  languages: z
    .array(languageSchema)
    .min(1, 'Choose the language of its own texts')
    .max(40)
    .refine(noTwice, 'A language stands there twice'),
  /** ISO 4217, its own first. */
  currencies: z
    .array(currencySchema)
    .min(1, 'Choose the currency of its own prices')
    .max(40)
    .refine(noTwice, 'A currency stands there twice'),
  /** IANA. */
  timeZone: z.string().refine(isTimeZone, 'Choose a time zone'),
  /** Prices it keeps have VAT in them. */
  pricesWithVat: z.boolean(),
  /** An option with more values than this is advised against. */
  manyValues: z
    .int('Give a whole number of values')
    .min(2, 'From 2 values on')
    .max(1000, 'Up to 1,000 values')
    .default(usualManyValues),
});
export type Company = z.infer<typeof companySchema>;

export const supplierSchema = z.object({
  id: z.number(),
  key: z.string(),
  name: z.string(),
  rank: z.number(),
  kind: z.enum(['own', 'supplier']),
  /** Of texts whose column names none (BCP 47), and of amounts whose column names none; null = the company's. */
  language: z.string(),
  currency: z.string().nullable(),
  putAway: z.boolean(),
  /** Its numbers for use inside a company are ours. */
  usesOurNumbers: z.boolean(),
  records: z.number(),
  /** Records that its latest whole list no longer has. */
  dropped: z.number(),
});
export type SupplierAnswer = z.infer<typeof supplierSchema>;

const supplierFields = z.object({
  name: z.string().trim().min(1, 'Give the supplier’s name').max(80),
  language: languageSchema,
  currency: currencySchema.nullable(),
  putAway: z.boolean(),
});
/** Language and currency are the company's where they are not said. */
const newSupplier = supplierFields
  .pick({ name: true })
  .extend({ language: languageSchema.optional(), currency: currencySchema.nullish() });
export type SupplierFields = z.infer<typeof supplierFields>;

/** A rate in plain decimals, above zero. */
const rateText = z
  .string()
  .trim()
  .regex(/^\d{1,9}(\.\d{1,9})?$/, 'Give a rate in plain decimals, such as 13.12')
  .refine((text) => Number(text) > 0, 'A rate is above zero');

export const rateSchema = z.object({
  from: currencySchema,
  to: currencySchema,
  rate: rateText,
  /** Who says so, and for which day (ISO 8601). */
  source: z.string().trim().min(1, 'Say where the rate comes from').max(120),
  day: z.iso.date('Give the day of the rate'),
});
export type RateAnswer = z.infer<typeof rateSchema>;

export const company = {
  rates: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/rates',
    summary: 'What one of a currency is in another, as the company says; with the places that sell in it',
    answer: z.object({ items: z.array(rateSchema.extend({ places: z.number() })) }),
  }),
  setRate: endpoint({
    role: 'editor',
    method: 'PUT',
    path: '/api/rates',
    summary: 'Say a rate, or take it away; `was` is the rate that was seen, null where there was none',
    body: z
      .object({
        from: currencySchema,
        to: currencySchema,
        is: rateSchema.pick({ rate: true, source: true, day: true }).nullable(),
        was: z.string().nullable(),
      })
      .refine(({ from, to }) => from !== to, { path: ['to'], message: 'Choose another currency' }),
    answer: effectSchema,
  }),
  suppliers: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/suppliers',
    summary: 'Suppliers, best ranked first',
    answer: z.object({ items: z.array(supplierSchema) }),
  }),
  addSupplier: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/suppliers',
    summary: 'A new supplier; trusted last until ranked otherwise',
    body: newSupplier,
    answer: z.object({ id: z.number() }),
  }),
  addSuppliers: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/suppliers/several',
    summary: 'New suppliers as a list; all of them or none, trusted last in their order',
    body: z.object({ suppliers: z.array(newSupplier).min(1).max(500) }),
    answer: z.object({ ids: z.array(z.number()) }),
  }),
  changeSupplier: endpoint({
    role: 'editor',
    method: 'PATCH',
    path: '/api/suppliers/:id',
    summary:
      'Rename a supplier, say its language and currency, put it away or back; `was` is what the change was made against',
    params: idParam,
    body: z.object({ to: supplierFields.partial(), was: supplierFields.partial() }),
    answer: z.object({}),
  }),
  mergeSupplier: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/suppliers/:id/merge',
    summary: 'Make a supplier one with another, which has its files, records and sources from then on',
    params: idParam,
    body: z.object({ into: z.number() }),
    /** Settles the goods. */
    answer: z.object({ job: z.number() }),
  }),
  show: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/company',
    summary: 'The company’s settings',
    answer: companySchema.extend({ version: z.number() }),
  }),
};
