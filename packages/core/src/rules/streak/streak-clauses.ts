import { ALWAYS, both, either, neighbourhood, NEVER, seenPositions, violationsAt } from '../clauses.js';
import type { ClauseModel, ClauseRule, Literal } from '../clauses.js';

/** Shape streak in clauses: no `max` + 1 plays in a row; where that is not enough, lengths of runs go down the log. */
export function streakClauses(rule: ClauseRule, max: number, model: ClauseModel): void {
  const { history, length } = model.sequence;
  // A hard break among plays that stand is one as soon as a decided play joins it, however far back.
  const reachesBack = rule.hard && rule.charged.subarray(history, length).includes(0);
  if (model.hasOpenings || reachesBack) wholeRuns(rule, max, model);
  else plainRuns(rule, max, model);
}

function plainRuns(rule: ClauseRule, max: number, model: ClauseModel): void {
  const violationAt = violationsAt(rule, model);
  const positions = neighbourhood(rule, model, max);
  for (let i = max; i < positions.length; i++) {
    const p = positions[i]!;
    if (rule.charged[p] === 0) continue;
    const run = positions.slice(i - max, i + 1);
    if (!run.some((q) => model.decides(q))) continue;
    for (const value of model.values(p, rule.tags).keys()) {
      if (!rule.looksAt(value)) continue;
      const plays = run.map((q) => model.values(q, rule.tags).get(value) ?? NEVER);
      if (plays.includes(NEVER)) continue;
      model.clause(...plays.map((literal) => literal ^ 1), violationAt(p));
    }
  }
}

/** What is known of the run of a value that a position follows. */
interface Run {
  /** That it has 1, 2 … max plays. */
  readonly lengths: readonly Literal[];
  /** That one of its plays is not fixed: fixed plays that open slots bring together are tolerated. */
  readonly free: Literal;
}

const NO_RUN: Run = { lengths: [], free: NEVER };

function wholeRuns(rule: ClauseRule, max: number, model: ClauseModel): void {
  const violationAt = violationsAt(rule, model);
  let runs = new Map<number, Run>();
  // A run of fixed plays is tolerated as a whole, so all of it is looked at.
  const positions = rule.hard ? seenPositions(rule, model, 0, model.sequence.length) : neighbourhood(rule, model, max);
  for (const p of positions) {
    const values = model.values(p, rule.tags);
    const fixed = model.sequence.fixed[p] === 1;
    const next = new Map<number, Run>();
    for (const value of new Set([...runs.keys(), ...values.keys()])) {
      if (!rule.looksAt(value)) continue;
      const plays = values.get(value) ?? NEVER;
      const run = runs.get(value) ?? NO_RUN;
      const full = run.lengths[max - 1] ?? NEVER;
      const stands = rule.hard ? fixed && run.free === NEVER : !model.decides(p) && full === ALWAYS;
      if (rule.charged[p] === 1 && plays !== NEVER && full !== NEVER && !stands) {
        const counts = rule.hard && fixed ? [run.free ^ 1] : [];
        model.clause(plays ^ 1, full ^ 1, ...counts, violationAt(p));
      }
      const longer = longerRun(model, p, plays, run, max);
      if (longer.lengths.length > 0) next.set(value, longer);
    }
    runs = next;
  }
}

function longerRun(model: ClauseModel, p: number, plays: Literal, run: Run, max: number): Run {
  const open = model.open(p);
  const lengths: Literal[] = [];
  for (let k = 0; k < max; k++) {
    const longer = k === 0 ? plays : both(model, plays, run.lengths[k - 1] ?? NEVER);
    const length = either(model, longer, both(model, open, run.lengths[k] ?? NEVER));
    if (length === NEVER) break;
    lengths.push(length);
  }
  // A fixed play is never open, and goes on with what came before it.
  const goesOn = both(model, model.sequence.fixed[p] === 1 ? plays : open, run.free);
  if (model.sequence.fixed[p] === 1) return { lengths, free: goesOn };
  // Free as soon as it has this play, or by what it had before.
  return { lengths, free: either(model, plays, goesOn) };
}
