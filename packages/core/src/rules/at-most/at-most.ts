import * as v from 'valibot';
import type { CellCounts } from '../../sequence/cell-counts.js';
import { placeIn, type Occurrences } from '../../sequence/occurrences.js';
import type { RuleContext } from '../../sequence/rule-context.js';
import { RuleEvaluator, type ReportViolation } from '../evaluator.js';
import { count, ruleFields, seconds, type Shape } from '../shape.js';
import type { ClauseModel, ClauseRule } from '../clauses.js';
import { atMostClauses } from './at-most-clauses.js';

const schema = v.object({
  ...ruleFields,
  shape: v.literal('atMost'),
  value: v.optional(v.string()),
  count,
  window: v.union(
    [v.literal('hour'), v.pipe(seconds, v.minValue(1, 'must be more than nothing'))],
    'must be hour or seconds',
  ),
});
type AtMost = v.InferOutput<typeof schema>;

/** The meaning of shape atMost: whether the nth play inside its window is one too many. */
export function isOneTooMany(nth: number, most: number): boolean {
  return nth > most;
}

abstract class AtMostEvaluator extends RuleEvaluator {
  protected readonly most: number;
  private readonly span: number | 'hour';

  constructor(rule: AtMost, context: RuleContext) {
    super(rule, context);
    this.most = rule.count;
    this.span = rule.window;
  }

  /** The plays of a value inside the window of a position, before it. */
  protected abstract inside(q: number, value: number): number[];

  override isMonotone(): boolean {
    return true;
  }

  protected override writeClauses(rule: ClauseRule, model: ClauseModel): void {
    atMostClauses(rule, this.most, this.span, model);
  }

  override enoughOf(others: readonly number[], by: number): number {
    return others.length + 1 - by;
  }

  override charge(q: number, report: ReportViolation): void {
    if (this.charged[q] === 0) return;
    for (const value of this.valuesAt(q)) {
      const earlier = this.inside(q, value);
      const nth = earlier.length + 1;
      if (isOneTooMany(nth, this.most)) report(q, earlier, nth - this.most);
    }
  }
}

/** Any window, by walking the plays of a value that lie in it. */
class AtMostInWindow extends AtMostEvaluator {
  private readonly occurrences: Occurrences;
  /** Seconds; null for the hour of the log. */
  private readonly window: number | null;

  constructor(rule: AtMost, context: RuleContext) {
    super(rule, context);
    this.occurrences = context.occurrencesOf(rule.id, rule.tag);
    this.window = rule.window === 'hour' ? null : rule.window;
  }

  /** Whether an earlier play lies inside the window of a later one. */
  private inWindow(earlier: number, later: number): boolean {
    const { start, hour } = this.sequence;
    return this.window === null ? hour[earlier] === hour[later] : start[earlier]! > start[later]! - this.window;
  }

  override addValue(p: number, value: number): number {
    const list = this.occurrences.lists[value]!;
    const { fixed } = this.sequence;
    const place = placeIn(list, p);
    let low = place;
    while (low > 0 && this.inWindow(list[low - 1]!, p)) low--;
    let change = 0;
    if (isOneTooMany(place - low + 1, this.most) && !(this.tolerated(p) && this.allFixed(list, low, place - 1))) {
      change += this.charged[p]!;
    }
    // The window of each later play moves on; it is of interest while it still holds p.
    for (let j = place; j < list.length; j++) {
      const q = list[j]!;
      if (!this.inWindow(p, q)) break;
      while (!this.inWindow(list[low]!, q)) low++;
      const nth = j - low + 1;
      if (!isOneTooMany(nth + 1, this.most) || this.charged[q] === 0) continue;
      if (!this.tolerated(q)) {
        if (!isOneTooMany(nth, this.most)) change++;
      } else if (!(fixed[p] === 1 && this.allFixed(list, low, j))) {
        if (!isOneTooMany(nth, this.most) || this.allFixed(list, low, j)) change++;
      }
    }
    return change;
  }

  private tolerated(q: number): boolean {
    return this.hard && this.sequence.fixed[q] === 1;
  }

  private allFixed(list: readonly number[], from: number, to: number): boolean {
    for (let j = from; j <= to; j++) if (this.sequence.fixed[list[j]!] === 0) return false;
    return true;
  }

  protected override inside(q: number, value: number): number[] {
    const list = this.occurrences.lists[value]!;
    const place = placeIn(list, q);
    let low = place;
    while (low > 0 && this.inWindow(list[low - 1]!, q)) low--;
    return list.slice(low, place);
  }

  override later(p: number): number[] {
    const found = new Set<number>();
    for (const value of this.valuesAt(p)) {
      const list = this.occurrences.lists[value]!;
      for (let j = placeIn(list, p) + 1; j < list.length && this.inWindow(p, list[j]!); j++) found.add(list[j]!);
    }
    return [...found];
  }
}

/** By hour and with nothing to tolerate: a counter in place of a walk. */
class AtMostAnHour extends AtMostEvaluator {
  private readonly counts: CellCounts;
  private readonly cell: Int32Array;

  constructor(rule: AtMost, context: RuleContext) {
    super(rule, context);
    this.cell = context.hours.cell;
    this.counts = context.hourCounts(rule.id, rule.tag);
  }

  override addValue(p: number, value: number): number {
    // History, placed before any slot, takes its part of the hour and is never charged.
    if (this.charged[p] === 0) return 0;
    return isOneTooMany(this.counts.get(value, this.cell[p]!) + 1, this.most) ? 1 : 0;
  }

  protected override inside(q: number, value: number): number[] {
    const found: number[] = [];
    for (let p = q - 1; p >= 0 && this.sequence.hour[p] === this.sequence.hour[q]; p--) {
      if (this.sequence.itemAt[p]! >= 0 && this.visible[p] === 1 && this.hasAt(p, value)) found.push(p);
    }
    return found.reverse();
  }

  override later(p: number): number[] {
    const found: number[] = [];
    const { hour, itemAt, length } = this.sequence;
    for (let q = p + 1; q < length && hour[q] === hour[p]; q++) if (itemAt[q]! >= 0) found.push(q);
    return found;
  }
}

/** Shape atMost: an hour, or any stretch of so many seconds, has no more than so many plays of a value. */
export const atMost: Shape<AtMost, typeof schema> = {
  schema,
  evaluator: (rule, context) => {
    const plain =
      rule.window === 'hour' &&
      !context.parts.slots.some(
        (slot) => slot.uncharged?.includes(rule.id) || (rule.strength === 'hard' && slot.locked),
      );
    return plain ? new AtMostAnHour(rule, context) : new AtMostInWindow(rule, context);
  },
  loosened: (rule) =>
    [1, 2, 4].map((more) => ({ to: { count: rule.count + more }, rule: { ...rule, count: rule.count + more } })),
};
