import { convertSchema } from '@sodaru/yup-to-json-schema';
import type { AnySchema } from 'yup';
import { apiRoutes } from '@core/api';
import type { Route } from '@core/ground';

type Json = Record<string, unknown>;

/** The OpenAPI 3.1 document of every route, made from the table. */
export function openApi(publicUrl: string): Json {
  const paths: Record<string, Record<string, Json>> = {};
  for (const route of Object.values(apiRoutes) as Route[]) {
    const path = route.path.replace(/:(\w+)/g, '{$1}');
    (paths[path] ??= {})[route.method.toLowerCase()] = operation(route);
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Drumline',
      version: '1',
      description: 'All that the interface does. Sign in with an API token made in Setup.',
      license: { name: 'Proprietary', identifier: 'LicenseRef-Drumline' },
    },
    servers: [{ url: `${publicUrl}/api` }],
    security: [{ token: [] }],
    paths,
    components: {
      securitySchemes: { token: { type: 'http', scheme: 'bearer' } },
      schemas: {
        Problem: {
          type: 'object',
          description: 'RFC 9457 problem details',
          properties: {
            type: { type: 'string' },
            title: { type: 'string' },
            status: { type: 'integer' },
            detail: { type: 'string' },
            fields: { type: 'object', additionalProperties: { type: 'string' } },
          },
          required: ['type', 'title', 'status', 'detail'],
        },
      },
    },
  };
}

function operation(route: Route): Json {
  const refused = { description: 'Refused', content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } } };
  return {
    operationId: route.name,
    summary: route.summary,
    ...(route.permission === 'open' ? { security: [] } : { 'x-permission': route.permission }),
    parameters: parameters(route),
    ...(route.body ? { requestBody: { required: true, content: { 'application/json': { schema: schemaOf(route.body) } } } } : {}),
    ...(route.upload
      ? { requestBody: { required: true, content: { 'application/octet-stream': { schema: { type: 'string', format: 'binary' } } } } }
      : {}),
    responses: {
      '200': {
        description: 'Done',
        content: {
          [route.file ?? 'application/json']: { schema: route.file ? { type: 'string', format: 'binary' } : schemaOf(route.answer) },
        },
      },
      '4XX': refused,
    },
  };
}

function parameters(route: Route): Json[] {
  const path = [...route.path.matchAll(/:(\w+)/g)].map(([, name]) => ({ name, in: 'path', required: true, schema: { type: 'string' } }));
  const head: Json[] = [];
  if (route.method !== 'GET' && route.permission !== 'open')
    head.push({ name: 'Idempotency-Key', in: 'header', required: true, schema: { type: 'string', maxLength: 200 } });
  if (route.versioned)
    head.push({ name: 'If-Match', in: 'header', required: true, description: 'The version that was seen', schema: { type: 'string' } });
  const query = route.query ? (schemaOf(route.query) as { properties?: Record<string, Json>; required?: string[] }) : {};
  return [
    ...path,
    ...head,
    ...Object.entries(query.properties ?? {}).map(([name, schema]) => ({
      name,
      in: 'query',
      required: query.required?.includes(name) ?? false,
      schema,
    })),
  ];
}

function schemaOf(schema: AnySchema): Json {
  return tidy(convertSchema(schema));
}

/** Schemas that say nothing about their type ("mixed") become "anything" and null is a type of its own. */
function tidy(node: unknown): never {
  if (Array.isArray(node)) return node.map(tidy) as never;
  if (typeof node !== 'object' || node === null) return node as never;
  const out: Json = {};
  for (const [key, value] of Object.entries(node)) {
    if (key === 'default' || (key === 'type' && Array.isArray(value) && value.length > 5)) continue;
    out[key] = tidy(value);
  }
  return out as never;
}
