import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { ClockLine } from '../clocks/line.js';
import { TURN_ORDERS, type TurnOrder } from '../rotation/category.js';
import { DATE, planOf, smallStation, songs } from '../testing/small-station.js';
import { addDays } from '../time/local-day.js';
import { allEntries, itemOf, type DailyLog } from '../log/daily-log.js';
import { generateDay } from './generate-day.js';
import { StationModel } from '../station/station-model.js';
import type { StationData } from '../station/station-data.js';

interface Small {
  readonly items: number;
  readonly picks: number;
  readonly order: TurnOrder;
  readonly seed: number;
}

const pick = (n: number): ClockLine => ({ id: `p${n}`, kind: 'pick', categoryId: 'gold', comment: '' });
const fill: ClockLine = { id: 'fill', kind: 'fill', categoryId: 'beds', comment: '' };

/** A station of one category without rules, whose hours end with fill. */
function stationOf({ items, picks, order }: Small): StationData {
  const gold = songs(items, items);
  const beds = songs(12, 12).map((song, n) => ({
    ...song,
    id: `bed${n}`,
    title: `Bed ${n}`,
    artist: '',
    artistIds: [],
    durationMs: 31_000 + n * 5_700,
  }));
  const lines = [...Array.from({ length: picks }, (_, n) => pick(n)), fill];
  return smallStation({
    items: [...gold, ...beds],
    categories: { gold: gold.map(({ id }) => id), beds: beds.map(({ id }) => id) },
    rules: [],
    orders: { gold: order },
    plan: planOf(lines),
  });
}

/** Two days in a row, the second after the first. */
function twoDays(data: StationData, seed: number): DailyLog[] {
  const ask = { seed, previous: null, only: 'all' as const };
  const first = generateDay(data, { ...ask, date: DATE }).log;
  const history = new StationModel(data).plays(first);
  return [first, generateDay({ ...data, history }, { ...ask, date: addDays(DATE, 1) }).log];
}

const playsOf = (logs: readonly DailyLog[], of: RegExp): string[] =>
  logs.flatMap((log) => allEntries(log).flatMap((entry) => (of.test(itemOf(entry) ?? '') ? [itemOf(entry)!] : [])));

/** Plays between a play of an item and its last one, the least there is. */
function nearestReturn(plays: readonly string[]): number {
  const last = new Map<string, number>();
  let nearest = Number.POSITIVE_INFINITY;
  plays.forEach((id, at) => {
    if (last.has(id)) nearest = Math.min(nearest, at - last.get(id)!);
    last.set(id, at);
  });
  return nearest;
}

const small = fc.record({
  items: fc.integer({ min: 2, max: 14 }),
  picks: fc.integer({ min: 6, max: 15 }),
  order: fc.constantFrom(...TURN_ORDERS),
  seed: fc.integer({ min: 1, max: 1000 }),
});

/** The share of a category that plays before one of its items may return, by turn order. */
const LEAST: Readonly<Record<TurnOrder, number>> = {
  even: 0.5,
  shuffle: 0.5,
  random: 0.5,
  weighted: 0.25,
  'fewest plays': 0.5,
  'artist rest': 0.5,
  newest: 0.5,
  'in order': 1,
};

describe('repeats', () => {
  it('lets no item follow itself or return sooner than its category makes it, whatever the turn order', () => {
    fc.assert(
      fc.property(small, (one) => {
        const logs = twoDays(stationOf(one), one.seed);
        const plays = playsOf(logs, /^song/);
        expect(plays).toHaveLength(48 * one.picks);
        expect(nearestReturn(plays)).toBeGreaterThanOrEqual(Math.max(2, Math.floor(LEAST[one.order] * one.items)));
        expect(nearestReturn(playsOf(logs, /^bed/))).toBeGreaterThanOrEqual(2);
      }),
      { numRuns: 16 },
    );
  });

  it('keeps a category in order from slot to slot and from day to day', () => {
    fc.assert(
      fc.property(small, (one) => {
        const plays = playsOf(twoDays(stationOf({ ...one, order: 'in order' }), one.seed), /^song/);
        plays.forEach((id, at) => expect(id).toBe(`song${at % one.items}`));
      }),
      { numRuns: 5 },
    );
  });

  it('plays every item of a shuffled category once before any comes again', () => {
    fc.assert(
      fc.property(small, (one) => {
        const plays = playsOf(twoDays(stationOf({ ...one, order: 'shuffle' }), one.seed), /^song/);
        for (let from = 0; from + one.items <= plays.length; from += one.items)
          expect(new Set(plays.slice(from, from + one.items)).size).toBe(one.items);
      }),
      { numRuns: 5 },
    );
  });

  it('keeps two items that are one song apart, and plays the only item of a category again and again', () => {
    const data = stationOf({ items: 6, picks: 12, order: 'even', seed: 1 });
    const twice = data.items.map((item) => (item.id === 'song3' ? { ...data.items[0]!, id: 'song3' } : item));
    const song = (id: string): string => (id === 'song3' ? 'song0' : id);
    const plays = playsOf(
      [generateDay({ ...data, items: twice }, { date: DATE, seed: 1, previous: null, only: 'all' }).log],
      /^song/,
    );
    expect(nearestReturn(plays.map(song))).toBeGreaterThanOrEqual(2);
    const alone = stationOf({ items: 1, picks: 12, order: 'even', seed: 1 });
    expect(playsOf(twoDays(alone, 1), /^song/)).toHaveLength(48 * 12);
  });
});
