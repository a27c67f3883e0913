import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { HOUR_MS, type Clock } from '../clocks/line.js';
import { hoursOfDay } from '../time/local-day.js';
import type { AirPlan } from './air-plan.js';
import { runsOfDay } from './clock-runs.js';
import type { DatePlan } from './date-plan.js';
import { NO_FRAMING, type Show } from './show.js';
import { timelineOf, WallClock } from './timeline.js';
import { EMPTY_WEEK, type PlanBlock } from './week-plan.js';

const ZONE = 'Europe/Dublin';
/** A Tuesday, the Sunday of 23 hours and the one of 25. */
const DATES = ['2026-11-24', '2026-03-29', '2026-10-25'] as const;

const clock = (id: string, minutes: number): Clock => ({
  id,
  name: id,
  colour: '#000000',
  lengthMs: minutes * 60_000,
  lines: [],
});
const CLOCKS = [clock('hour', 60), clock('half', 30), clock('long', 90)];
const show = (id: string, more: Partial<Show> = {}): Show => ({
  id,
  name: id,
  colour: '#000000',
  clockIds: ['half', 'hour'],
  minutes: 120,
  start: 'soft',
  end: 'soft',
  toleranceMs: 5000,
  after: 'next',
  presenter: '',
  announcementId: null,
  openerId: null,
  closerId: null,
  hourOpenerId: null,
  ...more,
});
const SHOWS = [show('soft'), show('hard', { start: 'hard', end: 'exact' }), show('silent', { after: 'silence' })];
const block = (at: number, minutes: number, runs: PlanBlock['runs'], id: string): PlanBlock => ({
  at,
  minutes,
  runs,
  id,
});
const planOf = (blocks: readonly PlanBlock[], more: Partial<AirPlan> = {}): AirPlan => ({
  week: { ...EMPTY_WEEK, blocks: [...blocks], defaultClockId: 'hour' },
  dates: [],
  clocks: CLOCKS,
  shows: SHOWS,
  framing: NO_FRAMING,
  ...more,
});
const dateOn = (start: string, more: Partial<DatePlan>): DatePlan =>
  ({ id: 'd', name: 'd', start, repeat: '', like: null, instead: false, blocks: [], ...more }) as DatePlan;
const TUESDAY = 1440;

/** Blocks of a week that do not overlap, as painting leaves them. */
const blocks = fc
  .array(
    fc.record({
      gap: fc.integer({ min: 0, max: 60 }),
      length: fc.integer({ min: 1, max: 60 }),
      content: fc.constantFrom(
        ['clock', 'hour'],
        ['clock', 'long'],
        ['show', 'soft'],
        ['show', 'hard'],
        ['show', 'silent'],
      ),
    }),
    { maxLength: 40 },
  )
  .map((parts) => {
    let at = 0;
    return parts.flatMap(({ gap, length, content }) => {
      at += gap * 5;
      const one = block(at, length * 5, content[0], content[1]);
      at += length * 5;
      return at <= 7 * 1440 ? [one] : [];
    });
  });

describe('what is on the air', () => {
  it('has no gaps and no overlaps, whatever the week', () => {
    fc.assert(
      fc.property(blocks, fc.constantFrom(...DATES), (painted, date) => {
        const line = timelineOf(date, planOf(painted));
        for (const [n, stretch] of line.entries()) {
          expect(stretch.to).toBeGreaterThan(stretch.from);
          if (n > 0) expect(stretch.from).toBe(line[n - 1]!.to);
          expect(stretch.blockFrom).toBeLessThanOrEqual(stretch.from);
          expect(stretch.blockTo).toBeGreaterThanOrEqual(stretch.to);
        }
      }),
    );
  });

  it('is cut into runs of clocks that fill the day from its first instant to its last, once', () => {
    fc.assert(
      fc.property(blocks, fc.constantFrom(...DATES), (painted, date) => {
        const plan = planOf(painted);
        const wall = new WallClock(date, ZONE);
        const runs = runsOfDay(timelineOf(date, plan), wall, plan);
        expect(runs[0]!.fromMs).toBeLessThanOrEqual(wall.startMs);
        expect(runs.at(-1)!.toMs).toBeGreaterThanOrEqual(wall.endMs);
        for (const [n, run] of runs.entries()) {
          expect(run.toMs).toBeGreaterThan(run.fromMs);
          expect(run.originMs).toBeLessThanOrEqual(run.fromMs);
          if (n > 0) expect(run.fromMs).toBe(runs[n - 1]!.toMs);
          // No clock plays past its end, but the last of a show is run again.
          if (run.clock) expect(run.toMs - run.originMs).toBeLessThanOrEqual(run.clock.lengthMs + HOUR_MS);
        }
      }),
    );
  });

  it('is what a date lays over the week: beside it, like another day, or instead of it', () => {
    const week = [block(TUESDAY + 600, 120, 'show', 'soft'), block(600, 60, 'clock', 'long')];
    const of = (more: Partial<DatePlan>) =>
      timelineOf('2026-11-24', planOf(week, { dates: [dateOn('2026-11-24', more)] }))
        .filter(({ from, to, content }) => from >= 0 && to <= 1440 && content?.id !== 'hour')
        .map(({ from, to, content }) => [from, to, content?.id]);
    expect(of({ blocks: [block(660, 30, 'clock', 'half')] })).toEqual([
      [600, 660, 'soft'],
      [660, 690, 'half'],
      [690, 720, 'soft'],
    ]);
    expect(of({ like: 0 })).toEqual([[600, 660, 'long']]);
    expect(of({ instead: true })).toEqual([]);
  });

  it('is silence after a show that leaves the air, until the next block', () => {
    const line = timelineOf(
      '2026-11-24',
      planOf([block(TUESDAY + 60, 60, 'show', 'silent'), block(TUESDAY + 180, 60, 'clock', 'long')]),
    );
    const quiet = line.filter(({ silent }) => silent);
    expect(quiet.map(({ from, to, content }) => [from, to, content])).toEqual([[120, 180, null]]);
  });

  it('goes on with a show whose middle was laid over, without opening or closing it again', () => {
    const plan = planOf([block(TUESDAY + 600, 180, 'show', 'hard')], {
      dates: [dateOn('2026-11-24', { blocks: [block(660, 60, 'clock', 'hour')] })],
    });
    const runs = runsOfDay(timelineOf('2026-11-24', plan), new WallClock('2026-11-24', ZONE), plan).filter(
      (run) => run.show !== null,
    );
    expect(runs.filter(({ opensShow }) => opensShow)).toHaveLength(1);
    expect(runs.filter(({ closesShow }) => closesShow)).toHaveLength(1);
    expect(runs.map(({ clock: one }) => one?.id)).toEqual(['half', 'hour', 'hour', 'hour']);
  });

  it('marks a hard start, and an exact end with its tolerance on what follows', () => {
    const plan = planOf([block(TUESDAY + 600, 60, 'show', 'hard')]);
    const runs = runsOfDay(timelineOf('2026-11-24', plan), new WallClock('2026-11-24', ZONE), plan);
    const first = runs.findIndex(({ opensShow }) => opensShow);
    expect(runs[first]!.mark).toMatchObject({ hard: true });
    const after = runs.findIndex(({ show: one }, n) => n > first && one === null);
    expect(runs[after]!.mark).toMatchObject({ hard: false, exactMs: 5000 });
  });
});

describe('the clock on the wall', () => {
  it.each(DATES)('shows every hour of %s once, and the full hours of the days round it', (date) => {
    const wall = new WallClock(date, ZONE);
    expect(wall.hours).toEqual(hoursOfDay(date, ZONE));
    expect(wall.endMs - wall.startMs).toBe(wall.hours.reduce((sum, { durationMs }) => sum + durationMs, 0));
    const strikes = wall.fullHours();
    expect(strikes).toEqual([...strikes].sort((a, b) => a - b));
    expect(new Set(strikes).size).toBe(strikes.length);
  });

  it('takes the next hour there is where one is skipped, and the first of one that comes twice', () => {
    const spring = new WallClock('2026-03-29', ZONE);
    expect(spring.hours).toHaveLength(23);
    expect(spring.instantOf(90)).toBe(spring.instantOf(120));
    const autumn = new WallClock('2026-10-25', ZONE);
    expect(autumn.hours).toHaveLength(25);
    expect(autumn.instantOf(120) - autumn.instantOf(60)).toBe(2 * HOUR_MS);
  });

  it('goes on into the days before and after, and never back', () => {
    for (const date of DATES) {
      const wall = new WallClock(date, ZONE);
      expect(wall.instantOf(0)).toBe(wall.startMs);
      expect(wall.instantOf(1440)).toBe(wall.endMs);
      let last = -Infinity;
      for (let minute = -2880; minute <= 2880; minute += 5) {
        const instant = wall.instantOf(minute);
        expect(instant).toBeGreaterThanOrEqual(last);
        last = instant;
      }
    }
  });
});
