import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { DATE, smallStation } from '../testing/small-station.js';
import { allEntries, checkLog, findEntry, openSlots, type DailyLog, type LogEntry } from './daily-log.js';
import { generateDay } from '../generate/generate-day.js';
import { applyEdit, invertEdit, mustApply, placeBeside, placeOf, touchedEntries, type LogEdit } from './log-edit.js';

const { log } = generateDay(smallStation(), { date: DATE, seed: 1, previous: null, only: 'all' });
const slotIds = allEntries(log).flatMap((entry) => (entry.kind === 'pick' ? [entry.id] : []));
const anyIds = allEntries(log).map((entry) => entry.id);

const breakIds = allEntries(log).flatMap((entry) => (entry.kind === 'break' ? [entry.id] : []));
const place = fc.record({
  hourIndex: fc.integer({ min: 0, max: 2 }),
  beforeId: fc.constantFrom(null, ...anyIds.slice(0, 5), 'new1'),
});

const single = fc.oneof(
  fc.record({
    type: fc.constant('replace' as const),
    entryId: fc.constantFrom(...slotIds.slice(0, 4)),
    itemId: fc.constantFrom('song1', 'song2'),
    origin: fc.constantFrom('hand' as const, 'engine' as const),
  }),
  fc.record({
    type: fc.constant('open' as const),
    entryId: fc.constantFrom(...slotIds.slice(0, 4)),
    origin: fc.constant('engine' as const),
    reason: fc.constantFrom(null, { proof: 'proven' as const, heldBackBy: [{ ruleId: 'r', items: 3 }] }),
  }),
  fc.record({
    type: fc.constant('swap' as const),
    entryId: fc.constantFrom(...slotIds.slice(0, 4)),
    withId: fc.constantFrom(...slotIds.slice(0, 4)),
  }),
  fc.record({
    type: fc.constant('insert' as const),
    at: place,
    entry: fc.constantFrom(
      ...['new1', 'new2'].map((id): LogEntry => ({ id, kind: 'item', itemId: 'song3', note: '' })),
    ),
  }),
  fc.record({ type: fc.constant('remove' as const), entryId: fc.constantFrom(...anyIds.slice(0, 4), 'new1') }),
  fc.record({ type: fc.constant('move' as const), entryId: fc.constantFrom(...anyIds.slice(0, 4), 'new1'), to: place }),
  fc.record({
    type: fc.constant('length' as const),
    entryId: fc.constantFrom(...breakIds.slice(0, 2)),
    durationMs: fc.integer({ min: -5, max: 300_000 }),
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
    const replace = (entryId: string): LogEdit => ({ type: 'open', entryId, origin: 'hand', reason: null });
    expect(why(locked, replace(slotIds[0]!))).toBe('the entry is locked');
    expect(why(log, replace('nothing'))).toBe('that entry is no longer in the log');
    expect(why(log, replace(breakIds[0]!))).toBe('only a slot filled from a category can be given another item');
    const opened = mustApply(log, replace(slotIds[1]!));
    expect(why(opened, { type: 'lock', entryId: slotIds[1]!, locked: true })).toBe('an open slot cannot be locked');
    expect(why(opened, { type: 'swap', entryId: slotIds[0]!, withId: slotIds[1]! })).toContain('open slot');
    expect(why(locked, { type: 'swap', entryId: slotIds[0]!, withId: slotIds[1]! })).toBe('the entry is locked');
    expect(why(log, { type: 'length', entryId: slotIds[0]!, durationMs: 1 })).toContain('only a break');
    const at = { hourIndex: 1, beforeId: anyIds[0]! };
    expect(why(log, { type: 'move', entryId: slotIds[3]!, to: at })).toContain('no longer there');
    expect(why(log, { type: 'move', entryId: slotIds[3]!, to: { hourIndex: 40, beforeId: null } })).toContain(
      'no such hour',
    );
    expect(why(log, { type: 'insert', at, entry: findEntry(log, slotIds[0]!)! })).toContain('an entry with that id');
  });

  it('changes just what an edit says it touches', () => {
    fc.assert(
      fc.property(edits, (edit) => {
        const outcome = applyEdit(log, edit);
        if (!outcome.ok) return;
        const touched = touchedEntries(edit);
        const ids = new Set([...allEntries(log), ...allEntries(outcome.log)].map(({ id }) => id));
        for (const id of ids) if (!touched.has(id)) expect(findEntry(outcome.log, id)).toBe(findEntry(log, id));
      }),
    );
  });

  it('swaps items, and moves an entry to where it is told', () => {
    const [a, b] = [slotIds[0]!, slotIds[1]!];
    const swapped = mustApply(log, { type: 'swap', entryId: a, withId: b });
    expect([findEntry(swapped, a), findEntry(swapped, b)]).toMatchObject([
      { itemId: (findEntry(log, b) as { itemId: string }).itemId, origin: 'hand' },
      { itemId: (findEntry(log, a) as { itemId: string }).itemId, origin: 'hand' },
    ]);
    const to = { hourIndex: 7, beforeId: log.hours[7]!.entries[2]!.id };
    const moved = mustApply(log, { type: 'move', entryId: a, to });
    expect(placeOf(moved, a)).toEqual(to);
    expect(allEntries(moved)).toHaveLength(anyIds.length);
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

describe('a step up or down the log', () => {
  it('takes an entry through the whole day and back, past every other, over every hour', () => {
    const entryId = anyIds[0]!;
    const walk = (from: DailyLog, step: 1 | -1): { end: DailyLog; places: number } => {
      let end = from;
      let places = 0;
      for (let to = placeBeside(end, entryId, step); to; to = placeBeside(end, entryId, step), places++) {
        const next = mustApply(end, { type: 'move', entryId, to });
        expect(next).not.toBe(end);
        end = next;
      }
      return { end, places };
    };
    const down = walk(log, 1);
    const others = (day: DailyLog): string[] => allEntries(day).flatMap(({ id }) => (id === entryId ? [] : [id]));
    expect(others(down.end)).toEqual(others(log));
    expect(placeOf(down.end, entryId)).toEqual({ hourIndex: log.hours.length - 1, beforeId: null });
    // Past each other entry, and once more at each border, where it stands last in one hour and first in the next.
    expect(down.places).toBe(others(log).length + log.hours.length - 1);
    const up = walk(down.end, -1);
    expect([up.end, up.places]).toEqual([log, down.places]);
    expect(placeBeside(log, 'gone', 1)).toBeNull();
  });
});
