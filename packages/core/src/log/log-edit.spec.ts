import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { DATE, smallStation } from '../testing/small-station.js';
import { allEntries, checkLog, findEntry, openSlots, type DailyLog } from './daily-log.js';
import { generateDay } from '../generate/generate-day.js';
import { applyEdit, invertEdit, mustApply, type LogEdit } from './log-edit.js';

const { log } = generateDay(smallStation(), { date: DATE, seed: 1, previous: null, only: 'all' });
const slotIds = allEntries(log).flatMap((entry) => (entry.kind === 'pick' ? [entry.id] : []));
const anyIds = allEntries(log).map((entry) => entry.id);

const single = fc.oneof(
  fc.record({
    type: fc.constant('replace' as const),
    entryId: fc.constantFrom(...slotIds.slice(0, 4)),
    itemId: fc.constantFrom(null, 'song1', 'song2'),
    origin: fc.constant('hand' as const),
    open: fc.constant(null),
  }),
  fc.record({
    type: fc.constant('lock' as const),
    entryId: fc.constantFrom(...slotIds.slice(0, 4)),
    locked: fc.boolean(),
  }),
  fc.record({ type: fc.constant('note' as const), entryId: fc.constantFrom(...anyIds.slice(0, 4)), note: fc.string() }),
  fc.constant<LogEdit>({ type: 'refill', hours: log.hours.slice().reverse().reverse() }),
);
const edits: fc.Arbitrary<LogEdit> = fc.oneof(
  single,
  fc.array(single, { maxLength: 5 }).map((list): LogEdit => ({ type: 'batch', edits: list })),
);
const reread = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

describe('the laws of log edits', () => {
  it('undo gives the log back, redo gives the change back, each after a trip through JSON', () => {
    fc.assert(
      fc.property(fc.array(edits, { maxLength: 6 }), (sequence) => {
        let current: DailyLog = log;
        for (const edit of sequence) {
          const outcome = applyEdit(current, edit);
          if (!outcome.ok) continue;
          const undo = invertEdit(current, edit);
          expect(mustApply(outcome.log, reread(undo))).toEqual(current);
          expect(mustApply(current, reread(invertEdit(outcome.log, undo)))).toEqual(outcome.log);
          checkLog(outcome.log);
          current = outcome.log;
        }
      }),
    );
  });

  it('returns the very same log when nothing changes, and shares what it does not touch', () => {
    const entry = findEntry(log, slotIds[0]!)!;
    expect(mustApply(log, { type: 'note', entryId: entry.id, note: entry.note })).toBe(log);
    expect(mustApply(log, { type: 'lock', entryId: entry.id, locked: false })).toBe(log);
    const changed = mustApply(log, { type: 'note', entryId: entry.id, note: 'new' });
    expect(changed.hours[5]).toBe(log.hours[5]);
  });

  it('says why an edit cannot apply', () => {
    const locked = mustApply(log, { type: 'lock', entryId: slotIds[0]!, locked: true });
    const why = (target: DailyLog, edit: LogEdit): string => {
      const outcome = applyEdit(target, edit);
      return outcome.ok ? '' : outcome.why;
    };
    const replace = (entryId: string): LogEdit => ({
      type: 'replace',
      entryId,
      itemId: null,
      origin: 'hand',
      open: null,
    });
    expect(why(locked, replace(slotIds[0]!))).toBe('the entry is locked');
    expect(why(log, replace('0-nothing'))).toBe('that entry is no longer in the log');
    expect(why(log, replace('0-b'))).toBe('only a slot filled from a category can be given another item');
    const opened = mustApply(log, replace(slotIds[1]!));
    expect(why(opened, { type: 'lock', entryId: slotIds[1]!, locked: true })).toBe('an open slot cannot be locked');
  });

  it('leaves a batch undone when one of its parts cannot apply', () => {
    const batch: LogEdit = {
      type: 'batch',
      edits: [
        { type: 'note', entryId: slotIds[0]!, note: 'x' },
        { type: 'note', entryId: 'gone', note: 'y' },
      ],
    };
    expect(applyEdit(log, batch).ok).toBe(false);
  });
});

describe('checkLog', () => {
  it('finds an entry that stands twice and hours that do not follow each other', () => {
    const [first, second] = log.hours;
    expect(() => checkLog({ ...log, hours: [first!, { ...second!, entries: first!.entries }] })).toThrow(
      'stands twice',
    );
    expect(() => checkLog({ ...log, hours: [second!, first!] })).toThrow('does not begin where');
    expect(openSlots(log)).toEqual([]);
  });
});
