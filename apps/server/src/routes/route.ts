import type { Request, Response, Router } from 'express';
import * as v from 'valibot';
import { FullerError } from '../errors.js';
import type { Revisions } from '../services/revisions.js';
import { faultOf } from './fault-words.js';
import type { KeptAnswers } from './kept-answers.js';

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
  /**
   * What the answer depends on, where it is read by a thread of its own and kept as long as that stays the same; null
   * keeps nothing. The answer is then made by `handle` of the thread, which is given no request and no response.
   */
  readonly reads?: (input: { params: Output<P>; query: Output<Q> }, now: Now) => string | null;
  readonly handle: (input: {
    params: Output<P>;
    query: Output<Q>;
    body: Output<B>;
    clientId: string;
    request: Request;
    response: Response;
  }) => unknown;
}

/** What kept answers may depend on. */
export interface Now {
  readonly revisions: Revisions;
  /** Changes every minute, for answers that speak of the present. */
  readonly minute: number;
}

export type AnyRoute = RouteDefinition<Schema | undefined, Schema | undefined, Schema | undefined>;

/** A route with its schemas: checked on the way in, described in the API document. */
export function route<P extends Schema | undefined, Q extends Schema | undefined, B extends Schema | undefined>(
  definition: RouteDefinition<P, Q, B>,
): AnyRoute {
  return definition as unknown as AnyRoute;
}

/** Puts routes on a router. A handler that answers itself returns undefined after sending. */
export function mount(
  router: Router,
  routes: readonly AnyRoute[],
  answers: KeptAnswers,
  mustHaveStation: (stationId: string) => Promise<unknown>,
): void {
  for (const definition of routes) {
    const { method, path, params, query, body, handle, reads } = definition;
    router[method](path, async (request: Request, response: Response) => {
      const input = {
        params: parse(params, request.params) as undefined,
        query: parse(query, request.query) as undefined,
      };
      const { stationId } = (input.params ?? {}) as { stationId?: string };
      if (stationId !== undefined) await mustHaveStation(stationId);
      if (reads) return answers.send(definition, input, request, response);
      const value = await handle({
        ...input,
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
  refuseNul(value, '');
  const result = v.safeParse(schema, value);
  if (result.success) return result.output;
  const issue = result.issues[0];
  const field = v.getDotPath(issue) ?? undefined;
  throw new FullerError('INVALID', faultOf(issue), field);
}

/** The browser tab or program that asks, so that its own changes are told from others’. */
function clientOf(request: Request): string {
  const header = request.header('x-client') ?? '';
  return /^[A-Za-z0-9_-]{1,40}$/.test(header) ? header : 'api';
}

/** No text has a zero character; databases and files end at it. */
function refuseNul(value: unknown, field: string): void {
  if (typeof value === 'string') {
    if (value.includes('\0'))
      throw new FullerError('INVALID', `“${field || 'request'}” holds a character that no text has.`, field);
  } else if (typeof value === 'object' && value !== null) {
    for (const [key, one] of Object.entries(value)) {
      refuseNul(key, field);
      refuseNul(one, field ? `${field}.${key}` : key);
    }
  }
}
