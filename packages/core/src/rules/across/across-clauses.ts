import { seenPositions, type ClauseModel, type ClauseRule, type Literal } from '../clauses.js';

/** Shape across in clauses: what may not stand where, and for a wish what a break costs, once for a play. */
export function acrossClauses(
  rule: ClauseRule,
  model: ClauseModel,
  isNear: (p: number, item: number) => boolean,
): void {
  for (const p of seenPositions(rule, model, model.from, model.to)) {
    if (rule.charged[p] === 0 || !model.decides(p)) continue;
    let violation: Literal | null = null;
    const told = new Set<Literal>();
    for (const value of model.values(p, rule.tags).keys()) {
      if (!rule.looksAt(value)) continue;
      for (const { item, literal } of model.items(p, rule.tags, value)) {
        if (told.has(literal) || !isNear(p, item)) continue;
        told.add(literal);
        violation ??= rule.violation();
        model.clause(literal ^ 1, violation);
      }
    }
  }
}
