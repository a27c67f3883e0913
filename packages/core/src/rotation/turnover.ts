import { elementAt } from '../values/look-up.js';
const WEEK = 168 * 3600;

/** What a rotation of so many items over the slots of a week comes to. Rests are seconds, from start to start. */
export interface Turnover {
  readonly items: number;
  readonly slotsPerWeek: number;
  /** Of one item. */
  readonly playsPerWeek: number;
  readonly averageRest: number;
  readonly shortestRest: number;
  readonly longestRest: number;
  /** Of one item in a week: plays at the hour of the day it played at the time before. */
  readonly sameHourPerWeek: number;
  /** Items that never get a turn in a week. */
  readonly leftOver: number;
}

/**
 * What strict rotation gives: with N items in turn, whatever plays in the kth slot of an endless week plays again in the
 * (k + N)th. So the rests are the distances over N slots, and their mean is N / slots weeks (the mean of a renewal process is
 * the reciprocal of its rate; Cox, Renewal Theory, 1962). Null where nothing rotates.
 */
export function turnoverOf(slots: readonly number[], items: number): Turnover | null {
  const n = slots.length;
  if (n === 0 || items <= 0) return null;
  let [shortest, longest, sameHour] = [Infinity, 0, 0];
  for (let k = 0; k < n; k++) {
    const next = k + items;
    const at = Math.floor(next / n) * WEEK + elementAt(slots, next % n);
    const rest = at - elementAt(slots, k);
    shortest = Math.min(shortest, rest);
    longest = Math.max(longest, rest);
    if (hourOfDay(at) === hourOfDay(elementAt(slots, k))) sameHour++;
  }
  return {
    items,
    slotsPerWeek: n,
    playsPerWeek: n / items,
    averageRest: (items / n) * WEEK,
    shortestRest: shortest,
    longestRest: longest,
    sameHourPerWeek: sameHour / items,
    leftOver: Math.max(0, items - n),
  };
}

function hourOfDay(second: number): number {
  return Math.floor((second % 86_400) / 3600);
}

/** A week with more or fewer slots of the same pattern: each day's share stays what it is. */
export function scaledSlots(slots: readonly number[], count: number): number[] {
  const n = slots.length;
  if (n === 0 || count <= 0) return [];
  return Array.from({ length: count }, (_, i) => {
    const place = ((i + 0.5) * n) / count - 0.5;
    const [low, share] = [Math.floor(place), place - Math.floor(place)];
    const at = (k: number): number => elementAt(slots, ((k % n) + n) % n) + Math.floor(k / n) * WEEK;
    const second = at(low) + share * (at(low + 1) - at(low));
    return ((second % WEEK) + WEEK) % WEEK;
  }).sort((a, b) => a - b);
}

/** What of a rotation a person holds fast when they change another number of it. */
export interface TurnoverWish {
  readonly items?: number;
  readonly slotsPerWeek?: number;
  /** Plays of an item in a week; the items follow from it, or the slots where the items are held. */
  readonly playsPerWeek?: number;
}

/** The numbers of a rotation after a wish: two of items, slots and plays give the third. */
export function wishedNumbers(
  now: { readonly items: number; readonly slotsPerWeek: number },
  wish: TurnoverWish,
): { readonly items: number; readonly slotsPerWeek: number } {
  const { items = now.items, slotsPerWeek = now.slotsPerWeek, playsPerWeek } = wish;
  if (playsPerWeek === undefined || playsPerWeek <= 0) return { items, slotsPerWeek };
  if (wish.items !== undefined) return { items, slotsPerWeek: Math.max(1, Math.round(items * playsPerWeek)) };
  return { items: Math.max(1, Math.round(slotsPerWeek / playsPerWeek)), slotsPerWeek };
}

/** An item of a category as separations see it: how often in a week something plays that shares a value with it. */
export interface SharedRate {
  /** Plays a week, of all categories, that share the value, each counted with its length. */
  readonly playsPerWeek: number;
  /** Seconds such a play lasts on average. */
  readonly lengthSeconds: number;
}

/**
 * How many of a category's items a separation leaves free at a moment, on average. Plays that share a value come about as a
 * Poisson process does, so an item is free with probability exp(-rate × (distance + length)) (Kingman, Poisson Processes, 1993, §2).
 */
export function freeOnAverage(items: readonly SharedRate[], seconds: number): number {
  return items.reduce(
    (sum, { playsPerWeek, lengthSeconds }) => sum + Math.exp((-playsPerWeek * (seconds + lengthSeconds)) / WEEK),
    0,
  );
}

/** How a separation sits with a rotation: it holds by itself, it leaves little to choose from, or it cannot be kept. */
export type Tightness = 'easy' | 'tight' | 'too tight';

/** A title's own separation against the shortest and average rest of strict rotation. */
export function titleTightness({ averageRest, shortestRest }: Turnover, seconds: number): Tightness {
  if (seconds > averageRest) return 'too tight';
  return seconds > shortestRest ? 'tight' : 'easy';
}

/** Of so many items a separation leaves so many free on average: fewer than one in five, or fewer than one, is a warning. */
export function freeTightness(free: number, items: number): Tightness {
  if (free < 1) return 'too tight';
  return free < items * 0.2 ? 'tight' : 'easy';
}
