/** Values that a JSON Schema allows: usual ones, and those that nobody thinks of. */
import fc from 'fast-check';

/** The part of JSON Schema that our contract uses. */
export interface JsonSchema {
  type?: string;
  const?: unknown;
  enum?: unknown[];
  anyOf?: JsonSchema[];
  oneOf?: JsonSchema[];
  allOf?: JsonSchema[];
  $ref?: string;
  $defs?: Record<string, JsonSchema>;
  properties?: Record<string, JsonSchema>;
  required?: string[];
  additionalProperties?: JsonSchema | boolean;
  propertyNames?: JsonSchema;
  items?: JsonSchema;
  minimum?: number;
  maximum?: number;
  minLength?: number;
  maxLength?: number;
  pattern?: string;
  format?: string;
}

/** Words that are something here, and texts that trouble those who are careless with them. */
const words = fc.oneof(
  fc.constantFrom(
    'title',
    'description',
    'brand',
    'category',
    'gtin',
    'price',
    'sku',
    'material',
    'en-GB',
    'GBP',
    'id',
  ),
  fc.constantFrom(
    '',
    ' ',
    '%',
    "'",
    '\\',
    '\u0000',
    '\ud800',
    '=1+1',
    '../..',
    '<b>',
    '12,5',
    '1e999',
    'NaN',
    '2026-02-30',
  ),
  fc.string({ unit: 'grapheme', maxLength: 40 }),
  fc.string({ unit: 'binary', maxLength: 8 }),
);

const numbers = ({ minimum = -1000, maximum = 3_000_000_000 }: JsonSchema) =>
  fc.oneof(
    fc.integer({ min: Math.ceil(minimum), max: Math.max(Math.ceil(minimum), Math.min(maximum, 50)) }),
    fc.integer({ min: Math.ceil(minimum), max: Math.floor(Math.min(maximum, 9_007_199_254_740_991)) }),
  );

export function fromSchema(schema: JsonSchema, root: JsonSchema = schema, depth = 0): fc.Arbitrary<unknown> {
  const inner = (json: JsonSchema) => fromSchema(json, root, depth + 1);
  if (schema.$ref !== undefined) {
    const name = schema.$ref.split('/').at(-1) ?? '';
    const meant = schema.$ref === '#' ? root : root.$defs?.[name];
    // Conditions hold conditions: below some depth there is only what holds of everything.
    return meant && depth < 6 ? inner(meant) : fc.constant({ all: [] });
  }
  if (schema.const !== undefined) return fc.constant(schema.const);
  if (schema.enum) return fc.constantFrom(...schema.enum);
  const either = schema.anyOf ?? schema.oneOf;
  if (either) return fc.oneof(...either.map(inner));
  if (schema.allOf)
    return fc.tuple(...schema.allOf.map(inner)).map((parts) => Object.assign({}, ...(parts as object[])) as unknown);
  switch (schema.type) {
    case 'object':
      return objects(schema, inner);
    case 'array':
      return fc.array(inner(schema.items ?? {}), { maxLength: 3 });
    case 'integer':
      return numbers(schema);
    case 'number':
      return fc.oneof(numbers(schema), fc.constantFrom(0, 0.1, 1e-9));
    case 'boolean':
      return fc.boolean();
    case 'null':
      return fc.constant(null);
    case 'string':
      return schema.format === 'date' || schema.format === 'date-time'
        ? fc.constantFrom('2026-11-25', '2026-11-25T10:00:00Z', '0001-01-01', '9999-12-31T23:59:59Z')
        : words;
    default:
      return fc.oneof(words, fc.integer(), fc.constant(null), fc.constant([]), fc.constant({}));
  }
}

function objects(schema: JsonSchema, inner: (one: JsonSchema) => fc.Arbitrary<unknown>): fc.Arbitrary<unknown> {
  const required = new Set(schema.required ?? []);
  const members = Object.entries(schema.properties ?? {});
  const named = fc.record(Object.fromEntries(members.map(([key, json]) => [key, inner(json)])), {
    requiredKeys: members.map(([key]) => key).filter((key) => required.has(key)),
  } as { requiredKeys: never[] });
  if (typeof schema.additionalProperties !== 'object' || members.length > 0) return named;
  const keys = schema.propertyNames?.enum ? fc.constantFrom(...(schema.propertyNames.enum as string[])) : words;
  return fc.dictionary(keys, inner(schema.additionalProperties), { maxKeys: 3 });
}
