import { describe, expect, it } from '@jest/globals';
import { Random } from '../random.js';
import { Solver } from './solver.js';
import { holds, load, models, randomFormula } from '../../testing/random-formula.js';
import type { Literal } from '../../rules/clauses.js';

describe('the solver against every assignment', () => {
  it('finds a model exactly where there is one, with and without assumptions; cores are enough and true', () => {
    const random = new Random(7);
    let refutedByAssumptions = 0;
    for (let round = 0; round < 30000; round++) {
      const formula = randomFormula(random);
      const known = models(formula);
      const solver = load(formula, new Solver());
      for (let again = 0; again < 3; again++) {
        const assumed = Array.from(
          { length: again * 2 },
          () => 2 * (1 + random.below(formula.variables)) + random.below(2),
        );
        const possible = known.filter((values) => assumed.every((literal) => holds(literal, values)));
        const outcome = solver.solve(assumed, 100_000);
        expect(outcome).toBe(possible.length > 0 ? 'satisfiable' : 'refuted');
        if (outcome === 'satisfiable') {
          const found = Array.from(solver.model).reduce(
            (sum, one, v) => (v > 0 && one ? sum | (1 << (v - 1)) : sum),
            0,
          );
          expect(possible).toContain(found);
        } else if (known.length > 0) {
          refutedByAssumptions++;
          const { core } = solver;
          expect(core.every((literal) => assumed.includes(literal))).toBe(true);
          expect(known.some((values) => core.every((literal) => holds(literal, values)))).toBe(false);
        } else expect(solver.core).toEqual([]);
      }
    }
    expect(refutedByAssumptions).toBeGreaterThan(300);
  });

  it('learns only what propagation alone confirms', () => {
    const random = new Random(11);
    let learnt = 0;
    for (let round = 0; round < 3000; round++) {
      const formula = randomFormula(random);
      const checked: Literal[][] = [];
      const solver = load(formula, new Solver());
      solver.onLearn = (clause) => checked.push([...clause]);
      solver.solve([], 100_000);
      checked.forEach((clause, i) => {
        // Everything known before it, and that none of it holds: this must fail without a single decision.
        const twin = load(formula, new Solver());
        for (const before of checked.slice(0, i)) twin.clause(...before);
        for (const literal of clause) twin.clause(literal ^ 1);
        expect(twin.consistent).toBe(false);
        learnt++;
      });
    }
    expect(learnt).toBeGreaterThan(300);
  });

  it('gives the same model and the same conflicts every time', () => {
    const formula = randomFormula(new Random(3));
    const run = (): unknown => {
      const solver = load(formula, new Solver());
      return [solver.solve([], 1000), [...solver.model], solver.conflicts, solver.propagations];
    };
    expect(run()).toEqual(run());
  });
});

/** Pigeons in holes, one fewer than pigeons. */
function pigeonhole(pigeons: number): Solver {
  const solver = new Solver();
  const holes = pigeons - 1;
  const at = Array.from({ length: pigeons }, () => Array.from({ length: holes }, () => solver.fresh()));
  for (const one of at) solver.longClause(one);
  for (let hole = 0; hole < holes; hole++)
    for (let a = 0; a < pigeons; a++) for (let b = 0; b < a; b++) solver.clause(at[a]![hole]! ^ 1, at[b]![hole]! ^ 1);
  return solver;
}

/** That an odd number of literals holds in one half and an even one in the other, of the same variables: hard to refute. */
function parity(size: number): Solver {
  const solver = new Solver();
  const bits = Array.from({ length: size }, () => solver.fresh());
  const sumOf = (order: readonly Literal[]): Literal =>
    order.reduce((sum, bit) => {
      const next = solver.fresh();
      solver.clause(next ^ 1, sum, bit);
      solver.clause(next ^ 1, sum ^ 1, bit ^ 1);
      solver.clause(next, sum ^ 1, bit);
      solver.clause(next, sum, bit ^ 1);
      return next;
    });
  const random = new Random(5);
  const shuffled = [...bits];
  for (let i = size - 1; i > 0; i--) {
    const j = random.below(i + 1);
    [shuffled[i], shuffled[j]] = [shuffled[j]!, shuffled[i]!];
  }
  solver.clause(sumOf(bits));
  solver.clause(sumOf(shuffled) ^ 1);
  return solver;
}

describe('the solver on what is known to be hard', () => {
  it('refutes more pigeons than holes', () => {
    const solver = pigeonhole(7);
    expect(solver.solve([], 100_000)).toBe('refuted');
    expect(solver.conflicts).toBeGreaterThan(50);
  });

  it('keeps to its budget of conflicts and goes on where it stopped', () => {
    const solver = parity(24);
    expect(solver.solve([], 300)).toBe('unknown');
    expect(solver.conflicts).toBe(300);
    const small = parity(9);
    let rounds = 1;
    while (small.solve([], 50) === 'unknown') rounds++;
    expect(small.consistent).toBe(false);
    expect(rounds).toBeGreaterThan(1);
  });

  it('stays right after thousands of learnt clauses were dropped', () => {
    const solver = pigeonhole(9);
    const free = solver.fresh();
    expect(solver.solve([free], 200_000)).toBe('refuted');
    expect(solver.conflicts).toBeGreaterThan(2500);
  });
});
