import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { mustApply } from '../log/apply-edit.js';
import { allEntries, type DailyLog, type Spot } from '../log/daily-log.js';
import { moveSpot, type SpotMove } from './move-spot.js';

const spot = (id: string): Spot => ({ id, cart: id, sponsor: '', title: '', product: '', lengthMs: 30_000 });
const entry = (id: string, ...ids: string[]) => ({
  id,
  kind: 'break' as const,
  bookedAtMs: 0,
  durationMs: 60_000,
  note: '',
  spots: ids.map(spot),
});
const LOG: DailyLog = {
  date: '2026-11-24',
  timeZone: 'UTC',
  hours: [
    {
      index: 0,
      localHour: 0,
      startMs: 0,
      durationMs: 3_600_000,
      clockId: null,
      clockName: '',
      entries: [entry('a', '1', '2', '3'), entry('b'), entry('old', '4')],
    },
  ],
};
const TRAY = [spot('t1'), spot('t2')];
const options = { aired: new Set(['old']), trayed: (one: Spot): Spot => one };
const move = (log: DailyLog, tray: readonly Spot[], asked: SpotMove) => {
  const moved = moveSpot(log, tray, asked, options);
  if (!moved.ok) return moved.why;
  return { log: mustApply(log, { type: 'batch', edits: moved.edits }), tray: moved.tray };
};
const shown = (made: ReturnType<typeof move>) =>
  typeof made === 'string'
    ? made
    : [...allEntries(made.log).map((one) => (one.kind === 'break' ? one.spots! : [])), made.tray].map((spots) =>
        spots.map(({ id }) => id).join(''),
      );

describe('moving a spot', () => {
  it.each([
    ['on within its break', { spotId: '1', toEntryId: 'a', at: 1 }, ['213', '', '4', 't1t2']],
    ['to the end of another', { spotId: '2', toEntryId: 'b' }, ['13', '2', '4', 't1t2']],
    ['to the tray', { spotId: '3', toEntryId: null }, ['12', '', '4', 't1t23']],
    ['out of the tray', { spotId: 't1', toEntryId: 'a', at: 0 }, ['t1123', '', '4', 't2']],
    ['from the tray to the tray', { spotId: 't2', toEntryId: null }, ['123', '', '4', 't1t2']],
    ['that is not there', { spotId: '9', toEntryId: 'a' }, 'no such spot'],
    ['to a break that is not there', { spotId: '1', toEntryId: 'z' }, 'no such break'],
    ['into a break that has aired', { spotId: '1', toEntryId: 'old' }, 'aired'],
    ['out of a break that has aired', { spotId: '4', toEntryId: 'a' }, 'aired'],
  ])('%s', (_, asked, expected) => expect(shown(move(LOG, TRAY, asked))).toEqual(expected));

  it('loses none and doubles none, however often', () => {
    const asked = fc.record({
      spotId: fc.constantFrom('1', '2', '3', 't1', 't2'),
      toEntryId: fc.constantFrom('a', 'b', null),
      at: fc.option(fc.nat(5), { nil: undefined }),
    });
    fc.assert(
      fc.property(fc.array(asked, { maxLength: 12 }), (moves) => {
        const end = moves.reduce<{ log: DailyLog; tray: readonly Spot[] }>(
          (so, one) => {
            const made = move(so.log, so.tray, one);
            if (typeof made === 'string') throw new Error(made);
            return made;
          },
          { log: LOG, tray: TRAY },
        );
        const all = allEntries(end.log).flatMap((one) => (one.kind === 'break' ? one.spots! : []));
        expect([...all, ...end.tray].map(({ id }) => id).sort()).toEqual(['1', '2', '3', '4', 't1', 't2']);
      }),
    );
  });
});
