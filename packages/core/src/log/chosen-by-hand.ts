import { allEntries, itemOf, type DailyLog, type LogEntry, type PickEntry } from './daily-log.js';

/** Whether a person put the item there, or wrote a note on it; a new run leaves both as they are. */
export function isByHand(entry: LogEntry): entry is PickEntry {
  return entry.kind === 'pick' && entry.itemId !== null && (entry.origin === 'hand' || hasOwnNote(entry));
}

/** Whether the note is a person's, not the clock's. */
export function hasOwnNote(entry: LogEntry): boolean {
  return entry.note !== '' && entry.noteBy === 'hand';
}

/** The log with the notes of songs that stood elsewhere before: a note goes with its song as long as the song plays. */
export function withNotesOfSongs(log: DailyLog, previous: DailyLog): DailyLog {
  const now = new Map(allEntries(log).map((entry) => [entry.id, entry]));
  const stayed = new Map<string, string>();
  const moved = new Map<string, string>();
  for (const entry of allEntries(previous)) {
    const itemId = itemOf(entry);
    if (itemId === null || !hasOwnNote(entry)) continue;
    const here = now.get(entry.id);
    if (here && itemOf(here) === itemId) stayed.set(entry.id, entry.note);
    else moved.set(itemId, entry.note);
  }
  if (moved.size + stayed.size === 0) return log;
  const hours = log.hours.map((hour) => ({
    ...hour,
    entries: hour.entries.map((entry): LogEntry => {
      const note = stayed.get(entry.id) ?? moved.get(itemOf(entry) ?? '');
      if (note === undefined || hasOwnNote(entry)) return entry;
      if (!stayed.has(entry.id)) moved.delete(itemOf(entry)!);
      return { ...entry, note, noteBy: 'hand' };
    }),
  }));
  return { ...log, hours };
}
