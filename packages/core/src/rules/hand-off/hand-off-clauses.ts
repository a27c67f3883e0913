import {
  ALWAYS,
  both,
  either,
  NEVER,
  neighbourhood,
  type ClauseModel,
  type ClauseRule,
  type Literal,
} from '../clauses.js';

/** Shape handOff in clauses: whether the last play before a position has `from` goes with it down the log. */
export function handOffClauses(rule: ClauseRule, from: number, to: number, model: ClauseModel): void {
  if (from < 0 || to < 0) return;
  let came: Literal = NEVER;
  // The same by a play that is not fixed: fixed plays that an open slot brings together are tolerated.
  let cameFree: Literal = NEVER;
  for (const p of neighbourhood(rule, model, 1)) {
    const values = model.values(p, rule.tags);
    const follows = values.get(to) ?? NEVER;
    const fixed = model.sequence.fixed[p] === 1;
    const meets = rule.hard && fixed ? cameFree : came;
    const stands = !model.decides(p) && !rule.hard && came === ALWAYS;
    if (rule.charged[p] === 1 && meets !== NEVER && follows !== NEVER && !stands)
      model.clause(meets ^ 1, follows ^ 1, rule.violation());
    const plays = values.get(from) ?? NEVER;
    const open = model.open(p);
    came = either(model, plays, both(model, open, came));
    cameFree = either(model, fixed ? NEVER : plays, both(model, open, cameFree));
  }
}
