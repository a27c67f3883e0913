import { describe, expect, it } from '@jest/globals';
import { DATE, smallStation } from '../testing/small-station.js';
import { allEntries } from '../log/daily-log.js';
import { generateDay } from '../generate/generate-day.js';
import { addDays } from '../time/local-day.js';
import { coolingUntil } from './cool-off.js';

const RULE = { plays: 3, days: 2, rest: 4 };

describe('cool-off', () => {
  it.each([
    [['2026-11-20', '2026-11-20', '2026-11-21'], '2026-11-22', '2026-11-25'],
    [['2026-11-20', '2026-11-20', '2026-11-21'], '2026-11-25', '2026-11-25'],
    [['2026-11-20', '2026-11-20', '2026-11-21'], '2026-11-26', null],
    [['2026-11-19', '2026-11-20', '2026-11-21'], '2026-11-22', null],
    [['2026-11-22', '2026-11-22', '2026-11-22'], '2026-11-22', null],
    [[], '2026-11-22', null],
  ])('after plays on %j is on %s until %s', (dates, date, until) => {
    expect(coolingUntil(RULE, dates, date)).toBe(until);
  });

  it('keeps generation off what has had its spell', () => {
    const data = smallStation();
    const spell = Array.from({ length: 6 }, (_, n) => ({
      itemId: 'song3',
      startMs: Date.parse(`${addDays(DATE, -1)}T0${n}:00Z`),
    }));
    const played = (coolOffs: object): boolean => {
      const { log } = generateDay({ ...data, history: spell, coolOffs } as never, {
        date: DATE,
        seed: 1,
        previous: null,
        only: 'all',
      });
      return allEntries(log).some((entry) => entry.kind === 'pick' && entry.itemId === 'song3');
    };
    expect(played({ gold: { plays: 6, days: 2, rest: 3 } })).toBe(false);
    expect(played({ gold: { plays: 7, days: 2, rest: 3 } })).toBe(true);
  });
});
