import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { dueMove, type Life, type Placed } from '../rotation/life.js';
import { moveEffects } from '../rotation/move-effects.js';
import { addDays } from '../time/local-day.js';
import { movedTo, withPlaysCounted } from './moves.js';
import type { StationData } from './station-data.js';

const TODAY = '2026-11-30';
const place = (patch: Partial<Placed> = {}): Placed => ({
  categoryId: 'fresh',
  since: '2026-11-02',
  planned: null,
  plays: 0,
  ...patch,
});
const WEEKS: Life = { after: 4, unit: 'weeks', to: 'current' };
const PLAYS: Life = { after: 40, unit: 'plays', to: null };
const data = (placed: Record<string, Placed>, lives: Record<string, Life>) =>
  ({
    categories: { fresh: Object.keys(placed), current: ['old'], gold: [] },
    placed,
    lives,
  }) as unknown as StationData;

describe('the next move of a song', () => {
  it.each([
    ['after so many weeks', place(), WEEKS, { to: 'current', date: '2026-11-30', expected: false, byHand: false }],
    ['not without a date it came', place({ since: null }), WEEKS, null],
    [
      'at once when its plays are reached',
      place({ plays: 40 }),
      PLAYS,
      { to: null, date: TODAY, expected: false, byHand: false },
    ],
    [
      'expected at the rate it plays',
      place({ plays: 30 }),
      PLAYS,
      { to: null, date: '2026-12-05', expected: true, byHand: false },
    ],
    [
      'by hand before what its category says',
      place({ planned: { kind: 'on', date: '2027-01-01', to: 'gold' } }),
      WEEKS,
      { to: 'gold', date: '2027-01-01', expected: false, byHand: true },
    ],
    ['never where a person keeps it', place({ planned: { kind: 'stays' } }), WEEKS, null],
    ['never without a life', place(), undefined, null],
  ] as const)('is %s', (_, placed, life, expected) => {
    expect(dueMove(placed, life, { today: TODAY, playsPerWeek: 14 })).toEqual(expected);
  });

  it('has no date where plays are asked and it never plays', () => {
    expect(dueMove(place({ plays: 3 }), PLAYS, { today: TODAY })).toBeNull();
  });
});

describe('what moves come to', () => {
  it('is the songs and the turnover of every category they concern, and of no other', () => {
    const categories = [
      { id: 'fresh', items: 20, slotsPerWeek: 168 },
      { id: 'current', items: 30, slotsPerWeek: 0 },
      { id: 'gold', items: 500, slotsPerWeek: 300 },
    ];
    const moves = [
      { from: 'fresh', to: 'current' },
      { from: 'fresh', to: null },
    ];
    expect(moveEffects(categories, moves)).toEqual([
      {
        categoryId: 'fresh',
        leave: 2,
        come: 0,
        songs: { today: 20, then: 18 },
        turnoverHours: { today: 20, then: 18 },
      },
      {
        categoryId: 'current',
        leave: 0,
        come: 1,
        songs: { today: 30, then: 31 },
        turnoverHours: { today: null, then: null },
      },
    ]);
  });
});

describe('a station on a later date', () => {
  it('has its songs where they are by then, through several categories, and is left as it was before', () => {
    const ground = data(
      {
        a: place({ since: '2026-11-02' }),
        b: place({ since: '2026-11-20' }),
        c: place({ planned: { kind: 'stays' } }),
      },
      { fresh: WEEKS, current: { after: 2, unit: 'weeks', to: 'gold' } },
    );
    expect(movedTo(ground, '2026-11-29')).toBe(ground);
    expect(movedTo(ground, '2026-11-30').categories).toEqual({ fresh: ['b', 'c'], current: ['old', 'a'], gold: [] });
    const later = movedTo(ground, '2026-12-18');
    expect(later.categories).toEqual({ fresh: ['c'], current: ['old', 'b'], gold: ['a'] });
    expect(later.placed!['b']).toEqual({ categoryId: 'current', since: '2026-12-18', planned: null, plays: 0 });
    expect(ground.categories['fresh']).toEqual(['a', 'b', 'c']);
  });

  it('moves on after the plays it counts, out of rotation too', () => {
    let ground = data({ a: place({ plays: 39 }) }, { fresh: PLAYS });
    expect(movedTo(ground, TODAY)).toBe(ground);
    ground = withPlaysCounted(ground, ['a', 'other']);
    expect(movedTo(ground, TODAY).categories['fresh']).toEqual([]);
    expect(movedTo(ground, TODAY).placed).toEqual({});
  });

  it('is the same by one step and by many, loses no song and ends in a circle', () => {
    const life = fc.record({
      after: fc.integer({ min: 1, max: 3 }),
      unit: fc.constant('weeks' as const),
      to: fc.constantFrom('fresh', 'current', 'gold'),
    });
    fc.assert(
      fc.property(
        fc.dictionary(fc.constantFrom('fresh', 'current', 'gold'), life),
        fc.integer({ min: 0, max: 40 }),
        (lives, days) => {
          const ground = data({ a: place(), b: place({ since: '2026-11-11' }) }, lives);
          const at = addDays('2026-11-12', days);
          const once = movedTo(ground, at);
          let daily = ground;
          for (let n = 0; n <= days; n++) daily = movedTo(daily, addDays('2026-11-12', n));
          expect(Object.values(once.categories).flat().sort()).toEqual(['a', 'b', 'old']);
          for (const id of ['fresh', 'current', 'gold'])
            expect([...(daily.categories[id] ?? [])].sort()).toEqual([...(once.categories[id] ?? [])].sort());
        },
      ),
    );
  });
});
