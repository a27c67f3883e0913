import { LogInspector, type Strain } from '../judge/inspect-log.js';
import type { DailyLog, LogEntry, LogHour } from '../log/daily-log.js';
import type { StationModel } from '../station/station-model.js';

/** Where a run that fills a day step by step stops, besides where nothing may go. */
export interface StopsAt {
  readonly everySlot: boolean;
  /** Ids of categories. */
  readonly categories: readonly string[];
  /** Ids of rules, where the choice of the run would break one of them. */
  readonly rules: readonly string[];
}

/** The slot a run stops at. */
export interface RunStop {
  readonly entryId: string;
  /** `left open`: candidates break nothing there, but each would leave a later slot without any. */
  readonly because: 'no candidate' | 'left open' | 'asked' | 'rule';
  readonly ruleId: string | null;
  /** The item the run would take; null where there is none. */
  readonly suggested: string | null;
}

/**
 * Fills a log down the day with what a run has planned for its open slots, until the first slot at which a person is to
 * decide: nothing may go there, or they asked to be asked. `strains` are those of the planned log; slots in `skipped`
 * stay open.
 */
export function fillToStop(
  log: DailyLog,
  planned: DailyLog,
  {
    asks,
    strains,
    skipped,
  }: { readonly asks: StopsAt; readonly strains: readonly Strain[]; readonly skipped: ReadonlySet<string> },
): { readonly log: DailyLog; readonly stop: RunStop | null } {
  const broken = new Map<string, string>();
  for (const { entryId, ruleId } of strains) if (asks.rules.includes(ruleId)) broken.set(entryId, ruleId);
  const hours: LogHour[] = [];
  for (const [n, hour] of log.hours.entries()) {
    const plan = planned.hours[n] ?? hour;
    const were = new Map(hour.entries.map((entry) => [entry.id, entry]));
    const entries: LogEntry[] = [];
    for (const entry of plan.entries) {
      const was = were.get(entry.id);
      const stop = skipped.has(entry.id) ? null : stopAt(entry, was, asks, broken.get(entry.id) ?? null);
      if (stop) {
        entries.push(stop.because === 'no candidate' ? entry : (was ?? entry), ...restOf(hour.entries, entry.id));
        return { log: { ...log, hours: [...hours, { ...hour, entries }, ...log.hours.slice(n + 1)] }, stop };
      }
      const stands = was?.kind === 'pick' && was.itemId !== null;
      entries.push(stands ? was : was && skipped.has(entry.id) ? { ...was, ...reasonOf(entry) } : entry);
    }
    hours.push({ ...hour, entries });
  }
  return { log: { ...log, hours }, stop: null };
}

/** The stop with why nothing was planned for it: no candidate may go there, or later slots would be left without any. */
export function withReason(stop: RunStop, model: StationModel, log: DailyLog): RunStop {
  if (stop.because !== 'no candidate') return stop;
  const musts = new Set(model.data.rules.flatMap(({ id, strength }) => (strength === 'hard' ? [id] : [])));
  const isFree = new LogInspector(model, log)
    .candidates(stop.entryId)
    .some(({ breaks }) => !breaks.some(({ ruleId }) => musts.has(ruleId)));
  return isFree ? { ...stop, because: 'left open' } : stop;
}

function stopAt(entry: LogEntry, was: LogEntry | undefined, asks: StopsAt, ruleId: string | null): RunStop | null {
  const isToDecide = entry.kind === 'pick' && !entry.out && (was?.kind !== 'pick' || was.itemId === null);
  if (!isToDecide) return null;
  const stop = { entryId: entry.id, ruleId, suggested: entry.itemId };
  if (entry.itemId === null) return { ...stop, because: 'no candidate' };
  // Fill is chosen for its length, to land the hour.
  if (entry.fill) return null;
  if (asks.everySlot || asks.categories.includes(entry.categoryId)) return { ...stop, because: 'asked' };
  return ruleId === null ? null : { ...stop, because: 'rule' };
}

function restOf(entries: readonly LogEntry[], id: string): readonly LogEntry[] {
  return entries.slice(entries.findIndex((entry) => entry.id === id) + 1);
}

/** Why a slot that was skipped is open, as far as the plan knows. */
function reasonOf(planned: LogEntry): Pick<Extract<LogEntry, { kind: 'pick' }>, 'open'> | object {
  return planned.kind === 'pick' && planned.itemId === null ? { open: planned.open } : {};
}
