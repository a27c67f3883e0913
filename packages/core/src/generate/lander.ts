import { elementAt, lookUpIn } from '../values/look-up.js';
import { FIRST_SOFT, HARD, type Assignment } from '../engine/model/assignment.js';

/** At most this share of a category, from the head of its turn order, is looked at, so that rests stay even. */
const HEAD_SHARE = 0.25;
const LEAST_HEAD = 8;
const ROUNDING = 1e-9;

/** Looks for the change that comes nearest a mark and breaks no rule. */
export class Lander {
  /** Positions and the items they are to have; none while nothing comes nearer. */
  best: readonly (readonly [number, number])[] = [];
  /** How far off the mark that would then be, milliseconds. */
  off: number;

  constructor(
    private readonly assignment: Assignment,
    /** By item, the time it takes until the next one begins, milliseconds. */
    private readonly lengths: Float64Array,
    private readonly overMs: number,
  ) {
    this.off = Math.abs(overMs);
  }

  /** Another item of the category that has played no more, or so many times more. */
  tryReplacing(p: number, more: number, of: 'head' | 'any' = 'head'): void {
    const { assignment } = this;
    const { compiled, history } = assignment;
    const domain = elementAt(compiled.domains, p - history);
    const held = assignment.clear(p);
    const plays = compiled.plays.countOf(held) + more;
    const nearer = this.nearer(domain, held).filter((item) => item !== held && compiled.plays.countOf(item) <= plays);
    const found = nearer.length === 0 ? undefined : this.firstAllowed(p, held, nearer, of === 'any' ? null : domain);
    assignment.place(p, held);
    if (found === undefined) return;
    this.off = this.offWith(found, held);
    this.best = [[p, found]];
  }

  /** Those of some items that would bring the mark nearer than anything yet, nearest first. */
  private nearer(items: Int32Array, held: number): number[] {
    const found: { readonly item: number; readonly off: number }[] = [];
    for (const item of items) {
      const off = this.offWith(item, held);
      if (off < this.off) found.push({ item, off });
    }
    return found.sort((a, b) => a.off - b.off).map(({ item }) => item);
  }

  /** The first of some items that breaks nothing, costs no more than what is held, and rested long, where that is asked of a domain. */
  private firstAllowed(
    p: number,
    held: number,
    items: readonly number[],
    domain: Int32Array | null,
  ): number | undefined {
    const { assignment } = this;
    assignment.begin(p);
    const cost = assignment.costOf(held);
    const turn = this.turnCost(p, held) + ROUNDING;
    // Whether an item rested long is asked last: it takes a look at all the others.
    let head: ReadonlySet<number> | null = null;
    return items.find((item) => {
      if (this.clashes(p, item) || assignment.costOf(item) > cost || this.turnCost(p, item) > turn) return false;
      return domain === null || (head ??= new Set(headOfTurn(assignment, domain, p))).has(item);
    });
  }

  /** What stands in a later slot of the same category, each in the place of the other. */
  tryExchanging(p: number, later: readonly number[]): void {
    const { assignment } = this;
    const { compiled, history, itemAt } = assignment;
    const held = elementAt(itemAt, p);
    for (const q of later) {
      if (compiled.poolOf[q - history] !== compiled.poolOf[p - history]) continue;
      const item = elementAt(itemAt, q);
      const off = this.offWith(item, held);
      if (item === held || off >= this.off) continue;
      // An item may be kept to some hours of the week.
      if (
        !elementAt(compiled.domains, p - history).includes(item) ||
        !elementAt(compiled.domains, q - history).includes(held)
      )
        continue;
      const cost = this.clearBoth(p, q);
      const turn = this.clearedTurn;
      const good =
        !this.clashes(p, item) &&
        this.placed(p, item, () => {
          const turnNow = this.placedTurn + this.turnCost(q, held);
          return !this.clashes(q, held) && this.costs(q, held) <= cost && turnNow <= turn;
        });
      assignment.place(p, held);
      assignment.place(q, item);
      if (!good) continue;
      this.off = off;
      this.best = [
        [p, item],
        [q, held],
      ];
    }
  }

  /** Clears two positions; the soft cost of what stood there. */
  private clearBoth(p: number, q: number): number {
    const before = this.soft();
    const held = this.assignment.clear(p);
    this.clearedTurn = this.turnCost(p, held);
    const item = this.assignment.clear(q);
    this.clearedTurn += this.turnCost(q, item) + ROUNDING;
    return before - this.soft();
  }

  private clearedTurn = 0;
  private placedTurn = 0;

  /** What an item costs its turn order in an open position; nothing where the order asks for no item above others. */
  private turnCost(p: number, item: number): number {
    const { instance, pools, poolOf } = this.assignment.compiled;
    const { order } = lookUpIn(instance.pools, elementAt(pools, elementAt(poolOf, p - this.assignment.history)).name);
    return order === 'even' || order === 'random' ? 0 : this.assignment.orderedCostOf(p, item);
  }

  private placed(p: number, item: number, ask: () => boolean): boolean {
    const before = this.soft();
    this.placedTurn = this.turnCost(p, item);
    this.assignment.place(p, item);
    this.spent = this.soft() - before;
    const answer = ask();
    this.assignment.clear(p);
    return answer;
  }

  private spent = 0;

  private costs(q: number, item: number): number {
    this.assignment.begin(q);
    return this.spent + this.assignment.costOf(item);
  }

  private soft(): number {
    const { totals, weights } = this.assignment;
    let sum = 0;
    for (let level = FIRST_SOFT; level < totals.length; level++)
      sum += elementAt(totals, level) * elementAt(weights, level);
    return sum;
  }

  private clashes(p: number, item: number): boolean {
    return this.assignment.hardOf(p, item) + elementAt(this.assignment.totals, HARD) > 0;
  }

  private offWith(item: number, held: number): number {
    return Math.abs(this.overMs + elementAt(this.lengths, item) - elementAt(this.lengths, held));
  }
}

/** The items of a domain that rested longest at a position, before and after it. */
export function headOfTurn(
  { compiled: { plays }, sequence: { start } }: Assignment,
  items: Int32Array,
  p: number,
  most = Math.max(LEAST_HEAD, Math.ceil(items.length * HEAD_SHARE)),
): number[] {
  const rested = Array.from(items, (item) => {
    const [before, after] = [plays.before(p, item), plays.after(p, item)];
    const rest = Math.min(
      before < 0 ? Number.MAX_SAFE_INTEGER : elementAt(start, p) - elementAt(start, before),
      after < 0 ? Number.MAX_SAFE_INTEGER : elementAt(start, after) - elementAt(start, p),
    );
    return { item, rest };
  });
  rested.sort((a, b) => b.rest - a.rest || a.item - b.item);
  return rested.slice(0, most).map(({ item }) => item);
}
