import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { turnoverHours } from '../rotation/category.js';
import { weeklyDemand, weekSlots } from './week-slots.js';
import { planOf } from '../testing/small-station.js';
import { datesOf, repeatFault } from './date-plan.js';
import type { ClockLine } from '../clocks/line.js';
import { usageOfClocks } from './usage.js';
import { blockAt, copyDay, EMPTY_WEEK, paint, reshape, WEEK_MINUTES, type WeekPlan } from './week-plan.js';

const clock = (id: string) => ({ runs: 'clock' as const, id });
const show = (id: string) => ({ runs: 'show' as const, id });
const pick = (id: string, categoryId = 'gold'): ClockLine => ({ id, kind: 'pick', categoryId, comment: '' });
const LENGTHS = { averageOf: () => 200_000, lengthOf: () => 10_000 };

/** What runs at every five minutes of the week. */
const sampled = (plan: WeekPlan): (string | undefined)[] =>
  Array.from({ length: WEEK_MINUTES / 5 }, (_, n) => blockAt(plan, n * 5)?.id);

describe('the week plan', () => {
  const stroke = fc.record({
    at: fc.nat(WEEK_MINUTES / 5 - 1).map((n) => n * 5),
    minutes: fc.integer({ min: 1, max: 60 }).map((n) => n * 5),
    content: fc.constantFrom(clock('a'), clock('b'), show('s'), null),
  });

  it('holds what was painted last at every five minutes, in blocks that never overlap', () => {
    fc.assert(
      fc.property(fc.array(stroke, { maxLength: 12 }), (strokes) => {
        const expected = sampled(EMPTY_WEEK);
        let plan: WeekPlan = EMPTY_WEEK;
        for (const { at, minutes, content } of strokes) {
          plan = paint(plan, at, minutes, content);
          for (let n = 0; n < minutes / 5; n++) expected[(at / 5 + n) % expected.length] = content?.id;
        }
        expect(sampled(plan)).toEqual(expected);
        const minutes = plan.blocks.reduce((sum, block) => sum + block.minutes, 0);
        expect(minutes).toBe(expected.filter(Boolean).length * 5);
      }),
    );
  });

  it('joins strokes of one clock into a block, keeps shows apart, and changes nothing when nothing changes', () => {
    const plan = paint(paint(EMPTY_WEEK, 360, 60, clock('a')), 420, 60, clock('a'));
    expect(plan.blocks).toEqual([{ at: 360, minutes: 120, ...clock('a') }]);
    expect(paint(plan, 390, 30, clock('a'))).toBe(plan);
    expect(paint(paint(EMPTY_WEEK, 0, 60, show('s')), 60, 60, show('s')).blocks).toHaveLength(2);
  });

  it('moves and stretches a block over what is there, and copies a day', () => {
    const plan = paint(paint(EMPTY_WEEK, 360, 240, show('s')), 600, 120, clock('a'));
    const later = reshape(plan, plan.blocks[0]!, 420, 240);
    expect(later.blocks).toEqual([
      { at: 420, minutes: 240, ...show('s') },
      { at: 660, minutes: 60, ...clock('a') },
    ]);
    const copied = copyDay(later, 0, [6]);
    expect(copied.blocks.slice(2).map(({ at }) => at - 6 * 1440)).toEqual([420, 660]);
    expect(copyDay(copied, 0, [6])).toBe(copied);
  });

  it('counts the hours of each clock, those of shows too, the default in what is left', () => {
    const base = planOf([pick('a'), pick('b'), pick('c', 'fresh')]);
    const other = { ...base.clocks[0]!, id: 'other', lines: [pick('o', 'fresh')] };
    const two = { ...base, clocks: [...base.clocks, other] };
    const long = {
      id: 's',
      name: 'Long',
      colour: '#000000',
      clockIds: ['day', 'other'],
      minutes: 180,
      start: 'soft' as const,
      end: 'soft' as const,
      toleranceMs: 0,
      after: 'next' as const,
      presenter: '',
      announcementId: null,
      openerId: null,
      closerId: null,
      hourOpenerId: null,
    };
    // Sunday 23:00 to Monday 02:00: one hour of the first clock, two of the other.
    const plan = { ...two, shows: [long], week: paint(two.week, WEEK_MINUTES - 60, 180, show('s')) };
    const hours = [...usageOfClocks(plan)].map(
      ([id, usage]) => [id, usage.reduce((sum, { from, to }) => sum + (to - from) / 60, 0)] as const,
    );
    expect(new Map(hours)).toEqual(
      new Map([
        ['other', 2],
        ['day', 166],
      ]),
    );
    expect(usageOfClocks(plan).get('other')).toEqual([{ from: 0, to: 120, showId: 's' }]);
    expect(weeklyDemand(plan, LENGTHS)).toEqual(
      new Map([
        ['gold', 2 * 166],
        ['fresh', 166 + 2],
      ]),
    );
    // Of one very week, with the date that differs in it.
    const none = { id: 'd', name: '', start: '2026-11-24', repeat: '', like: null, instead: false };
    const blocks = [{ at: 0, minutes: 1440, ...clock('other') }];
    const ofWeek = weekSlots({ ...two, dates: [{ ...none, blocks }] }, LENGTHS, '2026-11-23');
    expect(ofWeek.get('gold')).toHaveLength(2 * 144);
    expect(turnoverHours(20, 336)).toBe(10);
    expect(turnoverHours(20, 0)).toBeNull();
  });
});

describe('dates that differ', () => {
  it('come again by the rule they are given', () => {
    const yearly = { start: '2026-12-24', repeat: 'FREQ=YEARLY' };
    expect(datesOf(yearly, '2026-12-20', '2028-12-31')).toEqual(['2026-12-24', '2027-12-24', '2028-12-24']);
    const lastFriday = { start: '2026-11-01', repeat: 'FREQ=MONTHLY;BYDAY=-1FR;UNTIL=20270131' };
    expect(datesOf(lastFriday, '2026-01-01', '2028-01-01')).toEqual(['2026-11-27', '2026-12-25', '2027-01-29']);
    expect(datesOf({ start: '2026-11-24', repeat: '' }, '2026-11-24', '2026-11-24')).toEqual(['2026-11-24']);
    expect(datesOf({ start: '2026-11-24', repeat: '' }, '2026-11-25', '2026-11-30')).toEqual([]);
  });

  it.each([
    ['FREQ=SOMETIMES', /FREQ/],
    ['BYDAY=MO', /no FREQ/],
    ['FREQ=HOURLY', /more often than daily/],
    ['FREQ=DAILY;INTERVAL=0', /INTERVAL/],
    ['FREQ=WEEKLY;NONSENSE=1', /NONSENSE/],
  ])('says what is wrong with %s', (repeat, why) => {
    expect(repeatFault(repeat)).toMatch(why);
    expect(() => datesOf({ start: '2026-01-01', repeat }, '2026-01-01', '2026-02-01')).toThrow(RangeError);
  });
});
