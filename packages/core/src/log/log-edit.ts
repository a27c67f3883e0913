import { allEntries, findEntry, type DailyLog, type LogEntry, type LogHour, type OpenReason } from './daily-log.js';

/** A change of a log as a value: it applies, it inverts, and it is its own JSON. */
export type LogEdit = ReplaceEdit | LockEdit | NoteEdit | RefillEdit | BatchEdit;

/** Puts another item into a slot, or opens it. */
export interface ReplaceEdit {
  readonly type: 'replace';
  readonly entryId: string;
  readonly itemId: string | null;
  readonly origin: 'engine' | 'hand';
  readonly open: OpenReason | null;
}

export interface LockEdit {
  readonly type: 'lock';
  readonly entryId: string;
  readonly locked: boolean;
}

export interface NoteEdit {
  readonly type: 'note';
  readonly entryId: string;
  readonly note: string;
  /** False where the note is the clock's. */
  readonly byHand?: boolean;
}

/** Puts whole hours in place of the log's hours, as a new run does. */
export interface RefillEdit {
  readonly type: 'refill';
  readonly hours: readonly LogHour[];
}

export interface BatchEdit {
  readonly type: 'batch';
  readonly edits: readonly LogEdit[];
}

/** An edit as a person makes it. */
export type HandEdit = Pick<ReplaceEdit, 'type' | 'entryId' | 'itemId'> | LockEdit | NoteEdit;

/** What an edit made by hand is to the log. */
export function byHand(edit: HandEdit): LogEdit {
  return edit.type === 'replace' ? { ...edit, origin: 'hand', open: null } : edit;
}

export type EditOutcome = { readonly ok: true; readonly log: DailyLog } | { readonly ok: false; readonly why: string };

/** The log after an edit, the very same log when the edit changes nothing, or why it cannot apply. */
export function applyEdit(log: DailyLog, edit: LogEdit): EditOutcome {
  switch (edit.type) {
    case 'replace':
      return changeEntry(log, edit.entryId, (entry) => {
        if (entry.kind !== 'pick') return 'only a slot filled from a category can be given another item';
        if (entry.locked) return 'the entry is locked';
        if (entry.out) return 'the entry is left out of the hour';
        if (entry.itemId === edit.itemId && entry.origin === edit.origin && entry.open === edit.open) return entry;
        return { ...entry, itemId: edit.itemId, origin: edit.origin, open: edit.open };
      });
    case 'lock':
      return changeEntry(log, edit.entryId, (entry) => {
        if (entry.kind !== 'pick') return 'only a slot filled from a category can be locked';
        if (entry.itemId === null && edit.locked) return 'an open slot cannot be locked';
        return entry.locked === edit.locked ? entry : { ...entry, locked: edit.locked };
      });
    case 'note':
      return changeEntry(log, edit.entryId, (entry) => {
        if (entry.note === edit.note) return entry;
        const { noteBy, ...rest } = entry;
        void noteBy;
        const byHand = (edit.byHand ?? true) && edit.note !== '';
        return { ...rest, note: edit.note, ...(byHand ? { noteBy: 'hand' as const } : {}) };
      });
    case 'refill':
      return { ok: true, log: edit.hours === log.hours ? log : { ...log, hours: edit.hours } };
    case 'batch':
      return applyBatch(log, edit.edits);
  }
}

/** The edit that undoes another; pass the log as it was before. Throws RangeError when the edit does not apply. */
export function invertEdit(before: DailyLog, edit: LogEdit): LogEdit {
  switch (edit.type) {
    case 'replace': {
      const entry = mustFind(before, edit.entryId);
      if (entry.kind !== 'pick') throw new RangeError('only a slot has an item to give back');
      return { type: 'replace', entryId: entry.id, itemId: entry.itemId, origin: entry.origin, open: entry.open };
    }
    case 'lock': {
      const entry = mustFind(before, edit.entryId);
      return { type: 'lock', entryId: entry.id, locked: entry.kind === 'pick' && entry.locked };
    }
    case 'note': {
      const { note, noteBy } = mustFind(before, edit.entryId);
      return { type: 'note', entryId: edit.entryId, note, byHand: noteBy === 'hand' };
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

/** As applyEdit, throwing RangeError with the reason when the edit does not apply. */
export function mustApply(log: DailyLog, edit: LogEdit): DailyLog {
  const outcome = applyEdit(log, edit);
  if (!outcome.ok) throw new RangeError(outcome.why);
  return outcome.log;
}

function applyBatch(log: DailyLog, edits: readonly LogEdit[]): EditOutcome {
  let current = log;
  for (const edit of edits) {
    const outcome = applyEdit(current, edit);
    if (!outcome.ok) return outcome;
    current = outcome.log;
  }
  return { ok: true, log: current };
}

function changeEntry(log: DailyLog, entryId: string, change: (entry: LogEntry) => LogEntry | string): EditOutcome {
  const hourIndex = log.hours.findIndex((hour) => hour.entries.some((entry) => entry.id === entryId));
  const hour = log.hours[hourIndex];
  const entry = hour?.entries.find((candidate) => candidate.id === entryId);
  if (!hour || !entry) return { ok: false, why: 'that entry is no longer in the log' };
  const changed = change(entry);
  if (typeof changed === 'string') return { ok: false, why: changed };
  if (changed === entry) return { ok: true, log };
  const entries = hour.entries.map((candidate) => (candidate === entry ? changed : candidate));
  const hours = log.hours.map((candidate, index) => (index === hourIndex ? { ...hour, entries } : candidate));
  return { ok: true, log: { ...log, hours } };
}

function mustFind(log: DailyLog, entryId: string): LogEntry {
  const entry = findEntry(log, entryId);
  if (!entry) throw new RangeError(`no entry “${entryId}” among ${allEntries(log).length}`);
  return entry;
}
