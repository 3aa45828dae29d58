/** The OpenAPI 3.1 description, made from the contract. */
import { type Endpoint, api } from '@velvet-shelf/contract';
import { z } from 'zod';

export function openApi(version: string) {
  const paths: Record<string, Record<string, unknown>> = {};
  for (const [tag, group] of Object.entries(api))
    for (const [name, endpoint] of Object.entries(group) as [string, Endpoint][]) {
      const path = endpoint.path.replace(/:(\w+)/g, '{$1}');
      const entry = (paths[path] ??= {});
      entry[endpoint.method.toLowerCase()] = {
        operationId: `${tag}.${name}`,
        tags: [tag],
        summary: endpoint.summary,
        ...(endpoint.role === 'anyone' ? { security: [] } : {}),
        'x-role': endpoint.role,
        parameters: [
          ...parameters(endpoint.params, 'path'),
          ...parameters(endpoint.query, 'query'),
          ...(endpoint.once ? [idempotencyKey] : []),
        ],
        ...(['GET', 'DELETE'].includes(endpoint.method) ? {} : { requestBody: { content: contentIn(endpoint) } }),
        responses: {
          200: {
            description: 'The answer',
            content: contentOut(endpoint),
          },
          default: { description: 'Problem details (RFC 9457)', content: { 'application/problem+json': {} } },
        },
      };
    }
  return {
    openapi: '3.1.0',
    info: { title: 'Velvet Shelf', version },
    paths,
    components: { securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: 'velvet_session' } } },
    security: [{ session: [] }],
  };
}

function schemaOf(schema: z.ZodType, io: 'input' | 'output') {
  return z.toJSONSchema(schema, { io, unrepresentable: 'any', reused: 'inline', cycles: 'ref' });
}

function parameters(schema: z.ZodType, where: 'path' | 'query') {
  const { properties = {}, required = [] } = schemaOf(schema, 'input') as {
    properties?: Record<string, unknown>;
    required?: string[];
  };
  return Object.entries(properties).map(([name, row]) => ({
    name,
    in: where,
    required: where === 'path' || required.includes(name),
    schema: row,
  }));
}

const idempotencyKey = {
  name: 'Idempotency-Key',
  in: 'header',
  required: false,
  description: 'Sent again with the same key, it is done once, and answered as the first time',
  schema: { type: 'string', maxLength: 200 },
};

const contentIn = (endpoint: Endpoint) =>
  endpoint.kind === 'upload'
    ? {
        'multipart/form-data': {
          schema: { type: 'object', properties: { file: { type: 'string', format: 'binary' } } },
        },
      }
    : { 'application/json': { schema: schemaOf(endpoint.body, 'input') } };

function contentOut({ kind, answer }: Endpoint): Record<string, unknown> {
  if (kind === 'file') return { '*/*': {} };
  if (kind === 'events') return { 'text/event-stream': {} };
  return { 'application/json': { schema: schemaOf(answer, 'output') } };
}
