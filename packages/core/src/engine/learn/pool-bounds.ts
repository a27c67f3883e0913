import type { RuleEvaluator } from '../../rules/evaluator.js';
import { FIRST_SOFT } from '../model/assignment.js';
import type { Search } from '../search/improve.js';
import { matters } from '../search/neighbourhoods.js';
import { CoreGuided } from './core-guided.js';
import { LogModel } from './log-model.js';

/** Conflicts one pool may take, and plays its model may have. */
const CONFLICTS = 400;
const MOST_PLAYS = 12_000;

/**
 * Raises the bounds of levels whose rules no play left out can break: each pool alone, with every other free slot open
 * and only rules that hold for parts of a log, is charged with no more breaks than in the whole log. The pools
 * have no slot in common, so what they must break adds up, to what fixed plays break among themselves as well. Only for
 * logs without open slots, of which no other pool could make use.
 */
export function raiseByPools(search: Search, end: number): void {
  const { assignment, incumbent, bounds } = search;
  const { compiled, history, itemAt } = assignment;
  incumbent.restore();
  if (search.free.some((p) => itemAt[p]! < 0 && compiled.domains[p - history]!.length > 0)) return;
  for (let level = FIRST_SOFT; level < end; level++) {
    if (bounds.isAt(incumbent.score, level)) continue;
    const isOf = (rule: RuleEvaluator): boolean => !rule.hard && assignment.levelOfRank(rule.rank) === level;
    if (compiled.evaluators.filter(isOf).every((rule) => rule.isMonotone(compiled.pools))) raiseLevel(search, level);
  }
}

function raiseLevel(search: Search, level: number): void {
  const { assignment, incumbent, bounds } = search;
  const { compiled, history, sequence } = assignment;
  const broken = new Map<number, number>();
  for (const { at } of matters(assignment, level)) {
    const pool = compiled.poolOf[at - history]!;
    if (sequence.fixed[at] === 0) broken.set(pool, (broken.get(pool) ?? 0) + 1);
  }
  let least = bounds.always(level);
  for (const [pool, breaks] of broken) least += leastOfPool(search, level, pool, breaks);
  bounds.raiseGiven(incumbent.score, level, least);
}

/** How often the slots of a pool must break a level, as far as a few conflicts tell. */
function leastOfPool(
  { assignment, incumbent, bounds, tick }: Search,
  level: number,
  pool: number,
  breaks: number,
): number {
  const { compiled, history, sequence } = assignment;
  const domain = (p: number): Int32Array => compiled.domains[p - history]!;
  const decided = compiled.pools[pool]!.slots.filter((p) => sequence.fixed[p] === 0 && domain(p).length > 0);
  if (decided.reduce((sum, p) => sum + domain(p).length, 0) > MOST_PLAYS) return 0;
  // What is not broken in a level above may not be broken here either.
  const isKeptAbove = (above: number): boolean =>
    above < level && incumbent.score[above]! <= bounds.always(above) + 0.5;
  const keeps = (rule: RuleEvaluator): boolean => {
    const its = rule.hard ? -1 : assignment.levelOfRank(rule.rank);
    return (its === -1 || its === level || isKeptAbove(its)) && rule.isMonotone(compiled.pools);
  };
  const model = new LogModel(assignment, { decided, domain, openings: false, keeps, alone: true });
  model.costs.forEach((literals, above) => above !== level && model.solver.atMost(literals, 0));
  model.solver.onConflicts = tick;
  const guided = new CoreGuided(model.solver, model.costs[level]!);
  guided.run(CONFLICTS, breaks);
  return guided.lower;
}
