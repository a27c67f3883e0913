import {
  placesByValue,
  seenPositions,
  violationsAt,
  type ClauseModel,
  type ClauseRule,
  type Literal,
} from '../clauses.js';
import { isSameHourWithin } from './same-hour.js';

/** Shape otherHour in clauses: a play, and an earlier one in the same hour of the day, make a break. */
export function otherHourClauses(rule: ClauseRule, days: number, model: ClauseModel): void {
  const { sequence } = model;
  const { day, hourOfDay } = sequence;
  const first = day[model.from]! - days;
  let begin = model.from;
  while (begin > 0 && day[begin - 1]! >= first) begin--;
  let end = model.to;
  while (end < sequence.length && day[end]! <= day[model.to - 1]! + days) end++;
  const violationAt = violationsAt(rule, model);
  const positions = seenPositions(rule, model, begin, end);
  for (const [value, places] of placesByValue(rule, model, positions)) {
    const literalAt = (p: number): Literal => model.values(p, rule.tags).get(value)!;
    places.forEach((p, i) => {
      if (rule.charged[p] === 0) return;
      const earlier = places
        .slice(0, i)
        .filter((q) => isSameHourWithin(days, day[q]!, hourOfDay[q]!, day[p]!, hourOfDay[p]!));
      const undecided = earlier.filter((q) => !model.decides(q));
      // Broken by what stands already; of fixed plays alone nothing is said.
      if (undecided.length > 0 && !rule.hard && !model.decides(p)) return;
      const matters = model.decides(p) ? earlier : earlier.filter((q) => model.decides(q));
      if (matters.length === 0) return;
      const violation = violationAt(p);
      if (undecided.length > 0 && model.decides(p)) model.clause(literalAt(p) ^ 1, violation);
      else for (const q of matters) model.clause(literalAt(q) ^ 1, literalAt(p) ^ 1, violation);
    });
  }
}
