import { findViolations } from '../engine/score.js';
import { solve } from '../engine/solve.js';
import type { DailyLog } from '../log/daily-log.js';
import { airedIds } from '../station/aired.js';
import { LAST_OF_PERSONS } from '../station/hour-spread-rules.js';
import { isNextDay, logInstance } from '../station/log-instance.js';
import type { StationModel } from '../station/station-model.js';
import { lookUpIn } from '../values/look-up.js';
import { asItStands } from './inspect-log.js';

/** What is spent on looking for a better log. */
const EVALUATIONS = 150_000;
const CONFLICTS = 6000;

/** Open slots, or the breaks of one rank of wishes. */
export interface OutlookLevel {
  /** Null for open slots. */
  readonly rank: number | null;
  /** In the log as it stands. */
  readonly now: number;
  /** In the best log that was found. */
  readonly found: number;
  /** In logs that are as good in every level before it, no fewer can be had. */
  readonly least: number;
}

/** How a log stands against what could be had under its rules at the times it airs. */
export interface Outlook {
  /** `best`: proven that no log is better; `better`: one was found; `unknown`: none was found, and there may be one. */
  readonly state: 'best' | 'better' | 'unknown';
  /** Musts that are broken where they need not be. */
  readonly musts: number;
  readonly levels: readonly OutlookLevel[];
}

/** Looks for a better log, or for the proof that there is none. What has begun by `nowMs`, UTC, and what is locked stays. */
export function outlookOf(model: StationModel, log: DailyLog, nowMs: number): Outlook {
  const { instance, start } = logInstance(model, log);
  const aired = airedIds(model, log, nowMs);
  const slots = instance.slots.map((slot) =>
    aired.has(slot.id) && slot.locked === undefined && start[slot.id]
      ? { ...slot, locked: lookUpIn(start, slot.id) }
      : slot,
  );
  const { score, bound } = solve(
    { ...instance, slots },
    { start, evaluations: EVALUATIONS, conflicts: CONFLICTS, learnRanks: LAST_OF_PERSONS, explain: 'none' },
  );
  const { open, soft, musts } = countsOf(model, log);
  const levels: OutlookLevel[] = [
    { rank: null, now: open, found: score.open, least: bound.open },
    ...Object.keys(score.soft)
      .map(Number)
      .sort((a, b) => a - b)
      .map((rank) => ({
        rank,
        now: soft.get(rank) ?? 0,
        found: score.soft[rank] ?? 0,
        least: bound.soft?.[rank] ?? 0,
      })),
  ];
  const differs = levels.find(({ now, found }) => now !== found);
  if (musts > 0 || (differs && differs.found < differs.now)) return { state: 'better', musts, levels };
  const isProven = !differs && levels.every(({ found, least }) => found === least);
  return { state: isProven ? 'best' : 'unknown', musts, levels };
}

/** What the log as it stands leaves open and breaks; musts between plays that are all fixed are not counted. */
function countsOf(
  model: StationModel,
  log: DailyLog,
): { readonly open: number; readonly musts: number; readonly soft: ReadonlyMap<number, number> } {
  const { compiled, sequence, history, itemAt } = asItStands(model, log);
  const rules = new Map(compiled.evaluators.map((rule) => [rule.id, rule]));
  const placeOf = new Map(compiled.instance.slots.map(({ id }, s) => [id, history + s]));
  const isFixed = (id: string): boolean => sequence.fixed[placeOf.get(id) ?? 0] === 1;
  const soft = new Map<number, number>();
  let musts = 0;
  for (const { rule: id, slot, with: others } of findViolations(compiled)) {
    const rule = rules.get(id);
    if (rule?.hard === false) soft.set(rule.rank, (soft.get(rule.rank) ?? 0) + 1);
    else if (!isNextDay(slot) && ![slot, ...others].every(isFixed)) musts++;
  }
  const open = compiled.instance.slots.filter((_, s) => itemAt[history + s]! < 0).length;
  return { open, musts, soft };
}
