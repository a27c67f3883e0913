import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { randomInstance } from '../../testing/random-instance.js';
import { recount } from '../../testing/recount.js';
import type { Instance } from '../instance.js';
import { Assignment, FIRST_SOFT, OPEN } from '../model/assignment.js';
import { compile } from '../model/compile.js';
import { Random } from '../random.js';
import { LogModel } from './log-model.js';

const instances = randomInstance({ slots: 9, items: 7, history: 8 });

/** What the model says of one filling of the slots it decides: null where it forbids it, else what each level costs. */
function told(
  instance: Instance,
  start: ReadonlyMap<number, number>,
  filling: ReadonlyMap<number, number>,
  open: boolean,
) {
  const assignment = stand(instance, start);
  const { compiled, history } = assignment;
  const decided = [...filling.keys()];
  const model = new LogModel(assignment, {
    decided,
    domain: (p) => compiled.domains[p - history]!,
    openings: open,
    keeps: () => true,
  });
  const assumed = decided.flatMap((p) => {
    const literal = model.literalOf(p, filling.get(p)!);
    return literal === undefined ? [] : [literal];
  });
  for (const level of model.costs) for (const literal of level) model.solver.lean(literal ^ 1);
  const outcome = model.solver.solve(assumed, 10_000);
  if (outcome !== 'satisfiable') return null;
  const costs = model.costs.map((level) => level.filter((literal) => model.solver.model[literal >> 1] === 1).length);
  return costs;
}

function stand(instance: Instance, items: ReadonlyMap<number, number>): Assignment {
  const assignment = new Assignment(compile(instance));
  for (const [p, item] of items) if (item >= 0) assignment.place(p, item);
  return assignment;
}

function counted(instance: Instance, items: ReadonlyMap<number, number>) {
  const { compiled, history, itemAt, ranks } = stand(instance, items);
  const named = Object.fromEntries(
    instance.slots.map(({ id }, s) => [id, itemAt[history + s]! < 0 ? null : compiled.itemIds[itemAt[history + s]!]!]),
  );
  const { hard, open, soft } = recount(instance, named);
  return { hard, levels: [open, ...ranks.map((rank) => soft[rank] ?? 0)] };
}

describe('the model of a log', () => {
  it.each([true, false])(
    'forbids what breaks a hard rule and counts the rest as a recount does (openings: %s)',
    (open) => {
      let allowed = 0;
      let forbidden = 0;
      fc.assert(
        fc.property(instances, fc.nat(), (instance, seed) => {
          const random = new Random(seed);
          const { compiled, history, sequence } = new Assignment(compile(instance));
          const free = instance.slots.map((_, s) => history + s).filter((p) => sequence.fixed[p] === 0);
          const choose = (p: number): number => {
            const domain = compiled.domains[p - history]!;
            if (domain.length === 0 || (open && random.below(4) === 0)) return -1;
            return domain[random.below(domain.length)]!;
          };
          // Some free slots stand as they are and are not decided.
          const start = new Map(free.map((p) => [p, choose(p)]));
          const decided = free.filter(() => random.below(3) > 0);
          if (decided.length === 0 || counted(instance, start).hard > 0) return;
          const offsets = new Set<string>();
          for (let again = 0; again < 5; again++) {
            const filling = new Map(decided.map((p) => [p, again === 0 ? start.get(p)! : choose(p)]));
            if (!open && decided.some((p) => filling.get(p)! < 0 && compiled.domains[p - history]!.length > 0))
              continue;
            const truth = counted(instance, new Map([...start, ...filling]));
            const costs = told(instance, start, filling, open);
            if (costs) {
              allowed++;
              expect(truth.hard).toBe(0);
            } else {
              forbidden++;
              expect(truth.hard).toBeGreaterThan(0);
              continue;
            }
            const model = [open ? costs[OPEN]! : 0, ...costs.slice(FIRST_SOFT, FIRST_SOFT + truth.levels.length - 1)];
            if (!open) truth.levels[0] = 0;
            offsets.add(truth.levels.map((one, level) => one - model[level]!).join(' '));
          }
          // What the model leaves out is the same whatever it decides.
          expect(offsets.size).toBeLessThanOrEqual(1);
        }),
        { numRuns: 1200 },
      );
      expect(allowed).toBeGreaterThan(1000);
      expect(forbidden).toBeGreaterThan(40);
    },
  );
});
