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
    (one) => one.type !== 'picture' && one.type !== 'category',
  );
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    type: 'object',
    title: `${rulebook.name} ${rulebook.version} ${market}${category === undefined ? '' : ` ${category}`}`,
    properties: Object.fromEntries(
      attributes.map((one): [string, JsonSchema] => {
        const { minLength, maxLength, pattern, values, min, max } = one.limits;
        if (one.type === 'money') return [one.key, { type: 'integer', exclusiveMinimum: 0 }];
        if (one.type === 'number')
          return [
            one.key,
            {
              type: 'number',
              ...(min !== undefined ? { minimum: min } : {}),
              ...(max !== undefined ? { maximum: max } : {}),
            },
          ];
        return [
          one.key,
          {
            type: 'string',
            ...(minLength !== undefined ? { minLength } : {}),
            ...(maxLength !== undefined ? { maxLength } : {}),
            ...(pattern !== undefined ? { pattern } : {}),
            ...(values ? { enum: values } : {}),
            ...(one.type === 'link' ? { pattern: absoluteLink.source } : {}),
          },
        ];
      }),
    ),
    required: attributes.filter((one) => one.need === 'required').map((one) => one.key),
  };
}

/** An http address with a host (RFC 3986, section 4.3). */
export const absoluteLink = /^https?:\/\/[^\s/]+/;
