import type { LogEntry, LogHour, OpenReason, Spot } from './daily-log.js';
import type { LogPlace } from './log-place.js';

/** A change of a log as a value: it applies, it inverts, it tells what it touches, and it is its own JSON. */
export type LogEdit =
  | ReplaceEdit
  | OpenEdit
  | SwapEdit
  | InsertEdit
  | RemoveEdit
  | MoveEdit
  | LengthEdit
  | LockEdit
  | NoteEdit
  | SpotsEdit
  | RefillEdit
  | BatchEdit;

/** Puts another item into a slot. */
export interface ReplaceEdit {
  readonly type: 'replace';
  readonly entryId: string;
  readonly itemId: string;
  readonly origin: 'engine' | 'hand';
}

/** Takes the item out of a slot. */
export interface OpenEdit {
  readonly type: 'open';
  readonly entryId: string;
  readonly origin: 'engine' | 'hand';
  /** Why nothing fills it; null where it was opened by hand. */
  readonly reason: OpenReason | null;
}

/** Two slots change items; both stand there by hand then. */
export interface SwapEdit {
  readonly type: 'swap';
  readonly entryId: string;
  readonly withId: string;
}

/** Puts an entry in whose id the log does not have. */
export interface InsertEdit {
  readonly type: 'insert';
  readonly at: LogPlace;
  readonly entry: LogEntry;
}

/** Takes an entry out. */
export interface RemoveEdit {
  readonly type: 'remove';
  readonly entryId: string;
  /** Where it is to stay out when the day is generated again: noted in its own hour, or in the hour of this place. */
  readonly keepOut?: true | number;
}

/** Puts an entry elsewhere; a place before itself leaves it where it is. */
export interface MoveEdit {
  readonly type: 'move';
  readonly entryId: string;
  readonly to: LogPlace;
  /** Whether it then stands there by hand; left out, that stays as it is. */
  readonly placed?: boolean;
}

/** Gives a break another length, or what else plays a length of its own; null gives back the length of its item. Milliseconds. */
export interface LengthEdit {
  readonly type: 'length';
  readonly entryId: string;
  readonly durationMs: number | null;
}

/** Locks a slot's item, or lets it go again. */
export interface LockEdit {
  readonly type: 'lock';
  readonly entryId: string;
  readonly locked: boolean;
}

/** Writes a note on an entry; an empty one takes it away. */
export interface NoteEdit {
  readonly type: 'note';
  readonly entryId: string;
  readonly note: string;
  /** False where the note is the clock's. */
  readonly byHand?: boolean;
}

/** Books other spots in a break; null where nothing has been imported for it. */
export interface SpotsEdit {
  readonly type: 'spots';
  readonly entryId: string;
  readonly spots: readonly Spot[] | null;
}

/** Puts whole hours in place of the log's hours, as a new run does. */
export interface RefillEdit {
  readonly type: 'refill';
  readonly hours: readonly LogHour[];
}

/** Several edits in order; all of them or none. */
export interface BatchEdit {
  readonly type: 'batch';
  readonly edits: readonly LogEdit[];
}

/** An edit as a person makes it. */
export type HandEdit =
  | Pick<ReplaceEdit, 'type' | 'entryId' | 'itemId'>
  | Pick<OpenEdit, 'type' | 'entryId'>
  | SwapEdit
  | InsertEdit
  | Pick<RemoveEdit, 'type' | 'entryId'>
  | Pick<MoveEdit, 'type' | 'entryId' | 'to'>
  | LengthEdit
  | LockEdit
  | NoteEdit
  | SpotsEdit
  | { readonly type: 'batch'; readonly edits: readonly HandEdit[] };

/** What an edit made by hand is to the log. */
export function byHand(edit: HandEdit): LogEdit {
  switch (edit.type) {
    case 'batch':
      return { type: 'batch', edits: edit.edits.map(byHand) };
    case 'insert':
      return { ...edit, entry: { ...edit.entry, placed: 'hand' } };
    case 'remove':
      return { ...edit, keepOut: true };
    case 'move':
      return { ...edit, placed: true };
    case 'replace':
      return { ...edit, origin: 'hand' };
    case 'open':
      return { ...edit, origin: 'hand', reason: null };
    default:
      return edit;
  }
}

/** Ids of the entries an edit sets, puts in or takes out; others keep what they have, though not always their times. */
export function touchedEntries(edit: LogEdit): ReadonlySet<string> {
  switch (edit.type) {
    case 'insert':
      return new Set([edit.entry.id]);
    case 'swap':
      return new Set([edit.entryId, edit.withId]);
    case 'refill':
      return new Set(edit.hours.flatMap(({ entries }) => entries.map(({ id }) => id)));
    case 'batch':
      return new Set(edit.edits.flatMap((one) => [...touchedEntries(one)]));
    default:
      return new Set([edit.entryId]);
  }
}
