import * as v from 'valibot';
import type { RuleContext } from '../../sequence/rule-context.js';
import { hasValue } from '../../sequence/tag-index.js';
import { RuleEvaluator, type ReportViolation } from '../evaluator.js';
import { ruleFields, type Shape } from '../shape.js';
import type { ClauseModel, ClauseRule } from '../clauses.js';
import { handOffClauses } from './hand-off-clauses.js';

const schema = v.object({ ...ruleFields, shape: v.literal('handOff'), from: v.string(), to: v.string() });
type HandOff = v.InferOutput<typeof schema>;

class HandOffEvaluator extends RuleEvaluator {
  private readonly from: number;
  private readonly to: number;

  constructor(rule: HandOff, context: RuleContext) {
    super({ ...rule, value: undefined }, context);
    this.from = this.tags.numbers.get(rule.from) ?? -1;
    this.to = this.tags.numbers.get(rule.to) ?? -1;
  }

  override looksAt(value: number): boolean {
    return value === this.from || value === this.to;
  }

  /** The meaning of shape handOff: a play having `to` comes straight after one having `from`. */
  private meets(earlierItem: number, laterItem: number): boolean {
    return hasValue(this.tags, earlierItem, this.from) && hasValue(this.tags, laterItem, this.to);
  }

  override addNone(p: number): number {
    const { itemAt } = this.sequence;
    const left = this.view.filled.previous(p);
    const right = this.view.filled.next(p);
    return left >= 0 && right >= 0 && this.meets(itemAt[left]!, itemAt[right]!) ? -this.counts(left, right) : 0;
  }

  override addValue(p: number, value: number): number {
    const left = this.view.filled.previous(p);
    const right = this.view.filled.next(p);
    let change = 0;
    if (value === this.to && left >= 0 && this.hasAt(left, this.from)) change += this.counts(left, p);
    if (value === this.from && right >= 0 && this.hasAt(right, this.to)) change += this.counts(p, right);
    return change;
  }

  private counts(earlier: number, later: number): number {
    const { fixed } = this.sequence;
    return this.hard && fixed[earlier] === 1 && fixed[later] === 1 ? 0 : this.charged[later]!;
  }

  protected override writeClauses(rule: ClauseRule, model: ClauseModel): void {
    handOffClauses(rule, this.from, this.to, model);
  }

  override charge(q: number, report: ReportViolation): void {
    const { itemAt } = this.sequence;
    if (itemAt[q]! < 0 || this.charged[q] === 0) return;
    const before = this.view.filled.previous(q);
    if (before >= 0 && this.meets(itemAt[before]!, itemAt[q]!)) report(q, [before], 1);
  }

  override later(p: number): number[] {
    const next = this.visible[p] === 1 ? this.view.filled.next(p) : -1;
    return next >= 0 ? [next] : [];
  }
}

/** Shape handOff: a play of one value does not come straight after one of another. */
export const handOff: Shape<HandOff, typeof schema> = {
  schema,
  evaluator: (rule, context) => new HandOffEvaluator(rule, context),
  loosened: () => [{ to: { resting: true }, rule: null }],
};
