/** Fills: what a channel’s attributes get their values by, what that gives, and sets of them carried to another place. */
import { channelTypes } from '@velvet-shelf/core/rulebooks';
import { fillSchema, fitSchema } from '@velvet-shelf/core/fills';
import { z } from 'zod';
import { effectSchema } from './effect.js';
import { ownKindSchema } from './asked.js';
import { endpoint, idParam } from './endpoint.js';

const suggestedValueSchema = z.object({
  value: z.string(),
  /** How likely it is right, in percent. */
  score: z.number(),
  /** In words, the weightiest first. */
  evidence: z.array(z.string()),
});
export type SuggestedValue = z.infer<typeof suggestedValueSchema>;

const wordToTranslateSchema = z.object({
  /** As a table of translations has it: the key of what stands on a list of ours. */
  value: z.string(),
  name: z.string(),
  /** Listings whose goods have it. */
  goods: z.number(),
  suggestions: z.array(suggestedValueSchema),
});
export type WordToTranslate = z.infer<typeof wordToTranslateSchema>;

/** For which goods a fill holds: one market alone, one of the channel’s categories with all below it; empty = all. */
const goodsSchema = z.object({ market: z.string().max(100), category: z.string().max(1000) });
/** A preset by its number: it stands before all that belong to none. */
const ofPreset = z.number().int().positive().nullable();
export const fillAtSchema = goodsSchema.extend({ preset: ofPreset.default(null) });

/** Goods that get their value the same way: by hand (`at` null), or by one rule of one fill. */
const fillPartSchema = z.object({
  at: fillAtSchema.nullable(),
  /** The way down to the rule inside the fill’s; empty = the whole rule. */
  path: z.array(z.number().int().nonnegative()).max(10),
});
export type FillPart = z.infer<typeof fillPartSchema>;

const fillSampleSchema = z.object({
  listingId: z.number(),
  title: z.string(),
  /** What of ours the value is made of, first where there are several. */
  from: z.object({ label: z.string(), value: z.string().nullable() }).nullable(),
  value: z.string().nullable(),
  fault: z.string().nullable(),
  /** How the listing stands, and how it would with what is tried. */
  was: z.string(),
  becomes: z.string(),
});
export type FillSample = z.infer<typeof fillSampleSchema>;

export const channelAttributeSchema = z.object({
  key: z.string(),
  label: z.string(),
  help: z.string().nullable(),
  type: z.enum(channelTypes),
  need: z.enum(['required', 'recommended', 'optional']),
  limits: z.array(z.string()),
  values: z.array(z.string()).nullable(),
  own: ownKindSchema.nullable(),
  /** The one for goods of no category, where no other is said. */
  fill: fillSchema.nullable(),
  /** All there are: the most specific one wins; the one for all goods comes first. */
  slots: z.array(
    z.object({
      market: z.string(),
      category: z.string(),
      /** Of the category, from the root down. */
      names: z.array(z.string()),
      preset: ofPreset,
      presetName: z.string().nullable(),
      fill: fillSchema,
      /** Listings that get their value by it, and those it would be for where a more specific one wins. */
      goods: z.number(),
      hidden: z.number(),
    }),
  ),
  /** Where it has none: what names and types say it could copy. */
  suggested: z.object({ fill: fillSchema, why: z.string() }).nullable(),
  /** Steps that one click switches on, as they are offered. */
  steps: z.array(z.object({ step: fitSchema, label: z.string() })),
  sources: z.array(z.object({ name: z.string(), label: z.string() })),
  /** What gives pictures, for layouts. */
  pictures: z.array(z.object({ name: z.string(), label: z.string() })),
  /** Markup it takes, by its tags; null where the channel does not tell. */
  tags: z.array(z.string()).nullable(),
  /** Listings with and without a value; of the first, those whose value the channel does not take. */
  filled: z.number(),
  missing: z.number(),
  refused: z.number(),
  /** By what gives them: `goods` of each is with those it gives what is refused. Their sum is `filled`. */
  parts: z.array(fillPartSchema.extend({ goods: z.number(), refused: z.number() })),
  samples: z.array(fillSampleSchema),
  /** A fixed value goes out for goods that hold values of their own, and not all the same. */
  covers: z
    .object({
      /** Key of our attribute. */
      from: z.string(),
      label: z.string(),
      distinct: z.number(),
      /** What most of them hold. */
      examples: z.array(z.object({ text: z.string(), goods: z.number() })),
    })
    .nullable(),
  /** Of a fill that is tried, what it does to how listings stand. */
  effect: effectSchema.nullable(),
  /** Of first figures: the listings they are of, from all over the place. */
  looked: z.number().nullable(),
});
export type ChannelAttributeAnswer = z.infer<typeof channelAttributeSchema>;

/** For all goods and of no preset, where it is not said for which. */
const forAll = {
  market: fillAtSchema.shape.market.default(''),
  category: fillAtSchema.shape.category.default(''),
  preset: ofPreset.default(null),
};

/** A fill for all goods, or for those of one category or one market alone. */
const placedFillBody = z.object({
  ...forAll,
  fill: fillSchema.nullable(),
  /** Counted in this category of the channel alone. */
  within: z.string().max(1000).optional(),
  /** First figures alone, of some of the goods. */
  few: z.boolean().optional(),
});

/** Several at once, each for all goods unless it says for which. */
const severalFills = z
  .array(z.object({ ...forAll, attribute: z.string(), fill: fillSchema }))
  .min(1)
  .max(500);

/** A fill with where it stands, as people read it. */
export const toldFillSchema = z.object({
  attribute: z.string(),
  label: z.string(),
  market: z.string(),
  category: z.string(),
  /** Of the category, from the root down. */
  names: z.array(z.string()),
  fill: fillSchema,
});

/** A fill of somewhere else as it would stand here. */
const carriedFillSchema = toldFillSchema.extend({
  /** What stands there now. */
  now: fillSchema.nullable(),
  is: z.enum(['new', 'same', 'other']),
  /** What of it is left out or made otherwise, in words. */
  notes: z.array(z.string()),
  sources: z.array(z.object({ name: z.string(), label: z.string() })),
});
export type CarriedFill = z.infer<typeof carriedFillSchema>;

/** Fills in a file of their own. */
export const fillsFileSchema = z.object({
  format: z.literal('velvet-shelf fills'),
  version: z.literal(1),
  channel: z.string().max(200),
  market: z.string().max(100),
  fills: z
    .array(
      goodsSchema.extend({
        attribute: z.string().max(200),
        label: z.string().max(200).default(''),
        fill: fillSchema,
      }),
    )
    .max(2000),
});

const marketParams = idParam.extend({ attribute: z.string() });

export const fillEndpoints = {
  fills: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/places/:id/fills',
    summary:
      'The channel’s attributes with their fills and sample results; counted in one of its categories alone where it is named',
    params: idParam,
    query: z.object({ within: z.string().max(1000).optional() }),
    answer: z.object({
      items: z.array(channelAttributeSchema),
      /** The channel’s categories that goods of the place are in, most goods first. */
      categories: z.array(z.object({ path: z.string(), names: z.array(z.string()), goods: z.number() })),
    }),
  }),
  tryFill: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/places/:id/fills/:attribute/try',
    summary: 'What a fill would give, not saved',
    params: marketParams,
    body: placedFillBody,
    answer: channelAttributeSchema,
  }),
  words: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/places/:id/fills/:attribute/words',
    summary:
      'Values of ours that a translation meets, most goods first, each with what it may be on the channel’s list',
    params: marketParams,
    query: z.object({ from: z.string().max(500) }),
    answer: z.object({ items: z.array(wordToTranslateSchema) }),
  }),
  tryFills: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/places/:id/fills/try',
    summary: 'What several fills would do to how listings stand, not saved',
    params: idParam,
    body: z.object({ fills: severalFills }),
    answer: effectSchema,
  }),
  saveFills: endpoint({
    role: 'editor',
    method: 'PUT',
    path: '/api/places/:id/fills',
    summary: 'Save several fills at once, where there is none yet unless `over` is said',
    params: idParam,
    body: z.object({
      fills: severalFills,
      /** Also where there is one, in its place. */
      over: z.boolean().default(false),
    }),
    answer: effectSchema,
  }),
  saveFill: endpoint({
    role: 'editor',
    method: 'PUT',
    path: '/api/places/:id/fills/:attribute',
    summary: 'Save a fill; null takes it away',
    params: marketParams,
    body: placedFillBody,
    answer: effectSchema,
  }),
  fillGoods: endpoint({
    role: 'viewer',
    method: 'POST',
    path: '/api/places/:id/fills/:attribute/goods',
    summary:
      'Goods that get their value one way, or none, or one that is refused; of a fill that is tried where one is sent',
    params: marketParams,
    body: z.object({
      part: z.union([z.enum(['refused', 'empty']), fillPartSchema]),
      tried: placedFillBody.omit({ within: true, few: true }).optional(),
      within: z.string().max(1000).optional(),
      /** From the last answer, for more. */
      after: z.number().int().nonnegative().default(0),
    }),
    answer: z.object({ items: z.array(fillSampleSchema), next: z.number().nullable() }),
  }),
  fillsFile: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/places/:id/fills/file',
    summary: 'All fills of the channel that hold at the place, to be kept or carried elsewhere',
    params: idParam,
    answer: fillsFileSchema,
  }),
  carryFills: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/places/:id/fills/carry',
    summary: 'What the fills of another place, or of a file, would be here, each beside what there is; not saved',
    params: idParam,
    body: z.union([z.strictObject({ place: z.number().int() }), z.strictObject({ file: z.unknown() })]),
    answer: z.object({
      /** Where they come from. */
      of: z.string(),
      items: z.array(carriedFillSchema),
      unfit: z.array(z.object({ label: z.string(), why: z.string() })),
    }),
  }),
};
