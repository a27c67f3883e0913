import { describe, expect, it } from '@jest/globals';
import type { DailyLog, LogEntry } from './daily-log.js';
import { hoursTouched, refusalToPresenter } from './within-shows.js';

const note = (id: string): LogEntry => ({ id, kind: 'note', text: id, note: '' }) as unknown as LogEntry;
const hour = (index: number, showId: string | null, ...ids: string[]) => ({
  ...{ index, localHour: index, startMs: index * 3_600_000, durationMs: 3_600_000, clockId: null, clockName: '' },
  ...(showId === null ? {} : { showId }),
  entries: ids.map(note),
});
const LOG: DailyLog = {
  date: '2026-11-24',
  timeZone: 'Europe/Dublin',
  hours: [hour(0, 'early', 'a', 'b'), hour(1, null, 'c'), hour(2, 'late', 'd')],
};
const OWN = new Set(['early']);
const insert = (hourIndex: number) =>
  ({ type: 'insert', at: { hourIndex, beforeId: null }, entry: note('new') }) as never;
const move = (entryId: string, hourIndex: number) =>
  ({ type: 'move', entryId, to: { hourIndex, beforeId: null } }) as never;

describe('what a presenter may do to a log', () => {
  it('touches the hours an entry leaves and comes to', () => {
    expect([...hoursTouched(LOG, move('a', 1))].sort()).toEqual([0, 1]);
    expect([...hoursTouched(LOG, { type: 'batch', edits: [insert(2), move('c', 1)] } as never)].sort()).toEqual([1, 2]);
    expect([...hoursTouched(LOG, { type: 'swap', entryId: 'b', withId: 'd' })].sort()).toEqual([0, 2]);
  });

  it('is to add, move and write notes within their shows', () => {
    for (const edit of [insert(0), move('a', 0), { type: 'note', entryId: 'b', note: 'x' } as const])
      expect(refusalToPresenter(LOG, edit, OWN)).toBeNull();
  });

  it('is nothing outside them, and nothing else within', () => {
    expect(refusalToPresenter(LOG, move('a', 2), OWN)).toBe('The hour at 02:00 is not in one of your shows.');
    expect(refusalToPresenter(LOG, move('d', 0), OWN)).toMatch(/02:00/);
    expect(refusalToPresenter(LOG, insert(1), OWN)).toMatch(/01:00/);
    expect(refusalToPresenter(LOG, insert(0), new Set())).toMatch(/00:00/);
    for (const edit of [
      { type: 'open', entryId: 'a' },
      { type: 'remove', entryId: 'a' },
      { type: 'batch', edits: [move('a', 0), { type: 'lock', entryId: 'a', locked: true }] },
    ])
      expect(refusalToPresenter(LOG, edit as never, OWN)).toMatch(/ask for a swap/);
  });
});
