import type { TrafficBreak } from '@fuller/contracts';
import {
  bookedBreaks,
  breakLength,
  findEntry,
  formatAirTime,
  spotMarks,
  type DailyLog,
  type LogTiming,
  type SpotMark,
} from '@fuller/core';

/** The breaks of a log in order, as a person sees them. */
export function shownBreaks(log: DailyLog, timing: LogTiming, aired: ReadonlySet<string>): TrafficBreak[] {
  return bookedBreaks(log, timing).map(({ entryId, bookedMs, plannedMs }) => {
    const entry = findEntry(log, entryId);
    const spots = entry?.kind === 'break' ? entry.spots : undefined;
    const hour = log.hours.findLast(({ startMs }) => startMs <= bookedMs) ?? log.hours[0];
    return {
      entryId,
      hourIndex: hour?.index ?? 0,
      start: formatAirTime(bookedMs, log.timeZone),
      pastHourMs: bookedMs - (hour?.startMs ?? bookedMs),
      plannedMs,
      bookedMs: spots ? breakLength({ spots, durationMs: 0 }) : 0,
      spots: spots ? [...spots] : null,
      marks: spotMarks(spots ?? []).map(markWords),
      aired: aired.has(entryId),
    };
  });
}

function markWords(found: SpotMark): string {
  if (found.mark === 'rivals') return `Rivals in one break (${found.product}): ${found.sponsors.join(', ')}`;
  return `${found.sponsor} back to back`;
}
