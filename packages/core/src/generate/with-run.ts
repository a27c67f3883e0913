import { allEntries, type DailyLog, type LogEntry } from '../log/daily-log.js';
import type { GenerateOptions } from './generate-options.js';

/** The log with the instant of the run on all it chose, and with no length that was fixed for another item. */
export function withRun(log: DailyLog, { previous, runMs }: GenerateOptions): DailyLog {
  const before = new Map(previous ? allEntries(previous).map((entry) => [entry.id, entry]) : []);
  const marked = (entry: LogEntry): LogEntry => {
    if (entry.kind !== 'pick' || entry.origin !== 'engine') return entry;
    const was = before.get(entry.id);
    const { runMs: earlier, lengthMs, ...rest } = entry;
    const stayed = was?.kind === 'pick' && was.itemId === entry.itemId && was.origin === 'engine';
    if (!stayed) return { ...rest, ...(runMs === undefined || entry.itemId === null ? {} : { runMs }) };
    const [run, length] = [was.runMs ?? earlier, was.lengthMs ?? lengthMs];
    return {
      ...rest,
      ...(run === undefined ? {} : { runMs: run }),
      ...(length === undefined ? {} : { lengthMs: length }),
    };
  };
  return { ...log, hours: log.hours.map((hour) => ({ ...hour, entries: hour.entries.map(marked) })) };
}
