import { itemOf, type DailyLog, type LogEntry } from '../log/daily-log.js';

export interface AirTime {
  /** UTC epoch milliseconds. */
  readonly startMs: number;
  readonly durationMs: number;
}

export interface HourTiming {
  readonly index: number;
  /** How far the hour ends beyond its mark, milliseconds; negative when it ends short of it. */
  readonly overMs: number;
}

export interface LogTiming {
  readonly entries: ReadonlyMap<string, AirTime>;
  readonly hours: readonly HourTiming[];
}

/**
 * When each entry airs: one after the other, an hour beginning on its mark or, when the hour
 * before runs over, as soon as that one ends. An open slot takes the time its category takes on
 * average, so that what follows stays near its place.
 */
export function airTimes(
  log: DailyLog,
  lengthOf: (itemId: string) => number,
  averageOf: (categoryId: string) => number,
): LogTiming {
  const entries = new Map<string, AirTime>();
  const hours: HourTiming[] = [];
  let at = Number.NEGATIVE_INFINITY;
  for (const hour of log.hours) {
    at = Math.max(at, hour.startMs);
    for (const entry of hour.entries) {
      const durationMs = entryLength(entry, lengthOf, averageOf);
      entries.set(entry.id, { startMs: at, durationMs });
      at += durationMs;
    }
    hours.push({ index: hour.index, overMs: at - (hour.startMs + hour.durationMs) });
  }
  return { entries, hours };
}

function entryLength(
  entry: LogEntry,
  lengthOf: (itemId: string) => number,
  averageOf: (categoryId: string) => number,
): number {
  if (entry.kind === 'break') return entry.durationMs;
  if (entry.kind === 'note') return 0;
  const itemId = itemOf(entry);
  if (itemId !== null) return lengthOf(itemId);
  return entry.kind === 'pick' ? averageOf(entry.categoryId) : 0;
}
