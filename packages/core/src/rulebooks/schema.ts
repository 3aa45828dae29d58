/** A category's attributes as JSON Schema (2020-12), so that others can check items as we do. */
import { type Rulebook, attributesFor } from './model.js';

export interface JsonSchema {
  $schema?: string;
  $id?: string;
  type?: string;
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

/** Items are objects of channel values by attribute key: money in minor units, pictures left out. */
export function toJsonSchema(rulebook: Rulebook, category: string | undefined, market: string): JsonSchema {
  const attributes = attributesFor(rulebook, category, market).filter(
    (row) => row.type !== 'picture' && row.type !== 'category',
  );
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    type: 'object',
    title: `${rulebook.name} ${rulebook.version} ${market}${category === undefined ? '' : ` ${category}`}`,
    properties: Object.fromEntries(
      attributes.map((attribute): [string, JsonSchema] => {
        const { minLength, maxLength, pattern, values, min, max } = attribute.limits;
        if (attribute.type === 'money') return [attribute.key, { type: 'integer', exclusiveMinimum: 0 }];
        if (attribute.type === 'number')
          return [
            attribute.key,
            {
              type: 'number',
              ...(min !== undefined ? { minimum: min } : {}),
              ...(max !== undefined ? { maximum: max } : {}),
            },
          ];
        return [
          attribute.key,
          {
            type: 'string',
            ...(minLength !== undefined ? { minLength } : {}),
            ...(maxLength !== undefined ? { maxLength } : {}),
            ...(pattern !== undefined ? { pattern } : {}),
            ...(values ? { enum: values } : {}),
            ...(attribute.type === 'link' ? { pattern: absoluteLink.source } : {}),
          },
        ];
      }),
    ),
    required: attributes.filter((attribute) => attribute.need === 'required').map((attribute) => attribute.key),
  };
}

/** An http address with a host (RFC 3986, section 4.3). */
export const absoluteLink = /^https?:\/\/[^\s/]+/;
