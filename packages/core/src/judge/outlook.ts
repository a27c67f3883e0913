import { findViolations } from '../engine/score.js';
import { solve, type BestSoFar } from '../engine/solve.js';
import type { Solution } from '../engine/solution.js';
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

/** Told while a better log is looked for: how far that is, 0 to 1, what is being proven, and what is known so far. */
export type OutlookProgress = (share: number, doing: string, soFar: () => Outlook) => void;

/** Looks for a better log, or for the proof that there is none. What has begun by `nowMs`, UTC, and what is locked stays. */
export function outlookOf(model: StationModel, log: DailyLog, nowMs: number, progress?: OutlookProgress): Outlook {
  const { instance, start } = logInstance(model, log);
  const aired = airedIds(model, log, nowMs);
  const slots = instance.slots.map((slot) =>
    aired.has(slot.id) && slot.locked === undefined && start[slot.id]
      ? { ...slot, locked: lookUpIn(start, slot.id) }
      : slot,
  );
  const now = countsOf(model, log);
  const { score, bound } = solve(
    { ...instance, slots },
    {
      start,
      evaluations: EVALUATIONS,
      conflicts: CONFLICTS,
      learnRanks: LAST_OF_PERSONS,
      explain: 'none',
      progress: progress && ((share, doing, best) => progress(share, doing, () => compared(now, best(), null))),
    },
  );
  return compared(now, score, bound);
}

/** A log against the best that was found, and against what is proven; null where nothing is proven yet. */
function compared({ open, soft, musts }: Counts, found: BestSoFar, bound: Solution['bound'] | null): Outlook {
  const levels: OutlookLevel[] = [
    { rank: null, now: open, found: found.open, least: bound?.open ?? 0 },
    ...Object.keys(found.soft)
      .map(Number)
      .sort((a, b) => a - b)
      .map((rank) => ({
        rank,
        now: soft.get(rank) ?? 0,
        found: found.soft[rank] ?? 0,
        least: bound?.soft[rank] ?? 0,
      })),
  ];
  const differs = levels.find(({ now, found: best }) => now !== best);
  if (musts > 0 || (differs && differs.found < differs.now)) return { state: 'better', musts, levels };
  const isProven = bound !== null && !differs && levels.every(({ found: best, least }) => best === least);
  return { state: isProven ? 'best' : 'unknown', musts, levels };
}

interface Counts {
  readonly open: number;
  readonly musts: number;
  /** Breaks by rank. */
  readonly soft: ReadonlyMap<number, number>;
}

/** What the log as it stands leaves open and breaks; musts between plays that are all fixed are not counted. */
function countsOf(model: StationModel, log: DailyLog): Counts {
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
