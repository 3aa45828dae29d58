/** Attributes read from a JSON Schema (2020-12) of an item, and what of it a rulebook has no words for. */
import { z } from 'zod';
import { compilePattern } from '../values/index.js';
import { type ChannelAttribute, type Rulebook } from './model.js';

export type ReadSchema =
  | {
      ok: true;
      attributes: ChannelAttribute[];
      /** Sentences, each with the place in the schema. */
      left: string[];
    }
  | { ok: false; faults: string[] };

const mostProperties = 500;
const mostValues = 20_000;

const textual = z.union([z.string(), z.number(), z.boolean()]);
const count = z.int().nonnegative();
/** What is read of a property; all else stands in `left`. */
const keywords = {
  type: z.union([z.string(), z.array(z.string())]).optional(),
  title: z.string().max(200).optional(),
  description: z.string().max(5000).optional(),
  enum: z.array(textual).min(1).max(mostValues).optional(),
  const: textual.optional(),
  format: z.string().optional(),
  pattern: z.string().max(2000).optional(),
  minLength: count.optional(),
  maxLength: count.optional(),
  minimum: z.number().optional(),
  maximum: z.number().optional(),
  exclusiveMinimum: z.number().optional(),
  exclusiveMaximum: z.number().optional(),
};
const scalar = z.looseObject(keywords);
const property = z.looseObject({
  ...keywords,
  items: scalar.optional(),
  minItems: count.optional(),
  maxItems: count.optional(),
});
type Property = z.infer<typeof property>;
const scalarKeywords = Object.keys(keywords);
const listKeywords = ['items', 'minItems', 'maxItems'];

const document = z.looseObject({
  type: z.literal('object').optional(),
  properties: z.record(z.string().min(1).max(200), property),
  required: z.array(z.string()).default([]),
});

/** Told nowhere else, and no loss. */
const silent = new Set([
  '$schema',
  '$id',
  'title',
  'description',
  'type',
  'properties',
  'required',
  '$comment',
  'examples',
  'default',
]);

/** Reads an object's properties, one attribute each; of those that nothing can be made of, and of keywords that say more, a sentence each. */
export function fromJsonSchema(json: unknown): ReadSchema {
  const read = document.safeParse(json);
  if (!read.success)
    return {
      ok: false,
      faults: read.error.issues.map(({ path, message }) => `${path.join('.') || 'schema'}: ${message}`),
    };
  const { properties, required, ...rest } = read.data;
  const names = Object.keys(properties);
  if (names.length === 0) return { ok: false, faults: ['properties: there are none'] };
  if (names.length > mostProperties)
    return { ok: false, faults: [`properties: there are ${names.length}; ${mostProperties} can be read`] };
  const left = Object.keys(rest)
    .filter((keyword) => !silent.has(keyword))
    .map((keyword) => `${keyword}: not carried over`);
  const attributes = names.flatMap((key) => {
    const made = attributeOf(key, properties[key] ?? {}, required.includes(key));
    left.push(...made.left.map((words) => `properties.${key}${words}`));
    return made.attribute ?? [];
  });
  for (const key of required) if (!names.includes(key)) left.push(`required: “${key}” is required and not described`);
  return { ok: true, attributes, left };
}

interface Made {
  attribute: ChannelAttribute | undefined;
  left: string[];
}

function attributeOf(key: string, given: Property, isRequired: boolean): Made {
  const left: string[] = [];
  const isList = typeOf(given) === 'array';
  const of: z.infer<typeof scalar> = isList ? (given.items ?? {}) : given;
  const where = isList ? '.items' : '';
  const values = (of.enum ?? (of.const === undefined ? undefined : [of.const]))?.map(String);
  const type = typeOf(of) ?? (values && 'string');
  const unread = (part: object, known: readonly string[], at: string) =>
    left.push(
      ...Object.keys(part)
        .filter((keyword) => !known.includes(keyword) && !silent.has(keyword))
        .map((keyword) => `${at}.${keyword}: not carried over`),
    );
  unread(of, isList ? scalarKeywords : [...scalarKeywords, ...listKeywords], where);
  if (isList) unread(given, listKeywords, '');
  const kind = kindOf(type, of, values !== undefined);
  if (!kind || (isList && kind !== 'text' && kind !== 'choice')) {
    left.push(`${where}: only texts, numbers, yes or no, and lists of texts can be read`);
    return { attribute: undefined, left };
  }
  const limits: ChannelAttribute['limits'] = values ? { values } : {};
  if (kind === 'number') {
    const [min, max] = [
      of.minimum ?? justAbove(of.exclusiveMinimum, type),
      of.maximum ?? justBelow(of.exclusiveMaximum, type),
    ];
    if (min !== undefined) limits.min = min;
    if (max !== undefined) limits.max = max;
    if (type === 'integer') left.push(`${where}.type: whole numbers are taken as numbers`);
    if (type !== 'integer' && (of.exclusiveMinimum !== undefined || of.exclusiveMaximum !== undefined))
      left.push(`${where}: a limit that is itself not taken is not carried over`);
  } else if (kind !== 'boolean') {
    if (of.minLength) limits.minLength = of.minLength;
    if (of.maxLength) limits.maxLength = of.maxLength;
    if (of.pattern !== undefined && kind === 'text') {
      const compiled = compilePattern(of.pattern);
      if (compiled.ok) limits.pattern = of.pattern;
      else left.push(`${where}.pattern: ${compiled.reason}`);
    }
    if (of.format !== undefined && kind === 'text') left.push(`${where}.format: “${of.format}” is not carried over`);
  }
  if (given.minItems) limits.minCount = given.minItems;
  if (given.maxItems) limits.maxCount = given.maxItems;
  return {
    attribute: {
      key,
      label: given.title?.trim() || key,
      ...(given.description ? { help: given.description } : {}),
      type: kind,
      ...(isList ? { many: true } : {}),
      need: isRequired ? 'required' : 'optional',
      limits,
    },
    left,
  };
}

/** A type beside null is that type: what may be null may be absent. */
function typeOf({ type }: { type?: string | string[] | undefined }): string | undefined {
  if (typeof type !== 'object') return type;
  const real = type.filter((one) => one !== 'null');
  return real.length === 1 ? real[0] : undefined;
}

function kindOf(
  type: string | undefined,
  of: z.infer<typeof scalar>,
  isListed: boolean,
): ChannelAttribute['type'] | undefined {
  if (type === 'boolean') return 'boolean';
  if (isListed) return type === 'string' ? 'choice' : undefined;
  if (type === 'number' || type === 'integer') return 'number';
  if (type !== 'string') return undefined;
  if (of.format === 'date') return 'date';
  return of.format === 'uri' || of.format === 'iri' || /^\^https?/.test(of.pattern ?? '') ? 'link' : 'text';
}

const justAbove = (limit: number | undefined, type: string | undefined) =>
  limit === undefined || type !== 'integer' ? undefined : Math.floor(limit) + 1;
const justBelow = (limit: number | undefined, type: string | undefined) =>
  limit === undefined || type !== 'integer' ? undefined : Math.ceil(limit) - 1;

/** A rulebook in which a category asks for these: what there is by that key is otherwise there, what there is not is added for it alone. */
export function withCategory(
  rulebook: Rulebook,
  { category, version, attributes }: { category: string; version: string; attributes: readonly ChannelAttribute[] },
): Rulebook {
  const given = new Map(attributes.map((attribute) => [attribute.key, attribute]));
  const kept = rulebook.attributes.map((attribute) => {
    const own = given.get(attribute.key);
    if (!own) return attribute;
    // It was added for this category alone.
    if (attribute.categories?.length === 1 && attribute.categories[0] === category)
      return { ...own, categories: [category] };
    const others = (attribute.overrides ?? []).filter(
      (override) => !(override.in.length === 1 && override.in[0] === category),
    );
    return {
      ...attribute,
      ...(attribute.categories ? { categories: [...new Set([...attribute.categories, category])] } : {}),
      overrides: [...others, { in: [category], need: own.need, limits: own.limits }],
    };
  });
  const known = new Set(rulebook.attributes.map(({ key }) => key));
  const added = attributes
    .filter(({ key }) => !known.has(key))
    .map((attribute) => ({ ...attribute, categories: [category] }));
  return { ...rulebook, version, attributes: [...kept, ...added] };
}
