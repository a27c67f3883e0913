import { lookUp } from '../values/look-up.js';
import { allEntries, type DailyLog, type LogEntry, type LogHour } from '../log/daily-log.js';
import type { StationModel } from './station-model.js';

/** Ids of the entries that have begun by an instant (UTC epoch milliseconds): what has aired, and what is on the air. */
export function airedIds(model: StationModel, log: DailyLog, atMs: number): ReadonlySet<string> {
  const { entries } = model.timing(log);
  return new Set(allEntries(log).flatMap(({ id }) => (lookUp(entries, id).startMs <= atMs ? [id] : [])));
}

/**
 * A log whose aired part is that of another one of the same date: whole hours, and of the hour that is on the air what
 * has begun; what comes after it is the log's own.
 */
export function withAired(
  model: StationModel,
  log: DailyLog,
  previous: DailyLog,
  aired: ReadonlySet<string>,
  atMs: number,
): DailyLog {
  if (aired.size === 0) return log;
  const before = new Map(previous.hours.map((hour) => [hour.index, hour]));
  const lastHour = previous.hours.findLast((hour) => hour.entries.some(({ id }) => aired.has(id)))?.index ?? -1;
  const { entries } = model.timing(log);
  const hours = log.hours.map((hour): LogHour => {
    const then = before.get(hour.index);
    if (!then || hour.index > lastHour) return hour;
    if (hour.index < lastHour || then.entries.every(({ id }) => aired.has(id))) return then;
    const kept = then.entries.filter(({ id }) => aired.has(id));
    return { ...hour, entries: [...kept, ...restOf(hour.entries, kept, (id) => lookUp(entries, id).startMs > atMs)] };
  });
  return { ...log, hours };
}

/** The entries after the last one kept; where none of those kept is among them, the ones that are still to come. */
function restOf(entries: readonly LogEntry[], kept: readonly LogEntry[], toCome: (id: string) => boolean): LogEntry[] {
  const ids = new Set(kept.map(({ id }) => id));
  const last = entries.findLastIndex(({ id }) => ids.has(id));
  return entries.filter(({ id }, n) => !ids.has(id) && (last >= 0 ? n > last : toCome(id)));
}

/** The log with its aired entries exactly as they were. */
export function restoreAired(log: DailyLog, previous: DailyLog, aired: ReadonlySet<string>): DailyLog {
  if (aired.size === 0) return log;
  const were = new Map(allEntries(previous).map((entry) => [entry.id, entry]));
  const hours = log.hours.map((hour) => ({
    ...hour,
    entries: hour.entries.map((entry) => (aired.has(entry.id) ? lookUp(were, entry.id) : entry)),
  }));
  return { ...log, hours };
}

/**
 * A log with the hours of an earlier version of it, or some of them, by their place in the day. What has begun to air
 * stays as it is: `aired` by `nowMs`, UTC epoch milliseconds.
 */
export function restoreHours(
  model: StationModel,
  log: DailyLog,
  version: DailyLog,
  {
    hours,
    aired,
    nowMs,
  }: { readonly hours: readonly number[] | null; readonly aired: ReadonlySet<string>; readonly nowMs: number },
): DailyLog {
  const wanted = hours && new Set(hours);
  const kept = new Map(version.hours.map((hour) => [hour.index, hour]));
  const back = log.hours.map((hour) => (wanted && !wanted.has(hour.index) ? hour : (kept.get(hour.index) ?? hour)));
  // An entry that was moved between hours since stands once: where the version has it.
  const returned = new Set(back.flatMap((hour, n) => (hour === log.hours[n] ? [] : hour.entries.map(({ id }) => id))));
  const once = back.map((hour, n) =>
    hour === log.hours[n] && hour.entries.some(({ id }) => returned.has(id))
      ? { ...hour, entries: hour.entries.filter(({ id }) => !returned.has(id)) }
      : hour,
  );
  const restored = { ...log, hours: once };
  return restoreAired(withAired(model, restored, log, aired, nowMs), log, aired);
}
