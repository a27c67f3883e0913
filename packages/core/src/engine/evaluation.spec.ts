import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { randomInstance } from '../testing/random-instance.js';
import { recount } from '../testing/recount.js';
import type { Instance } from './instance.js';
import { Assignment, FIRST_SOFT, HARD, OPEN } from './model/assignment.js';
import { compile } from './model/compile.js';
import { findViolations, scoreOf } from './score.js';

const instances = randomInstance({ slots: 14, items: 8, history: 12 });
/** Each move: which slot, and which of its candidates, or which other slot. */
const moves = fc.array(
  fc.record({ slot: fc.nat(), other: fc.nat(), kind: fc.constantFrom('replace', 'open', 'exchange') }),
  { minLength: 5, maxLength: 40 },
);
type Move = { readonly slot: number; readonly other: number; readonly kind: string };

function apply(assignment: Assignment, { slot, other, kind }: Move): void {
  const { compiled, history, itemAt, sequence } = assignment;
  const free = [...compiled.locked.keys()].map((s) => history + s).filter((p) => sequence.fixed[p] === 0);
  if (free.length === 0) return;
  const p = free[slot % free.length]!;
  const q = free[other % free.length]!;
  if (kind === 'exchange') {
    const [a, b] = [itemAt[p]!, itemAt[q]!];
    if (p === q) return;
    if (a >= 0) assignment.clear(p);
    if (b >= 0) assignment.clear(q);
    if (b >= 0) assignment.place(p, b);
    if (a >= 0) assignment.place(q, a);
    return;
  }
  if (itemAt[p]! >= 0) assignment.clear(p);
  const domain = compiled.domains[p - history]!;
  if (kind === 'replace' && domain.length > 0) assignment.place(p, domain[other % domain.length]!);
}

function named({ compiled, history, itemAt }: Assignment): Record<string, string | null> {
  return Object.fromEntries(
    compiled.instance.slots.map((slot, s) => [
      slot.id,
      itemAt[history + s]! < 0 ? null : compiled.itemIds[itemAt[history + s]!]!,
    ]),
  );
}

function expectTotals(assignment: Assignment, instance: Instance): void {
  const counted = recount(instance, named(assignment));
  expect({ hard: assignment.totals[HARD], open: assignment.totals[OPEN] }).toEqual({
    hard: counted.hard,
    open: counted.open,
  });
  assignment.ranks.forEach((rank, i) =>
    expect([rank, assignment.totals[FIRST_SOFT + i]]).toEqual([rank, counted.soft[rank] ?? 0]),
  );
  expect(assignment.totals[assignment.turnLevel]).toBeCloseTo(counted.spread, 6);
  expect(assignment.totals[assignment.restLevel]).toBeCloseTo(counted.rest, 6);
}

describe('evaluation', () => {
  it('follows any sequence of moves exactly as a count from scratch', () => {
    fc.assert(
      fc.property(instances, moves, (instance, sequence) => {
        const assignment = new Assignment(compile(instance));
        expectTotals(assignment, instance);
        for (const move of sequence) {
          apply(assignment, move);
          expectTotals(assignment, instance);
        }
      }),
      { numRuns: 300 },
    );
  });

  it('lists the breaks and the score that a count from scratch finds', () => {
    fc.assert(
      fc.property(instances, moves, (instance, sequence) => {
        const assignment = new Assignment(compile(instance));
        for (const move of sequence) apply(assignment, move);
        const counted = recount(instance, named(assignment));
        const breaks = findViolations(assignment.compiled).map((found) => `${found.rule} ${found.slot}`);
        expect(breaks.sort()).toEqual(counted.breaks);
        const score = scoreOf(assignment.compiled);
        expect(score.open).toBe(counted.open);
        for (const [rank, breaks] of Object.entries(score.soft))
          expect([rank, breaks]).toEqual([rank, counted.soft[rank] ?? 0]);
        expect(score.spread).toBeCloseTo(counted.spread, 6);
        expect(score.rest).toBeCloseTo(counted.rest, 6);
      }),
      { numRuns: 150 },
    );
  });

  it('tells the cost of a candidate that placing it then has, and placing and clearing leave everything as it was', () => {
    fc.assert(
      fc.property(instances, moves, (instance, sequence) => {
        const assignment = new Assignment(compile(instance));
        assignment.setWeights(
          Float64Array.from({ length: assignment.levels }, (_, level) => (level === OPEN ? 0 : 1 + level * 7)),
        );
        for (const move of sequence) apply(assignment, move);
        const { history, itemAt, weights } = assignment;
        const total = (): number => assignment.totals.reduce((sum, one, level) => sum + one * weights[level]!, 0);
        for (let p = history; p < history + instance.slots.length; p++) {
          if (itemAt[p]! >= 0) continue;
          for (const item of assignment.compiled.domains[p - history]!) {
            const before = [...assignment.totals];
            assignment.begin(p);
            const cost = assignment.costOf(item);
            const was = total();
            assignment.place(p, item);
            expect(total() - was).toBeCloseTo(cost, 5);
            assignment.clear(p);
            assignment.totals.forEach((one, level) => expect(one).toBeCloseTo(before[level]!, 6));
          }
        }
      }),
      { numRuns: 150 },
    );
  });
});
