import type { RuleContext } from '../sequence/rule-context.js';
import type { Sequence } from '../sequence/sequence.js';
import { hasValue, type TagIndex } from '../sequence/tag-index.js';
import type { View } from '../sequence/view.js';
import type { ClauseModel, ClauseRule, Literal } from './clauses.js';

/** Told of one break: the position charged, the positions it is broken with, and by how much. */
export type ReportViolation = (charged: number, others: readonly number[], by: number) => void;

/** What every rule of an instance has. */
export interface RuleBase {
  readonly id: string;
  readonly tag: string;
  readonly value?: string | undefined;
  readonly strength: 'hard' | 'soft';
  readonly rank?: number | undefined;
}

/** Slots that draw from the same items. */
export interface RulePool {
  readonly items: Int32Array;
  /** Positions, ascending. */
  readonly slots: readonly number[];
}

/** What can stand where. */
export interface Supply {
  /** By slot, the items that may stand there. */
  readonly domains: readonly Int32Array[];
  /** Item of a locked slot, else -1. */
  readonly locked: Int32Array;
}

/** The rule looks at every value of its tag. */
const EVERY = -1;
const NO_VALUES: readonly number[] = [];
/** The rule looks at a value that no item has. */
const NONE = -2;

/**
 * One rule over the state of a search. `charge` is the meaning of the rule; `addNone` and
 * `addValue` are the same meaning as a difference, fast enough for the inner loop, where they
 * allocate nothing. A hard break between plays that are all fixed is tolerated: `charge` reports
 * it, the differences never count it.
 */
export abstract class RuleEvaluator {
  readonly id: string;
  readonly hard: boolean;
  readonly rank: number;
  readonly tags: TagIndex;
  readonly visible: Uint8Array;
  /** By position, 1 where a break can be charged. */
  readonly charged: Uint8Array;
  /** True where the breaks of an item's values add up; false where one play is one break at most. */
  readonly additive: boolean = true;
  /** By how many breaks one item can lower the count for the sake of its values. */
  readonly mostCredit: number = 0;
  /** What one break costs the search. */
  weight = 0;
  /** True when fixed plays break this hard rule among themselves. */
  protected tolerates = false;
  protected readonly sequence: Sequence;
  protected readonly view: View;
  private readonly only: number;
  /** By value, a list of it alone. */
  private readonly alone: (readonly number[])[] = [];

  constructor(rule: RuleBase, context: RuleContext) {
    this.id = rule.id;
    this.hard = rule.strength === 'hard';
    this.rank = rule.rank ?? 0;
    this.sequence = context.sequence;
    this.tags = context.tags(rule.tag);
    this.only = rule.value === undefined ? EVERY : (this.tags.numbers.get(rule.value) ?? NONE);
    this.view = context.view(rule.id);
    this.visible = this.view.visible;
    this.charged = context.charged(rule.id);
  }

  /** Whether the rule looks at a value. */
  looksAt(value: number): boolean {
    return this.only === EVERY || this.only === value;
  }

  /** Whether leaving plays out never adds a break, so that what a part of the log must break, the whole must. */
  isMonotone(pools: readonly RulePool[]): boolean {
    void pools;
    return false;
  }

  /** By how many breaks the count changes when any item is put into a visible, open position, its values aside. */
  addNone(p: number): number {
    void p;
    return 0;
  }

  /** By how many more for the sake of a value the rule looks at. */
  abstract addValue(p: number, value: number): number;

  /** By how many more for what a blank, which may become any play, makes good. */
  addBlank(p: number): number {
    void p;
    return 0;
  }

  /** By how many breaks the count changes when an item is put into an open position. */
  add(p: number, item: number): number {
    if (this.visible[p] === 0) return 0;
    const { first, values } = this.tags;
    let change = this.addNone(p);
    for (let k = first[item]!; k < first[item + 1]!; k++) {
      if (this.looksAt(values[k]!)) change += this.addValue(p, values[k]!);
    }
    return change;
  }

  /** Every break charged to a position as the state stands. */
  abstract charge(q: number, report: ReportViolation): void;

  /** The later positions whose charges a filled position may have a part in. */
  abstract later(p: number): readonly number[];

  /** The breaks of a log in which every slot stands open. */
  atStart(): number {
    return 0;
  }

  /** The least breaks that hours must have for want of candidates, whatever is chosen. */
  shortOfSupply(compiled: Supply): number {
    void compiled;
    return 0;
  }

  /** Tells a model when the rule is broken; `violation` makes a literal that costs a break, for plays that are `charged`. */
  clauses(model: ClauseModel, violation: () => Literal, charged = this.charged): void {
    const { hard, tags, visible } = this;
    const looksAt = (value: number): boolean => this.looksAt(value);
    this.writeClauses({ hard, tags, visible, charged, looksAt, violation }, model);
  }

  /** The meaning of the rule once more, in clauses. */
  protected abstract writeClauses(rule: ClauseRule, model: ClauseModel): void;

  /** Told once, when the fixed plays and nothing else are in place. */
  settle(): void {
    if (this.hard) this.everyViolation(() => (this.tolerates = true));
  }

  /** Every break, counted from scratch. */
  everyViolation(report: ReportViolation): void {
    for (let q = this.sequence.history; q < this.sequence.length; q++) this.charge(q, report);
  }

  /** Every break a filled position takes part in. */
  involving(p: number, report: ReportViolation): void {
    this.charge(p, report);
    for (const q of this.later(p)) {
      this.charge(q, (charged, others, by) => {
        if (others.includes(p)) report(charged, others, by);
      });
    }
  }

  /** How many of the plays a break is told with make it a break by themselves. */
  enoughOf(others: readonly number[], by: number): number {
    void [others, by];
    return 1;
  }

  /** The values of the play at a position that the rule looks at; none where it is exempt or open. */
  protected valuesAt(q: number): readonly number[] {
    const item = this.sequence.itemAt[q]!;
    if (item < 0 || this.visible[q] === 0) return NO_VALUES;
    const { first, values } = this.tags;
    const from = first[item]!;
    const to = first[item + 1]!;
    // Most plays have one value at most, and whole logs are looked through again and again.
    if (to - from > 1) return Array.from(values.subarray(from, to)).filter((value) => this.looksAt(value));
    const value = values[from]!;
    return to > from && this.looksAt(value) ? (this.alone[value] ??= [value]) : NO_VALUES;
  }

  protected hasAt(q: number, value: number): boolean {
    return hasValue(this.tags, this.sequence.itemAt[q]!, value);
  }
}
