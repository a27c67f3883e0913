import { HARD, OPEN, type Assignment } from '../model/assignment.js';
import type { Random } from '../random.js';
import type { Incumbent } from './incumbent.js';

/** Of domains up to this size every item is weighed at each visit, of larger ones a sample. */
const WHOLE = 64;
const SAMPLE = 24;
/** One visit in so many exchanges two slots. */
const EXCHANGE_EVERY = 4;
/** So many items of an ejection chain may clear others. */
const EJECTING = 3;
const LONGEST = 8;

/** What annealing is given besides the state it starts from. */
export interface AnnealOptions {
  /** Evaluations to spend. */
  readonly budget: number;
  /** Temperatures, in units of weighted cost. */
  readonly from: number;
  readonly to: number;
  /** Slots (positions) that may change. */
  readonly free: readonly number[];
  /** Called now and then; true stops the search. */
  readonly done: () => boolean;
}

/**
 * Simulated annealing (Kirkpatrick, Gelatt and Vecchi 1983) over replace, open and exchange. Hard breaks are
 * allowed on the way at a price above that of an open slot; the incumbent takes only what has none.
 */
export class Annealer {
  private readonly change: Float64Array;
  private hot: number[] = [];

  constructor(
    private readonly assignment: Assignment,
    private readonly incumbent: Incumbent,
    private readonly random: Random,
    private readonly mayStand: (p: number, item: number) => boolean,
  ) {
    this.change = new Float64Array(assignment.levels);
  }

  run({ budget, from, to, free, done }: AnnealOptions): void {
    if (free.length === 0) return;
    const { assignment, random } = this;
    const begin = assignment.evaluations;
    const fall = Math.max(1e-9, to / from);
    let temperature = from;
    let visits = 0;
    // A look at everything costs more the more there is.
    const every = Math.max(256, 64 * ((free.length * 2) >> 6));
    // Where much is settled, most visits go to what is not.
    const calm = free.length > 200 ? 1 : 3;
    for (;;) {
      const spent = assignment.evaluations - begin;
      if (spent >= budget) return;
      if (visits % 64 === 0) {
        temperature = from * power(fall, spent / budget);
        if (visits % every === 0) {
          if (done()) return;
          this.findHot(free);
          this.findHeads();
        }
      }
      visits++;
      const p =
        this.hot.length > 0 && (random.bits() & 3) >= calm
          ? this.hot[random.below(this.hot.length)]!
          : free[random.below(free.length)]!;
      if (visits % EXCHANGE_EVERY === 0) this.exchange(p, free, temperature);
      else if (visits % 4 === 1)
        this.chain(p, temperature, assignment.itemAt[p]! < 0 && (visits & 4) === 0 ? this.near(p, free) : -1);
      else this.replace(p, temperature);
    }
  }

  /** Of pools too large to weigh whole, the items with the fewest plays. */
  private findHeads(): void {
    const { pools, plays } = this.assignment.compiled;
    for (const pool of pools) {
      if (pool.items.length <= WHOLE) continue;
      let head = this.heads[pool.index];
      if (!head) this.heads[pool.index] = head = new Int32Array(WHOLE);
      let least = Number.POSITIVE_INFINITY;
      for (const item of pool.items) least = Math.min(least, plays.countOf(item));
      let found = 0;
      // From a place of its own in the list each time, so that none is skipped for good.
      const from = this.random.below(pool.items.length);
      for (let more = 0; found < WHOLE && more < 4; more++) {
        for (let i = 0; i < pool.items.length && found < WHOLE; i++) {
          const item = pool.items[(from + i) % pool.items.length]!;
          if (plays.countOf(item) === least + more) head[found++] = item;
        }
      }
      while (found < WHOLE) head[found++] = pool.items[this.random.below(pool.items.length)]!;
    }
  }

  private readonly heads: (Int32Array | undefined)[] = [];

  /** A filled slot to open in exchange, most often near. */
  private near(p: number, free: readonly number[]): number {
    const { assignment, random } = this;
    const q = (random.bits() & 1) === 0 ? p + random.below(33) - 16 : free[random.below(free.length)]!;
    const isFree = q >= assignment.history && q < assignment.sequence.length && assignment.sequence.fixed[q] === 0;
    return isFree && q !== p && assignment.itemAt[q]! >= 0 ? q : -1;
  }

  /** Slots that take part in breaks, or stand open. */
  private findHot(free: readonly number[]): void {
    const { assignment } = this;
    const { fixed } = assignment.sequence;
    const hot = new Set<number>();
    for (const p of free) if (assignment.itemAt[p]! < 0) hot.add(p);
    for (const rule of assignment.compiled.evaluators) {
      rule.everyViolation((charged, others) => {
        if (fixed[charged] === 0) hot.add(charged);
        for (const other of others) if (fixed[other] === 0) hot.add(other);
      });
    }
    this.hot = [...hot];
  }

  /** Draws an item, or open (-1), for an open position at a temperature. */
  private draw(p: number, temperature: number, mayOpen: boolean, not: number): number {
    const { assignment, random } = this;
    const domain = assignment.compiled.domains[p - assignment.history]!;
    assignment.begin(p);
    let drawn = -1;
    let least = mayOpen ? assignment.weights[OPEN]! + temperature * random.gumbel() : Number.POSITIVE_INFINITY;
    const whole = domain.length <= WHOLE;
    const pool = assignment.compiled.pools[assignment.compiled.poolOf[p - assignment.history]!]!;
    const head = domain === pool.items ? this.heads[pool.index] : undefined;
    const count = whole ? domain.length : SAMPLE;
    for (let i = 0; i < count; i++) {
      const item = whole
        ? domain[i]!
        : head && (i & 1) === 0
          ? head[random.below(WHOLE)]!
          : domain[random.below(domain.length)]!;
      if (item === not) continue;
      const noise = temperature * random.gumbel();
      const cost = assignment.costOf(item, least - noise) + noise;
      if (cost < least) {
        least = cost;
        drawn = item;
      }
    }
    return drawn;
  }

  private replace(p: number, temperature: number): void {
    const { assignment, change } = this;
    const before = assignment.itemAt[p]!;
    if (before >= 0) assignment.lift(p);
    const now = this.draw(p, temperature, true, -2);
    if (now === before) {
      if (before >= 0) assignment.put(p, before);
      return;
    }
    change.fill(0);
    if (before >= 0) assignment.levelsOf(p, before, change, -1);
    if (now >= 0) {
      assignment.levelsOf(p, now, change, 1);
      assignment.put(p, now);
    }
    this.commit();
  }

  /**
   * An ejection chain: puts another item into a slot whatever it clashes with, clears the plays it clashes
   * with, and fills their slots anew, the first few again at the cost of others.
   */
  private chain(p: number, temperature: number, spare: number): void {
    const { assignment, change } = this;
    const { weights, totals } = assignment;
    change.fill(0);
    this.slots.length = 0;
    this.held.length = 0;
    if (spare >= 0) this.takeOut(spare);
    this.takeOut(p);
    let good = true;
    for (let i = spare >= 0 ? 1 : 0; i < this.slots.length && good; i++) {
      const q = this.slots[i]!;
      const ejects = i < EJECTING;
      if (ejects) assignment.setHardWeight(2 * temperature);
      const item = this.draw(q, temperature, !ejects, i === 0 ? this.held[0]! : -2);
      if (ejects) assignment.setHardWeight(weights[HARD]!);
      if (item < 0) continue;
      assignment.levelsOf(q, item, change, 1);
      assignment.put(q, item);
      if (ejects && change[HARD]! + totals[HARD]! > 0.5) good = this.eject(q);
    }
    if (good) {
      let difference = 0;
      for (let level = 0; level < weights.length; level++) difference += weights[level]! * change[level]!;
      if (difference <= 0 || difference < temperature * this.random.exponential()) {
        this.commit();
        return;
      }
    }
    const {
      slots,
      held,
      assignment: { itemAt },
    } = this;
    for (const q of slots) if (itemAt[q]! >= 0) assignment.lift(q);
    for (let i = 0; i < slots.length; i++) if (held[i]! >= 0) assignment.put(slots[i]!, held[i]!);
  }

  private readonly slots: number[] = [];
  private readonly held: number[] = [];

  private takeOut(q: number): void {
    const item = this.assignment.itemAt[q]!;
    this.slots.push(q);
    this.held.push(item);
    if (item < 0) return;
    this.assignment.lift(q);
    this.assignment.levelsOf(q, item, this.change, -1);
  }

  /** Clears free plays until the one in a position clashes with none; false when that cannot be had. */
  private eject(p: number): boolean {
    const { assignment, random } = this;
    const { fixed } = assignment.sequence;
    const out: number[] = [];
    let good = true;
    for (const rule of assignment.compiled.evaluators) {
      if (!rule.hard) continue;
      rule.involving(p, (charged, others) => {
        const free = others.filter((other) => other !== p && fixed[other] === 0 && !this.slots.includes(other));
        if (charged !== p && fixed[charged] === 0 && !this.slots.includes(charged)) free.push(charged);
        if (free.length === 0) good = false;
        else if (!rule.additive) out.push(...free);
        else if (!free.some((one) => out.includes(one))) out.push(free[random.below(free.length)]!);
      });
      if (!good) return false;
    }
    const distinct = [...new Set(out)];
    if (distinct.length > 3 || this.slots.length + distinct.length > LONGEST) return false;
    for (const q of distinct) this.takeOut(q);
    return this.change[HARD]! + assignment.totals[HARD]! < 0.5;
  }

  /** Exchanges what stands in two slots. */
  private exchange(p: number, free: readonly number[], temperature: number): void {
    const { assignment, random } = this;
    const { history, compiled } = assignment;
    const own = compiled.pools[compiled.poolOf[p - history]!]!.slots;
    const q = (random.bits() & 1) === 0 ? own[random.below(own.length)]! : free[random.below(free.length)]!;
    const a = assignment.itemAt[p]!;
    const b = assignment.itemAt[q]!;
    if (p === q || a === b || assignment.sequence.fixed[q] === 1) return;
    if ((a >= 0 && !this.mayStand(q, a)) || (b >= 0 && !this.mayStand(p, b))) return;
    const { change } = this;
    change.fill(0);
    let difference = 0;
    if (a >= 0) assignment.lift(p);
    if (b >= 0) assignment.lift(q);
    const stand = (at: number, item: number, sign: 1 | -1): void => {
      if (item < 0) return;
      assignment.begin(at);
      difference += sign * assignment.costOf(item);
      assignment.levelsOf(at, item, change, sign);
    };
    stand(p, a, -1);
    if (a >= 0) assignment.put(p, a);
    stand(q, b, -1);
    if (a >= 0) assignment.lift(p);
    stand(p, b, 1);
    if (b >= 0) assignment.put(p, b);
    stand(q, a, 1);
    if (difference <= 0 || difference < temperature * random.exponential()) {
      if (a >= 0) assignment.put(q, a);
      this.commit();
      return;
    }
    if (b >= 0) {
      assignment.lift(p);
      assignment.put(q, b);
    }
    if (a >= 0) assignment.put(p, a);
  }

  private commit(): void {
    const { totals } = this.assignment;
    for (let level = 0; level < totals.length; level++) totals[level]! += this.change[level]!;
    if (totals[HARD]! < 0.5) {
      totals[HARD] = 0;
      this.incumbent.offer();
    }
  }
}

/** base^exponent for a base in (0, 1] and an exponent in [0, 1], by halving: only sums and products, so the same everywhere. */
function power(base: number, exponent: number): number {
  let result = 1;
  let root = base;
  let rest = exponent;
  for (let bit = 0; bit < 20 && rest > 0; bit++) {
    root = Math.sqrt(root);
    rest *= 2;
    if (rest >= 1) {
      result *= root;
      rest -= 1;
    }
  }
  return result;
}
