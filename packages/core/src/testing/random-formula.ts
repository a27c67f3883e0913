import type { Random } from '../engine/random.js';
import type { Solver } from '../engine/learn/solver.js';
import { NEVER, type Literal } from '../rules/clauses.js';

/** Clauses, counting constraints and separations over variables from 1 on; the solver keeps 0. */
export interface Formula {
  readonly variables: number;
  readonly clauses: Literal[][];
  readonly counts: { literals: Literal[]; most: number; ways: Literal[] }[];
  readonly separations: { literals: Literal[]; reach: number[]; unless: Literal[] }[];
}

/** A formula of up to eight variables near the border of what can be kept. */
export function randomFormula(random: Random): Formula {
  const variables = 4 + random.below(5);
  const literal = (): Literal => 2 * (1 + random.below(variables)) + random.below(2);
  const different = (count: number): Literal[] => {
    const chosen = new Set<number>();
    while (chosen.size < Math.min(count, variables)) chosen.add(1 + random.below(variables));
    return [...chosen].map((variable) => 2 * variable + random.below(2));
  };
  const times = <T>(count: number, make: () => T): T[] => Array.from({ length: count }, make);
  return {
    variables,
    clauses: times(random.below(3 * variables), () => different(1 + random.below(5))),
    counts: times(random.below(4), () => {
      const literals = different(2 + random.below(5));
      return { literals, most: random.below(literals.length), ways: times(random.below(3), literal) };
    }),
    separations: times(random.below(3), () => {
      const literals = different(3 + random.below(5));
      let last = 0;
      const reach = literals.map((_, i) => (last = Math.min(literals.length, Math.max(last, i + 1 + random.below(4)))));
      return { literals, reach, unless: literals.map(() => (random.below(2) === 0 ? NEVER : literal())) };
    }),
  };
}

/** Whether a literal holds where bit v - 1 of `values` is variable v. */
export function holds(literal: Literal, values: number): boolean {
  if (literal < 2) return literal === 0;
  return ((values >> ((literal >> 1) - 1)) & 1) === 1 - (literal & 1);
}

function isKept(formula: Formula, values: number): boolean {
  const on = (literal: Literal): boolean => holds(literal, values);
  return (
    formula.clauses.every((clause) => clause.some(on)) &&
    formula.counts.every(({ literals, most, ways }) => literals.filter(on).length <= most || ways.some(on)) &&
    formula.separations.every(({ literals, reach, unless }) =>
      literals.every((later, j) =>
        literals.every((earlier, i) => !(i < j && j < reach[i]! && on(earlier) && on(later)) || on(unless[j]!)),
      ),
    )
  );
}

/** Gives a formula to a solver that has no variables yet. */
export function load(formula: Formula, solver: Solver): Solver {
  while (solver.variables <= formula.variables) solver.fresh();
  for (const clause of formula.clauses) solver.clause(...clause);
  for (const { literals, most, ways } of formula.counts) solver.atMost(literals, most, ...ways);
  for (const { literals, reach, unless } of formula.separations) solver.separate(literals, reach, unless);
  return solver;
}

/** Every assignment that keeps a formula. */
export const models = (formula: Formula): number[] =>
  Array.from({ length: 1 << formula.variables }, (_, values) => values).filter((values) => isKept(formula, values));
