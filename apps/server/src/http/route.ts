import type { AnyEndpoint, AnySchema, Endpoint, OutputOf } from '@fuller/contracts';
import type { Request, Response } from 'express';
import type { Actor, StationActor } from '../actor.js';
import type { AccessOptions } from '../people/access-options.js';
import type { Caller } from '../people/caller.js';
import type { Revisions } from '../store/revisions.js';

/** What kept answers may depend on. */
export interface Now {
  readonly revisions: Revisions;
  /** Changes every minute, for answers that speak of the present. */
  readonly minute: number;
}

/** What a handler is given; the actor has a station where the path names one. */
export interface Asked<P, Q, B> {
  readonly params: OutputOf<P>;
  readonly query: OutputOf<Q>;
  readonly body: OutputOf<B>;
  readonly actor: OutputOf<P> extends { stationId: string } ? StationActor : Actor;
  /** Who asks, where more depends on it than the right to ask. */
  readonly caller: Caller;
  readonly options: AccessOptions;
  readonly request: Request;
  readonly response: Response;
}

export interface AnyRoute {
  readonly endpoint: AnyEndpoint;
  /**
   * What the answer depends on, where it is read by a thread of its own and kept as long as that stays the same; null
   * keeps nothing. The answer is then made by `handle` of the thread, which is given no request and no response.
   */
  readonly reads?: (input: { params: unknown; query: unknown }, now: Now) => string | null;
  /** The station of what is asked for, where the path does not name it; the right is needed there. */
  readonly stationOf?: (params: unknown) => string | null | Promise<string | null>;
  /** Further stations at which the right is needed. */
  readonly alsoAt?: (query: unknown) => readonly string[];
  readonly handle: (asked: never) => unknown;
}

type Frozen<T> = T extends readonly (infer E)[]
  ? readonly Frozen<E>[]
  : T extends object
    ? { readonly [K in keyof T]: Frozen<T[K]> }
    : T;

/** What is answered; anything where the handler sends for itself. */
type Answer<A> = A extends AnySchema ? Frozen<OutputOf<A>> | Promise<Frozen<OutputOf<A>>> : unknown;

/** An endpoint with what answers it. A handler of one without a JSON answer sends for itself. */
export function on<
  P extends AnySchema | undefined,
  Q extends AnySchema | undefined,
  B extends AnySchema | undefined,
  A extends AnySchema | undefined,
>(
  endpoint: Endpoint<P, Q, B, A>,
  handle: (asked: Asked<P, Q, B>) => Answer<A>,
  more: {
    readonly reads?: (input: { params: OutputOf<P>; query: OutputOf<Q> }, now: Now) => string | null;
    readonly stationOf?: (params: OutputOf<P>) => string | null | Promise<string | null>;
    readonly alsoAt?: (query: OutputOf<Q>) => readonly string[];
  } = {},
): AnyRoute {
  return { endpoint: endpoint as unknown as AnyEndpoint, handle, ...more } as AnyRoute;
}
