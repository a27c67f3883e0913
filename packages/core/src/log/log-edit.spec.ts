import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { DATE, smallStation } from '../testing/small-station.js';
import { allEntries, checkLog, findEntry, openSlots, type DailyLog, type LogEntry } from './daily-log.js';
import { generateDay } from '../generate/generate-day.js';
import { applyEdit, mustApply } from './apply-edit.js';
import { invertEdit } from './invert-edit.js';
import { byHand, touchedEntries, type HandEdit, type LogEdit } from './log-edit.js';
import { placeBeside, placeOf } from './log-place.js';
import { pasted } from './paste-entry.js';

const { log } = generateDay(smallStation(), { date: DATE, seed: 1, previous: null, only: 'all' });
/** Its first hours, where whole days would only make it slow. */
const short: DailyLog = { ...log, hours: log.hours.slice(0, 3) };
const slotIds = allEntries(log).flatMap((entry) => (entry.kind === 'pick' ? [entry.id] : []));
const anyIds = allEntries(log).map((entry) => entry.id);

const breakIds = allEntries(log).flatMap((entry) => (entry.kind === 'break' ? [entry.id] : []));
const SPOT = { id: 'spot', cart: 'SP1', sponsor: 'BAKERY', title: 'Loaves', product: 'F1', lengthMs: 30_000 };
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
  fc.record(
    {
      type: fc.constant('remove' as const),
      entryId: fc.constantFrom(...anyIds.slice(0, 4), 'new1'),
      keepOut: fc.constant(true as const),
    },
    { requiredKeys: ['type', 'entryId'] },
  ),
  fc.record(
    {
      type: fc.constant('move' as const),
      entryId: fc.constantFrom(...anyIds.slice(0, 4), 'new1'),
      to: place,
      placed: fc.boolean(),
    },
    { requiredKeys: ['type', 'entryId', 'to'] },
  ),
  fc.record({
    type: fc.constant('length' as const),
    entryId: fc.constantFrom(...breakIds.slice(0, 2), ...slotIds.slice(0, 4), 'new1'),
    durationMs: fc.option(fc.integer({ min: -5, max: 300_000 })),
  }),
  fc.record({
    type: fc.constant('lock' as const),
    entryId: fc.constantFrom(...slotIds.slice(0, 4)),
    locked: fc.boolean(),
  }),
  fc.record({ type: fc.constant('note' as const), entryId: fc.constantFrom(...anyIds.slice(0, 4)), note: fc.string() }),
  fc.record({
    type: fc.constant('spots' as const),
    entryId: fc.constantFrom(...breakIds.slice(0, 2), slotIds[0]!),
    spots: fc.constantFrom(null, [], [SPOT], [SPOT, { ...SPOT, id: 'other', lengthMs: 20_000 }]),
  }),
  fc.constant<LogEdit>({ type: 'refill', hours: short.hours.slice() }),
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
        let current = short;
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
      { numRuns: 1000 },
    );
  });

  it('holds for what a person does as well: whatever is done, alone or together, goes back in turn', () => {
    const place = fc.record({
      hourIndex: fc.integer({ min: 0, max: 2 }),
      beforeId: fc.constantFrom(null, ...anyIds.slice(0, 5), 'new1'),
    });
    const slot = fc.constantFrom(...slotIds.slice(0, 4));
    const any = fc.constantFrom(...anyIds.slice(0, 5), 'new1');
    const one: fc.Arbitrary<HandEdit> = fc.oneof(
      fc.record({ type: fc.constant('replace' as const), entryId: slot, itemId: fc.constantFrom('song1', 'song2') }),
      fc.record({ type: fc.constant('open' as const), entryId: slot }),
      fc.record({ type: fc.constant('swap' as const), entryId: slot, withId: slot }),
      fc.record({
        type: fc.constant('insert' as const),
        at: place,
        entry: fc.constantFrom(
          pasted(findEntry(log, slotIds[0]!)!, 'new1'),
          pasted(findEntry(log, breakIds[0]!)!, 'new2'),
        ),
      }),
      fc.record({ type: fc.constant('remove' as const), entryId: any }),
      fc.record({ type: fc.constant('move' as const), entryId: any, to: place }),
      fc.record({ type: fc.constant('length' as const), entryId: any, durationMs: fc.constantFrom(null, 60_000) }),
      fc.record({ type: fc.constant('lock' as const), entryId: slot, locked: fc.boolean() }),
      fc.record({ type: fc.constant('note' as const), entryId: any, note: fc.constantFrom('', 'a', 'b') }),
      fc.record({ type: fc.constant('spots' as const), entryId: any, spots: fc.constantFrom(null, [], [SPOT]) }),
    );
    const hand = fc.oneof(
      one,
      fc.array(one, { maxLength: 4 }).map((list): HandEdit => ({ type: 'batch', edits: list })),
    );
    fc.assert(
      fc.property(fc.array(hand, { maxLength: 10 }), (sequence) => {
        let current = short;
        const undo: LogEdit[] = [];
        for (const edit of sequence) {
          const outcome = applyEdit(current, byHand(reread(edit)));
          if (!outcome.ok) continue;
          undo.unshift(reread(invertEdit(current, byHand(edit))));
          current = checkLog(outcome.log);
        }
        expect(undo.reduce(mustApply, current)).toEqual(short);
      }),
      { numRuns: 1000 },
    );
  });

  it('an item of another length takes its own; a fixed length goes with the item it was fixed for', () => {
    const id = slotIds[0]!;
    const fixed = mustApply(log, { type: 'length', entryId: id, durationMs: 60_000 });
    expect(findEntry(fixed, id)).toMatchObject({ lengthMs: 60_000 });
    const replaced = mustApply(fixed, { type: 'replace', entryId: id, itemId: 'song9', origin: 'hand' });
    expect(findEntry(replaced, id)).not.toHaveProperty('lengthMs');
    expect(mustApply(fixed, { type: 'length', entryId: id, durationMs: null })).toEqual(log);
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
    expect(why(opened, { type: 'length', entryId: slotIds[1]!, durationMs: 1 })).toContain('open slot');
    expect(why(log, { type: 'length', entryId: breakIds[0]!, durationMs: null })).toContain('no length but its own');
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
        const outcome = applyEdit(short, edit);
        if (!outcome.ok) return;
        const touched = touchedEntries(edit);
        const ids = new Set([...allEntries(short), ...allEntries(outcome.log)].map(({ id }) => id));
        for (const id of ids) if (!touched.has(id)) expect(findEntry(outcome.log, id)).toBe(findEntry(short, id));
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
