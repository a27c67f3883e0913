import * as v from 'valibot';
import { CellCounts } from '../../sequence/cell-counts.js';
import { placeIn, type Occurrences } from '../../sequence/occurrences.js';
import type { Index, RuleContext } from '../../sequence/rule-context.js';
import { RuleEvaluator, type ReportViolation } from '../evaluator.js';
import { count, ruleFields, type Shape } from '../shape.js';
import type { ClauseModel, ClauseRule } from '../clauses.js';
import { otherHourClauses } from './other-hour-clauses.js';
import { isSameHourWithin } from './same-hour.js';

const schema = v.object({
  ...ruleFields,
  shape: v.literal('otherHour'),
  value: v.optional(v.string()),
  days: v.pipe(count, v.minValue(1, 'must be at least 1'), v.maxValue(366, 'is more than a year')),
});
type OtherHour = v.InferOutput<typeof schema>;

const HOURS = 24;

class OtherHourEvaluator extends RuleEvaluator implements Index {
  private readonly occurrences: Occurrences;
  private readonly days: number;
  private readonly firstDay: number;
  private readonly lastDay: number;
  /** Plays by (value, day and hour of day): all; those charged; those free; those charged and free. */
  private readonly all: CellCounts;
  private readonly chargedOf: CellCounts;
  private readonly freeOf: CellCounts | null;
  private readonly chargedFreeOf: CellCounts | null;

  constructor(rule: OtherHour, context: RuleContext) {
    super(rule, context);
    const { sequence } = context;
    this.occurrences = context.occurrencesOf(rule.id, rule.tag);
    this.days = rule.days;
    let [first, last] = [Number.MAX_SAFE_INTEGER, 0];
    for (let p = sequence.history; p < sequence.length; p++) {
      first = Math.min(first, sequence.day[p]!);
      last = Math.max(last, sequence.day[p]!);
    }
    this.firstDay = Math.min(first, last) - rule.days;
    this.lastDay = last;
    const cells = (this.lastDay - this.firstDay + 1) * HOURS;
    const make = (): CellCounts => new CellCounts(this.tags.names.length, cells);
    this.all = make();
    this.chargedOf = make();
    const asksWho = this.hard && context.parts.slots.some((slot) => slot.locked !== undefined);
    this.freeOf = asksWho ? make() : null;
    this.chargedFreeOf = asksWho ? make() : null;
    context.register(this);
  }

  insert(p: number, item: number): void {
    this.tell(p, item, 1);
  }

  remove(p: number, item: number): void {
    this.tell(p, item, -1);
  }

  private tell(p: number, item: number, by: number): void {
    if (this.visible[p] === 0 || this.sequence.day[p]! < this.firstDay) return;
    const cell = this.cellOf(this.sequence.day[p]!, p);
    const free = this.sequence.fixed[p] === 0;
    const charged = this.charged[p] === 1;
    const { first, values } = this.tags;
    for (let k = first[item]!; k < first[item + 1]!; k++) {
      this.all.add(values[k]!, cell, by);
      if (charged) this.chargedOf.add(values[k]!, cell, by);
      if (free) this.freeOf?.add(values[k]!, cell, by);
      if (free && charged) this.chargedFreeOf?.add(values[k]!, cell, by);
    }
  }

  private cellOf(day: number, p: number): number {
    return (day - this.firstDay) * HOURS + this.sequence.hourOfDay[p]!;
  }

  override addValue(p: number, value: number): number {
    const day = this.sequence.day[p]!;
    return this.freeOf ? this.addAsking(p, day, value) : this.addPlain(p, day, value);
  }

  private addPlain(p: number, day: number, value: number): number {
    let change = this.any(this.all, value, day, p) ? this.charged[p]! : 0;
    if (this.all.get(value, this.cellOf(day, p)) > 0) return change;
    for (let later = day + 1; later <= day + this.days && later <= this.lastDay; later++) {
      const charged = this.chargedOf.get(value, this.cellOf(later, p));
      if (charged > 0 && !this.any(this.all, value, later, p)) change += charged;
    }
    return change;
  }

  /** As `addPlain`, where breaks between fixed plays are tolerated: locked plays mind free ones alone. */
  private addAsking(p: number, day: number, value: number): number {
    const free = this.sequence.fixed[p] === 0;
    const met = free ? this.all : this.freeOf!;
    let change = this.any(met, value, day, p) ? this.charged[p]! : 0;
    const cell = this.cellOf(day, p);
    for (let later = day + 1; later <= day + this.days && later <= this.lastDay; later++) {
      const there = this.cellOf(later, p);
      const charged = this.chargedOf.get(value, there);
      if (charged === 0) continue;
      const chargedFree = this.chargedFreeOf!.get(value, there);
      if (this.all.get(value, cell) === 0 && !this.any(this.all, value, later, p)) change += chargedFree;
      if (free && this.freeOf!.get(value, cell) === 0 && !this.any(this.freeOf!, value, later, p)) {
        change += charged - chargedFree;
      }
    }
    return change;
  }

  /** Whether the value played in the hour of p on any of the days before a day. */
  private any(counts: CellCounts, value: number, day: number, p: number): boolean {
    for (let earlier = day - 1; earlier >= day - this.days; earlier--) {
      if (earlier >= this.firstDay && counts.get(value, this.cellOf(earlier, p)) > 0) return true;
    }
    return false;
  }

  private isLater(earlier: number, later: number): boolean {
    const { day, hourOfDay } = this.sequence;
    return isSameHourWithin(this.days, day[earlier]!, hourOfDay[earlier]!, day[later]!, hourOfDay[later]!);
  }

  override isMonotone(): boolean {
    return true;
  }

  protected override writeClauses(rule: ClauseRule, model: ClauseModel): void {
    otherHourClauses(rule, this.days, model);
  }

  override charge(q: number, report: ReportViolation): void {
    if (this.charged[q] === 0) return;
    for (const value of this.valuesAt(q)) {
      const list = this.occurrences.lists[value]!;
      const others: number[] = [];
      for (let j = placeIn(list, q) - 1; j >= 0; j--) {
        if (this.sequence.day[list[j]!]! < this.sequence.day[q]! - this.days) break;
        if (this.isLater(list[j]!, q)) others.push(list[j]!);
      }
      if (others.length > 0) report(q, others, 1);
    }
  }

  override later(p: number): number[] {
    const found = new Set<number>();
    for (const value of this.valuesAt(p)) {
      const list = this.occurrences.lists[value]!;
      for (let j = placeIn(list, p) + 1; j < list.length; j++) if (this.isLater(p, list[j]!)) found.add(list[j]!);
    }
    return [...found];
  }
}

/** Shape otherHour: a value leaves the hour of the day it played in for so many days. */
export const otherHour: Shape<OtherHour, typeof schema> = {
  schema,
  evaluator: (rule, context) => new OtherHourEvaluator(rule, context),
  loosened: (rule) => {
    const fewer = { to: { days: rule.days - 1 }, rule: { ...rule, days: rule.days - 1 } };
    const resting = { to: { resting: true }, rule: null };
    return rule.days > 1 ? [fewer, resting] : [resting];
  },
};
