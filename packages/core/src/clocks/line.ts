import type { TurnOrder } from '../rotation/category.js';

/** One row of a clock. */
export type ClockLine = PickLine | ItemLine | BreakLine | NoteLine;

/** A slot filled from a category, or from a pool, when a log is generated. */
export interface PickLine {
  readonly id: string;
  readonly kind: 'pick';
  /** A category's id, or a pool's. */
  readonly categoryId: string;
  /** In place of the category's own turn order. */
  readonly turnOrder?: TurnOrder;
  readonly comment: string;
}

/** One particular item, every time. */
export interface ItemLine {
  readonly id: string;
  readonly kind: 'item';
  readonly itemId: string;
  readonly comment: string;
}

/** The place where spots play. */
export interface BreakLine {
  readonly id: string;
  readonly kind: 'break';
  /** Where traffic books it, milliseconds into the hour. */
  readonly bookedAtMs: number;
  readonly durationMs: number;
  readonly comment: string;
}

/** A remark for whoever reads the log; takes no time. */
export interface NoteLine {
  readonly id: string;
  readonly kind: 'note';
  readonly text: string;
  readonly comment: string;
}

export type LineKind = ClockLine['kind'];

/** The recipe of an hour. */
export interface Clock {
  readonly id: string;
  readonly name: string;
  readonly colour: string;
  readonly lines: readonly ClockLine[];
}

/** Every clock lasts an hour for now, milliseconds. */
export const CLOCK_LENGTH_MS = 3_600_000;
