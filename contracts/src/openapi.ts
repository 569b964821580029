import type { Lazy, ObjectSchema, Schema, SchemaDescription, SchemaFieldDescription } from 'yup';
import type { Endpoint } from './endpoint.js';
import { PROBLEMS } from './problem.js';
import responses from './responses.json' with { type: 'json' };

type Json = Record<string, unknown>;

/** The OpenAPI 3.1 document of a set of endpoints, made from the contracts. */
export function openApiOf(endpoints: Record<string, Endpoint>): Json {
  const paths: Record<string, Json> = {};
  for (const [operationId, endpoint] of Object.entries(endpoints)) {
    const path = endpoint.path.replace(/:(\w+)/g, '{$1}');
    paths[path] = { ...paths[path], [endpoint.method.toLowerCase()]: operationOf(operationId, endpoint) };
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Domatium',
      version: '1',
      description:
        'What visitors get at any address, at any moment. Instants are milliseconds since 1970-01-01T00:00Z.',
      license: { name: 'Proprietary', identifier: 'LicenseRef-Proprietary' },
    },
    servers: [{ url: '/' }],
    paths,
    components: {
      securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: 'domatium' } },
      schemas: {
        ...(componentOf(responses.definitions) as Json),
        Problem: {
          type: 'object',
          required: ['type', 'status', 'title', 'detail'],
          properties: {
            type: {
              type: 'string',
              format: 'uri',
              enum: Object.keys(PROBLEMS).map((code) => `urn:domatium:problem:${code}`),
            },
            status: { type: 'integer' },
            title: { type: 'string' },
            detail: { type: 'string' },
            fields: {
              type: 'array',
              items: {
                type: 'object',
                required: ['path', 'message'],
                properties: {
                  path: { type: 'string' },
                  message: { type: 'string' },
                  code: { type: 'string' },
                  params: { type: 'object' },
                },
              },
            },
            current: {},
            instance: { type: 'string', format: 'uri', description: 'The request in the log of the server.' },
          },
        },
      },
    },
  };
}

const MEDIA = { json: 'application/json', events: 'text/event-stream', bytes: 'application/octet-stream' } as const;

function operationOf(operationId: string, endpoint: Endpoint): Json {
  const problem = {
    description: 'A refusal in words',
    content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
  };
  const statuses = ['400', ...(endpoint.who === 'anyone' ? [] : ['401', '403']), '404', '409', '412', '422', '503'];
  return {
    operationId,
    summary: endpoint.summary,
    description: `Who may: ${endpoint.who}`,
    security: endpoint.who === 'anyone' ? [] : [{ session: [] }],
    parameters: [...parametersOf(endpoint.params, 'path'), ...parametersOf(endpoint.query, 'query')],
    ...(endpoint.body
      ? {
          requestBody: {
            required: true,
            content: { 'application/json': { schema: schemaOf(describe(endpoint.body)) } },
          },
        }
      : {}),
    ...(endpoint.takes === 'bytes'
      ? { requestBody: { required: true, content: { [MEDIA.bytes]: { schema: { type: 'string' } } } } }
      : {}),
    responses: {
      '200': {
        description: 'Done',
        content: {
          [MEDIA[endpoint.answers]]: {
            schema: endpoint.answers === 'json' ? answerOf(operationId) : { type: 'string' },
          },
        },
      },
      ...Object.fromEntries(statuses.map((status) => [status, problem])),
    },
  };
}

/** What an endpoint answers; made from its type by `npm run schemas`. */
function answerOf(operationId: string): Json {
  const schema = (responses.answers as Record<string, Json>)[operationId];
  if (!schema) throw new Error(`${operationId} has no schema of its answer: npm run schemas`);
  return componentOf(schema) as Json;
}

/** A schema with its shared parts where OpenAPI keeps them. */
function componentOf(schema: unknown): unknown {
  if (Array.isArray(schema)) return schema.map(componentOf);
  if (typeof schema !== 'object' || schema === null) return schema;
  return Object.fromEntries(
    Object.entries(schema).map(([key, value]) => [
      key,
      key === '$ref' ? String(value).replace('#/definitions/', '#/components/schemas/') : componentOf(value),
    ]),
  );
}

function describe(schema: Schema | Lazy<unknown>): SchemaDescription {
  return schema.describe() as SchemaDescription;
}

function parametersOf(schema: Schema | null, place: 'path' | 'query'): Json[] {
  if (!schema) return [];
  return Object.entries((schema as ObjectSchema<object>).describe().fields).map(([name, field]) => ({
    name,
    in: place,
    required: place === 'path' || !(field as SchemaDescription).optional,
    schema: schemaOf(field),
  }));
}

/** A Yup description as JSON Schema; a field that depends on its value (`lazy`) is left open. */
function schemaOf(field: SchemaFieldDescription): Json {
  const described = field as SchemaDescription & {
    fields?: Record<string, SchemaFieldDescription>;
    innerType?: SchemaFieldDescription;
  };
  const test = (name: string) => described.tests?.find((one) => one.name === name)?.params;
  const withNull = (type: string) => (described.nullable ? [type, 'null'] : type);
  switch (described.type) {
    case 'object': {
      const fields = Object.entries(described.fields ?? {});
      const required = fields
        .filter(([, inner]) => !(inner as SchemaDescription).optional && inner.type !== 'lazy')
        .map(([key]) => key);
      return {
        type: withNull('object'),
        properties: Object.fromEntries(fields.map(([key, inner]) => [key, schemaOf(inner)])),
        ...(required.length ? { required } : {}),
      };
    }
    case 'array':
      return { type: withNull('array'), items: described.innerType ? schemaOf(described.innerType) : {} };
    case 'number':
      return {
        type: withNull(test('integer') ? 'integer' : 'number'),
        ...(test('min') ? { minimum: test('min')?.['min'] ?? 0, ...enumOf(described) } : enumOf(described)),
        ...(test('max') ? { maximum: test('max')?.['max'] } : {}),
      };
    case 'boolean':
      return { type: withNull('boolean') };
    case 'string': {
      const pattern = test('matches')?.['regex'] as RegExp | undefined;
      return {
        type: withNull('string'),
        ...(test('min') ? { minLength: test('min')?.['min'] } : {}),
        ...(test('max') ? { maxLength: test('max')?.['max'] } : {}),
        ...(pattern ? { pattern: pattern.source } : {}),
        ...enumOf(described),
      };
    }
    default:
      return enumOf(described);
  }
}

function enumOf({ oneOf = [], nullable }: Partial<SchemaDescription>): Json {
  return oneOf.length ? { enum: nullable && !oneOf.includes(null) ? [...oneOf, null] : oneOf } : {};
}
