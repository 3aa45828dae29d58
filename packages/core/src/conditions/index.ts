/** The one condition language: JSON in, a function out. Views, assortments, when…then and required-when use it. */
import { z } from 'zod';
import {
  type Attribute,
  type Value,
  closedList,
  foldText,
  parseValue,
  plainStyle,
  plainText,
  sortKeys,
} from '../values/index.js';

const operators = ['is', 'isNot', 'contains', 'under', 'atLeast', 'atMost', 'isEmpty', 'isNotEmpty'] as const;

export type Comparison = z.infer<typeof comparisonSchema>;
export type Condition = { all: Condition[] } | { any: Condition[] } | { not: Condition } | Comparison;

/** As many terms as a person could want, and no more than a database answers in a blink. */
export const mostTerms = 200;
export const deepestCondition = 10;
const text = z.string().max(500);

export const comparisonSchema = z.strictObject({
  attribute: text,
  op: z.enum(operators),
  value: text.optional(),
  language: text.optional(),
});

const partSchema: z.ZodType<Condition> = z.lazy(() =>
  z.union([
    z.strictObject({ all: z.array(partSchema).max(mostTerms) }),
    z.strictObject({ any: z.array(partSchema).max(mostTerms) }),
    z.strictObject({ not: partSchema }),
    comparisonSchema,
  ]),
);

export const conditionSchema: z.ZodType<Condition> = partSchema.superRefine((condition, context) => {
  const { terms, depth } = sizeOf(condition);
  if (terms > mostTerms)
    context.addIssue({ code: 'custom', message: `A condition has ${mostTerms} terms at most; this one has ${terms}` });
  if (depth > deepestCondition)
    context.addIssue({ code: 'custom', message: `A condition is nested ${deepestCondition} deep at most` });
});

/** Terms (groups counted too) and the depth of a condition. */
function sizeOf(condition: Condition): { terms: number; depth: number } {
  const parts =
    'all' in condition ? condition.all : 'any' in condition ? condition.any : 'not' in condition ? [condition.not] : [];
  let terms = 1;
  let depth = 0;
  for (const part of parts) {
    const size = sizeOf(part);
    terms += size.terms;
    depth = Math.max(depth, size.depth);
  }
  return { terms, depth: depth + 1 };
}

/** Everything. */
export const always: Condition = { all: [] };

/** Looks an attribute's effective value up in whatever is tested. */
export type Lookup<T> = (item: T, attribute: string, language: string | undefined) => Value | undefined;

/**
 * The keys of a closed list that a comparison lets through; undefined where it is no matter of a list. A comparison refers to
 * a value by its key; a name will do, as somebody types it.
 */
export function listedKeys({ op, value = '' }: Comparison, attribute: Attribute): ReadonlySet<string> | undefined {
  const list = closedList(attribute);
  if (!list) return undefined;
  const keys = (test: (key: string) => boolean) => new Set(list.values.map(({ key }) => key).filter(test));
  if (op === 'contains') {
    const sought = foldText(value);
    const languages = new Set([undefined, ...list.values.flatMap(({ names }) => Object.keys(names))]);
    return keys((key) => [...languages].some((language) => foldText(list.say(key, language)).includes(sought)));
  }
  const wanted = list.has(value) ? list.current(value) : list.read(value);
  if (wanted === undefined) return new Set();
  switch (op) {
    case 'is':
      return new Set([wanted]);
    case 'isNot':
      return keys((key) => key !== wanted);
    case 'under':
      return list.under(wanted);
    case 'atLeast':
      return keys((key) => list.position(key) >= list.position(wanted));
    case 'atMost':
      return keys((key) => list.position(key) <= list.position(wanted));
    default:
      return undefined;
  }
}

/** The key a comparison compares with: what `sortKey` makes of its text. Undefined where the text cannot be read. */
export function comparisonKey(comparison: Comparison, attribute: Attribute): number | string | undefined {
  const read = parseValue(comparison.value ?? '', plainStyle, attribute);
  return read.ok ? sortKeys(read.value, attribute)[0] : undefined;
}

/** What is looked for in a long text, folded; undefined where the comparison is about its key, as all others are. */
export function soughtText({ op, value }: Comparison, attribute: Attribute): string | undefined {
  return op === 'contains' && attribute.type === 'richText' ? foldText(value ?? '') : undefined;
}

/** A long text as it is searched: plain and folded. */
export const searchedText = (html: string): string => foldText(plainText(html));

/**
 * Compiles a condition. A missing value never matches, except `isEmpty`; a list matches where any member does.
 * Throws where the condition names an attribute that is not in the dictionary.
 */
export function compileCondition<T>(
  condition: Condition,
  dictionary: ReadonlyMap<string, Attribute>,
  lookup: Lookup<T>,
): (item: T) => boolean {
  if ('all' in condition) {
    const parts = condition.all.map((part) => compileCondition(part, dictionary, lookup));
    return (item) => parts.every((part) => part(item));
  }
  if ('any' in condition) {
    const parts = condition.any.map((part) => compileCondition(part, dictionary, lookup));
    return (item) => parts.some((part) => part(item));
  }
  if ('not' in condition) {
    const part = compileCondition(condition.not, dictionary, lookup);
    return (item) => !part(item);
  }
  const { attribute: key, op, language } = condition;
  const attribute = dictionary.get(key);
  if (!attribute) throw new Error(`There is no attribute “${key}” in the dictionary`);
  // By the attribute's own key: the one compared may have been made one with another.
  const present = (item: T) => lookup(item, attribute.key, language);
  if (op === 'isEmpty') return (item) => present(item) === undefined;
  if (op === 'isNotEmpty') return (item) => present(item) !== undefined;
  const sought = soughtText(condition, attribute);
  if (sought !== undefined)
    return (item) => {
      const value = present(item);
      return value !== undefined && searchedText(String(value)).includes(sought);
    };
  const matches = keyTest(condition, attribute);
  return (item) => {
    const value = present(item);
    return value !== undefined && sortKeys(value, attribute).some(matches);
  };
}

/** The comparisons of a condition, in its order. */
export function comparisonsIn(condition: Condition): Comparison[] {
  if ('all' in condition) return condition.all.flatMap(comparisonsIn);
  if ('any' in condition) return condition.any.flatMap(comparisonsIn);
  if ('not' in condition) return comparisonsIn(condition.not);
  return [condition];
}

/** The attributes a condition reads. */
export const conditionAttributes = (condition: Condition): string[] =>
  comparisonsIn(condition).map(({ attribute }) => attribute);

/** Whether a key of a value (`sortKeys`) passes a comparison that is about a value, whatever has it. */
export function keyTest(comparison: Comparison, attribute: Attribute): (key: number | string) => boolean {
  const listed = listedKeys(comparison, attribute);
  if (listed) return (key) => listed.has(String(key));
  const wanted = comparisonKey(comparison, attribute);
  return wanted === undefined ? () => false : comparedWith(comparison.op, wanted);
}

function comparedWith(op: Comparison['op'], wanted: number | string): (key: number | string) => boolean {
  switch (op) {
    case 'is':
      return (key) => key === wanted;
    case 'isNot':
      return (key) => key !== wanted;
    case 'contains':
      return (key) => String(key).includes(String(wanted));
    case 'under':
      return (key) => key === wanted || String(key).startsWith(`${wanted}/`);
    case 'atLeast':
      return (key) => key >= wanted;
    case 'atMost':
      return (key) => key <= wanted;
    default:
      return () => false;
  }
}
