import { z } from 'zod';
import { type Endpoint, problem } from './endpoint.ts';

/** The OpenAPI 3.1 description of a contract. */
export function describeApi(endpoints: Record<string, Endpoint>, origin: string): object {
  const paths: Record<string, Record<string, object>> = {};
  for (const [key, endpoint] of Object.entries(endpoints)) {
    const [method, path] = key.split(' ') as [string, string];
    const at = path.replace(/:(\w+)/gu, '{$1}');
    paths[at] ??= {};
    paths[at][method.toLowerCase()] = operation(key, endpoint);
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Acolyte', version: '0.1.0', description: 'Events and the people they belong to.' },
    servers: [{ url: origin }],
    paths,
    components: {
      schemas: { Problem: schemaOf(problem, 'output') },
      securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: 'acolyte_session' } },
    },
  };
}

function operation(key: string, endpoint: Endpoint): object {
  const writes = !key.startsWith('GET');
  const error = (description: string) => ({
    description,
    content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
  });
  const isFile = 'file' in endpoint.response;
  const content = isFile
    ? { [(endpoint.response as { file: string }).file]: { schema: { type: 'string' } } }
    : { 'application/json': { schema: schemaOf(endpoint.response as z.ZodType, 'output') } };
  const roles =
    endpoint.who === 'public'
      ? 'Anyone.'
      : endpoint.who === 'staff'
        ? 'Anyone signed in.'
        : `Roles: ${[...new Set(['coordinator', ...endpoint.who])].join(', ')}.`;
  return {
    operationId: key.replace(/[^A-Za-z0-9]+/gu, '_').replace(/_$/u, ''),
    summary: endpoint.summary,
    description: roles,
    ...(endpoint.who === 'public' ? {} : { security: [{ session: [] }] }),
    parameters: [
      ...parameters(endpoint.params, 'path'),
      ...parameters(endpoint.query, 'query'),
      ...(key.startsWith('POST') && !endpoint.ownTransactions
        ? [
            {
              name: 'Idempotency-Key',
              in: 'header',
              required: false,
              schema: { type: 'string' },
              description: 'Makes a repeat of this request answer what the first one answered.',
            },
          ]
        : []),
    ],
    ...(endpoint.body
      ? {
          requestBody: {
            required: true,
            content: { 'application/json': { schema: schemaOf(endpoint.body, 'input') } },
          },
        }
      : {}),
    responses: {
      [key.startsWith('POST') && !endpoint.ownTransactions && !isFile ? '201' : '200']: {
        description: 'Done',
        content,
      },
      ...(endpoint.who === 'public' ? {} : { '401': error('Not signed in'), '403': error('Not allowed') }),
      ...(endpoint.params ? { '404': error('Not found') } : {}),
      ...(writes
        ? {
            '409': error('Does not go with how things stand'),
            '422': error('Something in the request is wrong'),
          }
        : {}),
    },
  };
}

function parameters(schema: z.ZodType | undefined, place: 'path' | 'query'): object[] {
  if (!schema) return [];
  const json = schemaOf(schema, 'input') as { properties?: Record<string, object>; required?: string[] };
  return Object.entries(json.properties ?? {}).map(([name, property]) => ({
    name,
    in: place,
    required: place === 'path' || Boolean(json.required?.includes(name)),
    schema: property,
  }));
}

function schemaOf(schema: z.ZodType, io: 'input' | 'output'): object {
  const { $schema: _, ...rest } = z.toJSONSchema(schema, {
    io,
    unrepresentable: 'any',
    reused: 'inline',
  }) as Record<string, unknown>;
  return rest;
}
