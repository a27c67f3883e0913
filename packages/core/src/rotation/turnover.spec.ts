import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { smallStation } from '../testing/small-station.js';
import { StationModel } from '../station/station-model.js';
import { Random } from '../engine/random.js';
import { categorySpread, hourSpread } from './hour-spread.js';
import { itemRests } from './rests.js';
import { freeOnAverage, freeTightness, scaledSlots, titleTightness, turnoverOf, wishedNumbers } from './turnover.js';
import { weekSlots } from '../week/week-slots.js';

const WEEK = 168 * 3600;
const HOUR = 3600;
const slots = fc
  .uniqueArray(fc.nat(WEEK - 1), { minLength: 1, maxLength: 60 })
  .map((list) => [...list].sort((a, b) => a - b));

describe('turnover', () => {
  it('is what a rotation played out over many weeks really gives', () => {
    fc.assert(
      fc.property(slots, fc.integer({ min: 1, max: 80 }), (week, items) => {
        const last = new Map<number, number>();
        let [shortest, longest, total, count, same] = [Infinity, 0, 0, 0, 0];
        // As many weeks as bring every item to every slot.
        const plays = week.length * items * 2;
        for (let k = 0; k < plays; k++) {
          const at = Math.floor(k / week.length) * WEEK + week[k % week.length]!;
          const before = last.get(k % items);
          last.set(k % items, at);
          if (before === undefined) continue;
          shortest = Math.min(shortest, at - before);
          longest = Math.max(longest, at - before);
          total += at - before;
          count++;
          if (Math.floor((at % 86_400) / HOUR) === Math.floor((before % 86_400) / HOUR)) same++;
        }
        const found = turnoverOf(week, items)!;
        expect([found.shortestRest, found.longestRest]).toEqual([shortest, longest]);
        expect(Math.abs(found.averageRest - total / count)).toBeLessThan(WEEK / count + 1e-6);
        const perPlay = (found.sameHourPerWeek * items) / week.length;
        expect(Math.abs(perPlay - same / count)).toBeLessThan(2 / week.length);
      }),
      { numRuns: 120 },
    );
  });

  it('keeps the pattern of the week when it asks for more or fewer', () => {
    const mornings = [0, 1, 2, 3, 4, 5, 6].flatMap((day) => [6, 7, 8, 9].map((hour) => day * 86_400 + hour * HOUR));
    for (const count of [7, 14, 28, 56, 140]) {
      const scaled = scaledSlots(mornings, count);
      expect(scaled).toHaveLength(count);
      for (let day = 0; day < 7; day++) {
        const own = scaled.filter((second) => Math.floor(second / 86_400) === day);
        expect(Math.abs(own.length - count / 7)).toBeLessThanOrEqual(1);
      }
    }
    expect(scaledSlots(mornings, 28)).toEqual(mornings);
    expect(turnoverOf([], 5)).toBeNull();
    expect(turnoverOf(mornings, 0)).toBeNull();
    expect(turnoverOf(mornings, 30)!.leftOver).toBe(2);
  });

  it('gives the third number of items, slots and plays', () => {
    const now = { items: 20, slotsPerWeek: 400 };
    expect(wishedNumbers(now, { playsPerWeek: 10 })).toEqual({ items: 40, slotsPerWeek: 400 });
    expect(wishedNumbers(now, { items: 30, playsPerWeek: 10 })).toEqual({ items: 30, slotsPerWeek: 300 });
    expect(wishedNumbers(now, { items: 25 })).toEqual({ items: 25, slotsPerWeek: 400 });
    expect(wishedNumbers(now, { slotsPerWeek: 100 })).toEqual({ items: 20, slotsPerWeek: 100 });
  });

  it('reads the slots of a week out of its clocks', () => {
    const data = smallStation();
    const own = weekSlots(data.plan, new StationModel(data)).get('gold')!;
    expect(own).toHaveLength(168 * 16);
    expect(own[0]).toBe(0);
    expect(own[16]! - own[0]!).toBe(HOUR);
  });
});

describe('what a separation leaves free', () => {
  it('agrees with plays thrown by chance', () => {
    const random = new Random(11);
    const [rate, length, distance, rounds] = [40, 200, 5400, 4000];
    let free = 0;
    for (let round = 0; round < rounds; round++) {
      const plays = Array.from({ length: rate }, () => random.below(WEEK));
      const at = random.below(WEEK);
      if (plays.every((start) => (at - start + WEEK) % WEEK > distance + length)) free++;
    }
    expect(
      Math.abs(freeOnAverage([{ playsPerWeek: rate, lengthSeconds: length }], distance) - free / rounds),
    ).toBeLessThan(0.03);
  });

  it('is told as easy, tight or too tight', () => {
    const turn = turnoverOf([0, HOUR, 2 * HOUR, 100 * HOUR], 2)!;
    expect([1, 10 * HOUR, 100 * HOUR].map((seconds) => titleTightness(turn, seconds))).toEqual([
      'easy',
      'tight',
      'too tight',
    ]);
    expect([0.5, 3, 9].map((free) => freeTightness(free, 20))).toEqual(['too tight', 'tight', 'easy']);
  });
});

describe('hour spread', () => {
  const everyHour = Array.from({ length: 24 }, () => 1);

  it('is 1 where chance has its way, more where hours move, less where they return', () => {
    const random = new Random(3);
    const chance = Array.from({ length: 3000 }, () =>
      hourSpread(
        Array.from({ length: 12 }, () => random.below(24)),
        everyHour,
      ),
    );
    expect(Math.abs(categorySpread(chance)! - 1)).toBeLessThan(0.01);
    expect(hourSpread([0, 2, 4, 6, 8, 10, 12, 14, 16, 18, 20, 22], everyHour)!.index).toBeGreaterThan(1.2);
    expect(
      hourSpread(
        Array.from({ length: 12 }, () => 7),
        everyHour,
      )!.index,
    ).toBeLessThan(0.15);
  });

  it('asks no more of a category than its hours give', () => {
    const mornings = everyHour.map((_, hour) => (hour >= 6 && hour < 10 ? 5 : 0));
    expect(hourSpread([6, 7, 8, 9, 6, 7, 8, 9], mornings)!.index).toBeGreaterThan(1);
    expect(hourSpread([6], mornings)).toBeNull();
    expect(hourSpread([6, 7], [])).toBeNull();
    expect(categorySpread([null])).toBeNull();
  });
});

describe('rests of items', () => {
  it('tell the one left behind and the one worn', () => {
    const hours = (list: number[]): number[] => list.map((hour) => hour * 3_600_000);
    const plays = new Map([
      ['a', hours([0, 10, 20, 30])],
      ['b', hours([1, 11, 21, 31])],
      ['c', hours([2])],
      ['d', hours([0, 5, 10, 15, 20, 25, 30, 35])],
    ]);
    const rests = itemRests(plays, ['a', 'b', 'c', 'd', 'e'], 38 * 3_600_000, { averageMs: 36e6, longestMs: 4e7 });
    expect(rests.map(({ state }) => state)).toEqual(['even', 'even', 'left behind', 'worn', 'left behind']);
    expect(rests[3]).toMatchObject({ plays: 8, averageMs: 5 * 3_600_000, shortestMs: 5 * 3_600_000 });
    expect(itemRests(plays, ['e'], 0, null)[0]).toMatchObject({ sinceMs: null, averageMs: null, state: 'even' });
  });
});
