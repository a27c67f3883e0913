import type { GeneratedDaySummary } from '@fuller/contracts';
import { formatSpan } from '@fuller/core';
import type { JobOutcome } from '../jobs/job-runner.js';
import type { Written } from '../store/store.js';
import type { GenerateRange } from './generate-checks.js';
import type { MadeDay } from './made-day.js';

/** What came of a run, with its days. */
export interface GenerateOutcome extends JobOutcome {
  readonly result: { days: GeneratedDaySummary[]; preview?: boolean };
}

/** The rules that did not apply in a run, and those that asked less. */
export function offWords(
  { rulesOff = [], relax = [] }: GenerateRange,
  sentences: Readonly<Record<string, string>>,
): string[] {
  const nameOf = (id: string): string => sentences[id] ?? 'a deleted rule';
  return [
    ...rulesOff.map(nameOf),
    ...relax.map(({ ruleId, seconds }) => `${nameOf(ruleId)}, loosened to ${formatSpan(seconds)}`),
  ];
}

/** What came of a run that was written, in words and by day. */
export function outcomeOf(range: GenerateRange, made: readonly MadeDay[], written: Written<void>): GenerateOutcome {
  const several = new Set(made.map(({ stationId }) => stationId)).size > 1;
  const days = made.map(({ summary, stationId }) => (several ? { ...summary, stationId } : summary));
  const open = days.reduce((sum, one) => sum + one.open.length, 0);
  const message =
    written.activityId === null
      ? `${spanOf(range)}: nothing was left to change.`
      : `${spanOf(range)}: ${open === 0 ? 'every slot filled' : `${open} open`}.`;
  return { activityId: written.activityId, message, result: { days } };
}

/** The days of a run, in words. */
export function spanOf({ from, days, stations }: GenerateRange): string {
  const what = days === 1 ? from : `${days} days`;
  return stations?.length ? `${what} of ${stations.length + 1} stations` : what;
}

/** What a run does, in words. */
export function labelOf({ from, days, hours, stations }: GenerateRange): string {
  const of = stations?.length ? ` of ${stations.length + 1} stations` : '';
  if (hours) return `Regenerate ${hours.length === 1 ? 'an hour' : `${hours.length} hours`} of ${from}`;
  return days === 1 ? `Generate ${from}${of}` : `Generate ${days} days from ${from}${of}`;
}
