import * as v from 'valibot';
import type { RuleContext } from '../../sequence/rule-context.js';
import { RuleEvaluator, type ReportViolation } from '../evaluator.js';
import { count, ruleFields, type Shape } from '../shape.js';
import type { ClauseModel, ClauseRule } from '../clauses.js';
import { streakClauses } from './streak-clauses.js';

const schema = v.object({
  ...ruleFields,
  shape: v.literal('streak'),
  value: v.optional(v.string()),
  max: v.pipe(count, v.minValue(1, 'must be at least 1')),
});
type Streak = v.InferOutput<typeof schema>;

/** The meaning of shape streak: whether a play at this place of its run, from 1, is one too many. */
export function isTooLong(placeInRun: number, max: number): boolean {
  return placeInRun > max;
}

class StreakEvaluator extends RuleEvaluator {
  private readonly max: number;

  constructor(rule: Streak, context: RuleContext) {
    super(rule, context);
    this.max = rule.max;
  }

  /** What coming between two plays parts, as if the item had none of their values. */
  override addNone(p: number): number {
    const left = this.view.filled.previous(p);
    const right = this.view.filled.next(p);
    if (left < 0 || right < 0) return 0;
    const { first, values } = this.tags;
    const item = this.sequence.itemAt[left]!;
    let change = 0;
    for (let k = first[item]!; k < first[item + 1]!; k++) {
      if (this.looksAt(values[k]!) && this.hasAt(right, values[k]!)) change += this.parted(left, right, values[k]!);
    }
    return change;
  }

  override addValue(p: number, value: number): number {
    const left = this.view.filled.previous(p);
    const right = this.view.filled.next(p);
    const change = this.joined(p, left, right, value);
    const sharedByBoth = left >= 0 && right >= 0 && this.hasAt(left, value) && this.hasAt(right, value);
    return sharedByBoth ? change - this.parted(left, right, value) : change;
  }

  /** The change when a play having the value comes between. */
  private joined(p: number, left: number, right: number, value: number): number {
    if (this.tolerates) return this.runViolations(left, right, value, p) - this.runViolations(left, right, value, -1);
    const { filled } = this.view;
    let before = 0;
    for (let q = left; q >= 0 && before < this.max && this.hasAt(q, value); q = filled.previous(q)) {
      before++;
    }
    if (isTooLong(before + 1, this.max)) return this.charged[p]!;
    // Of those after it, only the one that is pushed over the limit is new.
    let q = right;
    for (let after = this.max - before; q >= 0 && this.hasAt(q, value); q = filled.next(q)) {
      if (--after === 0) return this.charged[q]!;
    }
    return 0;
  }

  /** The change when a play without the value comes between two that have it. */
  private parted(left: number, right: number, value: number): number {
    if (this.tolerates) {
      return (
        this.runViolations(left, -1, value, -1) +
        this.runViolations(-1, right, value, -1) -
        this.runViolations(left, right, value, -1)
      );
    }
    const { filled } = this.view;
    let before = 0;
    for (let q = left; q >= 0 && before < this.max && this.hasAt(q, value); q = filled.previous(q)) {
      before++;
    }
    let change = 0;
    let after = 1;
    for (let q = right; q >= 0 && after <= this.max && this.hasAt(q, value); q = filled.next(q)) {
      if (isTooLong(before + after, this.max)) change -= this.charged[q]!;
      after++;
    }
    return change;
  }

  /** Breaks of a run that are not tolerated: its part up to left, then p, then its part from right; -1 leaves one out. */
  private runViolations(left: number, right: number, value: number, p: number): number {
    const { fixed } = this.sequence;
    const { filled } = this.view;
    let place = 0;
    let free = false;
    let breaks = 0;
    const step = (q: number): void => {
      place++;
      if (fixed[q] === 0) free = true;
      if (isTooLong(place, this.max) && free) breaks += this.charged[q]!;
    };
    let begin = -1;
    for (let q = left; q >= 0 && this.hasAt(q, value); q = filled.previous(q)) begin = q;
    for (let q = begin; q >= 0; q = q === left ? -1 : filled.next(q)) step(q);
    if (p >= 0) step(p);
    for (let q = right; q >= 0 && this.hasAt(q, value); q = filled.next(q)) step(q);
    return breaks;
  }

  protected override writeClauses(rule: ClauseRule, model: ClauseModel): void {
    streakClauses(rule, this.max, model);
  }

  override enoughOf(others: readonly number[], by: number): number {
    return others.length + 1 - by;
  }

  override charge(q: number, report: ReportViolation): void {
    if (this.charged[q] === 0) return;
    for (const value of this.valuesAt(q)) {
      const others: number[] = [];
      let before = this.view.filled.previous(q);
      while (before >= 0 && this.hasAt(before, value)) {
        others.push(before);
        before = this.view.filled.previous(before);
      }
      if (isTooLong(others.length + 1, this.max)) report(q, others.reverse(), others.length + 1 - this.max);
    }
  }

  override later(p: number): number[] {
    const found: number[] = [];
    const values = this.valuesAt(p);
    if (values.length === 0) return found;
    for (let q = this.view.filled.next(p); q >= 0; q = this.view.filled.next(q)) {
      if (!values.some((value) => this.hasAt(q, value))) break;
      found.push(q);
    }
    return found;
  }
}

/** Shape streak: no more than so many plays of a value in a row. */
export const streak: Shape<Streak, typeof schema> = {
  schema,
  evaluator: (rule, context) => new StreakEvaluator(rule, context),
  loosened: (rule) =>
    [1, 2, 4].map((more) => ({ to: { max: rule.max + more }, rule: { ...rule, max: rule.max + more } })),
};
