import type { Request, Response, Router } from 'express';
import * as v from 'valibot';
import { FullerError } from '../errors.js';

type Schema = v.GenericSchema<unknown, unknown>;
type Output<S> = S extends Schema ? v.InferOutput<S> : undefined;

export interface RouteDefinition<P, Q, B> {
  readonly method: 'get' | 'post' | 'put' | 'patch' | 'delete';
  /** In the notation of Express: `/stations/:stationId`. */
  readonly path: string;
  readonly summary: string;
  readonly params?: P;
  readonly query?: Q;
  readonly body?: B;
  readonly answer?: Schema;
  readonly handle: (input: {
    params: Output<P>;
    query: Output<Q>;
    body: Output<B>;
    clientId: string;
    request: Request;
    response: Response;
  }) => unknown;
}

export type AnyRoute = RouteDefinition<Schema | undefined, Schema | undefined, Schema | undefined>;

/** A route with its schemas: checked on the way in, described in the API document. */
export function route<P extends Schema | undefined, Q extends Schema | undefined, B extends Schema | undefined>(
  definition: RouteDefinition<P, Q, B>,
): AnyRoute {
  return definition as unknown as AnyRoute;
}

/** Puts routes on a router. A handler that answers itself returns undefined after sending. */
export function mount(router: Router, routes: readonly AnyRoute[]): void {
  for (const { method, path, params, query, body, handle } of routes) {
    router[method](path, async (request: Request, response: Response) => {
      const value = await handle({
        params: parse(params, request.params) as undefined,
        query: parse(query, request.query) as undefined,
        body: parse(body, request.body ?? {}) as undefined,
        clientId: clientOf(request),
        request,
        response,
      });
      if (!response.headersSent) response.json(value ?? {});
    });
  }
}

function parse(schema: Schema | undefined, value: unknown): unknown {
  if (!schema) return undefined;
  const result = v.safeParse(schema, value);
  if (result.success) return result.output;
  const issue = result.issues[0];
  const field = v.getDotPath(issue) ?? undefined;
  const message = /^(?:is|are|must|hold)/.test(issue.message)
    ? `“${field ?? 'value'}” ${issue.message}.`
    : `“${field ?? 'value'}”: ${issue.message}.`;
  throw new FullerError('INVALID', message, field);
}

/** The browser tab or program that asks, so that its own changes are told from others’. */
function clientOf(request: Request): string {
  const header = request.header('x-client') ?? '';
  return /^[A-Za-z0-9_-]{1,40}$/.test(header) ? header : 'api';
}
