import * as v from 'valibot';
import { ORDERS } from './orders.js';

/** An id in an instance file: a text of 1 to 200 characters. */
export const itemId = v.pipe(
  v.string('must be a text'),
  v.nonEmpty('is empty'),
  v.maxLength(200, 'is longer than 200 characters'),
);
const whole = v.pipe(v.number('must be a number'), v.integer('must be whole'));
/** Seconds on either side of the first day. */
const instant = v.pipe(whole, v.minValue(-2_000_000_000, 'is too early'), v.maxValue(2_000_000_000, 'is too late'));
const hour = v.pipe(whole, v.minValue(0, 'is negative'), v.maxValue(400_000, 'is too late'));
const hourOfDay = v.pipe(whole, v.minValue(0, 'is negative'), v.maxValue(23, 'is more than 23'));
const day = v.pipe(whole, v.minValue(-20_000, 'is too early'), v.maxValue(20_000, 'is too late'));

/** An item in an instance file; its duration is in seconds. */
export const InstanceItem = v.object({
  id: itemId,
  duration: v.pipe(whole, v.minValue(0, 'is negative'), v.maxValue(10_000_000, 'is too long')),
  tags: v.record(v.string(), v.array(v.string('must be a text'), 'must be a list')),
});
/** A pool in an instance file: the items slots draw from, and how they take turns. */
export const InstancePool = v.object({
  items: v.array(itemId),
  order: v.optional(v.picklist(ORDERS, `must be one of ${ORDERS.join(', ')}`), 'even'),
  /** For order weighted: how often an item is to play against the others, 1 where nothing is said. */
  weights: v.optional(
    v.record(v.string(), v.pipe(v.number('must be a number'), v.minValue(0.001, 'must be more than nothing'))),
  ),
});
/** A slot in an instance file; its start is in seconds from the start of the first day. */
export const InstanceSlot = v.object({
  id: itemId,
  start: instant,
  /** Local hour, counted from 0 through the whole instance. */
  hour,
  pool: itemId,
  /** The item a person has fixed here. */
  locked: v.optional(itemId),
  /** Rules that do not look at this slot. */
  exempt: v.optional(v.array(itemId)),
  /** Rules that see this play but charge it no break. */
  uncharged: v.optional(v.array(itemId)),
  /** Items that may stand here, of those in the pool. */
  allow: v.optional(v.array(itemId)),
  day: v.optional(day),
  hourOfDay: v.optional(hourOfDay),
});
/** A play before the slots in an instance file; its start is in seconds, negative before the first day. */
export const HistoryPlay = v.object({
  item: itemId,
  start: instant,
  day: v.optional(day),
  hourOfDay: v.optional(hourOfDay),
});

/** A value nobody may change, however deep. */
export type DeepReadonly<T> = T extends readonly (infer E)[]
  ? readonly DeepReadonly<E>[]
  : T extends object
    ? { readonly [K in keyof T]: DeepReadonly<T[K]> }
    : T;
export type InstanceItem = DeepReadonly<v.InferOutput<typeof InstanceItem>>;
export type InstancePool = DeepReadonly<v.InferOutput<typeof InstancePool>>;
export type InstanceSlot = DeepReadonly<v.InferOutput<typeof InstanceSlot>>;
export type HistoryPlay = DeepReadonly<v.InferOutput<typeof HistoryPlay>>;

/** What plays are put in sequence from: an instance but for its pools and rules. */
export interface SequenceParts {
  readonly items: readonly InstanceItem[];
  readonly slots: readonly InstanceSlot[];
  /** In any order; plays of unknown items are skipped. */
  readonly history: readonly HistoryPlay[];
}
