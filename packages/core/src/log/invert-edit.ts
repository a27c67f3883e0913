import { mustApply } from './apply-edit.js';
import { allEntries, findEntry, isBound, type DailyLog, type LogEntry, type PickEntry } from './daily-log.js';
import type { LogEdit } from './log-edit.js';
import { placeOf, type LogPlace } from './log-place.js';

/** The edit that undoes another; pass the log as it was before. Throws RangeError when the edit does not apply. */
export function invertEdit(before: DailyLog, edit: LogEdit): LogEdit {
  switch (edit.type) {
    case 'replace':
    case 'open':
      return restoring(mustFindSlot(before, edit.entryId));
    case 'swap':
      return { type: 'batch', edits: [edit.entryId, edit.withId].map((id) => restoring(mustFindSlot(before, id))) };
    case 'insert':
      return { type: 'remove', entryId: edit.entry.id, ...notedIn(before, edit.entry.id) };
    case 'remove':
      return { type: 'insert', at: mustPlace(before, edit.entryId), entry: mustFind(before, edit.entryId) };
    case 'move':
      return {
        type: 'move',
        entryId: edit.entryId,
        to: mustPlace(before, edit.entryId),
        placed: mustFind(before, edit.entryId).placed === 'hand',
      };
    case 'length': {
      const entry = mustFind(before, edit.entryId);
      return { type: 'length', entryId: entry.id, durationMs: ownLength(entry) };
    }
    case 'lock': {
      const entry = mustFind(before, edit.entryId);
      return { type: 'lock', entryId: entry.id, locked: entry.kind === 'pick' && entry.locked };
    }
    case 'note': {
      const { note, noteBy } = mustFind(before, edit.entryId);
      return { type: 'note', entryId: edit.entryId, note, byHand: noteBy === 'hand' };
    }
    case 'spots': {
      const entry = mustFind(before, edit.entryId);
      return { type: 'spots', entryId: entry.id, spots: entry.kind === 'break' ? (entry.spots ?? null) : null };
    }
    case 'refill':
      return { type: 'refill', hours: before.hours };
    case 'batch': {
      const inverses: LogEdit[] = [];
      let log = before;
      for (const part of edit.edits) {
        inverses.unshift(invertEdit(log, part));
        log = mustApply(log, part);
      }
      return { type: 'batch', edits: inverses };
    }
  }
}

/** Where an id is noted as removed. */
function notedIn({ hours }: DailyLog, entryId: string): { readonly keepOut?: number } {
  const keepOut = hours.findIndex(({ removed }) => removed?.includes(entryId));
  return keepOut < 0 ? {} : { keepOut };
}

/** The length an entry has whatever its item; null where it has none. */
export function ownLength(entry: LogEntry): number | null {
  if (entry.kind === 'note' || isBound(entry)) return null;
  return entry.kind === 'break' ? entry.durationMs : (entry.lengthMs ?? null);
}

/** What gives a slot its item back, and the length that was its own. */
function restoring({ id: entryId, itemId, origin, open, lengthMs }: PickEntry): LogEdit {
  if (itemId === null) return { type: 'open', entryId, origin, reason: open };
  const item: LogEdit = { type: 'replace', entryId, itemId, origin };
  if (lengthMs === undefined) return item;
  return { type: 'batch', edits: [item, { type: 'length', entryId, durationMs: lengthMs }] };
}

function mustFind(log: DailyLog, entryId: string): LogEntry {
  const entry = findEntry(log, entryId);
  if (!entry) throw new RangeError(`no entry “${entryId}” among ${allEntries(log).length}`);
  return entry;
}

function mustFindSlot(log: DailyLog, entryId: string): PickEntry {
  const entry = mustFind(log, entryId);
  if (entry.kind !== 'pick') throw new RangeError('only a slot has an item to give back');
  return entry;
}

function mustPlace(log: DailyLog, entryId: string): LogPlace {
  const place = placeOf(log, entryId);
  if (!place) throw new RangeError(`no entry “${entryId}” in the log`);
  return place;
}
