import { describe, expect, it } from '@jest/globals';
import { ruleOf, smallStation, DATE } from '../testing/small-station.js';
import { StationModel } from '../station/station-model.js';
import { addDays, hoursOfDay } from '../time/local-day.js';
import { BackTest } from './back-test.js';

const model = new StationModel(
  smallStation({ dayparts: [{ id: 'night', name: 'Night', hours: '111111'.padEnd(24, '0').repeat(7) }] }),
);
const MIDNIGHT = hoursOfDay(DATE, model.data.timeZone)[0]!.startMs;
const at = (hour: number, item: number, minute = 0) => ({
  itemId: `song${item}`,
  startMs: MIDNIGHT + (hour * 60 + minute) * 60_000,
});

describe('a back-test', () => {
  // song1 and song41 are by one artist of forty; each lasts about three and a half minutes.
  const plays = [at(-1, 1), at(0, 41), at(3, 1), at(9, 2), at(9, 42, 30), at(33, 2)];
  const test = new BackTest(model, plays, DATE, addDays(DATE, 1));
  const artist = ruleOf('apart', 'artist', 3600);

  it('counts plays that break a rule, what was before the first day among what they met', () => {
    const { breaks, days, places, plays: counted } = test.count(artist);
    expect([breaks, days, counted]).toEqual([2, 2, 5]);
    expect(places).toEqual([
      { date: DATE, startMs: at(9, 42, 30).startMs, itemId: 'song42', by: expect.any(Number) },
      { date: DATE, startMs: MIDNIGHT, itemId: 'song41', by: expect.any(Number) },
    ]);
  });

  it('asks what a rule asks where each play stood, whether the rule rests or not', () => {
    const night = { kind: 'daypart' as const, id: 'night' };
    const none = { ...artist, resting: true, exceptions: [{ ...night, amount: 60 }] };
    expect(test.count(none).places.map(({ itemId }) => itemId)).toEqual(['song42']);
    expect(test.count({ ...artist, places: [night] }).places.map(({ itemId }) => itemId)).toEqual(['song41']);
    expect(test.count({ ...artist, places: [{ kind: 'clock', id: 'day' }] }).breaks).toBe(2);
    expect(test.count({ ...artist, places: [{ kind: 'clock', id: 'ghost' }] }).breaks).toBe(0);
  });

  it('knows the hour of the day and the category of each play', () => {
    expect(test.count(ruleOf('otherHour', 'title', 1)).places).toMatchObject([
      { date: addDays(DATE, 1), itemId: 'song2' },
    ]);
    expect(test.count(ruleOf('streak', 'category', 4, { value: 'gold' })).breaks).toBe(2);
  });
});
