import type { RuleEvaluator } from '../../rules/evaluator.js';
import { EvenTurn } from '../turn/even.js';
import type { Turn } from '../turn/turn.js';
import type { Compiled } from './compile.js';
import { TagCosts } from './costs.js';
import type { Index } from '../../sequence/rule-context.js';
import type { Sequence } from '../../sequence/sequence.js';
import type { TagIndex } from '../../sequence/tag-index.js';

/** Levels of the objective, compared in this order: hard breaks, open slots, soft ranks, turn, rest. */
export const HARD = 0;
/** The level of open slots. */
export const OPEN = 1;
/** The level of the first soft rank. */
export const FIRST_SOFT = 2;

/**
 * The state of a search: which item stands where, with the score kept up to date level by level.
 * A position is always open while candidates for it are weighed.
 */
export class Assignment {
  readonly sequence: Sequence;
  readonly itemAt: Int32Array;
  readonly history: number;
  /** Soft ranks that occur, ascending. */
  readonly ranks: readonly number[];
  readonly levels: number;
  readonly turnLevel: number;
  readonly restLevel: number;
  /** The score by level. */
  readonly totals: Float64Array;
  /** What one unit of each level costs the search. */
  readonly weights: Float64Array;
  evaluations = 0;
  private readonly evaluators: readonly RuleEvaluator[];
  private readonly levelOf: Int32Array;
  private readonly turns: readonly Turn[];
  private readonly indexes: readonly Index[];
  private readonly tagCosts: readonly TagCosts[];
  private inHand = -1;
  private base = 0;
  /** The most that one item can take off the cost by what it brings. */
  mostCredit = 0;
  /** Turn orders that ask for one item above all others; `even` is not among them. */
  private readonly ordered: readonly Turn[];
  private orderedWeight = 0;
  private turnWeight = 0;
  private restWeight = 0;

  constructor(readonly compiled: Compiled) {
    this.sequence = compiled.sequence;
    this.itemAt = compiled.sequence.itemAt;
    this.history = compiled.sequence.history;
    this.evaluators = compiled.evaluators;
    this.turns = compiled.turns;
    this.ordered = compiled.turns.filter((turn) => !(turn instanceof EvenTurn));
    this.indexes = compiled.indexes;
    const soft = compiled.evaluators.filter((rule) => !rule.hard).map((rule) => rule.rank);
    this.ranks = [...new Set(soft)].sort((a, b) => a - b);
    this.levels = FIRST_SOFT + this.ranks.length + 2;
    this.turnLevel = this.levels - 2;
    this.restLevel = this.levels - 1;
    this.totals = new Float64Array(this.levels);
    this.weights = new Float64Array(this.levels);
    this.levelOf = Int32Array.from(this.evaluators, (rule) => (rule.hard ? HARD : this.levelOfRank(rule.rank)));
    this.tagCosts = costsByTag(this.evaluators);
    this.startFromFixed();
  }

  levelOfRank(rank: number): number {
    return FIRST_SOFT + this.ranks.indexOf(rank);
  }

  private startFromFixed(): void {
    const { compiled, sequence } = this;
    this.totals[OPEN] = compiled.instance.slots.length;
    this.evaluators.forEach((rule, r) => (this.totals[this.levelOf[r]!]! += rule.atStart()));
    for (let p = 0; p < this.history; p++) {
      const item = this.itemAt[p]!;
      this.itemAt[p] = -1;
      // Plays of history count in the spread, so the term begins with what they make of it.
      for (const turn of this.turns) this.totals[this.turnLevel]! += turn.add(p, item);
      if (sequence.hour[p]! >= sequence.hour[this.history]!) this.countInSlotHours(p, item);
      this.put(p, item);
    }
    compiled.locked.forEach((item, slot) => {
      if (item >= 0) this.place(this.history + slot, item);
    });
    for (const rule of this.evaluators) rule.settle();
    // Whatever fixed plays break among themselves is tolerated.
    this.totals[HARD] = 0;
  }

  /** Plays of history in an hour that has slots count towards what the hour asks for. */
  private countInSlotHours(p: number, item: number): void {
    this.evaluators.forEach((rule, r) => {
      if (!rule.hard) this.totals[this.levelOf[r]!]! += rule.add(p, item);
    });
  }

  /** Tells what one unit of each level costs; `ordered` is what orders other than even cost where turns cost nothing. */
  setWeights(weights: ArrayLike<number>, ordered = 0): void {
    this.weights.set(weights);
    this.orderedWeight = ordered;
    this.evaluators.forEach((rule, r) => (rule.weight = this.weights[this.levelOf[r]!]!));
    this.mostCredit = this.evaluators.reduce((sum, rule) => sum + rule.mostCredit * rule.weight, 0);
    this.turnWeight = this.weights[this.turnLevel]!;
    this.restWeight = this.weights[this.restLevel]!;
  }

  /** Changes what a hard break costs, for a while. */
  setHardWeight(weight: number): void {
    for (const rule of this.evaluators) if (rule.hard) rule.weight = weight;
  }

  /** Begins to weigh candidates for an open position; to be called again once anything has changed. */
  begin(p: number): void {
    this.inHand = p;
    let base = 0;
    for (let t = 0; t < this.tagCosts.length; t++) base += this.tagCosts[t]!.begin(p);
    this.base = base;
  }

  /**
   * The change of the weighted cost when an item is put into the position in hand; its being open is not in
   * it. Whatever comes to `limit` or more may be told short, but never below it.
   */
  costOf(item: number, limit = Number.POSITIVE_INFINITY): number {
    this.evaluations++;
    const { tagCosts, turns, inHand: p } = this;
    const enough = limit + this.mostCredit;
    let cost = this.base;
    for (let t = 0; t < tagCosts.length; t++) {
      cost += tagCosts[t]!.of(item);
      if (cost >= enough) return cost;
    }
    if (this.turnWeight === 0) {
      if (this.orderedWeight === 0) return cost;
      for (const turn of this.ordered) cost += turn.add(p, item) * this.orderedWeight;
      return cost;
    }
    for (let t = 0; t < turns.length; t++) {
      cost += turns[t]!.add(p, item) * this.turnWeight + turns[t]!.rest(p, item) * this.restWeight;
    }
    return cost;
  }

  /** The same for a blank. */
  costOfBlank(): number {
    const { inHand: p } = this;
    let cost = this.base;
    for (const rule of this.evaluators) {
      if (rule.mostCredit > 0 && rule.visible[p] === 1) cost += rule.addBlank(p) * rule.weight;
    }
    return cost;
  }

  /** Adds to `into` the change of every level when an item is put into an open position. */
  levelsOf(p: number, item: number, into: Float64Array, sign: 1 | -1): void {
    for (let r = 0; r < this.evaluators.length; r++) into[this.levelOf[r]!]! += sign * this.evaluators[r]!.add(p, item);
    for (const turn of this.turns) {
      into[this.turnLevel]! += sign * turn.add(p, item);
      into[this.restLevel]! += sign * turn.rest(p, item);
    }
    into[OPEN]! -= sign;
  }

  /** The change of what turn orders other than even cost when an item is put into an open position. */
  orderedCostOf(p: number, item: number): number {
    return this.ordered.reduce((sum, turn) => sum + turn.add(p, item), 0);
  }

  /** How many hard breaks an item put into an open position adds; stops at the first where none can take any away. */
  hardOf(p: number, item: number): number {
    this.evaluations++;
    let change = 0;
    const clean = this.totals[HARD] === 0;
    for (let r = 0; r < this.evaluators.length; r++) {
      const rule = this.evaluators[r]!;
      if (!rule.hard) continue;
      change += rule.add(p, item);
      if (clean && change > 0) return change;
    }
    return change;
  }

  place(p: number, item: number): void {
    this.levelsOf(p, item, this.totals, 1);
    this.put(p, item);
  }

  clear(p: number): number {
    const item = this.lift(p);
    this.levelsOf(p, item, this.totals, -1);
    return item;
  }

  /** Puts an item in without touching the score. */
  put(p: number, item: number): void {
    this.itemAt[p] = item;
    for (let i = 0; i < this.indexes.length; i++) this.indexes[i]!.insert(p, item);
  }

  /** Takes the item out without touching the score. */
  lift(p: number): number {
    const item = this.itemAt[p]!;
    this.itemAt[p] = -1;
    for (let i = 0; i < this.indexes.length; i++) this.indexes[i]!.remove(p, item);
    return item;
  }
}

/** Whether a score is better than another, level by level; the last two levels allow for rounding. */
export function isBetter(score: Float64Array, than: Float64Array): boolean {
  for (let level = 0; level < score.length; level++) {
    const difference = score[level]! - than[level]!;
    if (Math.abs(difference) > 1e-9) return difference < 0;
  }
  return false;
}

function costsByTag(evaluators: readonly RuleEvaluator[]): TagCosts[] {
  const byTag = new Map<TagIndex, TagCosts>();
  for (const rule of evaluators) {
    let costs = byTag.get(rule.tags);
    if (!costs) byTag.set(rule.tags, (costs = new TagCosts(rule.tags)));
    costs.addRule(rule);
  }
  // What can be forbidden outright comes first, so that the rest need not be looked at.
  return [...byTag.values()].sort((a, b) => Number(b.hasHard) - Number(a.hasHard));
}
