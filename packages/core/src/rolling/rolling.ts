import type { LineFlags } from '../clocks/line-flags.js';
import type { OpenReason } from '../log/daily-log.js';
import type { TurnOrder } from '../rotation/category.js';

/** What put a row into the queue. */
export const ROLLING_SOURCES = ['line', 'request', 'hand'] as const;
export type RollingSource = (typeof ROLLING_SOURCES)[number];

/** A row of a live queue. */
export interface RollingRow extends LineFlags {
  readonly id: string;
  readonly itemId: string;
  /** The category or pool of its slot; null for an item that is named. */
  readonly categoryId: string | null;
  readonly filters?: readonly string[];
  readonly turnOrder?: TurnOrder;
  readonly rules?: 'off';
  /** Begins hard at this instant, UTC epoch milliseconds. */
  readonly hardMs?: number;
  readonly by: RollingSource;
}

/** How deep a queue is kept: so many items, or so many minutes. */
export type RollingDepth = { readonly items: number } | { readonly minutes: number };

/** Where a queue goes on. */
export interface RollingCursor {
  /** Counts rows, so that each has an id of its own. */
  readonly count: number;
  /** The hour whose lines are worked through, by date and place in the day; null in a loop. */
  readonly hour: { readonly date: string; readonly index: number } | null;
  /** The next line of the hour or of the loop. */
  readonly place: number;
}

export const FIRST_CURSOR: RollingCursor = { count: 0, hour: null, place: 0 };

/** A play that is over or on the air. */
export interface RolledPlay {
  readonly itemId: string;
  /** UTC epoch milliseconds. */
  readonly startMs: number;
}

/** A line that nothing fitted. */
export interface PassedOver {
  /** When it would have played, UTC epoch milliseconds. */
  readonly atMs: number;
  readonly categoryId: string;
  readonly open: OpenReason | null;
}
