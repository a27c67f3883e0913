import type { DailyLog } from '../log/daily-log.js';
import type { ThemePlay } from '../station/station-data.js';

/** The values that were themes in a log, each once for a run of its clock. */
export function themePlays(log: DailyLog): ThemePlay[] {
  const seen = new Map<string, ThemePlay>();
  for (const { entries, startMs } of log.hours)
    for (const entry of entries) {
      if (entry.kind !== 'pick' || !entry.theme?.value) continue;
      const { by, value, run, group } = entry.theme;
      const key = `${run} ${by} ${group}`;
      if (!seen.has(key)) seen.set(key, { by, value, startMs });
    }
  return [...seen.values()];
}
