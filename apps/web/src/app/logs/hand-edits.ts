import type { HandEdit, NewEntry } from '@fuller/contracts';
import {
  applyEdit,
  byHand,
  pasted,
  placeBeside,
  placeOf,
  type DailyLog,
  type LogEntry,
  type LogPlace,
} from '@fuller/core';
import type * as v from 'valibot';
import type { EntryRow } from './log-model';

export type SingleEdit = Exclude<HandEdit, { type: 'batch' }>;

/** An id for an entry that a person puts in; no clock gives such a one. */
export function newEntryId(): string {
  return `h-${[...crypto.getRandomValues(new Uint8Array(9))].map((byte) => byte.toString(36).padStart(2, '0')).join('')}`;
}

/** Several edits as one; the edit itself where there is one alone, null where there is none. */
export function together(edits: readonly SingleEdit[]): HandEdit | null {
  if (edits.length === 0) return null;
  return edits.length === 1 ? edits[0]! : { type: 'batch', edits: [...edits] };
}

/** Copies of entries, one after the other, to be put in before an entry; at the end of an hour where none is named. */
export function pasteEdits(entries: readonly LogEntry[], at: LogPlace): SingleEdit[] {
  return entries.map((entry) => ({ type: 'insert', at, entry: asNew(pasted(entry, newEntryId())) }));
}

/** What the server is told of a new entry. */
export function asNew(entry: LogEntry): v.InferOutput<typeof NewEntry> {
  const { placed, ...rest } = entry as LogEntry & { placed?: 'hand' };
  void placed;
  return rest as v.InferOutput<typeof NewEntry>;
}

/** Moves entries one place up or down the log, together; none where one of them has no way to go. */
export function moveEdits(log: DailyLog, ids: readonly string[], step: 1 | -1): SingleEdit[] {
  const edits: SingleEdit[] = [];
  let moved = log;
  // From the end they move towards, so that each finds its place free.
  for (const entryId of step < 0 ? ids : ids.toReversed()) {
    const to = placeBeside(moved, entryId, step);
    const edit = to && { type: 'move' as const, entryId, to };
    const outcome = edit && applyEdit(moved, byHand(edit));
    if (!outcome?.ok) return [];
    moved = outcome.log;
    edits.push(edit!);
  }
  return edits;
}

/** Draws some slots from another category: each is put in again as an open slot of it. */
export function categoryEdits(rows: readonly EntryRow[], categoryId: string, log: DailyLog): SingleEdit[] {
  return rows.flatMap(({ entry }): SingleEdit[] => {
    const at = placeOf(log, entry.id);
    if (entry.kind !== 'pick' || entry.locked || entry.categoryId === categoryId || !at) return [];
    const slot: LogEntry = { ...entry, categoryId, itemId: null, open: null, origin: 'hand' };
    return [
      { type: 'insert', at: { ...at, beforeId: entry.id }, entry: asNew(pasted(slot, newEntryId())) },
      { type: 'remove', entryId: entry.id },
    ];
  });
}
