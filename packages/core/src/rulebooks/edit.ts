/** The small things of a rulebook as they are said anew on a page: a need, a limit, an allowed value, everywhere or in one category. */
import { z } from 'zod';
import { type ChannelAttribute, type Rulebook, attributesFor } from './model.js';

/** Limits that are one number. */
export const numberLimits = [
  ...(['minLength', 'maxLength', 'maxBytes', 'min', 'max'] as const),
  ...(['minCount', 'maxCount', 'minWidth', 'minHeight'] as const),
];
export type NumberLimit = (typeof numberLimits)[number];

/** Those that mean something for a type. */
function meantBy(type: ChannelAttribute['type']): readonly NumberLimit[] {
  if (type === 'text' || type === 'link') return ['minLength', 'maxLength', 'maxBytes'];
  if (type === 'number' || type === 'measure') return ['min', 'max'];
  return type === 'picture' ? ['minWidth', 'minHeight'] : [];
}

/** Those that mean something for an attribute, and those it has all the same. */
export function limitsOf({
  type,
  many,
  limits = {},
}: Pick<ChannelAttribute, 'type' | 'many'> & Partial<Pick<ChannelAttribute, 'limits'>>): NumberLimit[] {
  const isCounted = many === true || type === 'picture';
  const meant = new Set<NumberLimit>([...meantBy(type), ...(isCounted ? (['minCount', 'maxCount'] as const) : [])]);
  return numberLimits.filter((limit) => meant.has(limit) || limits[limit] !== undefined);
}

export const attributeChangeSchema = z.object({
  attribute: z.string(),
  /** A category of the channel’s, with all below it; everywhere where it is left out. */
  in: z.string().optional(),
  need: z.enum(['required', 'recommended', 'optional']).optional(),
  /** Null takes one away; what is left out stays. */
  limits: z.partialRecord(z.enum(numberLimits), z.number().nullable()).optional(),
  /** The whole closed list. */
  values: z.array(z.string().trim().min(1)).min(1).max(50_000).optional(),
});
export type AttributeChange = z.infer<typeof attributeChangeSchema>;

export type Changed = { ok: true; rulebook: Rulebook } | { ok: false; faults: string[] };

/** A further version in which these things are otherwise. What that comes to still has to be loaded: limits may contradict each other. */
export function withChanges(
  rulebook: Rulebook,
  { version, validFrom, changes }: { version: string; validFrom: string; changes: readonly AttributeChange[] },
): Changed {
  const faults = changes.flatMap((change) => faultsOf(rulebook, change));
  if (faults.length > 0) return { ok: false, faults };
  const attributes = rulebook.attributes.map((attribute) =>
    changes.filter((change) => change.attribute === attribute.key).reduce(changed, attribute),
  );
  return { ok: true, rulebook: { ...rulebook, version, validFrom, attributes } };
}

function faultsOf({ attributes, categories }: Rulebook, change: AttributeChange): string[] {
  const attribute = attributes.find(({ key }) => key === change.attribute);
  if (!attribute) return [`There is no attribute “${change.attribute}”`];
  const { in: category, limits = {} } = change;
  if (category === undefined) return [];
  if (!categories.some(({ path }) => path === category)) return [`There is no category “${category}”`];
  return numberLimits.flatMap((limit) =>
    limits[limit] === null && attribute.limits[limit] !== undefined
      ? [`${attribute.label} has this limit everywhere: say another one for “${category}”, or take it away everywhere`]
      : [],
  );
}

function changed(
  attribute: ChannelAttribute,
  { in: category, need, limits, values }: AttributeChange,
): ChannelAttribute {
  const anew = (held: ChannelAttribute['limits'] = {}) => {
    const next = { ...held, ...limits, ...(values ? { values: [...new Set(values)] } : {}) };
    return Object.fromEntries(Object.entries(next).filter(([, limit]) => limit !== null)) as ChannelAttribute['limits'];
  };
  const own = need === undefined ? {} : { need };
  if (category === undefined) return { ...attribute, ...own, limits: anew(attribute.limits) };
  const isOf = ({ in: paths }: { in: string[] }) => paths.length === 1 && paths[0] === category;
  const { overrides = [] } = attribute;
  const held = overrides.find(isOf) ?? { in: [category] };
  return {
    ...attribute,
    overrides: [...overrides.filter((each) => !isOf(each)), { ...held, ...own, limits: anew(held.limits) }],
  };
}

/** An attribute as it is asked for, everywhere or in one category, and where else that is said otherwise. */
export interface AskedField {
  attribute: ChannelAttribute;
  /** Categories for which something else is said. */
  elsewhere: string[];
}

/** What a channel asks for in a market: attributes of all goods, or as they hold in one category. */
export const askedFields = (rulebook: Rulebook, category: string | undefined, market: string): AskedField[] => {
  const whole = new Map(rulebook.attributes.map((attribute) => [attribute.key, attribute]));
  const asked =
    category === undefined
      ? rulebook.attributes.filter(({ markets }) => markets === undefined || markets.includes(market))
      : attributesFor(rulebook, category, market);
  return asked.map((attribute) => {
    const { requiredIn = [], overrides = [] } = whole.get(attribute.key) ?? attribute;
    return { attribute, elsewhere: [...new Set([...requiredIn, ...overrides.flatMap((each) => each.in)])] };
  });
};
