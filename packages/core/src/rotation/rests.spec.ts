import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { categorySpread, hourSpread } from './hour-spread.js';
import { itemRests } from './rests.js';

const HOUR = 3_600_000;
const expected = { averageMs: 10 * HOUR, longestMs: 12 * HOUR };

describe('the rests of items', () => {
  it('are what lay between their plays, and since the last', () => {
    const plays = new Map([['a', [0, 10 * HOUR, 18 * HOUR]]]);
    expect(itemRests(plays, ['a'], 20 * HOUR, null)).toEqual([
      {
        itemId: 'a',
        sinceMs: 2 * HOUR,
        averageMs: 9 * HOUR,
        shortestMs: 8 * HOUR,
        plays: 3,
        state: 'even',
      },
    ]);
  });

  it('say nothing of what played once or never', () => {
    const [once, never] = itemRests(new Map([['once', [HOUR]]]), ['once', 'never'], 2 * HOUR, null);
    expect(once).toMatchObject({ sinceMs: HOUR, averageMs: null, shortestMs: null, plays: 1 });
    expect(never).toMatchObject({ sinceMs: null, averageMs: null, shortestMs: null, plays: 0, state: 'even' });
  });

  it('leave an item behind when it has rested a quarter longer than the longest rest, or never played', () => {
    const plays = new Map([
      ['late', [0]],
      ['fair', [HOUR]],
    ]);
    const states = itemRests(plays, ['late', 'fair', 'never'], 15 * HOUR + 1, expected).map(({ state }) => state);
    expect(states).toEqual(['left behind', 'even', 'left behind']);
  });

  it('wear an item that played more than its share by a quarter and by two plays', () => {
    const times = (count: number) => Array.from({ length: count }, (_, n) => n * HOUR);
    const plays = new Map([
      ['worn', times(8)],
      ['a', times(4)],
      ['b', times(3)],
    ]);
    expect(itemRests(plays, ['worn', 'a', 'b'], 8 * HOUR, expected).map(({ state }) => state)).toEqual([
      'worn',
      'even',
      'even',
    ]);
    // A quarter more, but not two plays more.
    const few = new Map([
      ['a', times(2)],
      ['b', times(1)],
    ]);
    expect(itemRests(few, ['a', 'b'], 3 * HOUR, expected).map(({ state }) => state)).toEqual(['even', 'even']);
  });
});

describe('the spread over the hours of the day', () => {
  const evenly = Array.from({ length: 24 }, () => 7);

  it('is 1 where plays fall by chance: the formula against throws', () => {
    const plays = 12;
    let reached = 0;
    const random = lcg(4600);
    const throws = 4000;
    for (let n = 0; n < throws; n++)
      reached += new Set(Array.from({ length: plays }, () => Math.floor(random() * 24))).size;
    const spread = hourSpread([...Array(plays).keys()], evenly)!;
    expect(spread.byChance).toBeCloseTo(reached / throws, 1);
    expect(spread.hours).toBe(plays);
    expect(spread.index).toBeGreaterThan(1);
  });

  it('is least where an item returns to one hour, and never more than the hours there are', () => {
    const hours = fc.array(fc.integer({ min: 0, max: 23 }), { minLength: 2, maxLength: 60 });
    fc.assert(
      fc.property(hours, (list) => {
        const one = hourSpread(list, evenly)!;
        expect(one.hours).toBeLessThanOrEqual(Math.min(24, list.length));
        expect(one.byChance).toBeLessThanOrEqual(24);
        const same = hourSpread(
          list.map(() => 5),
          evenly,
        )!;
        expect(same.index).toBeLessThanOrEqual(one.index);
      }),
    );
  });

  it('is nothing of fewer than two plays, or without slots', () => {
    expect(hourSpread([3], evenly)).toBeNull();
    expect(hourSpread([3, 4], [])).toBeNull();
    expect(categorySpread([null, null])).toBeNull();
  });

  it('of a category weighs its items by what chance would reach', () => {
    const much = hourSpread([...Array(24).keys()], evenly)!;
    const little = hourSpread([5, 5], evenly)!;
    const both = categorySpread([much, little, null])!;
    expect(both).toBeCloseTo((much.hours + little.hours) / (much.byChance + little.byChance), 10);
    expect(both).toBeGreaterThan(little.index);
  });
});

/** A linear congruential generator (Numerical Recipes), so that the throws are the same every time. */
function lcg(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 1664525 + 1013904223) % 4294967296) / 4294967296;
}
