/** A channel's requirements as one versioned JSON document. */
import { z } from 'zod';
import { conditionAttributes, conditionSchema } from '../conditions/index.js';
import { compilePattern } from '../values/index.js';
import { exchangeAttributes, exchangeSchema, undescribed } from './exchange.js';

const need = z.enum(['required', 'recommended', 'optional']);

const limitsSchema = z.strictObject({
  minLength: z.int().positive().optional(),
  /** In characters (Unicode code points), as JSON Schema counts them. */
  maxLength: z.int().positive().optional(),
  pattern: z.string().optional(),
  /** Markup it takes, by its tags in small letters; none where it is empty, not told where it is absent. */
  tags: z.array(z.string().regex(/^[a-z][a-z0-9]*$/)).optional(),
  /** Closed list. */
  values: z.array(z.string()).optional(),
  min: z.number().optional(),
  max: z.number().optional(),
  /** Unit codes a measure may be sent in. */
  units: z.array(z.string()).optional(),
  /** Pixels. */
  minWidth: z.int().positive().optional(),
  minHeight: z.int().positive().optional(),
  maxCount: z.int().positive().optional(),
  minCount: z.int().positive().optional(),
  /** In bytes of UTF-8. */
  maxBytes: z.int().positive().optional(),
  /** Links: https only. */
  secure: z.boolean().optional(),
  /** Width of a picture to its height. */
  minRatio: z.number().positive().optional(),
  maxRatio: z.number().positive().optional(),
  /** Of pictures, as they are usually called: jpeg, png, webp … */
  formats: z
    .array(z.string().regex(/^[a-z0-9]+$/))
    .min(1)
    .optional(),
  /** How much of the edge of the main picture is of one colour, per cent. */
  plainGround: z.int().min(1).max(100).optional(),
});
export type Limits = z.infer<typeof limitsSchema>;

/** What is better kept to, though nothing is refused for it. */
const advisedSchema = limitsSchema.pick({
  minLength: true,
  maxLength: true,
  minWidth: true,
  minHeight: true,
  minRatio: true,
  maxRatio: true,
});

export const exemptWays = ['maker', 'goods', 'condition'] as const;
export const joinWays = ['consent', 'secret', 'address'] as const;

export const channelTypes = [
  'text',
  'number',
  'measure',
  'money',
  'date',
  'boolean',
  'choice',
  'link',
  'picture',
  'gtin',
  'category',
] as const;

const channelAttributeSchema = z.strictObject({
  key: z.string(),
  label: z.string(),
  help: z.string().optional(),
  /** money is sent as amount and currency of the market; link must be absolute; category is set from the category map. */
  type: z.enum(channelTypes),
  /** Takes a list of texts. */
  many: z.boolean().optional(),
  need,
  /** Goods may be exempt from it, once the channel has granted it: all of a maker, or single ones. */
  exempt: z.array(z.enum(exemptWays)).min(1).optional(),
  /** Its values are what the account has of the channel’s terms of this kind. */
  terms: z.string().optional(),
  /** Required, whatever `need` says, for items whose values meet this; it compares channel attributes by their keys. */
  requiredWhen: conditionSchema.optional(),
  limits: limitsSchema.default({}),
  advised: advisedSchema.optional(),
  /** Asked for only in these categories (and all below them). */
  categories: z.array(z.string()).optional(),
  /** Required, whatever `need` says, in these categories (and all below them). */
  requiredIn: z.array(z.string()).optional(),
  markets: z.array(z.string()).optional(),
  /** What is otherwise in some categories and all below them; where several hold, the one that names the deepest counts last. */
  overrides: z
    .array(
      z.strictObject({
        in: z.array(z.string()).min(1),
        need: need.optional(),
        limits: limitsSchema.optional(),
        advised: advisedSchema.optional(),
      }),
    )
    .optional(),
});
export type ChannelAttribute = z.infer<typeof channelAttributeSchema>;

/** What true and false are written as. */
export const yesNo = ['yes', 'no'] as const;

/** The values an attribute takes, where they are few enough to be named. */
export const takenValues = ({ type, limits }: Pick<ChannelAttribute, 'type' | 'limits'>): string[] | null =>
  limits.values ?? (type === 'boolean' ? [...yesNo] : null);

/** Switches on a check that takes settings; which it takes, the check itself says (core/checks). */
const ruleSchema = z.looseObject({ check: z.string() });

export const rulebookSchema = z.strictObject({
  channel: z.string(),
  name: z.string(),
  version: z.string(),
  /** First day it holds, ISO 8601. */
  validFrom: z.iso.date(),
  summary: z.string().optional(),
  /** Where a shopper sees an item, below the account's address; {number} stands for the channel's own number of it. */
  itemPage: z.string().startsWith('/').includes('{number}').optional(),
  /** Parts of the world the channel keeps apart: an account belongs to one of them, and sells in the markets of it alone. */
  regions: z
    .array(z.strictObject({ key: z.string().min(1), name: z.string().min(1) }))
    .min(1)
    .optional(),
  markets: z
    .array(
      z.strictObject({
        key: z.string(),
        name: z.string(),
        /** The region it is in, where the channel has any. */
        region: z.string().optional(),
        /** ISO 3166-1 alpha-2, BCP 47, ISO 4217. */
        country: z.string().length(2),
        language: z.string(),
        currency: z.string().length(3),
      }),
    )
    .min(1),
  categoryNeed: need,
  leafOnly: z.boolean(),
  /** The attribute, of type category, that a further category goes into where the channel takes one. */
  secondCategory: z.string().optional(),
  /** Paths of keys joined by "/"; a parent is the path above. */
  categories: z.array(z.strictObject({ path: z.string(), name: z.string(), words: z.string().optional() })),
  attributes: z.array(channelAttributeSchema).min(1),
  rules: z.array(ruleSchema),
  /** Goods the channel does not take at all: those that a condition meets, those in these categories and all below them, or both at once. */
  eligibility: z.array(
    z
      .strictObject({
        id: z.string(),
        words: z.string(),
        when: conditionSchema.optional(),
        in: z.array(z.string()).min(1).optional(),
      })
      .refine(
        (rule) => rule.when !== undefined || rule.in !== undefined,
        'It says neither when nor in what categories',
      ),
  ),
  /** How an account joins: by consent on a page of the channel’s, by an id with its secret, by an address first and a token later. */
  joins: z.enum(joinWays).optional(),
  /** Kinds of terms that an account keeps on the channel, to be named by reference. */
  terms: z.array(z.strictObject({ kind: z.string().min(1), label: z.string().min(1) })).optional(),
  exchange: exchangeSchema,
});
export type Rulebook = z.infer<typeof rulebookSchema>;

export type ReadRulebook = { ok: true; rulebook: Rulebook } | { ok: false; faults: string[] };

/** Parses and cross-checks a rulebook but for the settings of its checks (`loadRulebook` in core/checks judges those too). */
export function readRulebook(json: unknown): ReadRulebook {
  const read = rulebookSchema.safeParse(json);
  if (!read.success)
    return {
      ok: false,
      faults: read.error.issues.map((issue) => `${issue.path.join('.') || 'rulebook'}: ${issue.message}`),
    };
  const faults = crossCheck(read.data);
  return faults.length > 0 ? { ok: false, faults } : { ok: true, rulebook: read.data };
}

function crossCheck(rulebook: Rulebook): string[] {
  const faults: string[] = [];
  const attributes = new Set(rulebook.attributes.map((attribute) => attribute.key));
  const paths = new Set(rulebook.categories.map((category) => category.path));
  faults.push(...regionFaults(rulebook));
  for (const { path } of rulebook.categories) {
    const parent = parentPath(path);
    if (parent !== undefined && !paths.has(parent)) faults.push(`categories: “${path}” has no parent “${parent}”`);
  }
  for (const { key, limits } of rulebook.attributes) {
    const pattern = limits.pattern === undefined ? undefined : compilePattern(limits.pattern);
    if (pattern && !pattern.ok) faults.push(`attributes.${key}.limits.pattern: ${pattern.reason}`);
  }
  faults.push(...rulebook.attributes.flatMap(limitFaults));
  for (const attribute of rulebook.attributes)
    for (const path of [
      ...(attribute.categories ?? []),
      ...(attribute.requiredIn ?? []),
      ...(attribute.overrides ?? []).flatMap((override) => override.in),
    ])
      if (!paths.has(path)) faults.push(`attributes.${attribute.key}: there is no category “${path}”`);
  for (const { id, in: categories = [] } of rulebook.eligibility)
    for (const path of categories)
      if (!paths.has(path)) faults.push(`eligibility.${id}: there is no category “${path}”`);
  const { secondCategory } = rulebook;
  if (
    secondCategory !== undefined &&
    !rulebook.attributes.some(({ key, type }) => key === secondCategory && type === 'category')
  )
    faults.push(`secondCategory: there is no attribute “${secondCategory}” of type category`);
  const kinds = new Set(rulebook.terms?.map(({ kind }) => kind));
  for (const { key, terms } of rulebook.attributes)
    if (terms !== undefined && !kinds.has(terms))
      faults.push(`attributes.${key}.terms: there are no terms of the kind “${terms}”`);
  for (const { key, requiredWhen } of rulebook.attributes)
    for (const named of requiredWhen ? conditionAttributes(requiredWhen) : [])
      if (!attributes.has(named)) faults.push(`attributes.${key}.requiredWhen: there is no attribute “${named}”`);
  for (const [place, attribute] of exchangeAttributes(rulebook.exchange))
    if (!attributes.has(attribute)) faults.push(`${place}: there is no attribute “${attribute}”`);
  for (const format of undescribed(rulebook.exchange))
    faults.push(`exchange.formats: how ${format} is written is not described`);
  return faults;
}

const pairs = [
  ...([
    ['minLength', 'maxLength'],
    ['min', 'max'],
    ['minCount', 'maxCount'],
    ['minRatio', 'maxRatio'],
  ] as const),
];

/** Limits that nothing can meet, as they hold everywhere and in each place where they are otherwise. */
function limitFaults({ key, limits, overrides = [] }: ChannelAttribute): string[] {
  const held = [
    { at: 'limits', limits },
    ...overrides.map((each, i) => ({ at: `overrides.${i}.limits`, limits: { ...limits, ...each.limits } })),
  ];
  return held.flatMap(({ at, limits: all }) =>
    pairs.flatMap(([least, most]) => {
      const [from = -Infinity, to = Infinity] = [all[least], all[most]];
      return from > to ? [`attributes.${key}.${at}: ${least} ${from} is above ${most} ${to}`] : [];
    }),
  );
}

/** Where there are regions every market is in one, and none is without a market. */
function regionFaults({ regions = [], markets }: Rulebook): string[] {
  const known = new Set(regions.map(({ key }) => key));
  const taken = new Set(markets.map(({ region }) => region));
  return [
    ...markets.flatMap(({ key, region }) => {
      if (region !== undefined) return known.has(region) ? [] : [`markets.${key}: there is no region “${region}”`];
      return known.size > 0 ? [`markets.${key}: it does not say in which region it is`] : [];
    }),
    ...regions.flatMap(({ key }) => (taken.has(key) ? [] : [`regions.${key}: no market is in it`])),
  ];
}

/** Markets that an account of a region sells in; an account of a channel without regions (`''`) sells in all. */
export const marketsIn = ({ markets }: Pick<Rulebook, 'markets'>, region: string): Rulebook['markets'] =>
  region === '' ? markets : markets.filter((market) => market.region === region);

export function parentPath(path: string): string | undefined {
  const cut = path.lastIndexOf('/');
  return cut < 0 ? undefined : path.slice(0, cut);
}

/** Names from the root to a category. */
export function namesOf({ categories }: Pick<Rulebook, 'categories'>): (path: string) => string[] {
  const names = new Map(categories.map(({ path, name }) => [path, name]));
  const walk = (path: string | undefined): string[] =>
    path === undefined ? [] : [...walk(parentPath(path)), names.get(path) ?? path];
  return walk;
}

/** True where `path` is one of `roots` or below one. */
export function isUnder(path: string, roots: readonly string[]): boolean {
  return roots.some((root) => path === root || path.startsWith(`${root}/`));
}

/** What is said otherwise for a category or one above it; the one that names the deepest comes last, and holds. */
export function overridesIn<Override extends { in: readonly string[] }>(
  overrides: readonly Override[],
  category: string,
): Override[] {
  const depthOf = (paths: readonly string[]) =>
    Math.max(...paths.filter((path) => isUnder(category, [path])).map((path) => path.length));
  return overrides.filter((override) => isUnder(category, override.in)).sort((a, b) => depthOf(a.in) - depthOf(b.in));
}

/** The attributes that hold in a category and market, with what they need there. */
export function attributesFor(rulebook: Rulebook, category: string | undefined, market: string): ChannelAttribute[] {
  return rulebook.attributes
    .filter((attribute) => (attribute.markets ?? [market]).includes(market))
    .filter(
      (attribute) =>
        attribute.categories === undefined || (category !== undefined && isUnder(category, attribute.categories)),
    )
    .map((attribute) => (category === undefined ? attribute : inCategory(attribute, category)));
}

/** An attribute as it is asked for in one category. */
function inCategory(attribute: ChannelAttribute, category: string): ChannelAttribute {
  const holding = overridesIn(attribute.overrides ?? [], category);
  const isRequired = attribute.requiredIn !== undefined && isUnder(category, attribute.requiredIn);
  if (holding.length === 0) return isRequired ? { ...attribute, need: 'required' } : attribute;
  return holding.reduce<ChannelAttribute>(
    (asked, { need: own, limits, advised }) => ({
      ...asked,
      need: own ?? asked.need,
      limits: { ...asked.limits, ...limits },
      ...(asked.advised || advised ? { advised: { ...asked.advised, ...advised } } : {}),
    }),
    { ...attribute, need: isRequired ? 'required' : attribute.need },
  );
}
