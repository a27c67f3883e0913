import type { Instance } from '../instance.js';
import type { Sequence } from '../../sequence/sequence.js';
import type { Plays } from './plays.js';

/** What a turn order is worked out from. */
export interface TurnContext {
  readonly instance: Instance;
  readonly sequence: Sequence;
  readonly plays: Plays;
  readonly seed: number;
}

/** A pool as a turn order sees it. */
export interface TurnPool {
  readonly index: number;
  readonly name: string;
  readonly items: Int32Array;
  /** Positions of its slots. */
  readonly slots: readonly number[];
}

/** One turn order over the pools that have it, as a term of the objective: less is better. */
export interface Turn {
  /** The change of the term when an item is put into an open position. */
  add(p: number, item: number): number;
  /** The change of its finer second term, compared after every first one. */
  rest(p: number, item: number): number;
  insert?(p: number, item: number): void;
  remove?(p: number, item: number): void;
}

/** Seconds from the first slot to the end of the last slot's hour. */
export function instanceLength({ slots }: Instance): number {
  return slots.length === 0 ? 0 : (slots.at(-1)!.hour + 1) * 3600 - slots[0]!.start;
}

/** By item, the blank too, the places in `pools` of the pools that hold it. */
export function poolsOfItems(items: number, pools: readonly TurnPool[]): readonly (readonly number[])[] {
  const none: readonly number[] = [];
  const found: (readonly number[])[] = new Array<readonly number[]>(items).fill(none);
  pools.forEach((pool, index) => {
    for (const item of pool.items) found[item] = [...found[item]!, index];
  });
  return found;
}
