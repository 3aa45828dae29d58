/** Proofreading: what is wrong with texts themselves, found beside the requests, mended or left by a person. */
import { z } from 'zod';
import { chosenSchema } from './bulk.js';
import { effectSchema } from './effect.js';
import { cursorQuery, endpoint, page, rowNumber } from './endpoint.js';

/** Not the language a text is kept under; much the same as another; hard to read. Spelling is listed by word. */
export const faultKinds = ['language', 'repeated', 'hard'] as const;
export type FaultKind = (typeof faultKinds)[number];

const place = {
  product: z.number(),
  kind: z.enum(['family', 'variant', 'single', 'bundle']),
  sku: z.string().nullable(),
  title: z.string().nullable(),
  attribute: z.string(),
  label: z.string(),
  /** BCP 47, as the text is kept under. */
  language: z.string(),
};

export const textFaultSchema = z.object({
  id: z.number(),
  ...place,
  /** Its beginning, or the sentence that is meant. */
  excerpt: z.string(),
  said: z.discriminatedUnion('fault', [
    z.object({
      fault: z.literal('language'),
      language: z.string(),
      /** The language texts are kept in that it is, if any. */
      to: z.string().nullable(),
    }),
    z.object({
      fault: z.literal('repeated'),
      /** The one it is nearest to, of `others` in all. */
      other: z.number(),
      otherTitle: z.string().nullable(),
      /** Per cent. */
      share: z.number(),
      others: z.number(),
      isSibling: z.boolean(),
    }),
    z.object({ fault: z.literal('hard'), lix: z.number(), words: z.number(), sentence: z.boolean() }),
  ]),
});
export type TextFault = z.infer<typeof textFaultSchema>;

export const unknownWordSchema = z.object({
  word: z.string(),
  language: z.string(),
  /** Texts it stands in. */
  texts: z.number(),
  suggestions: z.array(z.string()),
  /** One of them. */
  example: z.object({ ...place, before: z.string(), words: z.string(), after: z.string() }),
});
export type UnknownWord = z.infer<typeof unknownWordSchema>;

const word = z.string().trim().min(1).max(100);
const languageTag = z.string().max(35);

export const proofreading = {
  begin: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/proofreading',
    once: true,
    summary: 'Read the texts of goods for what is wrong with them, beside the requests',
    body: z.object({ chosen: chosenSchema }),
    answer: z.object({ job: z.number(), goods: z.number() }),
  }),
  counts: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/proofreading',
    summary: 'How much proofreading has found, and for which languages there is a dictionary',
    answer: z.object({
      words: z.number(),
      faults: z.record(z.enum(faultKinds), z.number()),
      dictionaries: z.array(z.object({ language: z.string(), there: z.boolean() })),
    }),
  }),
  words: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/proofreading/words',
    summary: 'Words that no dictionary knows, those in the most texts first',
    query: cursorQuery,
    answer: page(unknownWordSchema),
  }),
  faults: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/proofreading/faults',
    summary: 'Texts in another language, repeated or hard to read',
    query: cursorQuery.extend({ fault: z.enum(faultKinds) }),
    answer: page(textFaultSchema),
  }),
  replace: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/proofreading/words/replace',
    once: true,
    summary: 'Write another word for one, in all texts it was found in, as one edit',
    body: z.object({ word, language: languageTag, by: word }),
    answer: effectSchema.extend({ texts: z.number() }),
  }),
  know: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/proofreading/words/know',
    summary: 'Say that a word is right: it is known from now on',
    body: z.object({ word, language: languageTag }),
    answer: z.object({}),
  }),
  move: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/proofreading/move',
    once: true,
    summary:
      'Keep texts under the language they are in, as one edit; a place that holds another text is left, and counted',
    body: z.object({ ids: z.array(rowNumber).min(1).max(5000) }),
    answer: effectSchema.extend({ texts: z.number(), left: z.number() }),
  }),
  leave: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/proofreading/leave',
    summary: 'Leave texts as they are: they are not asked about again until they say something else',
    body: z.object({ ids: z.array(rowNumber).min(1).max(5000) }),
    answer: z.object({}),
  }),
};
