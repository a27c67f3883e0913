import { elementAt } from '../values/look-up.js';
import { SHORT_SILENCE_MS } from '../clocks/expected-starts.js';
import { itemOf, type DailyLog, type LogEntry, type PickEntry, type BreakEntry } from './daily-log.js';

/** When an entry airs, and for how long. */
export interface AirTime {
  /** UTC epoch milliseconds. */
  readonly startMs: number;
  /** Until the next entry begins, where a hard start cuts it; otherwise its whole length. */
  readonly durationMs: number;
}

/** How an hour of a log comes out. */
export interface HourTiming {
  readonly index: number;
  /** How far the hour ends beyond its mark, milliseconds; negative when it ends short of it. 0 where a clock runs on. */
  readonly overMs: number;
  /** The silence that begins in the hour, milliseconds. */
  readonly silentMs: number;
}

/** A stretch in which nothing plays: what comes before it ends short of a mark. */
export interface Silence {
  /** UTC epoch milliseconds. */
  readonly startMs: number;
  readonly durationMs: number;
  /** Place of the hour in which it begins, and the entry after it; null at the end of the day or before an empty hour. */
  readonly hourIndex: number;
  readonly beforeEntryId: string | null;
}

/** An instant that is to be reached, and how well it is. */
export interface MarkTiming {
  /** UTC epoch milliseconds. */
  readonly atMs: number;
  /** The hour and the entry that begin there; no entry at the end of the day or before an hour without entries. */
  readonly hourIndex: number;
  readonly entryId: string | null;
  readonly hard: boolean;
  /** Only where an end is to be exact, milliseconds. */
  readonly exactMs?: number;
  /** May be reached late, as a soft moment may. */
  readonly late?: boolean;
  /** How far what comes before ends beyond the mark, milliseconds; negative when it falls short. */
  readonly overMs: number;
}

/** When everything of a log airs. */
export interface LogTiming {
  readonly entries: ReadonlyMap<string, AirTime>;
  readonly hours: readonly HourTiming[];
  /** Every mark of the day in order, the end of the day last. */
  readonly marks: readonly MarkTiming[];
  /** Silence longer than two seconds, in order. */
  readonly silences: readonly Silence[];
}

/** Lengths of what stands in a log, milliseconds. */
export interface LogLengths {
  lengthOf(itemId: string): number;
  averageOfSlot(entry: PickEntry): number;
}

/**
 * When each entry airs: one after the other. An hour, and what begins on a soft mark, waits for it; what begins on a
 * hard one cuts what plays. An open slot takes the time its category takes on average, so that what follows stays
 * near its place; what is left out takes none.
 */
export function airTimes(log: DailyLog, lengths: LogLengths): LogTiming {
  const entries = new Map<string, AirTime>();
  const hours: HourTiming[] = [];
  const marks: MarkTiming[] = [];
  const silences: Silence[] = [];
  let at = log.hours[0]?.startMs ?? 0;
  let last: string | null = null;
  const keepSilence = (untilMs: number, beforeEntryId: string | null): void => {
    if (untilMs - at <= SHORT_SILENCE_MS) return;
    const hourIndex = log.hours.findLastIndex((hour) => hour.startMs <= at);
    silences.push({ startMs: at, durationMs: untilMs - at, hourIndex, beforeEntryId });
  };
  const reach = (mark: Omit<MarkTiming, 'overMs'>): void => {
    marks.push({ ...mark, overMs: at - mark.atMs });
    keepSilence(mark.atMs, mark.entryId);
    if (mark.hard && at > mark.atMs) cutShort(entries, last, mark.atMs);
    at = mark.hard ? mark.atMs : Math.max(at, mark.atMs);
  };
  log.hours.forEach((hour, hourIndex) => {
    const first = hour.entries[0];
    if (hourIndex > 0 && !hour.runsOn && first?.mark?.atMs !== hour.startMs)
      reach({ atMs: hour.startMs, hourIndex, entryId: first?.id ?? null, hard: false });
    for (const entry of hour.entries) {
      if (entry.mark && (hourIndex > 0 || entry !== first)) reach({ ...entry.mark, hourIndex, entryId: entry.id });
      const durationMs = lengthOfEntry(entry, lengths);
      entries.set(entry.id, { startMs: at, durationMs });
      at += durationMs;
      if (durationMs > 0) last = entry.id;
    }
    const runsOn = log.hours[hourIndex + 1]?.runsOn === true;
    hours.push({ index: hour.index, overMs: runsOn ? 0 : at - (hour.startMs + hour.durationMs), silentMs: 0 });
  });
  const end = log.hours.at(-1);
  if (end) {
    const atMs = end.startMs + end.durationMs;
    marks.push({ atMs, hourIndex: log.hours.length, entryId: null, hard: false, overMs: at - atMs });
    keepSilence(atMs, null);
  }
  return { entries, hours: withSilence(hours, silences), marks, silences };
}

function withSilence(hours: readonly HourTiming[], silences: readonly Silence[]): HourTiming[] {
  const silentMs = hours.map(() => 0);
  for (const { hourIndex, durationMs } of silences) silentMs[hourIndex]! += durationMs;
  return hours.map((hour, n) => (silentMs[n] === 0 ? hour : { ...hour, silentMs: elementAt(silentMs, n) }));
}

function cutShort(entries: Map<string, AirTime>, id: string | null, atMs: number): void {
  const cut = id === null ? undefined : entries.get(id);
  if (cut && cut.startMs < atMs) entries.set(id!, { ...cut, durationMs: atMs - cut.startMs });
}

/** How long a break takes: what is booked in it, or what its clock plans where nothing has been imported. Milliseconds. */
export function breakLength({ spots, durationMs }: Pick<BreakEntry, 'spots' | 'durationMs'>): number {
  return spots ? spots.reduce((sum, { lengthMs }) => sum + lengthMs, 0) : durationMs;
}

/** How long an entry takes by itself, milliseconds. */
export function lengthOfEntry(entry: LogEntry, lengths: LogLengths): number {
  if (entry.out || entry.kind === 'note' || entry.kind === 'sweeper') return 0;
  if (entry.kind === 'break') return breakLength(entry);
  const itemId = itemOf(entry);
  if (itemId !== null) return (entry.kind === 'tease' ? undefined : entry.lengthMs) ?? lengths.lengthOf(itemId);
  return entry.kind === 'pick' ? lengths.averageOfSlot(entry) : 0;
}
