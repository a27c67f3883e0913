import { describe, expect, it } from '@jest/globals';
import { StationModel } from '../station/station-model.js';
import { DATE, smallStation } from '../testing/small-station.js';
import { hoursOfDay } from '../time/local-day.js';
import { nextPicks } from './next-picks.js';
import { playsByItem, REST_BUCKETS, sharedRates, slotsByHour, turnoverSheet } from './sheet.js';

const HOUR = 3_600_000;
const NOW = hoursOfDay(DATE, 'Europe/Dublin')[0]!.startMs + 12 * HOUR;
const play = (itemId: string, hoursAgo: number) => ({ itemId, startMs: NOW - hoursAgo * HOUR });

describe('the turnover sheet', () => {
  it('counts what the week asks of a category, and what of it can play', () => {
    const data = smallStation();
    const items = data.items.map((item, n) =>
      n < 20 ? { ...item, pausedUntil: '2027-01-01' } : n < 25 ? { ...item, approved: false } : item,
    );
    const model = new StationModel({ ...data, items, approvedOnly: ['gold'] });
    const [row] = turnoverSheet(model, [], DATE, NOW);
    expect(row).toMatchObject({ categoryId: 'gold', items: 120, canPlay: 95 });
    expect(row!.barred.reduce((sum, one) => sum + one.items, 0)).toBe(25);
    expect(row!.slots).toHaveLength(16 * 168);
    expect(row!.slotsByDay).toEqual(Array.from({ length: 7 }, () => 16 * 24));
    expect(row!.slots).toEqual([...row!.slots].sort((a, b) => a - b));
  });

  it('sorts rests by the average rest, and those that never played among the longest', () => {
    const model = new StationModel(smallStation());
    const average = (120 / (16 * 24)) * 24;
    const [row] = turnoverSheet(
      model,
      [play('song0', average * 0.05), play('song1', average), play('song2', -1)],
      DATE,
      NOW,
    );
    expect(row!.rests).toHaveLength(REST_BUCKETS);
    expect(row!.rests.reduce((sum, one) => sum + one, 0)).toBe(120);
    expect(row!.rests[0]).toBe(1);
    expect(row!.rests.at(-1)).toBe(118);
  });

  it('tells for each separation how often songs of the same artist play, in the category and outside it', () => {
    const data = smallStation();
    const [first, second] = [data.items.slice(0, 80), data.items.slice(80)].map((part) => part.map(({ id }) => id));
    const clock = data.plan.clocks[0]!;
    const lines = clock.lines.map((line, n) =>
      line.kind === 'pick' && n % 2 ? { ...line, categoryId: 'fresh' } : line,
    );
    const model = new StationModel({
      ...data,
      categories: { gold: first!, fresh: second! },
      musicCategories: ['gold', 'fresh'],
      plan: { ...data.plan, clocks: [{ ...clock, lines }] },
    });
    const sheet = turnoverSheet(model, [], DATE, NOW);
    const gold = sheet.find(({ categoryId }) => categoryId === 'gold')!;
    const artist = gold.rules.find(({ ruleId }) => ruleId === 'artist-rule')!;
    expect(artist.seconds).toBe(3600);
    expect(artist.own).toHaveLength(80);
    // Two songs of each artist in gold, one in fresh; half of the slots each.
    const slots = 8 * 168;
    expect(artist.own[0]).toBeCloseTo((2 * slots) / 80, 6);
    expect(artist.other[0]).toBeCloseTo(slots / 40, 6);
    expect(sharedRates(artist, 2, 200)[0]!.playsPerWeek).toBeCloseTo((4 * slots) / 80 + slots / 40, 6);
  });

  it('puts plays in their order, and leaves out what is to come', () => {
    const plays = playsByItem([play('a', 1), play('b', 3), play('a', 5), play('a', -2)], NOW);
    expect(plays.get('a')).toEqual([NOW - 5 * HOUR, NOW - HOUR]);
    expect([...plays.keys()].sort()).toEqual(['a', 'b']);
    expect(slotsByHour([0, 3599, 3600, 86_400]).slice(0, 2)).toEqual([3, 1]);
  });
});

describe('what a turn order would pick next', () => {
  const when = (slots: readonly number[]) => ({
    date: DATE,
    nowMs: NOW,
    mondayMs: hoursOfDay('2026-11-23', 'Europe/Dublin')[0]!.startMs,
    slots,
  });
  const quiet = smallStation({ rules: [], categories: { gold: ['song0', 'song1', 'song2', 'song3'] } });
  const hourly = Array.from({ length: 168 }, (_, hour) => hour * 3600);

  it('is the item that has rested longest, and then the others as they rested', () => {
    const plays = ['song2', 'song0', 'song3', 'song1'].map((id, n) => play(id, 8 - n));
    const picks = nextPicks(new StationModel(quiet), 'gold', 'even', plays, when(hourly), 4);
    expect(picks).toEqual(['song2', 'song0', 'song3', 'song1']);
  });

  it('goes on into the next week where this one has too few slots left', () => {
    expect(nextPicks(new StationModel(quiet), 'gold', 'in order', [], when([0]), 3)).toHaveLength(3);
  });

  it('is nothing where the week asks for nothing, or the category is empty', () => {
    const model = new StationModel(quiet);
    expect(nextPicks(model, 'gold', 'even', [], when([]), 4)).toEqual([]);
    expect(nextPicks(model, 'nothing', 'even', [], when(hourly), 4)).toEqual([]);
  });
});
