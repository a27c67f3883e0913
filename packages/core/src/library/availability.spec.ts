import { describe, expect, it } from '@jest/globals';
import { smallStation } from '../testing/small-station.js';
import { allEntries, type PickEntry } from '../log/daily-log.js';
import { generateDay } from '../generate/generate-day.js';
import { unavailabilityOnDate, hoursInWords, mayAirInHour, paintHours, type Availability } from './availability.js';

const FREE: Availability = { startDate: null, endDate: null, hours: null, pausedUntil: null };
const TUESDAY = '2026-11-24';

describe('what bars an item from the air', () => {
  it.each([
    [{}, null],
    [{ startDate: '2026-11-25' }, 'not yet'],
    [{ startDate: TUESDAY, endDate: TUESDAY }, null],
    [{ endDate: '2026-11-23' }, 'over'],
    [{ pausedUntil: TUESDAY }, 'paused'],
    [{ pausedUntil: '2026-11-23' }, null],
  ])('%o', (what, because) => {
    expect(unavailabilityOnDate({ ...FREE, ...what }, TUESDAY)?.because ?? null).toBe(because);
  });

  it('paints hours of the week, and says them as people do', () => {
    const weekdayMornings = [0, 1, 2, 3, 4].flatMap((day) => [6, 7, 8, 9].map((hour) => day * 24 + hour));
    const none = paintHours(null, Array.from({ length: 168 }).keys(), false);
    const mornings = paintHours(none, weekdayMornings, true);
    expect([hoursInWords(none), hoursInWords(mornings)]).toEqual(['at no hour', 'Mon to Fri 06–10']);
    expect(mayAirInHour({ hours: mornings }, 4, 9)).toBe(true);
    expect(mayAirInHour({ hours: mornings }, 5, 9)).toBe(false);
    expect(hoursInWords(paintHours(mornings, [6 * 24, 6 * 24 + 1, 6 * 24 + 23], true))).toBe(
      'Mon to Fri 06–10, Sun 00–02 and 23–24',
    );
    expect(paintHours(none, Array.from({ length: 168 }).keys(), true)).toBeNull();
    expect(paintHours(null, [-1, 168], false)).toBeNull();
  });

  it('keeps generation to the hours, dates and approval of every item', () => {
    const station = smallStation();
    const night = paintHours(null, Array.from({ length: 168 }).keys(), false);
    const nightly = paintHours(
      night,
      [0, 1, 2, 3, 22, 23].map((hour) => 24 + hour),
      true,
    );
    const items = station.items.map((item, index) => {
      if (index % 4 === 0) return { ...item, hours: nightly };
      if (index === 1) return { ...item, pausedUntil: '9999-12-31' };
      return index === 2 ? { ...item, approved: false } : item;
    });
    const data = { ...station, items, approvedOnly: ['gold'] };
    const { log } = generateDay(data, { date: TUESDAY, seed: 1, previous: null, only: 'all' });
    const played = log.hours.flatMap(({ localHour, entries }) =>
      entries.filter((entry): entry is PickEntry => entry.kind === 'pick').map(({ itemId }) => ({ localHour, itemId })),
    );
    const nightSongs = played.filter(({ itemId }) => Number(itemId?.slice(4) ?? 1) % 4 === 0);
    expect(nightSongs.length).toBeGreaterThan(20);
    expect(nightSongs.every(({ localHour }) => localHour < 4 || localHour >= 22)).toBe(true);
    expect(played.filter(({ itemId }) => itemId === 'song1' || itemId === 'song2')).toEqual([]);
    const open = generateDay(
      { ...data, approvedOnly: [] },
      { date: TUESDAY, seed: 1, previous: null, only: 'all' },
    ).log;
    expect(allEntries(open).some((entry) => entry.kind === 'pick' && entry.itemId === 'song2')).toBe(true);
  });
});
