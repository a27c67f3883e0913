import type { RuleEvaluator } from '../../rules/evaluator.js';
import type { TagIndex } from '../../sequence/tag-index.js';

/**
 * The rules of one tag, with what each value would cost at the position in hand remembered, so that
 * many candidates for one slot share the work.
 */
export class TagCosts {
  private readonly additive: RuleEvaluator[] = [];
  private readonly single: RuleEvaluator[] = [];
  private readonly cost: Float64Array;
  private readonly stamp: Int32Array;
  private now = 0;
  private p = -1;

  constructor(private readonly tags: TagIndex) {
    this.cost = new Float64Array(tags.names.length);
    this.stamp = new Int32Array(tags.names.length);
  }

  hasHard = false;

  addRule(rule: RuleEvaluator): void {
    this.hasHard ||= rule.hard;
    (rule.additive ? this.additive : this.single).push(rule);
  }

  /** Begins with a position: what any item costs there, its values aside. */
  begin(p: number): number {
    this.now++;
    this.p = p;
    let cost = 0;
    for (const rule of this.additive) {
      if (rule.visible[p] === 0) continue;
      const change = rule.addNone(p);
      if (change !== 0) cost += change * rule.weight;
    }
    return cost;
  }

  /** What the values of an item cost at the position in hand. */
  of(item: number): number {
    const { first, values } = this.tags;
    const from = first[item]!;
    const to = first[item + 1]!;
    if (to - from === 1 && this.single.length === 0) {
      const value = values[from]!;
      if (this.stamp[value] !== this.now) this.weigh(value);
      return this.cost[value]!;
    }
    let cost = 0;
    for (let k = from; k < to; k++) {
      const value = values[k]!;
      if (this.stamp[value] !== this.now) this.weigh(value);
      cost += this.cost[value]!;
    }
    for (const rule of this.single) {
      const change = rule.add(this.p, item);
      if (change !== 0) cost += change * rule.weight;
    }
    return cost;
  }

  private weigh(value: number): void {
    this.stamp[value] = this.now;
    let cost = 0;
    for (const rule of this.additive) {
      if (rule.visible[this.p] === 0 || !rule.looksAt(value)) continue;
      const change = rule.addValue(this.p, value);
      if (change !== 0) cost += change * rule.weight;
    }
    this.cost[value] = cost;
  }
}
