import { HARD, OPEN, type Assignment } from '../model/assignment.js';
import type { Random } from '../random.js';
import type { Incumbent } from './incumbent.js';

/** Of domains up to this size every item is weighed at each visit, of larger ones so many in a row. */
const WHOLE = 64;
/** The most plays one play may push out. */
const MOST_OUT = 4;
/** Items that break more rules than this do not come in. */
const MOST_BREAKS = 7;
/** For so many visits at most, what was pushed out of a slot stays out of it; longer drives the search away from what is good. */
const TENURE = 3;
/** What counting plays to be pushed out takes, in evaluations. */
const COUNTING = 2;
const FOR_EVER = Number.POSITIVE_INFINITY;

/**
 * Tabu search on partial solutions (after PartialCol of Blöchliger and Zufferey, 2008): an open slot takes the item that
 * pushes out the fewest plays, these may not come back for a while, and their slots are open in turn. No
 * hard rule is ever broken on the way.
 */
export class Filler {
  private readonly until = new Map<number, number>();
  private readonly open: number[] = [];
  private readonly close: number[] = [];
  private readonly met: number[] = [];

  constructor(
    private readonly assignment: Assignment,
    private readonly incumbent: Incumbent,
    private readonly random: Random,
  ) {}

  /** Spends about `budget` evaluations from the incumbent; leaves the assignment at the best found. */
  run(budget: number, free: readonly number[], done: () => boolean): void {
    const { assignment, incumbent, random, open, until } = this;
    incumbent.restore();
    assignment.setWeights(assignment.weights.map((_, level) => (level === HARD ? 1 : 0)));
    until.clear();
    open.length = 0;
    for (const p of free) if (assignment.itemAt[p]! < 0) open.push(p);
    const end = assignment.evaluations + budget;
    for (let visit = 0; assignment.evaluations < end && open.length > 0; visit++) {
      if (visit % 64 === 0 && done()) break;
      const k = random.below(open.length);
      const p = open[k]!;
      const item = this.choose(p, visit);
      assignment.evaluations++;
      if (item < 0) continue;
      const out = this.force(p, item);
      if (!out) {
        until.set(this.key(p, item), FOR_EVER);
        continue;
      }
      open[k] = open[open.length - 1]!;
      open.pop();
      const tenure = visit + 1 + random.below(TENURE - 1);
      for (const { position, held } of out) {
        open.push(position);
        until.set(this.key(position, held), tenure);
      }
      if (assignment.totals[OPEN]! <= incumbent.score[OPEN]!) incumbent.offer();
    }
    incumbent.restore();
  }

  private key(p: number, item: number): number {
    return p * this.assignment.sequence.duration.length + item;
  }

  /** Among the items that push out the fewest plays one at random; -1 when none may come in. */
  private choose(p: number, visit: number): number {
    const { assignment, random, until } = this;
    const domain = assignment.compiled.domains[p - assignment.history]!;
    const from = random.below(domain.length);
    const count = Math.min(domain.length, WHOLE);
    let chosen = -1;
    let least = MOST_OUT + 1;
    assignment.begin(p);
    this.close.length = 0;
    for (let i = 0; i < count; i++) {
      const item = domain[(from + i) % domain.length]!;
      const breaks = assignment.costOf(item, MOST_BREAKS);
      if (breaks === 0) return item;
      if (breaks < MOST_BREAKS && (until.get(this.key(p, item)) ?? 0) <= visit) this.close.push(item);
    }
    for (const item of this.close) {
      const pushed = this.countOut(p, item, least);
      if (pushed >= least) continue;
      least = pushed;
      chosen = item;
      if (least === 1) break;
    }
    return chosen;
  }

  /** How many plays an item would push out; infinitely many where it clashes with a fixed one. */
  private countOut(p: number, item: number, least: number): number {
    const { assignment, met } = this;
    const { fixed } = assignment.sequence;
    assignment.evaluations += COUNTING;
    met.length = 0;
    let possible = true;
    assignment.put(p, item);
    for (const rule of assignment.compiled.evaluators) {
      if (!rule.hard || !possible || rule.visible[p] === 0) continue;
      rule.involving(p, (charged, others) => {
        let known = false;
        let one = -1;
        for (let k = -1; k < others.length; k++) {
          const q = k < 0 ? charged : others[k]!;
          if (q === p) continue;
          if (fixed[q] === 1) {
            if (!rule.additive) possible = false;
            continue;
          }
          one = q;
          if (met.includes(q)) known = true;
          else if (!rule.additive) met.push(q);
        }
        if (one < 0) possible = false;
        else if (rule.additive && !known) met.push(one);
      });
      if (met.length >= least) break;
    }
    assignment.lift(p);
    return possible ? met.length : Number.POSITIVE_INFINITY;
  }

  /** Puts an item in and pushes out what it clashes with; null, with everything as it was, when that cannot be had. */
  private force(p: number, item: number): { position: number; held: number }[] | null {
    const { assignment } = this;
    const { totals } = assignment;
    const out: { position: number; held: number }[] = [];
    assignment.place(p, item);
    while (totals[HARD]! > 0.5) {
      const next = out.length < MOST_OUT ? this.clashing(p) : -1;
      if (next < 0) {
        assignment.clear(p);
        for (const { position, held } of out.reverse()) assignment.place(position, held);
        return null;
      }
      out.push({ position: next, held: assignment.clear(next) });
    }
    return out;
  }

  /** A free play that the one in a position clashes with, -1 when there is none. */
  private clashing(p: number): number {
    const { assignment, random } = this;
    const { fixed } = assignment.sequence;
    let found = -1;
    for (const rule of assignment.compiled.evaluators) {
      if (!rule.hard || found >= 0) continue;
      let seen = 0;
      rule.involving(p, (charged, others) => {
        for (const q of [charged, ...others]) {
          if (q !== p && fixed[q] === 0 && random.below(++seen) === 0) found = q;
        }
      });
    }
    return found;
  }
}
