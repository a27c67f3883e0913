import { describe, expect, it } from '@jest/globals';
import type { BookedSpot } from '../formats/layouts/read-text-log.js';
import { mustApply } from '../log/apply-edit.js';
import type { DailyLog } from '../log/daily-log.js';
import { bookSpots, changedSpots } from './book-spots.js';

const entry = (id: string) => ({ id, kind: 'break' as const, bookedAtMs: 0, durationMs: 120_000, note: '' });
const hour = { index: 0, localHour: 0, startMs: 0, durationMs: 3_600_000, clockId: null, clockName: '' };
const log: DailyLog = {
  date: '2026-11-24',
  timeZone: 'UTC',
  hours: [{ ...hour, entries: [entry('a'), entry('b')] }],
};
const breaks = ['a', 'b'].map((entryId) => ({ entryId, bookedMs: 0, plannedMs: 120_000 }));
const spot = (line: number, cart: string): BookedSpot => ({
  line,
  atMs: 0,
  lengthMs: 30_000,
  cart,
  sponsor: 'BAKERY',
  title: '',
  product: '',
  sequence: null,
});
const book = (of: DailyLog, a: BookedSpot[], b: BookedSpot[], aired: string[] = []) => {
  const placed = new Map(
    [
      ['a', a],
      ['b', b],
    ].filter(([, own]) => own!.length > 0) as [string, BookedSpot[]][],
  );
  const { edits, tray } = bookSpots(of, breaks, { placed, tray: [], empty: [] }, { aired: new Set(aired), stamp: 'x' });
  return { log: mustApply(of, { type: 'batch', edits }), edits, tray };
};

describe('booking', () => {
  it('replaces what was booked, empties what is not booked any more, and leaves alone what is the same', () => {
    const first = book(log, [spot(1, 'X'), spot(2, 'Y')], []);
    expect(first.edits.map(({ entryId, spots }) => [entryId, spots!.map(({ cart }) => cart)])).toEqual([
      ['a', ['X', 'Y']],
      ['b', []],
    ]);
    expect(changedSpots(log, first.log)).toEqual({ added: 2, removed: 0 });
    // On other lines of another file the same spots are the same.
    expect(book(first.log, [spot(8, 'X'), spot(9, 'Y')], []).edits).toEqual([]);
    const second = book(first.log, [spot(1, 'X')], [spot(2, 'Y')]);
    expect(changedSpots(first.log, second.log)).toEqual({ added: 1, removed: 1 });
  });

  it('leaves breaks that have aired as they are, and puts what differs in the tray, in the order of the file', () => {
    const before = book(log, [spot(1, 'X')], []).log;
    const { edits, tray } = book(before, [spot(3, 'Z')], [spot(2, 'Y')], ['a', 'b']);
    expect(edits).toEqual([]);
    expect(tray.map(({ spot: { line }, why }) => `${line}: ${why}`)).toEqual([
      '2: Its break has aired.',
      '3: Its break has aired.',
    ]);
    expect(book(before, [spot(7, 'X')], [], ['a', 'b']).tray).toEqual([]);
  });
});
