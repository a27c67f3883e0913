import { OPEN, type Assignment } from '../model/assignment.js';
import type { Random } from '../random.js';

/** The deepest window. */
export const MOST_FREE = 64;

/** Larger domains are cut down: so many are weighed at most, so many of those tried. */
const WHOLE = 64;
const SAMPLE = 40;
const MOST_WEIGHED = 300;
/** The slot is left open. */
const OPENED = -1;
/** The slot is not decided. */
const UNSET = -2;

/**
 * Solves a window exactly, as far as its budget goes: the slots in it are freed and filled anew by
 * branch and bound, everything else stays. Freed slots hold a blank, which has no values, so that
 * putting an item in costs the more the more others are in; the least cost of each slot in the
 * all-blank window therefore bounds what it will cost in the end.
 */
export class WindowSearch {
  private free: readonly number[] = [];
  /** By depth and slot of the window: the candidates left, what each costs at least, and the least of those. */
  private readonly left: Candidates[][] = Array.from({ length: MOST_FREE + 1 }, () =>
    Array.from({ length: MOST_FREE }, () => ({ items: [], costs: [], least: 0 })),
  );
  private readonly chosen = new Int32Array(MOST_FREE).fill(UNSET);
  private readonly best = new Int32Array(MOST_FREE);
  private target = 0;
  private gain = 0;
  /** By slot, how often it could not be filled: such slots are decided early (dom/wdeg of Boussemart and others, 2004). */
  private readonly failures: Float64Array;
  private found = false;
  private limit = 0;
  /** Whether the last search ran out of its budget. */
  spent = false;
  /** Whether it looked at a sample of some domains alone. */
  sampled = false;

  constructor(
    private readonly assignment: Assignment,
    private readonly random: Random,
  ) {
    this.failures = new Float64Array(assignment.sequence.length).fill(1);
  }

  /** Whether the last search saw every assignment of the window that could be better. */
  get complete(): boolean {
    return !this.spent && !this.sampled;
  }

  /**
   * Looks for an assignment of the slots (ascending positions) that costs less than the present one by more than
   * `gain`; leaves the assignment with it, or as it was. Spends about `budget` evaluations at most.
   */
  improve(free: readonly number[], gain: number, budget: number): boolean {
    const { assignment } = this;
    const { itemAt } = assignment;
    const before = free.map((p) => itemAt[p]!);
    const was = this.blankOut(free);
    this.search(free, was - gain, gain, budget);
    // The blanks give way to what was found, or to what was.
    for (const p of free) assignment.lift(p);
    const change = new Float64Array(assignment.levels);
    if (this.found) {
      before.forEach((item, i) => item >= 0 && assignment.put(free[i]!, item));
      before.forEach((item, i) => {
        if (item < 0) return;
        assignment.lift(free[i]!);
        assignment.levelsOf(free[i]!, item, change, -1);
      });
      free.forEach((p, i) => {
        if (this.best[i]! < 0) return;
        assignment.levelsOf(p, this.best[i]!, change, 1);
        assignment.put(p, this.best[i]!);
      });
      change.forEach((by, level) => (assignment.totals[level]! += by));
    } else {
      before.forEach((item, i) => item >= 0 && assignment.put(free[i]!, item));
    }
    return this.found;
  }

  /**
   * Whether the slots of a window, which must hold blanks, can be filled with fewer than `open` of them left open; true
   * as well where the budget does not suffice to tell.
   */
  canImprove(free: readonly number[], open: number, budget: number): boolean {
    const weight = this.assignment.weights[OPEN]!;
    return this.search(free, (open - 0.5) * weight, weight / 2, budget) || !this.complete;
  }

  /** Puts blanks into the window; the cost of what stood there, against the blanks. */
  private blankOut(free: readonly number[]): number {
    const { assignment } = this;
    const { itemAt, sequence, weights } = assignment;
    let cost = 0;
    for (const p of free) {
      const item = itemAt[p]!;
      if (item >= 0) assignment.lift(p);
      assignment.begin(p);
      if (item >= 0) cost += assignment.costOf(item);
      else cost += weights[OPEN]!;
      cost -= assignment.costOfBlank();
      assignment.put(p, sequence.blank);
    }
    return cost;
  }

  private search(free: readonly number[], target: number, gain: number, budget: number): boolean {
    this.free = free;
    this.target = target;
    this.gain = gain;
    this.found = false;
    this.limit = this.assignment.evaluations + budget;
    this.spent = false;
    this.sampled = false;
    this.chosen.fill(UNSET);
    free.forEach((p, i) => {
      const all = this.left[0]![i]!;
      all.items = this.candidates(p);
      all.least = Number.NEGATIVE_INFINITY;
    });
    this.branch(0, 0);
    return this.found;
  }

  /** The domain of a slot; where that is large, what of it could be part of anything better, or the cheapest of that. */
  private candidates(p: number): number[] {
    const { assignment, random } = this;
    const domain = assignment.compiled.domains[p - assignment.history]!;
    if (domain.length <= WHOLE) return [...domain, OPENED];
    const { blank } = assignment.sequence;
    assignment.lift(p);
    assignment.begin(p);
    const limit = this.target + assignment.costOfBlank();
    const weighed: { item: number; cost: number }[] = [];
    const from = random.below(domain.length);
    const count = Math.min(domain.length, MOST_WEIGHED);
    for (let i = 0; i < count; i++) {
      const item = domain[(from + i) % domain.length]!;
      const cost = assignment.costOf(item, limit);
      if (cost < limit) weighed.push({ item, cost });
    }
    assignment.put(p, blank);
    if (count < domain.length || weighed.length > WHOLE) {
      this.sampled = true;
      weighed.sort((a, b) => a.cost - b.cost);
      weighed.length = Math.min(weighed.length, SAMPLE);
    }
    return [...weighed.map((one) => one.item), OPENED];
  }

  private branch(depth: number, cost: number): void {
    const { assignment, free, chosen } = this;
    if (depth === free.length) {
      this.target = this.gain > 0 ? cost - this.gain : cost;
      this.found = true;
      this.best.set(chosen);
      return;
    }
    if (assignment.evaluations > this.limit) {
      this.spent = true;
      return;
    }
    const next = this.narrow(depth, cost);
    if (next < 0) return;
    const p = free[next]!;
    const { items, costs, least } = this.left[depth + 1]![next]!;
    const rest = this.sum - least;
    const order = this.sorted(depth, items, costs);
    assignment.lift(p);
    for (const k of order) {
      if (cost + costs[k]! + rest >= this.target) break;
      chosen[next] = items[k]!;
      if (items[k]! >= 0) assignment.put(p, items[k]!);
      this.branch(depth + 1, cost + costs[k]!);
      if (items[k]! >= 0) assignment.lift(p);
      if (this.spent) break;
    }
    chosen[next] = UNSET;
    assignment.put(p, assignment.sequence.blank);
  }

  private readonly orders: number[][] = Array.from({ length: MOST_FREE }, () => []);
  private sum = 0;

  private sorted(depth: number, items: readonly number[], costs: readonly number[]): number[] {
    const order = this.orders[depth]!;
    order.length = items.length;
    for (let k = 0; k < items.length; k++) order[k] = k;
    return order.sort((a, b) => costs[a]! - costs[b]! || a - b);
  }

  /**
   * Forward checking: weighs again what is left for every slot not yet filled and drops what cannot be part of
   * anything better. Leaves the sum of the least costs in `sum`; answers the slot with the fewest left, -1 when
   * the branch is dead.
   */
  private narrow(depth: number, cost: number): number {
    const { assignment, free, chosen } = this;
    const { sequence, weights } = assignment;
    const blank = sequence.blank;
    let sum = 0;
    for (let i = 0; i < free.length; i++) if (chosen[i] === UNSET) sum += this.left[depth]![i]!.least;
    if (sum === Number.NEGATIVE_INFINITY) sum = Number.NaN;
    let next = -1;
    let smallest = Number.POSITIVE_INFINITY;
    for (let i = 0; i < free.length; i++) {
      if (chosen[i] !== UNSET) continue;
      const from = this.left[depth]![i]!;
      const to = this.left[depth + 1]![i]!;
      to.items.length = 0;
      to.costs.length = 0;
      const room = Number.isNaN(sum) ? Number.POSITIVE_INFINITY : this.target - cost - (sum - from.least);
      assignment.lift(free[i]!);
      assignment.begin(free[i]!);
      const nothing = assignment.costOfBlank();
      let least = Number.POSITIVE_INFINITY;
      for (const item of from.items) {
        const change = (item === OPENED ? weights[OPEN]! : assignment.costOf(item, room + nothing)) - nothing;
        if (change >= room) continue;
        to.items.push(item);
        to.costs.push(change);
        if (change < least) least = change;
      }
      assignment.put(free[i]!, blank);
      if (to.items.length === 0) {
        this.failures[free[i]!]!++;
        return -1;
      }
      if (!Number.isNaN(sum)) sum += least - from.least;
      to.least = least;
      const size = to.items.length / this.failures[free[i]!]!;
      if (size < smallest) {
        smallest = size;
        next = i;
      }
    }
    this.sum = 0;
    for (let i = 0; i < free.length; i++) if (chosen[i] === UNSET) this.sum += this.left[depth + 1]![i]!.least;
    return cost + this.sum >= this.target ? -1 : next;
  }
}

interface Candidates {
  items: number[];
  costs: number[];
  least: number;
}
