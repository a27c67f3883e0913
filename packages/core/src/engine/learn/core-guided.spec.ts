import { describe, expect, it } from '@jest/globals';
import { holds, load, models, randomFormula } from '../../testing/random-formula.js';
import { Random } from '../random.js';
import { CoreGuided } from './core-guided.js';
import { Solver } from './solver.js';

describe('the least cost by cores', () => {
  it('is what trying every assignment finds, and stays possible once it is settled', () => {
    const random = new Random(19);
    let met = 0;
    for (let round = 0; round < 1500; round++) {
      const formula = randomFormula(random);
      const known = models(formula);
      const costs = Array.from({ length: formula.variables }, (_, v) => 2 * (v + 1) + random.below(2));
      const costOf = (values: number): number => costs.filter((literal) => holds(literal, values)).length;
      const solver = load(formula, new Solver());
      const guided = new CoreGuided(solver, costs);
      const outcome = guided.run(100_000, costs.length + 1);
      if (known.length === 0) {
        expect(outcome).toBe('impossible');
        continue;
      }
      const least = Math.min(...known.map(costOf));
      expect([outcome, guided.lower]).toEqual(['known', least]);
      if (least > 1) met++;
      guided.settle();
      expect(solver.solve([], 100_000)).toBe('satisfiable');
      const found = Array.from(solver.model).reduce((sum, one, v) => (v > 0 && one ? sum | (1 << (v - 1)) : sum), 0);
      expect(costOf(found & ((1 << formula.variables) - 1))).toBe(least);
    }
    expect(met).toBeGreaterThan(200);
  });

  it('says what it knows when its budget ends, goes on from there, and stops where a known solution is as good', () => {
    const random = new Random(23);
    let stopped = 0;
    for (let round = 0; round < 300; round++) {
      const formula = randomFormula(random);
      const known = models(formula);
      if (known.length === 0) continue;
      const costs = Array.from({ length: formula.variables }, (_, v) => 2 * (v + 1) + random.below(2));
      const least = Math.min(...known.map((values) => costs.filter((literal) => holds(literal, values)).length));
      const guided = new CoreGuided(load(formula, new Solver()), costs);
      for (let steps = 0; guided.run(1, least) === 'unknown' && steps < 1000; steps++) {
        expect(guided.lower).toBeLessThanOrEqual(least);
        stopped++;
      }
      expect(guided.lower).toBe(least);
    }
    expect(stopped).toBeGreaterThan(50);
  });
});
