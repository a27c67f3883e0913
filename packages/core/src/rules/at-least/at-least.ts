import * as v from 'valibot';
import type { CellCounts } from '../../sequence/cell-counts.js';
import { hasValue, type TagIndex } from '../../sequence/tag-index.js';
import type { RuleContext } from '../../sequence/rule-context.js';
import { RuleEvaluator, type ReportViolation, type Supply } from '../evaluator.js';
import { count, ruleFields, type Shape } from '../shape.js';
import type { ClauseModel, ClauseRule } from '../clauses.js';
import { atLeastClauses } from './at-least-clauses.js';

const schema = v.object({
  ...ruleFields,
  strength: v.literal('soft', 'of shape atLeast must be soft'),
  shape: v.literal('atLeast'),
  value: v.optional(v.string()),
  count,
  window: v.optional(v.literal('hour', 'of shape atLeast must be hour'), 'hour'),
});
type AtLeast = v.InferOutput<typeof schema>;

/** The meaning of shape atLeast: how many plays an hour is short of. */
export function missingOf(plays: number, least: number): number {
  return Math.max(0, least - plays);
}

class AtLeastEvaluator extends RuleEvaluator {
  override readonly mostCredit;
  private readonly counts: CellCounts;
  readonly cell: Int32Array;
  /** By cell, the blanks: each may yet become a play of any value, so it counts as one of all. */
  private readonly blanks: Uint16Array;
  /** By cell, 1 where some slot of the hour is charged. */
  readonly asksIn: Uint8Array;
  private readonly lastOfHour: Int32Array;
  private readonly least: number;
  /** Values asked for; -1 for one that no item has. */
  private readonly wanted: readonly number[];

  constructor(rule: AtLeast, context: RuleContext) {
    super(rule, context);
    this.counts = context.hourCounts(rule.id, rule.tag);
    this.wanted =
      rule.value === undefined ? this.tags.names.map((_, value) => value) : [this.tags.numbers.get(rule.value) ?? -1];
    this.least = rule.count;
    this.mostCredit = rule.value === undefined ? mostValues(this.tags) : 1;
    const { cell, cells } = context.hours;
    this.cell = cell;
    this.blanks = new Uint16Array(cells);
    const { blank } = context.sequence;
    const tell = (p: number, item: number, by: number): void => {
      if (item === blank && this.visible[p] === 1) this.blanks[cell[p]!]! += by;
    };
    context.register({ insert: (p, item) => tell(p, item, 1), remove: (p, item) => tell(p, item, -1) });
    this.asksIn = new Uint8Array(cells);
    this.lastOfHour = new Int32Array(cells);
    for (let p = this.sequence.history; p < this.sequence.length; p++) {
      this.lastOfHour[cell[p]!] = p;
      if (this.charged[p] === 1) this.asksIn[cell[p]!] = 1;
    }
  }

  override addValue(p: number, value: number): number {
    const cell = this.cell[p]!;
    if (this.asksIn[cell] === 0) return 0;
    return missingOf(this.counts.get(value, cell) + this.blanks[cell]!, this.least) > 0 ? -1 : 0;
  }

  override addBlank(p: number): number {
    let change = 0;
    for (const value of this.wanted) if (value >= 0) change += this.addValue(p, value);
    return change;
  }

  override atStart(): number {
    return this.asksIn.reduce((sum, one) => sum + one, 0) * this.wanted.length * this.least;
  }

  /** An hour cannot have more plays of a value than slots in which an item having it may stand. */
  override shortOfSupply({ domains, locked }: Supply): number {
    const { history } = this.sequence;
    let short = 0;
    for (const value of this.wanted) {
      const could = new Int32Array(this.asksIn.length);
      const known = new Map<Int32Array, boolean>();
      domains.forEach((domain, s) => {
        if (this.visible[history + s] === 0) return;
        let has = known.get(domain);
        if (locked[s]! >= 0) has = hasValue(this.tags, locked[s]!, value);
        else if (has === undefined) known.set(domain, (has = domain.some((item) => hasValue(this.tags, item, value))));
        if (has) could[this.cell[history + s]!]!++;
      });
      could.forEach((count, cell) => {
        if (this.asksIn[cell] === 1) short += missingOf(count, this.least);
      });
    }
    return short;
  }

  protected override writeClauses(rule: ClauseRule, model: ClauseModel): void {
    atLeastClauses(rule, this.wanted, this.least, this, model);
  }

  override charge(q: number, report: ReportViolation): void {
    const cell = this.cell[q]!;
    if (cell < 0 || this.lastOfHour[cell] !== q || this.asksIn[cell] === 0) return;
    for (const value of this.wanted) {
      const missing = missingOf(value < 0 ? 0 : this.counts.get(value, cell), this.least);
      for (let one = 0; one < missing; one++) report(q, [], missing);
    }
  }

  override later(): number[] {
    return [];
  }
}

/** The most values any item has. */
function mostValues({ first }: TagIndex): number {
  let most = 0;
  for (let i = 1; i < first.length; i++) most = Math.max(most, first[i]! - first[i - 1]!);
  return most;
}

/** Shape atLeast: an hour has so many plays of a value. */
export const atLeast: Shape<AtLeast, typeof schema> = {
  schema,
  evaluator: (rule, context) => new AtLeastEvaluator(rule, context),
  loosened: () => [],
};
