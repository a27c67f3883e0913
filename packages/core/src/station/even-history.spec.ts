import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { evenHistory, isMadeUp, playsBefore, recentHistory } from './even-history.js';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const START = 1_800_000_000_000;
const pool = (...items: string[]) => ({ gold: { items, order: 'even' as const } });
const play = (itemId: string, hoursBefore: number) => ({ itemId, startMs: START - hoursBefore * HOUR });

describe('plays before a day', () => {
  it('are each item’s own, latest first, and none of the day itself', () => {
    const plays = playsBefore([play('a', 5), play('b', 3), play('a', 1), play('a', 0), play('b', -2)], START);
    expect([...plays]).toEqual([
      ['a', [START - HOUR, START - 5 * HOUR]],
      ['b', [START - 3 * HOUR]],
    ]);
  });

  it('are told as far back as rules reach, in whole seconds before the day', () => {
    const plays = playsBefore([play('a', 1.0001), play('a', 30), play('b', 24)], START);
    expect(recentHistory(plays, START, DAY)).toEqual([
      { item: 'a', start: -3601 },
      { item: 'b', start: -86_400 },
    ]);
  });
});

describe('the history an instance is given', () => {
  const countsOf = (history: readonly { item: string }[]): Record<string, number> => {
    const counts: Record<string, number> = {};
    for (const { item } of history) counts[item] = (counts[item] ?? 0) + 1;
    return counts;
  };

  it('keeps what an item is ahead or behind of the others, up to three plays', () => {
    const history = [
      ...Array.from({ length: 20 }, (_, n) => play('ahead', 30 + n)),
      ...Array.from({ length: 10 }, (_, n) => play('fair', 30 + n)),
      ...Array.from({ length: 9 }, (_, n) => play('behind', 30 + n)),
    ];
    const counts = countsOf(evenHistory(playsBefore(history, START), pool('ahead', 'fair', 'behind'), START, DAY));
    expect([counts['ahead']! - counts['fair']!, counts['behind']! - counts['fair']!]).toEqual([3, -1]);
  });

  it('makes none up where most of a large category has never played, and keeps the last play of those that have', () => {
    const items = Array.from({ length: 1000 }, (_, n) => `s${n}`);
    const given = evenHistory(
      playsBefore([play('s1', 2), play('s1', 200), play('s2', 300)], START),
      pool(...items),
      START,
      DAY,
    );
    expect(given).toEqual([
      { item: 's1', start: -2 * 3600 },
      { item: 's1', start: -200 * 3600 },
      { item: 's2', start: -300 * 3600 },
    ]);
  });

  it('makes plays up for an item that is new, so long ago that no rule looks at them', () => {
    const history = Array.from({ length: 10 }, (_, n) => play('old', n + 1));
    const given = evenHistory(playsBefore(history, START), pool('old', 'new'), START, DAY);
    const ofNew = given.filter(({ item }) => item === 'new');
    expect(ofNew.length).toBeGreaterThan(0);
    expect(ofNew.every(({ start }) => isMadeUp(start))).toBe(true);
    // As though it had nearly kept up.
    const counts = countsOf(given);
    expect(counts['old']! - counts['new']!).toBe(3);
  });

  it('never leaves out a play that rules can reach, whatever the pools', () => {
    const plays = fc.array(
      fc.record({ id: fc.constantFrom('a', 'b', 'c', 'd'), hours: fc.integer({ min: 1, max: 200 }) }),
      {
        maxLength: 60,
      },
    );
    fc.assert(
      fc.property(plays, fc.subarray(['a', 'b', 'c']), (list, members) => {
        const playsOf = playsBefore(
          list.map(({ id, hours }) => play(id, hours)),
          START,
        );
        const given = new Set(
          evenHistory(playsOf, pool(...members), START, DAY).map(({ item, start }) => `${item} ${start}`),
        );
        for (const { item, start } of recentHistory(playsOf, START, DAY)) expect(given).toContain(`${item} ${start}`);
      }),
    );
  });
});
