import { COMMON_ERRORS, ERROR_CODES, ErrorAnswer, type ErrorCode } from '@fuller/contracts';
import { toJsonSchema } from '@valibot/to-json-schema';
import type * as v from 'valibot';
import type { AnyRoute } from './route.js';

type JsonSchema = ReturnType<typeof toJsonSchema>;

function schemaOf(schema: v.GenericSchema<unknown, unknown>, typeMode: 'input' | 'output'): JsonSchema {
  const { $schema: _, ...rest } = toJsonSchema(schema as never, { errorMode: 'ignore', typeMode });
  return rest as JsonSchema;
}

function parametersOf(schema: v.GenericSchema | undefined, place: 'path' | 'query'): object[] {
  if (!schema) return [];
  const { properties = {}, required = [] } = schemaOf(schema, 'input');
  return Object.entries(properties).map(([name, value]) => ({
    name,
    in: place,
    required: place === 'path' || required.includes(name),
    schema: value,
  }));
}

/** An answer for every status of some errors. */
function refusals(errors: readonly ErrorCode[]): Record<number, object> {
  const statuses = [...new Set(errors.map((code) => ERROR_CODES[code].status))].sort();
  return Object.fromEntries(
    statuses.map((status) => [status, refusal(errors.filter((code) => ERROR_CODES[code].status === status))]),
  );
}

function refusal(errors: readonly ErrorCode[]): object {
  return {
    description: errors.join(', '),
    content: { 'application/json': { schema: schemaOf(ErrorAnswer, 'output') } },
  };
}

/** The OpenAPI 3.1 document of the routes. */
export function openApiDocument(routes: readonly AnyRoute[]): object {
  const paths: Record<string, Record<string, object>> = {};
  const codes = Object.entries(ERROR_CODES).map(([code, { status, remedy }]) => `- \`${code}\` (${status}): ${remedy}`);
  for (const { endpoint } of routes) {
    const { method, path, summary, right, params, query, body, answer, errors } = endpoint;
    const name = `/api${path.replace(/:(\w+)/g, '{$1}')}`;
    paths[name] = {
      ...paths[name],
      [method]: {
        summary,
        'x-right': right,
        parameters: [...parametersOf(params, 'path'), ...parametersOf(query, 'query')],
        ...(body
          ? { requestBody: { required: true, content: { 'application/json': { schema: schemaOf(body, 'input') } } } }
          : {}),
        responses: {
          200: {
            description: 'Done',
            ...(answer ? { content: { 'application/json': { schema: schemaOf(answer, 'output') } } } : {}),
          },
          ...refusals(errors),
          default: refusal(COMMON_ERRORS),
        },
      },
    };
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Fuller',
      version: '0.1.0',
      description: `Errors carry a code that never changes:\n\n${codes.join('\n')}`,
    },
    paths,
  };
}
