import { emptyDay } from '../generate/starting-log.js';
import { LogInspector } from '../judge/inspect-log.js';
import type { DailyLog, LogEntry } from '../log/daily-log.js';
import type { LogMark } from '../week/mark.js';
import type { StationModel } from '../station/station-model.js';
import { lookUp } from '../values/look-up.js';
import type { RolledPlay, RollingRow } from './rolling.js';

/** What of a queue lies on one date: what has played of it, and the rows to come. */
export interface RolledDay {
  readonly date: string;
  readonly played: readonly RolledPlay[];
  readonly rows: readonly RollingRow[];
  /** When the first row begins, UTC epoch milliseconds. */
  readonly fromMs: number;
}

/** Stands before the ids of plays that are over. */
const PLAYED = 'played-';

/**
 * The plays and the queue of a date as a log: what is over at its time, the rows one after the other, and after them what
 * is given to be filled. Its hours are those of the week's clocks, so that rules that hold in some of them hold here.
 */
export function rollingLog(
  model: StationModel,
  { date, played, rows, fromMs }: RolledDay,
  open: readonly LogEntry[] = [],
): DailyLog {
  const hours = emptyDay(model, { date, previous: null }).hours;
  const anchor = (atMs: number): LogMark => ({ atMs, hard: true });
  const music = new Set(model.data.musicCategories.flatMap((id) => model.data.categories[id] ?? []));
  const over = played.map(({ itemId, startMs }, n): LogEntry => {
    const base = { id: `${PLAYED}${n}`, note: '', mark: anchor(startMs), itemId };
    // A slot of its category is what rules look at.
    const categoryId = music.has(itemId) ? categoryOf(model, itemId) : null;
    return categoryId === null
      ? { ...base, kind: 'item' }
      : { ...base, kind: 'pick', categoryId, locked: true, origin: 'engine', open: null };
  });
  const queued = rows.map((row, n) => entryOf(row, n === 0 ? anchor(fromMs) : undefined));
  const first =
    queued.length === 0 && open[0] ? [{ ...open[0], mark: open[0].mark ?? anchor(fromMs) }] : open.slice(0, 1);
  const entries = [...over, ...queued, ...first, ...open.slice(1)];
  const starts = startsOf(model, entries);
  return {
    date,
    timeZone: model.data.timeZone,
    hours: hours.map((hour, n) => {
      const endMs = n === hours.length - 1 ? Infinity : hour.startMs + hour.durationMs;
      const fromHour = n === 0 ? -Infinity : hour.startMs;
      const own = entries.filter((_, e) => starts[e]! >= fromHour && starts[e]! < endMs);
      return { ...hour, runsOn: true, removed: [], entries: own };
    }),
  };
}

/** A row of a queue as an entry. */
export function entryOf(row: RollingRow, mark?: LogMark): LogEntry {
  const { id, itemId, categoryId, filters, turnOrder, rules, hardMs } = row;
  const begins = hardMs === undefined ? mark : { atMs: hardMs, hard: true };
  const base = { id, note: '', itemId, ...(begins ? { mark: begins } : {}) };
  if (categoryId === null) return { ...base, kind: 'item' };
  const slot = { ...(filters ? { filters } : {}), ...(turnOrder ? { turnOrder } : {}), ...(rules ? { rules } : {}) };
  return { ...base, ...slot, kind: 'pick', categoryId, locked: true, origin: 'engine', open: null };
}

function categoryOf({ data }: StationModel, itemId: string): string | null {
  return data.musicCategories.find((id) => data.categories[id]?.includes(itemId)) ?? null;
}

/** About when entries begin that follow each other, UTC epoch milliseconds. */
function startsOf(model: StationModel, entries: readonly LogEntry[]): number[] {
  let at = 0;
  return entries.map((entry) => {
    if (entry.mark) at = entry.mark.hard ? entry.mark.atMs : Math.max(at, entry.mark.atMs);
    const startMs = at;
    if (entry.kind === 'pick') at += entry.itemId === null ? model.averageOfSlot(entry) : model.lengthOf(entry.itemId);
    if (entry.kind === 'item') at += model.lengthOf(entry.itemId);
    return startMs;
  });
}

/** When each row of a queue begins, UTC epoch milliseconds. */
export function rowStarts(model: StationModel, rows: readonly RollingRow[], fromMs: number): number[] {
  return startsOf(
    model,
    rows.map((row, n) => entryOf(row, n === 0 ? { atMs: fromMs, hard: true } : undefined)),
  );
}

/** Rows of a date that break a hard rule at the times they would play, with the rule; the first of two that clash stays. */
export function strainedRows(model: StationModel, day: RolledDay): Map<string, string> {
  const log = rollingLog(model, day);
  const musts = new Set(model.data.rules.flatMap(({ id, strength }) => (strength === 'hard' ? [id] : [])));
  // What a person put in, and what a line names, stays whatever it breaks.
  const own = new Set(day.rows.flatMap(({ id, categoryId, by }) => (categoryId !== null && by !== 'hand' ? [id] : [])));
  const strains = new LogInspector(model, log).strains();
  return new Map(
    strains.flatMap(({ entryId, ruleId }) => (own.has(entryId) && musts.has(ruleId) ? [[entryId, ruleId]] : [])),
  );
}

/** When the entries of a rolling log begin. */
export function startOf(model: StationModel, log: DailyLog): (entryId: string) => number {
  const { entries } = model.timing(log);
  return (id) => lookUp(entries, id).startMs;
}
