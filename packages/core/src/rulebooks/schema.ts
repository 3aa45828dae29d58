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
  const { minLength, maxLength, pattern, values, min, max } = limits;
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
        ...(type === 'link' ? { pattern: absoluteLink.source } : {}),
      };
      return many ? { type: 'array', items: text, minItems: 1 } : text;
    }
  }
}

/** An http address with a host (RFC 3986, section 4.3). */
export const absoluteLink = /^https?:\/\/[^\s/]+/;
