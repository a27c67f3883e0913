import * as v from 'valibot';
import { AirDate, Id } from '../basics.js';
import type { ErrorCode } from '../errors.js';
import type { Right } from '../rights.js';

export const OfStation = v.object({ stationId: Id });
export const OneOfStation = v.object({ stationId: Id, id: Id });
export const OneDay = v.object({ stationId: Id, date: AirDate });
export const One = v.object({ id: Id });

export type AnySchema = v.GenericSchema<unknown, unknown>;

/** One address of the API: what it is asked with, and what it answers. */
export interface Endpoint<P, Q, B, A> {
  readonly method: 'get' | 'post' | 'put' | 'patch' | 'delete';
  /** In the notation of Express: `/stations/:stationId`. */
  readonly path: string;
  readonly summary: string;
  readonly right: Right;
  readonly params: P;
  readonly query: Q;
  readonly body: B;
  /** Undefined where the answer is no JSON: a file, a stream of events, nothing. */
  readonly answer: A;
  /** What it can refuse with, besides the errors that any address can answer. */
  readonly errors: readonly ErrorCode[];
}
export type AnyEndpoint = Endpoint<
  AnySchema | undefined,
  AnySchema | undefined,
  AnySchema | undefined,
  AnySchema | undefined
>;

interface Definition<P, Q, B, A> {
  readonly method: AnyEndpoint['method'];
  readonly path: string;
  readonly summary: string;
  readonly right: Right;
  readonly params?: P;
  readonly query?: Q;
  readonly body?: B;
  readonly answer?: A;
  /** Besides NOT_FOUND and INVALID, which follow from what it is asked with. */
  readonly errors?: readonly ErrorCode[];
}

export function endpoint<
  P extends AnySchema | undefined = undefined,
  Q extends AnySchema | undefined = undefined,
  B extends AnySchema | undefined = undefined,
  A extends AnySchema | undefined = undefined,
>({ params, query, body, answer, errors = [], ...rest }: Definition<P, Q, B, A>): Endpoint<P, Q, B, A> {
  const implied: ErrorCode[] = [
    ...(params ? (['NOT_FOUND', 'INVALID'] as const) : []),
    ...(query || body ? (['INVALID'] as const) : []),
  ];
  return {
    ...rest,
    params: params as P,
    query: query as Q,
    body: body as B,
    answer: answer as A,
    errors: [...new Set([...implied, ...errors])],
  };
}

/** What a handler is given of a part of the request. */
export type OutputOf<S> = S extends AnySchema ? v.InferOutput<S> : undefined;
/** What may be sent. */
export type InputOf<S> = S extends AnySchema ? v.InferInput<S> : undefined;

/** What stands in the address of a request: parameters of the path and of the query. */
export type AddressOf<E> =
  E extends Endpoint<infer P, infer Q, unknown, unknown>
    ? (P extends AnySchema ? v.InferInput<P> : object) & (Q extends AnySchema ? v.InferInput<Q> : object)
    : never;
export type BodyOf<E> = E extends Endpoint<unknown, unknown, infer B, unknown> ? InputOf<B> : never;
export type AnswerOf<E> = E extends Endpoint<unknown, unknown, unknown, infer A> ? OutputOf<A> : never;
