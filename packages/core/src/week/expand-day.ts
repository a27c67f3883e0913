import { elementAt } from '../values/look-up.js';
import type { LocalHour } from '../time/local-day.js';
import type { AirPlan } from './air-plan.js';
import { expectedStarts, type LengthLookup } from '../clocks/expected-starts.js';
import { framedLines, type FramedLine, type LineOrigin } from './framing.js';
import { runsOfDay, type ClockRun } from './clock-runs.js';
import type { ClockLine } from '../clocks/line.js';
import type { LogMark } from './mark.js';
import { ListCursors } from '../set-lists/scheduled-list.js';
import { timelineOf, WallClock } from './timeline.js';

const MINUTE_MS = 60_000;

/** A line of a clock in its place in a day. */
export interface PlannedLine {
  /**
   * Of the line and the minute of the day its clock began at: what a person did to it survives a new run, whatever hour
   * it starts in then.
   */
  readonly entryId: string;
  readonly line: ClockLine;
  /** Expected UTC start, epoch milliseconds. */
  readonly expectedStartMs: number;
  /** When its clock began, UTC epoch milliseconds. */
  readonly clockStartMs: number;
  /** Where the line is not its clock's own. */
  readonly from?: LineOrigin;
  /** What is to be reached when it begins. */
  readonly mark?: LogMark;
  /** For a tease of the next show: the show. */
  readonly showId?: string;
}

/** An hour of a day with the lines expected to start in it. */
export interface PlannedHour extends LocalHour {
  readonly clockId: string | null;
  readonly clockName: string;
  readonly showId?: string;
  /** True where a clock runs on from the hour before, so that the hour itself is no mark. */
  readonly runsOn?: true;
  readonly lines: readonly PlannedLine[];
}

/** The lines of an hour while a day is laid out. */
interface OpenHour {
  readonly hour: LocalHour;
  readonly runs: ClockRun[];
  readonly lines: PlannedLine[];
  begins: boolean;
}

/**
 * The hours of a station-local date with the lines of what runs in them, in order: the week's clocks and shows, what
 * differs on the date, openers and closers, moments of every hour. A line stands in the hour in which it is expected
 * to start. Throws RangeError for a date or zone that does not exist.
 */
export function expandDay(date: string, zone: string, plan: AirPlan, lengths: LengthLookup): PlannedHour[] {
  const wall = new WallClock(date, zone);
  const timeline = timelineOf(date, plan);
  const hours = wall.hours.map((hour): OpenHour => ({ hour, runs: [], lines: [], begins: false }));
  const hourAt = (atMs: number): OpenHour | undefined =>
    hours.findLast(({ hour }) => atMs >= hour.startMs && atMs < hour.startMs + hour.durationMs);
  const dayStartMs = elementAt(wall.hours, 0).startMs;
  const taken = new Map<string, number>();
  const cursors = new ListCursors(plan.setLists ?? []);
  for (const run of runsOfDay(timeline, wall, plan)) {
    for (const one of hours) {
      const end = one.hour.startMs + one.hour.durationMs;
      if (run.fromMs < end && run.toMs > one.hour.startMs) one.runs.push(run);
      if (run.fromMs === one.hour.startMs) one.begins = true;
    }
    let first = true;
    for (const { line, from, startMs, showId } of linesInRun(run, plan, timeline, lengths, cursors)) {
      const open = hourAt(startMs);
      if (!open) {
        first = false;
        continue;
      }
      const key = `${line.id}-${Math.round((run.originMs - dayStartMs) / MINUTE_MS)}`;
      const times = (taken.get(key) ?? 0) + 1;
      taken.set(key, times);
      const own = momentMark(line, run.originMs);
      const mark = first && run.beginsAnew ? markOfFirst(run.mark, own) : own;
      first = false;
      open.lines.push({
        entryId: times === 1 ? key : `${key}-${times}`,
        line,
        expectedStartMs: startMs,
        clockStartMs: run.originMs,
        ...(from ? { from } : {}),
        ...(showId ? { showId } : {}),
        ...(mark && (mark.hard || mark.exactMs !== undefined || mark.atMs !== open.hour.startMs) ? { mark } : {}),
      });
    }
  }
  return hours.map(({ hour, runs, lines, begins }): PlannedHour => {
    const named = runs.filter((run) => run.clock);
    const show = named[0]?.show;
    return {
      ...hour,
      clockId: named[0]?.painted ? null : (named[0]?.clock?.id ?? null),
      clockName: [...new Set(named.map((run) => run.clock!.name))].join(' + '),
      ...(show ? { showId: show.id } : {}),
      ...(begins ? {} : { runsOn: true as const }),
      lines,
    };
  });
}

function momentMark(line: ClockLine, originMs: number): LogMark | undefined {
  return line.kind === 'moment'
    ? { atMs: originMs + line.atMs, hard: line.hard, ...(line.hard ? {} : { late: true as const }) }
    : undefined;
}

/** A moment that stands first may be what the run begins with, or come later. */
function markOfFirst(begins: LogMark, moment: LogMark | undefined): LogMark {
  if (!moment) return begins;
  return moment.atMs === begins.atMs ? { ...begins, hard: begins.hard || moment.hard } : moment;
}

interface TimedLine extends FramedLine {
  /** UTC epoch milliseconds. */
  readonly startMs: number;
}

/** The lines of a run that begin within it, in order. */
function linesInRun(
  run: ClockRun,
  plan: AirPlan,
  timeline: ReturnType<typeof timelineOf>,
  lengths: LengthLookup,
  cursors: ListCursors,
): TimedLine[] {
  const { clock, originMs, fromMs, toMs } = run;
  if (!clock) return run.silence ? [{ line: run.silence, startMs: fromMs }] : [];
  const framed = framedLines(run, plan, timeline, lengths, cursors);
  const expected = expectedStarts(
    framed.map(({ line }) => line),
    lengths,
    clock.lengthMs,
  ).lines;
  const whole = toMs - originMs >= clock.lengthMs;
  return framed.flatMap((one, index): TimedLine[] => {
    const at = originMs + elementAt(expected, index).startMs;
    // Closers end what they close even where it is cut short.
    if (one.from === 'closer' && toMs < originMs + clock.lengthMs) return [{ ...one, startMs: toMs - 1 }];
    if (at < fromMs || (at >= toMs && !whole)) return [];
    return [{ ...one, startMs: Math.min(at, toMs - 1) }];
  });
}
