import { flagsOf } from '../clocks/line-flags.js';
import type { ClockLine } from '../clocks/line.js';
import { generateDay } from '../generate/generate-day.js';
import { entriesFor } from '../generate/planned-entries.js';
import { emptyDay } from '../generate/starting-log.js';
import { findEntry, type DailyLog, type LogEntry } from '../log/daily-log.js';
import type { StationData, StationPlay } from '../station/station-data.js';
import { StationModel } from '../station/station-model.js';
import { hoursOfDay, localTimeOf, addDays } from '../time/local-day.js';
import { elementAt } from '../values/look-up.js';
import { rollingLog, rowStarts, startOf } from './rolling-log.js';
import type { PassedOver, RollingCursor, RollingDepth, RollingRow } from './rolling.js';

/** So many slots are filled together, so that the engine sees ahead. */
const BATCH = 6;
/** So many rounds are tried before the queue is left as deep as it is. */
const MOST_ROUNDS = 40;
/** A gap this short before a hard start is left, milliseconds. */
const SHORT_MS = 1500;
/** A hard start cuts this much of what is before it at most, milliseconds. */
const LONGEST_CUT_MS = 240_000;
/** The deepest queue, items. */
const MOST_ROWS = 400;

/** What a queue is extended from. */
export interface QueueGround {
  /** `history` holds every play so far, those of the day in hand and the one on the air among them. */
  readonly data: StationData;
  /** The lines of the loop; null works through the week's clocks. */
  readonly loop: readonly ClockLine[] | null;
  readonly depth: RollingDepth;
  readonly seed: number;
}

/** A live queue at an instant. */
export interface LiveQueue {
  readonly rows: readonly RollingRow[];
  readonly cursor: RollingCursor;
  /** When its first row begins, UTC epoch milliseconds. */
  readonly fromMs: number;
}

/** A queue that was extended, and the lines that nothing fitted. */
export interface ExtendedQueue extends LiveQueue {
  readonly passedOver: readonly PassedOver[];
}

/**
 * A queue with as many rows more as it takes to be as deep as it is to be: chosen by the engine and the rules from the
 * lines of the week's clocks, or of a loop. No hard rule is broken; a line that nothing fits is passed over.
 */
export function extendQueue(ground: QueueGround, queue: LiveQueue): ExtendedQueue {
  const passedOver: PassedOver[] = [];
  let current = queue;
  const lengths = new StationModel(ground.data);
  for (let round = 0; round < MOST_ROUNDS && !isDeepEnough(lengths, ground.depth, current); round++) {
    const added = addBatch(ground, current, round);
    if (!added) break;
    current = added.queue;
    passedOver.push(...added.passedOver);
  }
  return { ...current, passedOver };
}

/** Whether a queue is as deep as it is to be. */
export function isDeepEnough(model: StationModel, depth: RollingDepth, { rows, fromMs }: LiveQueue): boolean {
  if (rows.length >= MOST_ROWS) return true;
  if ('items' in depth) return rows.length >= depth.items;
  return endOf(model, rows, fromMs) - fromMs >= depth.minutes * 60_000;
}

function endOf(model: StationModel, rows: readonly RollingRow[], fromMs: number): number {
  const last = rows.at(-1);
  if (!last) return fromMs;
  return elementAt(rowStarts(model, rows, fromMs), rows.length - 1) + model.lengthOf(last.itemId);
}

/** The plays before a date, and those on it. */
export function dayOf(
  { data }: Pick<QueueGround, 'data'>,
  date: string,
): { readonly data: StationData; readonly played: readonly StationPlay[] } {
  const startMs = elementAt(hoursOfDay(date, data.timeZone), 0).startMs;
  const history = data.history.filter((play) => play.startMs < startMs);
  return { data: { ...data, history, nextLog: null }, played: data.history.filter((play) => play.startMs >= startMs) };
}

function addBatch(
  ground: QueueGround,
  queue: LiveQueue,
  round: number,
): { readonly queue: LiveQueue; readonly passedOver: readonly PassedOver[] } | null {
  const { rows, fromMs } = queue;
  const whole = new StationModel(ground.data);
  const atMs = endOf(whole, rows, fromMs);
  const { date } = localTimeOf(atMs, ground.data.timeZone);
  const starts = rowStarts(whole, rows, fromMs);
  const dayStartMs = elementAt(hoursOfDay(date, ground.data.timeZone), 0).startMs;
  const before = rows.flatMap(({ itemId }, n) =>
    elementAt(starts, n) < dayStartMs ? [{ itemId, startMs: elementAt(starts, n) }] : [],
  );
  const own = rows.filter((_, n) => elementAt(starts, n) >= dayStartMs);
  const { data, played } = dayOf({ data: { ...ground.data, history: [...ground.data.history, ...before] } }, date);
  const model = new StationModel(data);
  const lines = linesAhead(model, ground, queue.cursor, atMs);
  if (lines.entries.length === 0) return null;
  const ownFromMs = own.length > 0 ? elementAt(starts, rows.length - own.length) : atMs;
  const log = rollingLog(model, { date, played, rows: own, fromMs: ownFromMs }, lines.entries);
  const made = generateDay(data, {
    date,
    seed: ground.seed + queue.cursor.count + round,
    previous: log,
    only: 'open',
  }).log;
  return taken(model, made, queue, lines);
}

/**
 * The rows that were filled, up to the first line that nothing fitted, or to a hard start that what is before it does not
 * reach: what stands after these was chosen for another time.
 */
function taken(
  model: StationModel,
  made: DailyLog,
  queue: LiveQueue,
  { entries, cursors, fromMs }: LinesAhead,
): { readonly queue: LiveQueue; readonly passedOver: readonly PassedOver[] } {
  const rows = [...queue.rows];
  const start = startOf(model, made);
  let endMs = fromMs;
  for (const [n, { id, mark }] of entries.entries()) {
    const entry = findEntry(made, id);
    if (entry?.kind === 'pick' && entry.itemId === null) {
      const { categoryId, open } = entry;
      const over = { atMs: start(id), categoryId, open };
      return { queue: { ...queue, rows, cursor: elementAt(cursors, n) }, passedOver: [over] };
    }
    const hardMs = mark?.hard ? mark.atMs : undefined;
    if (hardMs !== undefined && hardMs > endMs + SHORT_MS && n > 0)
      return { queue: { ...queue, rows, cursor: elementAt(cursors, n - 1) }, passedOver: [] };
    const row = entry && rowOf(entry, hardMs);
    if (!row) continue;
    rows.push(row);
    endMs = Math.max(endMs, start(id)) + model.lengthOf(row.itemId);
  }
  return { queue: { ...queue, rows, cursor: cursors.at(-1) ?? queue.cursor }, passedOver: [] };
}

function rowOf(entry: LogEntry, hardMs: number | undefined): RollingRow | null {
  if ((entry.kind !== 'pick' && entry.kind !== 'item') || entry.itemId === null) return null;
  const { id, itemId } = entry;
  const hard = hardMs === undefined ? {} : { hardMs };
  const base = { id, itemId, ...hard, ...flagsOf(entry), by: 'line' as const };
  if (entry.kind === 'item') return { ...base, categoryId: null };
  const { categoryId, filters, turnOrder, rules } = entry;
  const slot = { ...(filters ? { filters } : {}), ...(turnOrder ? { turnOrder } : {}), ...(rules ? { rules } : {}) };
  return { ...base, ...slot, categoryId };
}

/** The next lines as entries, each with where the queue goes on after it. */
interface LinesAhead {
  /** When the first of them begins, UTC epoch milliseconds. */
  readonly fromMs: number;
  readonly entries: readonly LogEntry[];
  readonly cursors: readonly RollingCursor[];
}

/** The lines that come next at an instant, as slots to be filled; those of one date. */
function linesAhead(model: StationModel, { loop }: QueueGround, cursor: RollingCursor, atMs: number): LinesAhead {
  const entries: LogEntry[] = [];
  const cursors: RollingCursor[] = [];
  const { date } = localTimeOf(atMs, model.data.timeZone);
  const nextDayMs = elementAt(hoursOfDay(addDays(date, 1), model.data.timeZone), 0).startMs;
  const lines = loop ? new LoopLines(loop) : new ClockLines(model, date);
  let [now, at] = [cursor, atMs];
  for (let tries = 0; entries.length < BATCH && at < nextDayMs && tries < BATCH * 8; tries++) {
    const next = lines.next(now, at);
    if (!next) break;
    now = next.cursor;
    if (!next.entry) continue;
    const entry = withMarkFrom({ ...next.entry, id: `r${now.count}` }, at);
    now = { ...now, count: now.count + 1 };
    entries.push(entry);
    cursors.push(now);
    if (entry.mark) at = Math.max(at, entry.mark.atMs);
    at += entry.kind === 'pick' ? model.averageOfSlot(entry) : entry.kind === 'item' ? model.lengthOf(entry.itemId) : 0;
  }
  return { fromMs: atMs, entries, cursors };
}

/** Only a hard start that is not long past is a mark to a queue: whatever else waits its turn. */
function withMarkFrom({ mark, ...entry }: LogEntry, atMs: number): LogEntry {
  const holds = mark?.hard === true && mark.atMs >= atMs - LONGEST_CUT_MS;
  return (holds ? { ...entry, mark } : entry) as LogEntry;
}

/** Where lines come from. */
interface Lines {
  /** The next line; without an entry where it plays nothing, null where there are none. */
  next(cursor: RollingCursor, atMs: number): { readonly entry: LogEntry | null; readonly cursor: RollingCursor } | null;
}

/** The lines of a loop, one after the other whatever the hour. */
class LoopLines implements Lines {
  constructor(private readonly lines: readonly ClockLine[]) {}

  next(cursor: RollingCursor): { entry: LogEntry | null; cursor: RollingCursor } | null {
    const { length } = this.lines;
    if (length === 0) return null;
    const line = elementAt(this.lines, cursor.place % length);
    const planned = { entryId: line.id, line, expectedStartMs: 0, clockStartMs: 0 };
    const [entry] = entriesFor(planned, {}, new Map(), () => false).filter(playsSomething);
    return {
      entry: entry ?? null,
      cursor: { ...cursor, hour: null, place: (cursor.place + 1) % length },
    };
  }
}

/** The lines of the hour that it is; its picks again where it has none left before its end. */
class ClockLines implements Lines {
  private readonly day: DailyLog;

  constructor(
    model: StationModel,
    private readonly date: string,
  ) {
    this.day = emptyDay(model, { date, previous: null });
  }

  next(cursor: RollingCursor, atMs: number): { entry: LogEntry | null; cursor: RollingCursor } | null {
    const hour = this.day.hours.findLast(({ startMs }) => startMs <= atMs) ?? this.day.hours[0];
    if (!hour) return null;
    const isSame = cursor.hour?.date === this.date && cursor.hour.index === hour.index;
    const now = isSame ? cursor : { ...cursor, hour: { date: this.date, index: hour.index }, place: 0 };
    const entries = hour.entries.filter(playsSomething);
    const entry = entries[now.place];
    const step = { ...now, place: now.place + 1 };
    // Before a mark, and after the last line, the picks of the hour go on.
    const isEarly = entry?.mark !== undefined && entry.mark.atMs > atMs;
    if (entry && !isEarly) return { entry, cursor: step };
    const picks = entries.filter((one) => one.kind === 'pick' && !one.mark);
    const again = picks.length > 0 ? elementAt(picks, now.count % picks.length) : undefined;
    if (!again) return entry ? { entry, cursor: step } : null;
    return { entry: again, cursor: now };
  }
}

function playsSomething(entry: LogEntry): boolean {
  return entry.kind === 'item' || (entry.kind === 'pick' && entry.fill !== true);
}
