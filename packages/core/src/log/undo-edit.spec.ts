import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { DATE, smallStation } from '../testing/small-station.js';
import { allEntries, findEntry, type DailyLog, type LogEntry } from './daily-log.js';
import { generateDay } from '../generate/generate-day.js';
import { applyEdit, mustApply } from './apply-edit.js';
import { invertEdit } from './invert-edit.js';
import { byHand, type LogEdit } from './log-edit.js';
import { undoEdit } from './undo-edit.js';

const data = smallStation({ orders: { gold: 'random' } });
const made = (seed: number): DailyLog => generateDay(data, { date: DATE, seed, previous: null, only: 'all' }).log;
const [earlier, later] = [made(1), made(2)];
const run: LogEdit = { type: 'refill', hours: later.hours };
const slots = allEntries(later).flatMap((entry) => (entry.kind === 'pick' ? [entry.id] : []));
const replace = (entryId: string, itemId: string | null): LogEdit =>
  byHand(itemId === null ? { type: 'open', entryId } : { type: 'replace', entryId, itemId });
const one = fc.oneof(
  fc
    .record({ id: fc.constantFrom(...slots.slice(0, 30)), item: fc.constantFrom(null, 'song1', 'song2') })
    .map(({ id, item }) => replace(id, item)),
  fc.constantFrom(...slots.slice(0, 30)).map((entryId): LogEdit => ({ type: 'note', entryId, note: 'theirs' })),
  fc.constantFrom(...slots.slice(0, 30)).map((entryId): LogEdit => ({ type: 'lock', entryId, locked: true })),
);

const mustUndo = (log: DailyLog, edit: LogEdit, inverse: LogEdit): DailyLog => {
  const outcome = undoEdit(log, edit, inverse);
  if (!outcome.ok) throw new RangeError(outcome.why);
  return mustApply(log, outcome.edit);
};

describe('undoing what others have built on', () => {
  it('puts a run back but for what another person changed since, and names just that', () => {
    fc.assert(
      fc.property(fc.array(one, { maxLength: 6 }), (theirs) => {
        let log = mustApply(earlier, run);
        for (const edit of theirs) {
          const outcome = applyEdit(log, edit);
          if (outcome.ok) log = outcome.log;
        }
        const undone = undoEdit(log, run, invertEdit(earlier, run));
        if (!undone.ok) throw new Error(undone.why);
        const now = mustApply(log, undone.edit);
        const touched = new Set(
          allEntries(log).flatMap((entry) =>
            JSON.stringify(entry) === JSON.stringify(findEntry(later, entry.id)) ? [] : [entry.id],
          ),
        );
        for (const entry of allEntries(now)) {
          const expected: LogEntry | undefined = findEntry(touched.has(entry.id) ? log : earlier, entry.id);
          expect(entry).toEqual(expected);
        }
        for (const id of undone.left) expect(touched.has(id)).toBe(true);
      }),
      { numRuns: 60 },
    );
  });

  it('gives the very log back where nobody changed anything, and redoes it', () => {
    const undone = mustUndo(later, run, invertEdit(earlier, run));
    expect(undone).toEqual(earlier);
    expect(mustUndo(undone, invertEdit(earlier, run), run)).toEqual(later);
  });

  it('refuses to undo an edit whose entry was changed again', () => {
    const mine = replace(slots[0]!, 'song3');
    const inverse = invertEdit(later, mine);
    const after = mustApply(later, mine);
    expect(undoEdit(after, mine, inverse)).toEqual({ ok: true, edit: inverse, left: [] });
    for (const theirs of [replace(slots[0]!, 'song4'), { type: 'lock', entryId: slots[0]!, locked: true } as const]) {
      const outcome = undoEdit(mustApply(after, theirs), mine, inverse);
      expect(outcome).toEqual({ ok: false, why: 'the entry has been changed again since' });
    }
    // A note of theirs beside it does no harm.
    const noted = mustApply(after, { type: 'note', entryId: slots[0]!, note: 'theirs' });
    expect(undoEdit(noted, mine, inverse).ok).toBe(true);
  });

  it('refuses to undo a swap once one of the two has another item', () => {
    const [a, b] = [slots[0]!, slots[1]!];
    const mine: LogEdit = { type: 'swap', entryId: a, withId: b };
    const inverse = invertEdit(later, mine);
    const after = mustApply(later, mine);
    expect(mustUndo(after, mine, inverse)).toEqual(later);
    expect(undoEdit(mustApply(after, replace(b, 'song9')), mine, inverse).ok).toBe(false);
    const batch: LogEdit = { type: 'batch', edits: [mine, { type: 'note', entryId: a, note: 'mine' }] };
    const undoBatch = invertEdit(later, batch);
    expect(undoEdit(mustApply(mustApply(later, batch), replace(b, 'song9')), batch, undoBatch).ok).toBe(false);
  });

  it('puts back what was taken out only where its place is still there', () => {
    const mine: LogEdit = { type: 'remove', entryId: slots[3]! };
    const inverse = invertEdit(later, mine);
    const after = mustApply(later, mine);
    expect(mustUndo(after, mine, inverse)).toEqual(later);
    const gone = mustApply(after, { type: 'remove', entryId: slots[4]! });
    expect(undoEdit(gone, mine, inverse)).toEqual({
      ok: false,
      why: 'the place it was to stand at is no longer there',
    });
  });

  it('refuses to move back what somebody has moved on', () => {
    const mine: LogEdit = { type: 'move', entryId: slots[0]!, to: { hourIndex: 3, beforeId: null } };
    const inverse = invertEdit(later, mine);
    const after = mustApply(later, mine);
    expect(mustUndo(after, mine, inverse)).toEqual(later);
    const on = mustApply(after, { type: 'move', entryId: slots[0]!, to: { hourIndex: 4, beforeId: null } });
    expect(undoEdit(on, mine, inverse).ok).toBe(false);
  });

  it('leaves what has aired, and whole hours whose clock is another now', () => {
    const fixed = new Set(later.hours[0]!.entries.map(({ id }) => id));
    const changed: DailyLog = {
      ...later,
      hours: later.hours.map((hour) => (hour.index === 5 ? { ...hour, entries: hour.entries.slice(0, 3) } : hour)),
    };
    const outcome = undoEdit(changed, run, invertEdit(earlier, run), fixed);
    if (!outcome.ok || outcome.edit.type !== 'refill') throw new Error('not undone');
    expect(outcome.edit.hours[0]).toEqual(later.hours[0]);
    expect(outcome.edit.hours[5]).toEqual(changed.hours[5]);
    expect(outcome.edit.hours[6]).toEqual(earlier.hours[6]);
    expect(
      undoEdit(later, run, invertEdit(earlier, run), new Set(allEntries(later).map(({ id }) => id))),
    ).toMatchObject({ ok: false });
  });
});
