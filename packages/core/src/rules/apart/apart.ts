import * as v from 'valibot';
import { placeIn, type Occurrences } from '../../sequence/occurrences.js';
import type { RuleContext } from '../../sequence/rule-context.js';
import { hasValue, type TagIndex } from '../../sequence/tag-index.js';
import { RuleEvaluator, type RulePool, type ReportViolation } from '../evaluator.js';
import { ruleFields, seconds, type Shape } from '../shape.js';
import type { ClauseModel, ClauseRule } from '../clauses.js';
import { apartClauses } from './apart-clauses.js';

const schema = v.object({
  ...ruleFields,
  shape: v.literal('apart'),
  value: v.optional(v.string()),
  seconds,
  secondsByPool: v.optional(v.record(v.string(), seconds)),
  /** Asked of the play in one slot, before what its pool asks. */
  secondsBySlot: v.optional(v.record(v.string(), seconds)),
});
type Apart = v.InferOutput<typeof schema>;

/**
 * The meaning of shape apart: by how many seconds a later play comes too soon after the end of the
 * last one that shares a value. Zero or less when it is far enough.
 */
export function tooSoonBy(earlierEnd: number, laterStart: number, asked: number): number {
  return asked - (laterStart - earlierEnd);
}

class ApartEvaluator extends RuleEvaluator {
  override readonly additive = false;
  private readonly occurrences: Occurrences;
  private readonly asked: Int32Array;

  constructor(rule: Apart, context: RuleContext) {
    super(rule, context);
    const { parts, sequence } = context;
    this.occurrences = context.occurrencesOf(rule.id, rule.tag);
    this.asked = new Int32Array(sequence.length).fill(rule.seconds);
    parts.slots.forEach((slot, s) => {
      this.asked[sequence.history + s] =
        rule.secondsBySlot?.[slot.id] ?? rule.secondsByPool?.[slot.pool] ?? rule.seconds;
    });
  }

  /** Exact for items of one value; `add` puts several together. */
  override addValue(p: number, value: number): number {
    const list = this.occurrences.lists[value]!;
    const place = placeIn(list, p);
    const before = place > 0 ? list[place - 1]! : -1;
    let change = before >= 0 && this.counts(p, before, this.endOf(before)) ? 1 : 0;
    if (place < list.length) change += this.addToLater(list[place]!, p, before, value);
    return change;
  }

  /** The change for the next play of the value, which may be charged already on account of another value. */
  private addToLater(q: number, p: number, before: number, value: number): number {
    const { first } = this.tags;
    const itemQ = this.sequence.itemAt[q]!;
    const end = this.sequence.start[p]! + this.length;
    if (first[itemQ + 1]! - first[itemQ]! === 1) {
      const was = before >= 0 && this.counts(q, before, this.endOf(before)) ? 1 : 0;
      return (this.counts(q, p, end) ? 1 : 0) - was;
    }
    return this.chargeOfMany(q, p, (one) => one === value) - this.chargeOfMany(q, -1, () => false);
  }

  /** Length of the item being put in; seconds. */
  private length = 0;

  override add(p: number, item: number): number {
    if (this.visible[p] === 0) return 0;
    this.length = this.sequence.duration[item]!;
    const { first, values } = this.tags;
    const from = first[item]!;
    const to = first[item + 1]!;
    if (to - from === 1) return this.looksAt(values[from]!) ? this.addValue(p, values[from]!) : 0;
    let change = 0;
    let broken = false;
    for (let k = from; k < to; k++) {
      if (!this.looksAt(values[k]!)) continue;
      const list = this.occurrences.lists[values[k]!]!;
      const place = placeIn(list, p);
      const before = place > 0 ? list[place - 1]! : -1;
      if (!broken && before >= 0 && this.counts(p, before, this.endOf(before))) broken = true;
      if (place === list.length || this.metBefore(list[place]!, p, from, k)) continue;
      const q = list[place]!;
      change +=
        this.chargeOfMany(q, p, (one) => hasValue(this.tags, item, one)) - this.chargeOfMany(q, -1, () => false);
    }
    return broken ? change + 1 : change;
  }

  /** Whether q has already been looked at by way of an earlier value of the item. */
  private metBefore(q: number, p: number, from: number, k: number): boolean {
    for (let j = from; j < k; j++) {
      if (!this.looksAt(this.tags.values[j]!)) continue;
      const list = this.occurrences.lists[this.tags.values[j]!]!;
      if (list[placeIn(list, p)] === q) return true;
    }
    return false;
  }

  /** 1 when any value of the play at q comes too soon, as if a play with some of its values stood at p as well (-1: none). */
  private chargeOfMany(q: number, p: number, shared: (value: number) => boolean): number {
    const { first, values } = this.tags;
    const itemQ = this.sequence.itemAt[q]!;
    for (let k = first[itemQ]!; k < first[itemQ + 1]!; k++) {
      if (!this.looksAt(values[k]!)) continue;
      const list = this.occurrences.lists[values[k]!]!;
      const place = placeIn(list, q);
      let before = place > 0 ? list[place - 1]! : -1;
      let end = before >= 0 ? this.endOf(before) : 0;
      if (p > before && shared(values[k]!)) {
        before = p;
        end = this.sequence.start[p]! + this.length;
      }
      if (before >= 0 && this.counts(q, before, end)) return 1;
    }
    return 0;
  }

  private counts(later: number, earlier: number, earlierEnd: number): boolean {
    const { start, fixed } = this.sequence;
    return (
      tooSoonBy(earlierEnd, start[later]!, this.asked[later]!) > 0 &&
      this.charged[later] === 1 &&
      !(this.hard && fixed[later] === 1 && fixed[earlier] === 1)
    );
  }

  private endOf(p: number): number {
    const { start, duration, itemAt } = this.sequence;
    return start[p]! + duration[itemAt[p]!]!;
  }

  /**
   * Where plays of a value end in the order of their starts, what stands between two is nearer to the later than the
   * first. They do where its items are equally long, or play in one pool whose slots are farther apart than they differ.
   */
  override isMonotone(pools: readonly RulePool[]): boolean {
    const { start, duration, history } = this.sequence;
    const ranges = rangesOf(this.tags, duration);
    if (ranges.size === 0) return true;
    const met = new Set<number>();
    for (const { items, slots } of pools) {
      if (slots.length === 0) continue;
      let gap = history > 0 ? start[slots[0]!]! - start[history - 1]! : Number.POSITIVE_INFINITY;
      for (let i = 1; i < slots.length; i++) gap = Math.min(gap, start[slots[i]!]! - start[slots[i - 1]!]!);
      const own = new Set<number>();
      for (const item of items) for (const value of this.valuesOf(item)) if (ranges.has(value)) own.add(value);
      for (const value of own) {
        if (met.has(value) || ranges.get(value)! > gap) return false;
        met.add(value);
      }
    }
    return true;
  }

  private valuesOf(item: number): Int32Array {
    return this.tags.values.subarray(this.tags.first[item], this.tags.first[item + 1]);
  }

  protected override writeClauses(rule: ClauseRule, model: ClauseModel): void {
    apartClauses(rule, this.asked, model);
  }

  override charge(q: number, report: ReportViolation): void {
    if (this.charged[q] === 0) return;
    let clashes: { other: number; by: number }[] | null = null;
    for (const value of this.valuesAt(q)) {
      const list = this.occurrences.lists[value]!;
      const place = placeIn(list, q);
      if (place === 0) continue;
      const other = list[place - 1]!;
      const by = tooSoonBy(this.endOf(other), this.sequence.start[q]!, this.asked[q]!);
      if (by <= 0) continue;
      clashes ??= [];
      if (!clashes.some((clash) => clash.other === other)) clashes.push({ other, by });
    }
    clashes?.sort((a, b) => b.by - a.by);
    if (clashes)
      report(
        q,
        clashes.map((clash) => clash.other),
        clashes[0]!.by,
      );
  }

  override later(p: number): number[] {
    const found = new Set<number>();
    for (const value of this.valuesAt(p)) {
      const list = this.occurrences.lists[value]!;
      const next = list[placeIn(list, p) + 1];
      if (next !== undefined) found.add(next);
    }
    return [...found];
  }
}

/** Items are compiled again and again with other slots; their lengths stay the same. */
const lengthRanges = new WeakMap<TagIndex, ReadonlyMap<number, number>>();

/** By value of which not all items are equally long, by how many seconds they differ. */
function rangesOf(tags: TagIndex, duration: Int32Array): ReadonlyMap<number, number> {
  let known = lengthRanges.get(tags);
  if (!known) lengthRanges.set(tags, (known = measureRanges(tags, duration)));
  return known;
}

function measureRanges({ names, first, values }: TagIndex, duration: Int32Array): ReadonlyMap<number, number> {
  const shortest = new Int32Array(names.length).fill(-1);
  const longest = new Int32Array(names.length);
  for (let item = 0; item + 1 < first.length; item++) {
    for (let k = first[item]!; k < first[item + 1]!; k++) {
      const value = values[k]!;
      if (shortest[value]! < 0 || duration[item]! < shortest[value]!) shortest[value] = duration[item]!;
      longest[value] = Math.max(longest[value]!, duration[item]!);
    }
  }
  const ranges = new Map<number, number>();
  longest.forEach((one, value) => one > shortest[value]! && ranges.set(value, one - shortest[value]!));
  return ranges;
}

/** Shape apart: plays that share a value are so many seconds apart. */
export const apart: Shape<Apart, typeof schema> = {
  schema,
  evaluator: (rule, context) => new ApartEvaluator(rule, context),
  loosened: (rule) =>
    [0.9, 0.75, 0.5, 0.25, 0].map((share) => {
      const kept = Math.floor(rule.seconds * share);
      const milder = (one: number): number => Math.floor(one * share);
      const byPool = rule.secondsByPool && mapValues(rule.secondsByPool, milder);
      const bySlot = rule.secondsBySlot && mapValues(rule.secondsBySlot, milder);
      return {
        to: { seconds: kept },
        rule: {
          ...rule,
          seconds: kept,
          ...(byPool && { secondsByPool: byPool }),
          ...(bySlot && { secondsBySlot: bySlot }),
        },
      };
    }),
};

function mapValues(
  record: Readonly<Record<string, number>>,
  change: (value: number) => number,
): Record<string, number> {
  return Object.fromEntries(Object.entries(record).map(([key, value]) => [key, change(value)]));
}
