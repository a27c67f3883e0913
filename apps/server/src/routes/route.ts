import type { Request, Response } from 'express';
import type * as v from 'valibot';
import type { Revisions } from '../services/revisions.js';

export type Schema = v.GenericSchema<unknown, unknown>;
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
