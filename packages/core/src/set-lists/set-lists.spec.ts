import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { ClockLine } from '../clocks/line.js';
import { generateDay } from '../generate/generate-day.js';
import { allEntries, itemOf, type DailyLog } from '../log/daily-log.js';
import { StationModel } from '../station/station-model.js';
import type { StationData } from '../station/station-data.js';
import { DATE, planOf, smallStation } from '../testing/small-station.js';
import { addDays } from '../time/local-day.js';
import { elementAt, lookUp } from '../values/look-up.js';
import { EMPTY_WEEK, paint, type BlockContent } from '../week/week-plan.js';
import { lastListRows, withListPlaces } from './list-places.js';
import {
  applySetListEdit,
  doubleRows,
  invertSetListEdit,
  moveRows,
  removeRows,
  setListTotal,
  type ScheduledList,
  type SetListRow,
} from './set-list.js';

const HOUR_MS = 3_600_000;
const item = (n: number, of = n): SetListRow => ({ id: `r${n}`, itemId: `song${of}` });
const rowsOf = (count: number): SetListRow[] => Array.from({ length: count }, (_, n) => item(n));
const ids = (rows: readonly SetListRow[]): string[] => rows.map(({ id }) => id);

describe('rows of a set list', () => {
  it('are moved, taken out and put back by edits and their inverses', () => {
    const some = fc.integer({ min: 1, max: 40 });
    fc.assert(
      fc.property(some, fc.array(fc.nat(39), { maxLength: 12 }), fc.nat(40), (count, chosen, before) => {
        const rows = rowsOf(count);
        const picked = new Set(chosen.map((n) => `r${n}`));
        const moved = applySetListEdit(rows, moveRows(rows, picked, before));
        // Those moved stand together in their order, and the others keep theirs.
        expect(ids(moved).filter((id) => picked.has(id))).toEqual(ids(rows).filter((id) => picked.has(id)));
        expect(ids(moved).filter((id) => !picked.has(id))).toEqual(ids(rows).filter((id) => !picked.has(id)));
        const first = moved.findIndex(({ id }) => picked.has(id));
        const together = moved.slice(first, first + rows.filter(({ id }) => picked.has(id)).length);
        if (first >= 0) expect(together.every(({ id }) => picked.has(id))).toBe(true);
        for (const edit of [moveRows(rows, picked, before), removeRows(rows, picked)])
          expect(applySetListEdit(applySetListEdit(rows, edit), invertSetListEdit(rows, edit))).toEqual(rows);
      }),
    );
  });

  it('refuse a place that is not there, and a row twice', () => {
    expect(() => applySetListEdit(rowsOf(2), [{ at: 3, remove: 0, insert: [] }])).toThrow('no such place');
    expect(() => applySetListEdit(rowsOf(2), [{ at: 1, remove: 2, insert: [] }])).toThrow('no such place');
    expect(() => applySetListEdit(rowsOf(2), [{ at: 0, remove: 0, insert: [item(1)] }])).toThrow('twice');
  });

  it('that repeat an earlier one are known, thirty thousand in no time', () => {
    const rows: SetListRow[] = [
      item(1, 7),
      { id: 'p1', categoryId: 'gold' },
      item(2, 8),
      item(3, 7),
      { id: 'p2', categoryId: 'gold', filter: 'tempo:4' },
      { id: 'p3', categoryId: 'gold' },
    ];
    expect(doubleRows(rows)).toEqual(['r3']);
    const many = Array.from({ length: 30_000 }, (_, n) => item(n, n % 15_000));
    const edit = removeRows(many, new Set(doubleRows(many)));
    // Neighbours go together.
    expect(edit).toEqual([{ at: 15_000, remove: 15_000, insert: [] }]);
    expect(applySetListEdit(many, edit)).toHaveLength(15_000);
  });

  it('add up, with the spread of what is picked', () => {
    const rows: SetListRow[] = [item(1), { id: 'p', categoryId: 'gold' }, { id: 'q', categoryId: 'gold' }];
    const lengths = { lengthOf: () => 200_000, averageOf: () => 210_000, standardDeviationOf: () => 30_000 };
    const total = setListTotal(rows, lengths);
    expect(total.totalMs).toBe(620_000);
    expect(total.standardDeviationMs).toBeCloseTo(Math.hypot(30_000, 30_000));
  });
});

const listed = (count: number, lastRowId: string | null = null): ScheduledList => ({
  id: 'sunday',
  name: 'Sunday',
  rows: [...rowsOf(count - 1), { id: 'pick', categoryId: 'gold' }],
  lastRowId,
});
const line = (take: 'all' | number, from: 'next' | 'top'): ClockLine => ({
  id: 'l',
  kind: 'set list',
  setListId: 'sunday',
  take,
  from,
  comment: '',
});
const picks = (count: number): ClockLine[] =>
  Array.from({ length: count }, (_, n) => ({ id: `p${n}`, kind: 'pick', categoryId: 'gold', comment: '' }));
const made = (data: StationData, date = DATE): DailyLog =>
  generateDay(data, { date, seed: 1, only: 'all', previous: null }).log;
const rowIds = (log: DailyLog): string[] => allEntries(log).flatMap(({ listPlace }) => listPlace?.rowId ?? []);
const station = (lines: readonly ClockLine[], list: ScheduledList, week = {}): StationData =>
  smallStation({ plan: { ...planOf(lines), setLists: [list], ...week } });

describe('a set list in a clock', () => {
  it('goes on where it stopped, over hours and days, and from the top after its end', () => {
    const data = station([line(5, 'next'), ...picks(10)], listed(30));
    const log = made(data);
    expect(rowIds(log)).toEqual(Array.from({ length: 120 }, (_, n) => (n % 30 === 29 ? 'pick' : `r${n % 30}`)));
    const last = lastListRows(log);
    expect(last).toEqual(new Map([['sunday', 'pick']]));
    const next = made({ ...data, plan: withListPlaces(data.plan, new Map([['sunday', 'r3']])) }, addDays(DATE, 1));
    expect(rowIds(next)[0]).toBe('r4');
  });

  it('begins at its top every time where it is to', () => {
    const log = made(station([line(3, 'top'), ...picks(12)], listed(30, 'r9')));
    expect(rowIds(log).slice(0, 6)).toEqual(['r0', 'r1', 'r2', 'r0', 'r1', 'r2']);
    expect(lastListRows(log).size).toBe(0);
  });

  it('plays its items as they stand, and fills its picks', () => {
    const log = made(station([line('all', 'top'), ...picks(11)], listed(5)));
    for (const entry of allEntries(log)) {
      if (entry.listPlace?.rowId === 'pick') expect(entry).toMatchObject({ kind: 'pick', categoryId: 'gold' });
      else if (entry.listPlace) expect(itemOf(entry)).toBe(`song${entry.listPlace.rowId.slice(1)}`);
    }
    expect(allEntries(log).every((entry) => entry.kind === 'note' || itemOf(entry) !== null)).toBe(true);
  });

  it('that has gone, or is empty, plays nothing', () => {
    const log = made(station([line('all', 'next'), ...picks(16)], { ...listed(5), rows: [] }));
    expect(rowIds(log)).toEqual([]);
  });
});

describe('what is painted onto the week without a clock', () => {
  /** Painted on Tuesday from ten to one. */
  const painted = (content: BlockContent, defaultClockId: string | null = 'day') => ({
    week: paint({ ...EMPTY_WEEK, defaultClockId }, 1440 + 600, 180, content),
  });
  const between = (log: DailyLog, from: number, to: number) =>
    log.hours.slice(from, to).flatMap(({ entries }) => entries);

  it('fills every hour with picks of a category', () => {
    const data = station(picks(16), listed(5), painted({ runs: 'draw', id: 'gold' }));
    const log = made(data);
    const model = new StationModel(data);
    const silences = model
      .timing(log)
      .silences.filter(({ hourIndex, durationMs }) => hourIndex >= 10 && hourIndex < 13 && durationMs > 10_000);
    expect(silences).toEqual([]);
    for (const hour of log.hours.slice(10, 13)) {
      const airing = hour.entries.filter(({ out }) => !out);
      expect(airing.length).toBeGreaterThan(14);
      expect(airing.every((entry) => entry.kind === 'pick' && entry.categoryId === 'gold' && entry.itemId)).toBe(true);
      expect(hour.clockId).toBeNull();
    }
    expect(log.hours[9]!.clockId).toBe('day');
  });

  it('plays a list from where it stopped and, where that ends early, what the week has', () => {
    const data = station([...picks(16)], listed(21, 'r1'), painted({ runs: 'set list', id: 'sunday' }));
    const log = made(data);
    const block = between(log, 10, 13);
    // 21 rows of three and a half minutes last until after eleven.
    expect(rowIds(log)).toEqual([...Array.from({ length: 18 }, (_, n) => `r${n + 2}`), 'pick', 'r0', 'r1']);
    const rest = block.slice(block.findLastIndex(({ listPlace }) => listPlace) + 1);
    expect(rest.length).toBeGreaterThan(20);
    expect(rest.every((entry) => /^p\d/.test(entry.id))).toBe(true);
    const { silences } = new StationModel(data).timing(log);
    expect(
      silences.filter(({ durationMs, hourIndex }) => durationMs > 180_000 && hourIndex >= 10 && hourIndex < 12),
    ).toEqual([]);
  });

  it('plays the list again where the week has nothing else, never silence', () => {
    const data = station([], listed(21), painted({ runs: 'set list', id: 'sunday' }, null));
    const log = made(data);
    const { entries: times, silences } = new StationModel(data).timing(log);
    const block = between(log, 10, 13).filter((entry) => entry.listPlace);
    expect(block.length).toBeGreaterThan(45);
    const endMs = Math.max(...block.map(({ id }) => lookUp(times, id).startMs + lookUp(times, id).durationMs));
    expect(endMs).toBeGreaterThanOrEqual(elementAt(log.hours, 13).startMs - 60_000);
    expect(
      silences.filter(({ startMs }) => startMs >= elementAt(log.hours, 10).startMs && startMs < endMs - HOUR_MS),
    ).toEqual([]);
  });

  it('stops a long list at the end of its block, and goes on after that row', () => {
    const data = station(picks(16), listed(100), painted({ runs: 'set list', id: 'sunday' }));
    const log = made(data);
    const played = rowIds(log);
    expect(played.length).toBeGreaterThan(45);
    expect(played.length).toBeLessThan(60);
    expect(lastListRows(log).get('sunday')).toBe(played.at(-1));
  });
});
