import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { AirPlan } from '../week/air-plan.js';
import { HOUR_MS, type ClockLine, type FillLine, type PickLine } from '../clocks/line.js';
import type { Show } from '../week/show.js';
import { paint } from '../week/week-plan.js';
import { apart, DATE, planOf, smallStation, songs } from '../testing/small-station.js';
import { addDays } from '../time/local-day.js';
import { allEntries, itemOf, openSlots, slotsOf, type DailyLog, type PickEntry } from '../log/daily-log.js';
import { generateDay } from './generate-day.js';
import { LogInspector } from '../judge/inspect-log.js';
import { applyEdit, mustApply } from '../log/apply-edit.js';
import { landAfterBooking, landingOf } from './land-marks.js';
import { staleHours } from './stale-hours.js';
import { StationModel } from '../station/station-model.js';
import type { ScheduledItem, StationData } from '../station/station-data.js';

const ALL = { date: DATE, seed: 1, previous: null, only: 'all' as const };
const pick = (id: string, more: Partial<PickLine> = {}): PickLine => ({
  id,
  kind: 'pick',
  categoryId: 'gold',
  comment: '',
  ...more,
});
/** What sixteen songs leave of an hour on average, or eight of half an hour. */
const rest = (id: string, durationMs: number): ClockLine => ({
  id,
  kind: 'break',
  bookedAtMs: 0,
  durationMs,
  comment: '',
});
const fill: FillLine = { id: 'fill', kind: 'fill', categoryId: 'beds', comment: '' };
const picks = (count: number, more: Partial<PickLine> = {}): PickLine[] =>
  Array.from({ length: count }, (_, n) => pick(`p${n}`, more));
/** Short pieces of every length from 15 to 74 seconds. */
const beds: ScheduledItem[] = songs(20, 1).map((song, n) => ({
  ...song,
  id: `bed${n}`,
  title: `Bed ${n}`,
  artist: '',
  artistIds: [],
  durationMs: 15_000 + n * 3_100,
}));
const station = (plan: AirPlan, more: Partial<StationData> = {}): StationData => {
  const base = smallStation({ plan });
  return {
    ...base,
    items: [...base.items, ...beds],
    categories: { ...base.categories, beds: beds.map(({ id }) => id) },
    ...more,
  };
};
const entryOf = (log: DailyLog, line: string): PickEntry[] =>
  slotsOf(log).filter(({ id }) => id.replace(/-\d+$/, '') === line);

describe('landing', () => {
  const show: Show = {
    id: 's',
    name: 'Show',
    colour: '#000000',
    clockIds: ['day'],
    minutes: 120,
    start: 'hard',
    end: 'exact',
    toleranceMs: 5000,
    after: 'next',
    presenter: '',
    announcementId: null,
    openerId: null,
    closerId: 'close',
    hourOpenerId: null,
  };
  const base = planOf([...picks(16), rest('b', 80_000)]);
  const closer = { ...base.clocks[0]!, id: 'close', name: 'Close', lengthMs: HOUR_MS / 12, lines: [fill] };
  const blocks = [2, 7, 12, 17].reduce(
    (week, hour) => paint(week, 1440 + hour * 60, 120, { runs: 'show', id: 's' }),
    base.week,
  );
  const plan: AirPlan = { ...base, week: blocks, shows: [show], clocks: [...base.clocks, closer] };

  it('brings shows to their hard starts and exact ends with fill, cuts nothing and breaks no rule', () => {
    const data = station(plan);
    const model = new StationModel(data);
    let history: StationData['history'] = [];
    const marks = [0, 1, 2].flatMap((day) => {
      // Every day of the week has the shows of Tuesday.
      const { log } = generateDay(
        { ...data, history, plan: { ...plan, dates: [likeTuesday(addDays(DATE, day))] } },
        { ...ALL, date: addDays(DATE, day) },
      );
      expect(openSlots(log)).toEqual([]);
      expect(new LogInspector(new StationModel({ ...data, history }), log).strains()).toEqual([]);
      history = [...history, ...model.plays(log)];
      return model.timing(log).marks.filter(({ hard, exactMs }) => hard || exactMs !== undefined);
    });
    expect(marks).toHaveLength(24);
    for (const { hard, overMs } of marks) {
      expect(Math.abs(overMs)).toBeLessThanOrEqual(5000);
      if (hard) expect(overMs).toBeLessThanOrEqual(0);
    }
  });

  const likeTuesday = (start: string) => ({
    id: 'd',
    name: '',
    start,
    repeat: '',
    like: 1,
    instead: false,
    blocks: [],
  });

  it('fills what no song can make up, with pieces that differ', () => {
    // Four songs leave three quarters of an hour; three pieces of fill reach part of that, so the gap is made smaller.
    const lines: ClockLine[] = [
      { id: 'b', kind: 'break', bookedAtMs: 0, durationMs: 2_600_000, comment: '' },
      ...picks(4),
      fill,
    ];
    const data = station(planOf(lines));
    const { log } = generateDay(data, ALL);
    const { hours } = new StationModel(data).timing(log);
    expect(hours.filter(({ overMs }) => Math.abs(overMs) > 5000)).toEqual([]);
    for (const hour of log.hours) {
      const pieces = hour.entries.filter((entry) => entry.kind === 'pick' && entry.fill && !entry.out).map(itemOf);
      expect(new Set(pieces).size).toBe(pieces.length);
    }
    expect(slotsOf(log).some(({ fill: filled }) => filled)).toBe(true);
    expect(allEntries(log).some(({ id, out }) => out && /-f\d$/.test(id))).toBe(false);
  });

  it('fills a quarter of an hour, with as many pieces as that takes', () => {
    const moment: ClockLine = {
      id: 'm',
      kind: 'moment',
      atMs: 1_800_000,
      hard: true,
      itemId: null,
      categoryId: 'gold',
      comment: '',
    };
    const data = station(
      planOf([
        ...picks(4),
        fill,
        moment,
        ...picks(6).map((line) => ({ ...line, id: `${line.id}b` })),
        { ...fill, id: 'fill2' },
      ]),
    );
    const { log } = generateDay(data, ALL);
    const timing = new StationModel(data).timing(log);
    expect(timing.silences.filter(({ durationMs }) => durationMs > 5000)).toEqual([]);
    expect(entryOf(log, 'fill').length).toBe(24);
    expect(slotsOf(log).filter((entry) => entry.fill).length).toBeGreaterThan(24 * 14);
    expect(allEntries(log).some((entry) => entry.kind === 'pick' && entry.fill && entry.itemId === null)).toBe(false);
  });

  it('fills what traffic has not booked, leaves every song where it was, and gives the time back when more is booked', () => {
    const plan = planOf([...picks(14), rest('b', 300_000), fill]);
    const data = station(plan);
    const model = new StationModel(data);
    const { log } = generateDay(data, ALL);
    const book = (of: DailyLog, ms: number): DailyLog => {
      const spots = [{ id: 's', cart: 'SP1', sponsor: 'BAKERY', title: '', product: '', lengthMs: ms }];
      const edits = of.hours.map(({ entries }) => {
        const entryId = entries.find(({ kind }) => kind === 'break')!.id;
        return { type: 'spots' as const, entryId, spots };
      });
      return landAfterBooking(model, mustApply(of, { type: 'batch', edits }), new Set());
    };
    const offs = (of: DailyLog): number[] => model.timing(of).hours.map(({ overMs }) => Math.abs(overMs));
    const songsOf = (of: DailyLog) => slotsOf(of).filter(({ fill: isFill }) => !isFill);
    const less = book(log, 60_000);
    expect(offs(less).filter((off) => off > 5000)).toEqual([]);
    expect(songsOf(less)).toEqual(songsOf(log));
    const more = book(less, 300_000);
    expect(offs(more).filter((off) => off > 5000).length).toBeLessThanOrEqual(
      offs(log).filter((off) => off > 5000).length,
    );
    expect(
      slotsOf(more)
        .filter(({ id }) => /-f\d+$/.test(id))
        .every(({ out }) => !out),
    ).toBe(true);
  });

  it('says that a log can stay as it is exactly where no rule is broken and no slot is open', () => {
    const data = station(base, { rules: [apart('artist', 3600)] });
    const model = new StationModel(data);
    const { log } = generateDay(data, ALL);
    const slots = slotsOf(log);
    const verdicts: boolean[] = [];
    const pairs = fc.array(fc.tuple(fc.nat(slots.length - 1), fc.nat(data.categories['gold']!.length)), {
      maxLength: 3,
    });
    fc.assert(
      fc.property(pairs, (edits) => {
        const edited = edits.reduce((made, [slot, item]) => {
          const entryId = slots[slot]!.id;
          const itemId = data.categories['gold']![item];
          const outcome = applyEdit(
            made,
            itemId
              ? { type: 'replace', entryId, itemId, origin: 'engine' }
              : { type: 'open', entryId, origin: 'engine', reason: null },
          );
          return outcome.ok ? outcome.log : made;
        }, log);
        const landing = landingOf(model, edited, new Set(), 'repeats', 1);
        if (!landing) return;
        const sound = new LogInspector(model, edited).strains().length === 0 && openSlots(edited).length === 0;
        verdicts.push(sound);
        expect(landing.isSound()).toBe(sound);
      }),
      { numRuns: 60 },
    );
    expect(new Set(verdicts).size).toBe(2);
  });

  it('leaves spare lines out of long hours alone', () => {
    const spare = (count: number): ClockLine[] => [...picks(count), pick('spare', { spare: true })];
    const long = station(planOf(spare(17)));
    const short = station(planOf(spare(12)));
    const { log } = generateDay(long, ALL);
    expect(entryOf(log, 'spare').length).toBeLessThan(4);
    const kept = generateDay(short, ALL).log;
    expect(entryOf(kept, 'spare')).toHaveLength(24);
    const left = allEntries(log).find(({ out }) => out)!;
    expect(left).toMatchObject({ kind: 'pick', itemId: null, spare: true });
    const put = applyEdit(log, {
      type: 'replace',
      entryId: left.id,
      itemId: 'song1',
      origin: 'hand',
    });
    expect(put).toEqual({ ok: false, why: 'the entry is left out of the hour' });
  });

  it('begins a hard moment at its second, and a soft one when what plays has ended', () => {
    const at = (hard: boolean): ClockLine => ({
      id: 'm',
      kind: 'moment',
      atMs: 1_800_000,
      hard,
      itemId: 'bed0',
      categoryId: null,
      comment: '',
    });
    for (const hard of [true, false]) {
      const second = picks(8).map((line) => ({ ...line, id: `q${line.id}` }));
      const data = station(planOf([...picks(8), rest('b', 40_000), at(hard), ...second, rest('c', 20_000)]));
      const { log } = generateDay(data, ALL);
      const { entries, marks } = new StationModel(data).timing(log);
      for (const hour of log.hours) {
        const { startMs } = entries.get(hour.entries[9]!.id)!;
        if (hard) expect(startMs - hour.startMs).toBe(1_800_000);
        else expect(startMs - hour.startMs).toBeGreaterThanOrEqual(1_800_000);
      }
      const own = marks.filter(({ entryId }) => entryId?.startsWith('m-'));
      expect(own).toHaveLength(24);
      // Nothing is cut, and nothing is silent for long.
      for (const { overMs } of own) expect(overMs).toBeGreaterThanOrEqual(-5000);
      if (hard) for (const { overMs } of own) expect(overMs).toBeLessThanOrEqual(0);
    }
  });
});

describe('lines', () => {
  const half = songs(120, 40).filter((_, n) => n % 2 === 0);
  const filters = { 'even ones': half.map(({ id }) => id), 'the first ten': half.slice(0, 10).map(({ id }) => id) };

  it('draw only from what fits their filter, and the answer to their question', () => {
    const lines = [...picks(15), pick('only', { filter: 'even ones', ask: 'Which?' })];
    const data = station(planOf(lines), { filters, rules: [apart('artist', 600)] });
    const fits = (log: DailyLog, ids: readonly string[]): boolean =>
      entryOf(log, 'only').every(({ itemId }) => itemId !== null && ids.includes(itemId));
    expect(fits(generateDay(data, ALL).log, filters['even ones'])).toBe(true);
    const asked = generateDay(data, { ...ALL, answers: { 'Which?': 'the first ten' } }).log;
    expect(fits(asked, filters['the first ten'])).toBe(true);
    expect(entryOf(asked, 'only')[0]!.filters).toEqual(['even ones', 'the first ten']);
    // A log that was asked more than its clock says now is not out of step for that.
    expect(staleHours(new StationModel(data), asked)).toEqual([]);
  });

  it('that rules do not look at may break them, and are not seen by them', () => {
    // One song alone for every hour: a must of four hours would leave most of them open.
    const lines = [...picks(15), pick('same', { filter: 'the first one', rules: 'off' })];
    const one = { 'the first one': ['song0'] };
    const data = station(planOf(lines), { filters: one });
    const { log } = generateDay(data, ALL);
    expect(entryOf(log, 'same').map(({ itemId }) => itemId)).toEqual(Array.from({ length: 24 }, () => 'song0'));
    expect(new LogInspector(new StationModel(data), log).strains()).toEqual([]);
    const bound = { ...data, plan: planOf([...picks(15), pick('same', { filter: 'the first one' })]) };
    expect(openSlots(generateDay(bound, ALL).log).length).toBeGreaterThan(15);
  });
});

describe('a clock that changes', () => {
  const data = station(planOf(picks(16)));
  const { log } = generateDay(data, ALL);
  const changed = station(planOf([...picks(15), pick('other', { turnOrder: 'random' })]));

  it('leaves the hours it is not in as they are', () => {
    expect(staleHours(new StationModel(data), log)).toEqual([]);
    expect(staleHours(new StationModel(changed), log)).toHaveLength(24);
    const commented = station(planOf(picks(16, { comment: 'for us' })));
    // Of the hour on the air only what is to come counts: regenerated, it is in step however its aired part was made.
    const hour = log.hours[9]!;
    const aired = new Set(hour.entries.slice(0, 4).map(({ id }) => id));
    const before = {
      ...log,
      hours: log.hours.map((one) => (one === hour ? { ...one, entries: one.entries.toSpliced(1, 1) } : one)),
    };
    expect(staleHours(new StationModel(data), before)).toEqual([9]);
    expect(staleHours(new StationModel(data), before, aired)).toEqual([]);
    const after = {
      ...log,
      hours: log.hours.map((one) => (one === hour ? { ...one, entries: one.entries.toSpliced(-2, 1) } : one)),
    };
    expect(staleHours(new StationModel(data), after, aired)).toEqual([9]);
    expect(staleHours(new StationModel(commented), log)).toEqual([]);
  });

  it('is taken up in some hours alone, beside which nothing changes', () => {
    const { log: anew } = generateDay(changed, { ...ALL, previous: log, only: 'hours', hours: [9, 10] });
    expect(entryOf(anew, 'other')).toHaveLength(2);
    const rest = (one: DailyLog): unknown => one.hours.filter((_, n) => n !== 9 && n !== 10);
    expect(rest(anew)).toEqual(rest(log));
    expect(new LogInspector(new StationModel(changed), anew).strains()).toEqual([]);
    expect(openSlots(anew)).toEqual([]);
  });
});
