/** What a listener is told of a request. Instants are UTC epoch milliseconds. */
export type RequestAnswer =
  | { readonly is: 'planned'; readonly atMs: number }
  | {
      readonly is: 'held';
      readonly playedMs: number | null;
      readonly freeMs: number | null;
      readonly ruleId: string | null;
    }
  | { readonly is: 'not in library' }
  | { readonly is: 'not on air' }
  | { readonly is: 'too many'; readonly freeMs: number }
  | { readonly is: 'no place' };

/** What became of a request. */
export const REQUEST_STATES = ['waiting', 'placed', 'aired', 'refused', 'given up'] as const;
export type RequestState = (typeof REQUEST_STATES)[number];

/** How many requests are taken. */
export interface RequestLimits {
  /** Of one listener in an hour. */
  readonly perListener: number;
  /** Placed in an hour. */
  readonly perHour: number;
}

/** An answer that was given is said again where its time has moved this far, milliseconds. */
export const SAY_AGAIN_MS = 120_000;

/** Whether what a listener was told is no longer true. */
export function isAnswerStale(told: RequestAnswer, now: RequestAnswer): boolean {
  if (told.is !== now.is) return true;
  if (told.is === 'planned' && now.is === 'planned') return Math.abs(told.atMs - now.atMs) > SAY_AGAIN_MS;
  if (told.is === 'held' && now.is === 'held') {
    if (told.freeMs === null || now.freeMs === null) return told.freeMs !== now.freeMs;
    return Math.abs(told.freeMs - now.freeMs) > SAY_AGAIN_MS;
  }
  return false;
}
