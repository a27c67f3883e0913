import { elementAt } from '../values/look-up.js';
import type { FileNameResult } from '../formats/file-name-pattern.js';
import { fileNameOf } from '../formats/file-name-pattern.js';
import { writeM3u, type PlaylistEntry } from '../formats/m3u.js';
import { airTimes, type Silence } from '../log/air-times.js';
import { itemOf, type DailyLog, type LogEntry, type LogHour } from '../log/daily-log.js';

/** An item as a playlist names it. */
export interface HandOverItem {
  readonly title: string;
  readonly artist: string;
  readonly durationMs: number;
  /** How long before its end the next one may begin, milliseconds. */
  readonly segueMs?: number | null;
  readonly file: string | null;
}

/** An entry that does not go into the files, and why. */
export interface HeldBackEntry {
  readonly entryId: string;
  readonly hourIndex: number;
  readonly title: string;
  readonly why: 'open slot' | 'no file' | 'file not there' | 'break' | 'item deleted';
}

/** A file for the player. */
export interface HandOverFile {
  readonly name: string;
  readonly text: string;
  readonly entries: number;
}

/** The files of a day with what was left out of them, or why none can be made. */
export type HandOver =
  | {
      readonly ok: true;
      readonly files: readonly HandOverFile[];
      readonly heldBack: readonly HeldBackEntry[];
      /** Where a player that plays the files has nothing to play for more than two seconds. */
      readonly silences: readonly Silence[];
    }
  | { readonly ok: false; readonly why: string };

/** What files are made with besides their log. */
export interface HandOverOptions {
  readonly station: string;
  readonly pattern: string;
  readonly hourly: boolean;
  readonly itemOf: (itemId: string) => HandOverItem | undefined;
  /** The path to write for an item's file; null when the file is not there. */
  readonly pathOf: (file: string) => string | null;
}

/**
 * The player's files for a log: one for the day, or one for each hour. Entries without audio are
 * left out and listed. Refused when the pattern gives no usable or no distinct names.
 */
export function handOver(log: DailyLog, options: HandOverOptions): HandOver {
  const heldBack: HeldBackEntry[] = [];
  const groups = options.hourly ? log.hours.map((hour) => [hour]) : [log.hours];
  const files: HandOverFile[] = [];
  for (const hours of groups) {
    const name = nameFor(log, hours, options);
    if (!name.ok) return name;
    if (files.some((file) => file.name === name.name)) {
      return { ok: false, why: `The pattern gives “${name.name}” more than once.` };
    }
    const entries = hours.flatMap((hour) => playlistOf(hour, options, heldBack));
    files.push({ name: name.name, text: writeM3u(entries), entries: entries.length });
  }
  return { ok: true, files, heldBack, silences: silencesOf(log, heldBack, options) };
}

/** What is held back does not sound; a break does, as what plays in it comes from elsewhere. */
function silencesOf(
  log: DailyLog,
  heldBack: readonly HeldBackEntry[],
  { itemOf }: HandOverOptions,
): readonly Silence[] {
  const silent = new Set(heldBack.filter(({ why }) => why !== 'break').map(({ entryId }) => entryId));
  const hours = log.hours.map((hour) => ({
    ...hour,
    entries: hour.entries.map((entry): LogEntry => (silent.has(entry.id) ? { ...entry, out: true } : entry)),
  }));
  const lengthOf = (itemId: string): number => {
    const item = itemOf(itemId);
    return item ? item.durationMs - (item.segueMs ?? 0) : 0;
  };
  return airTimes({ ...log, hours }, { lengthOf, averageOfSlot: () => 0 }).silences;
}

function nameFor(log: DailyLog, hours: readonly LogHour[], options: HandOverOptions): FileNameResult {
  const hour = options.hourly ? elementAt(hours, 0) : null;
  const repeat = hour ? log.hours.filter((h) => h.index < hour.index && h.localHour === hour.localHour).length : 0;
  return fileNameOf(options.pattern, {
    station: options.station,
    date: log.date,
    hour: hour?.localHour ?? null,
    hourRepeat: repeat,
  });
}

function playlistOf(hour: LogHour, options: HandOverOptions, heldBack: HeldBackEntry[]): PlaylistEntry[] {
  return hour.entries.flatMap((entry): PlaylistEntry[] => {
    if (entry.kind === 'note' || entry.out) return [];
    const hold = (title: string, why: HeldBackEntry['why']): [] => {
      heldBack.push({ entryId: entry.id, hourIndex: hour.index, title, why });
      return [];
    };
    if (entry.kind === 'break') return hold('Break', 'break');
    const itemId = itemOf(entry);
    if (itemId === null) return hold('Open slot', 'open slot');
    const item = options.itemOf(itemId);
    if (!item) return hold('Deleted item', 'item deleted');
    if (!item.file) return hold(item.title, 'no file');
    const file = options.pathOf(item.file);
    if (file === null) return hold(item.title, 'file not there');
    return [{ file, artist: item.artist, title: item.title, durationMs: item.durationMs }];
  });
}
