import { hoursOfDay, weekdayOf, type LocalHour } from '../time/local-day.js';
import { expectedStarts, type LengthLookup } from './expected-starts.js';
import type { Clock, ClockLine } from './line.js';
import { clockAt, type WeekPlan } from './week-plan.js';

/** A line of a clock in its place in a day. */
export interface PlannedLine {
  /** Stable for the same date, hour and line, so that what a person did to it survives a new run. */
  readonly entryId: string;
  readonly line: ClockLine;
  /** Expected UTC start, epoch milliseconds. */
  readonly expectedStartMs: number;
}

export interface PlannedHour extends LocalHour {
  readonly clockId: string | null;
  readonly clockName: string;
  readonly lines: readonly PlannedLine[];
}

/**
 * The hours of a station-local date with the lines of their clocks in order. An hour without a
 * clock has no lines. Throws RangeError for a date or zone that does not exist.
 */
export function expandDay(
  date: string,
  zone: string,
  plan: WeekPlan,
  clocks: ReadonlyMap<string, Clock>,
  lengths: LengthLookup,
): PlannedHour[] {
  const weekday = weekdayOf(date);
  return hoursOfDay(date, zone).map((hour) => {
    const clock = clocks.get(clockAt(plan, weekday, hour.localHour) ?? '');
    if (!clock) return { ...hour, clockId: null, clockName: '', lines: [] };
    const expected = expectedStarts(clock.lines, lengths);
    const lines = clock.lines.map((line, index) => ({
      entryId: `${hour.index}-${line.id}`,
      line,
      expectedStartMs: hour.startMs + expected.lines[index]!.startMs,
    }));
    return { ...hour, clockId: clock.id, clockName: clock.name, lines };
  });
}
