import { type ClauseModel, type ClauseRule, type Literal } from '../clauses.js';

/** Shape atLeast in clauses: by hour and value, a break for each play missing. `cell` numbers the hours that have slots. */
export function atLeastClauses(
  rule: ClauseRule,
  wanted: readonly number[],
  least: number,
  hours: { readonly cell: Int32Array; readonly asksIn: Uint8Array },
  model: ClauseModel,
): void {
  const positions: number[][] = Array.from(hours.asksIn, () => []);
  for (let p = 0; p < model.sequence.length; p++) {
    const cell = hours.cell[p]!;
    if (cell >= 0 && rule.visible[p] === 1) positions[cell]!.push(p);
  }
  positions.forEach((hour, cell) => {
    if (hours.asksIn[cell] === 0 || !hour.some((p) => model.decides(p))) return;
    for (const value of wanted) {
      const plays = hour.flatMap((p): Literal[] => {
        const literal = model.values(p, rule.tags).get(value);
        return literal === undefined ? [] : [literal];
      });
      const missing = plays.map((literal) => literal ^ 1);
      // Fewer than j play when more than all but j do not.
      for (let j = 1; j <= Math.min(least, plays.length); j++) {
        model.atMost(missing, plays.length - j, rule.violation());
      }
    }
  });
}
