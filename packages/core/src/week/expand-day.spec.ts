import { describe, expect, it } from '@jest/globals';
import { planOf } from '../testing/small-station.js';
import type { AirPlan } from './air-plan.js';
import { expandDay, type PlannedHour } from './expand-day.js';
import { HOUR_MS, type Clock, type ClockLine, type MomentLine } from '../clocks/line.js';
import { NO_FRAMING, type Show } from './show.js';
import { DAY_MINUTES, EMPTY_WEEK, paint } from './week-plan.js';

const LENGTHS = { averageOf: () => 200_000, lengthOf: () => 20_000 };
const DUBLIN = 'Europe/Dublin';
/** A Tuesday. */
const DATE = '2026-11-24';
const TUESDAY = DAY_MINUTES;

const pick = (id: string): ClockLine => ({ id, kind: 'pick', categoryId: 'gold', comment: '' });
const item = (id: string, itemId: string): ClockLine => ({ id, kind: 'item', itemId, comment: '' });
const moment = (atMs: number, hard: boolean): MomentLine => ({
  id: 'm',
  kind: 'moment',
  atMs,
  hard,
  itemId: 'pips',
  categoryId: null,
  comment: '',
});
const clockOf = (id: string, lines: readonly ClockLine[], lengthMs = HOUR_MS): Clock => ({
  id,
  name: id,
  colour: '#000000',
  lengthMs,
  lines,
});
const showOf = (id: string, more: Partial<Show> = {}): Show => ({
  id,
  name: id,
  colour: '#000000',
  clockIds: ['day'],
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
const clock = (id: string) => ({ runs: 'clock' as const, id });
const show = (id: string) => ({ runs: 'show' as const, id });
const day = planOf([pick('a'), pick('b')]);
/** Tuesday with something painted from a minute on. */
const tuesday = (plan: AirPlan, at: number, minutes: number, content: Parameters<typeof paint>[3]): AirPlan => ({
  ...plan,
  week: paint(plan.week, TUESDAY + at, minutes, content),
});
const expand = (plan: AirPlan, date = DATE, zone = DUBLIN): PlannedHour[] => expandDay(date, zone, plan, LENGTHS);
const lineIds = (hour: PlannedHour): string[] => hour.lines.map(({ line }) => line.id);

describe('expandDay', () => {
  it.each([
    ['2026-03-29', DUBLIN, 23],
    ['2026-10-25', DUBLIN, 25],
    ['2026-11-01', 'America/New_York', 25],
    ['2026-10-04', 'Australia/Lord_Howe', 23],
  ])('places the lines of every hour of %s in %s', (date, zone, count) => {
    const hours = expand(day, date, zone);
    expect(hours).toHaveLength(count);
    const ids = hours.flatMap((hour) => hour.lines.map((line) => line.entryId));
    expect(new Set(ids).size).toBe(ids.length);
    expect(ids).toHaveLength(2 * count);
    for (const hour of hours) expect(hour.lines[1]!.expectedStartMs).toBe(hour.startMs + 200_000);
  });

  it('plays nothing where no clock is named, or one that is gone', () => {
    for (const defaultClockId of [null, 'deleted']) {
      const bare = expand({ ...day, week: { ...EMPTY_WEEK, defaultClockId } });
      expect(bare.every((hour) => hour.clockId === null && hour.lines.length === 0)).toBe(true);
    }
  });

  it('plays nothing of a clock without lines, and still names it', () => {
    const hours = expand({ ...day, clocks: [clockOf('day', [])] });
    expect(hours[5]).toMatchObject({ clockName: 'day', lines: [] });
  });

  it('runs a clock of 90 minutes over the hours, which are then no marks', () => {
    const lines = Array.from({ length: 27 }, (_, n) => pick(`p${n}`));
    const plan = { ...day, clocks: [clockOf('day', [pick('x')]), clockOf('long', lines, 1.5 * HOUR_MS)] };
    const hours = expand(tuesday(plan, 6 * 60, 180, clock('long')));
    expect(hours.slice(6, 9).map((hour) => hour.lines.length)).toEqual([18, 18, 18]);
    expect(hours.slice(5, 10).map((hour) => hour.runsOn)).toEqual([undefined, undefined, true, true, undefined]);
    // The second time through begins at half past seven, and is told so.
    const second = hours[7]!.lines.filter(({ line }) => line.id === 'p0');
    expect(second[0]!.mark).toEqual({ atMs: hours[7]!.startMs + HOUR_MS / 2, hard: false });
  });

  it('takes the part of an hour clock that its painted part of the hour asks for', () => {
    const lines = [pick('early'), { ...(moment(45 * 60_000, false) as ClockLine), id: 'late' }];
    const plan = { ...day, clocks: [clockOf('day', [pick('x')]), clockOf('half', lines)] };
    expect(lineIds(expand(tuesday(plan, 6 * 60, 30, clock('half')))[6]!)).toEqual(['early']);
    expect(lineIds(expand(tuesday(plan, 6 * 60 + 30, 30, clock('half')))[6]!)).toEqual(['x', 'late']);
  });

  it('carries a show over midnight, also from the day before', () => {
    const long = showOf('owls', { clockIds: ['first', 'second'], minutes: 180 });
    const clocks = [...day.clocks, clockOf('first', [pick('f')]), clockOf('second', [pick('s')])];
    const plan = tuesday({ ...day, clocks, shows: [long] }, 23 * 60, 180, show('owls'));
    expect(lineIds(expand(plan)[23]!)).toEqual(['f']);
    const wednesday = expand(plan, '2026-11-25');
    expect(wednesday.slice(0, 3).map(lineIds)).toEqual([['s'], ['s'], ['a', 'b']]);
    expect(wednesday[0]!.showId).toBe('owls');
  });

  it('lays dates over the week: a block, another day of the week, or a day of its own', () => {
    const clocks = [...day.clocks, clockOf('mass', [pick('m')]), clockOf('sunday', [pick('s')])];
    const sundays = paint(day.week, 6 * DAY_MINUTES, DAY_MINUTES, clock('sunday'));
    const base = { ...day, clocks, week: sundays };
    const special = { id: 'd', name: 'Feast', start: DATE, repeat: '', like: null, instead: false, blocks: [] };
    const mass = [{ at: 600, minutes: 60, ...clock('mass') }];
    const over = expand({ ...base, dates: [{ ...special, blocks: mass }] });
    expect([9, 10, 11].map((hour) => lineIds(over[hour]!))).toEqual([['a', 'b'], ['m'], ['a', 'b']]);
    const like = expand({ ...base, dates: [{ ...special, like: 6, blocks: mass }] });
    expect([9, 10, 11].map((hour) => lineIds(like[hour]!))).toEqual([['s'], ['m'], ['s']]);
    const instead = expand({ ...base, dates: [{ ...special, like: 6, instead: true, blocks: mass }] });
    expect([9, 10].map((hour) => lineIds(instead[hour]!))).toEqual([['a', 'b'], ['m']]);
    // Where two meet, the later one holds; the day after is untouched.
    const both = {
      ...base,
      dates: [
        { ...special, blocks: mass },
        { ...special, id: 'e', like: 6 },
      ],
    };
    expect(lineIds(expand(both)[10]!)).toEqual(['s']);
    expect(lineIds(expand(both, '2026-11-25')[10]!)).toEqual(['a', 'b']);
  });

  it('goes on where a show was interrupted by a date', () => {
    const long = showOf('long', { clockIds: ['one', 'two', 'three'], minutes: 180 });
    const clocks = [...day.clocks, ...['one', 'two', 'three'].map((id) => clockOf(id, [pick(id)]))];
    const plan = tuesday({ ...day, clocks, shows: [long] }, 600, 180, show('long'));
    const blocks = [{ at: 660, minutes: 60, ...clock('day') }];
    const dates = [{ id: 'd', name: '', start: DATE, repeat: '', like: null, instead: false, blocks }];
    const hours = expand({ ...plan, dates });
    expect([10, 11, 12].map((hour) => lineIds(hours[hour]!))).toEqual([['one'], ['a', 'b'], ['three']]);
  });
});

describe('shows', () => {
  const frames = [
    clockOf('top', [item('id', 'legal-id')]),
    clockOf('open', [item('o', 'welcome')]),
    clockOf('close', [item('c', 'farewell'), { id: 'f', kind: 'fill', categoryId: 'beds', comment: '' }]),
    clockOf('pips', [moment(30 * 60_000, true)]),
  ];
  const framed: AirPlan = { ...day, clocks: [...day.clocks, ...frames] };

  it('begin and end with what station and show put round them', () => {
    const shows = [showOf('s', { openerId: 'open', closerId: 'close' })];
    const framing = { ...NO_FRAMING, hourOpenerId: 'top' };
    const hours = expand(tuesday({ ...framed, shows, framing }, 600, 120, show('s')));
    expect([9, 10, 11].map((hour) => lineIds(hours[hour]!))).toEqual([
      ['id', 'a', 'b'],
      ['id', 'o', 'a', 'b'],
      ['id', 'a', 'b', 'c', 'f'],
    ]);
    expect(hours[10]!.lines.map(({ from }) => from)).toEqual(['opener', 'opener', undefined, undefined]);
  });

  it('mark where they begin hard and end exactly', () => {
    const shows = [showOf('s', { start: 'hard', end: 'exact' })];
    const hours = expand(tuesday({ ...framed, shows }, 600, 90, show('s')));
    expect(hours[10]!.lines[0]!.mark).toEqual({ atMs: hours[10]!.startMs, hard: true });
    // What goes on at half past eleven is the rest of the hour's clock, of which nothing is left.
    expect(hours[12]!.lines[0]!.mark).toBeUndefined();
    const whole = expand(tuesday({ ...framed, shows }, 600, 120, show('s')));
    expect(whole[12]!.lines[0]!.mark).toEqual({ atMs: whole[12]!.startMs, hard: false, exactMs: 5000 });
  });

  it('leave the air to another source until something is planned', () => {
    const shows = [showOf('s', { after: 'silence', end: 'exact' })];
    const plan = tuesday({ ...framed, shows }, 600, 60, show('s'));
    const hours = expand({ ...plan, week: paint(plan.week, TUESDAY + 780, 60, clock('day')) });
    expect(hours[11]!.lines[0]).toMatchObject({ line: { kind: 'note' }, mark: { exactMs: 5000 } });
    expect(hours[12]!.lines).toEqual([]);
    expect([13, 14].map((hour) => lineIds(hours[hour]!))).toEqual([
      ['a', 'b'],
      ['a', 'b'],
    ]);
  });

  it('are announced by the audio of what really follows that day', () => {
    const lines: ClockLine[] = [pick('a'), { id: 'n', kind: 'next show', comment: '' }];
    const shows = [showOf('x', { announcementId: 'come-x' }), showOf('y', { announcementId: 'come-y' }), showOf('z')];
    const plan = tuesday({ ...planOf(lines), shows }, 600, 60, show('x'));
    const blocks = [{ at: 600, minutes: 60, ...show('y') }];
    const dates = [{ id: 'd', name: '', start: DATE, repeat: '', like: null, instead: false, blocks }];
    const named = (hour: PlannedHour): unknown => hour.lines[1]?.line;
    expect(named(expand(plan)[8]!)).toMatchObject({ kind: 'item', itemId: 'come-x' });
    expect(named(expand({ ...plan, dates })[8]!)).toMatchObject({ itemId: 'come-y' });
    // Nothing follows that is announced.
    expect(named(expand(plan)[12]!)).toBeUndefined();
    expect(named(expand(tuesday(plan, 600, 60, show('z')))[8]!)).toBeUndefined();
  });

  it('and every hour have the moments of the station, each where it comes in time', () => {
    const lines = Array.from({ length: 18 }, (_, n) => pick(`p${n}`));
    const framing = { ...NO_FRAMING, momentsId: 'pips' };
    const hours = expand({ ...framed, clocks: [clockOf('day', lines), ...frames], framing });
    const at = hours[3]!.lines.findIndex(({ line }) => line.kind === 'moment');
    expect(at).toBe(9);
    expect(hours[3]!.lines[at]).toMatchObject({ from: 'moment', mark: { hard: true } });
    expect(hours[3]!.lines[at]!.mark!.atMs).toBe(hours[3]!.startMs + 30 * 60_000);
  });
});
