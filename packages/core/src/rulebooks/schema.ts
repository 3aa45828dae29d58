/** A category's attributes as JSON Schema (2020-12), so that others can check items as we do. */
import { type ChannelAttribute, type Rulebook, attributesFor } from './model.js';

export interface JsonSchema {
  $schema?: string;
  $id?: string;
  type?: string;
  items?: JsonSchema;
  minItems?: number;
  title?: string;
  properties?: Record<string, JsonSchema>;
  required?: string[];
  minLength?: number;
  maxLength?: number;
  pattern?: string;
  enum?: string[];
  minimum?: number;
  maximum?: number;
  exclusiveMinimum?: number;
}

/** Items are objects of plain channel values by attribute key (`plainChannelValue`); pictures and the category are left out. */
export function toJsonSchema(rulebook: Rulebook, category: string | undefined, market: string): JsonSchema {
  const attributes = attributesFor(rulebook, category, market).filter(
    (row) => row.type !== 'picture' && row.type !== 'category',
  );
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    type: 'object',
    title: `${rulebook.name} ${rulebook.version} ${market}${category === undefined ? '' : ` ${category}`}`,
    properties: Object.fromEntries(attributes.map((attribute) => [attribute.key, valueSchema(attribute)])),
    required: attributes.filter((attribute) => attribute.need === 'required').map((attribute) => attribute.key),
  };
}

function valueSchema({ type, many, limits }: ChannelAttribute): JsonSchema {
  const { minLength, maxLength, pattern, values, min, max, minCount, secure } = limits;
  switch (type) {
    case 'money':
      return { type: 'integer', exclusiveMinimum: 0 };
    case 'boolean':
      return { type: 'boolean' };
    case 'number':
      return {
        type: 'number',
        ...(min !== undefined ? { minimum: min } : {}),
        ...(max !== undefined ? { maximum: max } : {}),
      };
    case 'measure':
      return { type: 'string', pattern: '^-?[0-9]+([.][0-9]+)? .' };
    case 'date':
      return { type: 'string', pattern: '^[0-9]{4}-[0-9]{2}-[0-9]{2}$' };
    default: {
      const text: JsonSchema = {
        type: 'string',
        ...(minLength !== undefined ? { minLength } : {}),
        ...(maxLength !== undefined ? { maxLength } : {}),
        ...(pattern !== undefined ? { pattern } : {}),
        ...(values ? { enum: values } : {}),
        ...(type === 'link' ? { pattern: (secure ? secureLink : absoluteLink).source } : {}),
      };
      return many ? { type: 'array', items: text, minItems: minCount ?? 1 } : text;
    }
  }
}

/** An http address with a host (RFC 3986, section 4.3). */
export const absoluteLink = /^https?:\/\/[^\s/]+/;
/** The same, fetched so that nobody on the way reads or changes it. */
export const secureLink = /^https:\/\/[^\s/]+/;

/** Of limits that no keyword of JSON Schema says, in words. */
const unsaid: Partial<Record<keyof ChannelAttribute['limits'], string>> = {
  units: 'the units it is taken in',
  tags: 'the markup it takes',
  maxBytes: 'how many bytes it may have',
  maxCount: 'how many of its values are sent',
  minWidth: 'how wide pictures are at least',
  minHeight: 'how high pictures are at least',
  minRatio: 'the shape of pictures',
  maxRatio: 'the shape of pictures',
  formats: 'the formats of pictures',
  plainGround: 'the ground of the main picture',
};

/** What `toJsonSchema` of a category leaves out: a sentence each. */
export function unsaidBySchema(rulebook: Rulebook, category: string | undefined, market: string): string[] {
  const attributes = attributesFor(rulebook, category, market);
  const ofAttribute = ({ label, type, limits, advised, requiredWhen }: ChannelAttribute): string[] =>
    [
      ...(type === 'category' ? ['it is set from the category map'] : []),
      ...(type === 'picture' ? ['pictures are left out'] : []),
      ...(type === 'gtin' ? ['the check digit'] : []),
      ...(type === 'money' ? ['the currency; amounts are in its smallest unit'] : []),
      ...new Set(
        (Object.keys(limits) as (keyof typeof limits)[]).flatMap((limit) =>
          limits[limit] === undefined ? [] : (unsaid[limit] ?? []),
        ),
      ),
      ...(advised ? ['what is advised'] : []),
      ...(requiredWhen ? ['when it is required'] : []),
    ].map((words) => `${label}: ${words}`);
  const checks = [...new Set(rulebook.rules.map(({ check }) => check))].map((check) => `The rule ${check}`);
  return [
    ...attributes.flatMap(ofAttribute),
    ...checks,
    ...rulebook.eligibility.map(({ words }) => `What is not taken at all: ${words}`),
  ];
}
