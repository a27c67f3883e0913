import { describe, expect, it } from '@jest/globals';
import { applyEdit, byHand, type DailyLog, type LogEntry, type LogHandEdit } from '@fuller/core';
import { asNew, categoryEdits, newEntryId, pasteEdits, together } from './hand-edits';
import type { EntryRow } from './log-model';

const pick = (id: string, more: object = {}): LogEntry =>
  ({
    id,
    kind: 'pick',
    categoryId: 'gold',
    itemId: 's1',
    locked: false,
    origin: 'engine',
    open: null,
    note: '',
    ...more,
  }) as LogEntry;
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
      entries: [pick('a'), pick('b', { locked: true }), pick('c')],
    },
  ],
};
const after = (edits: Parameters<typeof together>[0]): LogEntry[] => {
  const outcome = applyEdit(LOG, byHand(together(edits) as LogHandEdit));
  if (!outcome.ok) throw new Error(outcome.why);
  return outcome.log.hours[0]!.entries as LogEntry[];
};
const row = (entry: LogEntry): EntryRow => ({ id: entry.id, entry }) as unknown as EntryRow;

describe('what a person does to a log', () => {
  it('is one edit alone, several as a batch, nothing as none', () => {
    expect(together([])).toBeNull();
    expect(together([{ type: 'open', entryId: 'a' }])).toEqual({ type: 'open', entryId: 'a' });
    expect(
      together([
        { type: 'open', entryId: 'a' },
        { type: 'open', entryId: 'b' },
      ]),
    ).toMatchObject({ type: 'batch' });
  });

  it('pastes copies in their order before an entry, each under an id of its own, nothing of their old place with them', () => {
    const marked = pick('x', {
      mark: { atMs: 5, hard: true },
      locked: true,
      runMs: 4,
      why: { restMs: 1, ahead: 0, heldBack: [] },
    });
    const entries = after(pasteEdits([marked, pick('y', { note: 'Hi' })], { hourIndex: 0, beforeId: 'b' }));
    expect(entries.map(({ id }) => id).filter((id) => id.length === 1)).toEqual(['a', 'b', 'c']);
    const [first, second] = [entries[1]!, entries[2]!];
    expect(first).toMatchObject({ itemId: 's1', origin: 'hand', locked: false, placed: 'hand' });
    for (const gone of ['mark', 'why', 'runMs']) expect(first).not.toHaveProperty(gone);
    expect(second).toMatchObject({ note: 'Hi' });
    expect(first.id).not.toBe(second.id);
    expect(first.id).toMatch(/^h-[a-z0-9]+$/);
    expect(newEntryId()).not.toBe(newEntryId());
    expect(asNew(first)).not.toHaveProperty('placed');
  });

  it('draws slots from another category in their places, open, and leaves what is locked or drawn from it already', () => {
    const [a, b, c] = LOG.hours[0]!.entries.map(row);
    const entries = after(categoryEdits([a!, b!, c!], 'fresh', LOG));
    expect(entries.map((entry) => entry.kind === 'pick' && [entry.categoryId, entry.itemId])).toEqual([
      ['fresh', null],
      ['gold', 's1'],
      ['fresh', null],
    ]);
    expect(categoryEdits([a!], 'gold', LOG)).toEqual([]);
  });
});
