import type { Literal } from '../../rules/clauses.js';
import { NO_REASON, type Trail } from './trail.js';
import type { VariableOrder } from './variable-order.js';

/** What is known of a variable while a conflict is taken apart. */
const UNSEEN = 0;
const SEEN = 1;
/** Seen, and follows from other literals of the clause. */
const IMPLIED = 2;
/** Looked at, and does not follow. */
const NEEDED = 3;

/** Takes conflicts apart: what to learn from one, and which assumptions it rests on. */
export class ConflictAnalysis {
  /** The level to go back to with what was learnt last. */
  backjump = 0;
  /** Over how many levels it stretches. */
  distance = 0;
  private seen = new Uint8Array(64);
  private stampOfLevel = new Int32Array(64);
  private stamp = 0;
  private readonly touched: number[] = [];
  private readonly because: number[] = [];
  private readonly stack: number[] = [];

  constructor(
    private readonly trail: Trail,
    private readonly order: VariableOrder,
    private readonly explain: (literal: Literal, into: number[]) => void,
  ) {}

  ensure(variables: number): void {
    if (variables < this.seen.length) return;
    const seen = new Uint8Array(this.seen.length * 2);
    seen.set(this.seen);
    this.seen = seen;
    // One level more than there are variables.
    this.stampOfLevel = new Int32Array(seen.length + 1);
  }

  /**
   * The clause that the first unique implication point of a conflict teaches, minimised (Sörensson and Biere, 2009);
   * its first literal is the one that follows after going back, the second stands on the level gone back to.
   */
  firstUniqueImplicationPoint(conflict: readonly Literal[]): Literal[] {
    const { trail, seen, because, touched } = this;
    const now = trail.decisionLevel;
    const clause: Literal[] = [0];
    let open = 0;
    let at = trail.size;
    let reasons: readonly Literal[] = conflict;
    let point: Literal;
    for (;;) {
      for (const literal of reasons) {
        const variable = literal >> 1;
        if (seen[variable] !== UNSEEN || trail.level[variable] === 0) continue;
        seen[variable] = SEEN;
        touched.push(variable);
        this.order.bump(variable);
        if (trail.level[variable]! >= now) open++;
        else clause.push(literal ^ 1);
      }
      while (seen[trail.literals[--at]! >> 1] === UNSEEN);
      point = trail.literals[at]!;
      if (--open === 0) break;
      because.length = 0;
      this.explain(point, because);
      reasons = because;
    }
    clause[0] = point ^ 1;
    this.minimise(clause);
    this.measure(clause);
    for (const variable of touched) seen[variable] = UNSEEN;
    touched.length = 0;
    return clause;
  }

  private minimise(clause: Literal[]): void {
    let kept = 1;
    for (let i = 1; i < clause.length; i++) if (!this.isRedundant(clause[i]! ^ 1)) clause[kept++] = clause[i]!;
    clause.length = kept;
  }

  /** Whether a literal that holds follows from others of the clause. */
  private isRedundant(literal: Literal): boolean {
    const { trail, seen, touched, stack } = this;
    if (trail.kind[literal >> 1] === NO_REASON) return false;
    const from = touched.length;
    const because: number[] = this.because;
    stack.length = 0;
    stack.push(literal);
    while (stack.length > 0) {
      because.length = 0;
      this.explain(stack.pop()!, because);
      for (const reason of because) {
        const variable = reason >> 1;
        const state = seen[variable]!;
        if (trail.level[variable] === 0 || state === SEEN || state === IMPLIED) continue;
        if (state === NEEDED || trail.kind[variable] === NO_REASON) {
          // What was taken to follow on the way here may still do so by itself; it is only not known.
          for (let i = from; i < touched.length; i++) {
            if (seen[touched[i]!] === IMPLIED) seen[touched[i]!] = NEEDED;
          }
          return false;
        }
        seen[variable] = IMPLIED;
        touched.push(variable);
        stack.push(reason);
      }
    }
    return true;
  }

  private measure(clause: Literal[]): void {
    const { level } = this.trail;
    this.stamp++;
    this.distance = 0;
    this.backjump = 0;
    let second = 1;
    for (let i = 0; i < clause.length; i++) {
      const one = level[clause[i]! >> 1]!;
      if (this.stampOfLevel[one] !== this.stamp) {
        this.stampOfLevel[one] = this.stamp;
        this.distance++;
      }
      if (i > 0 && one > this.backjump) {
        this.backjump = one;
        second = i;
      }
    }
    if (clause.length > 1) {
      const literal = clause[second]!;
      clause[second] = clause[1]!;
      clause[1] = literal;
    }
  }

  /** The assumptions that together refute an assumption: its own, and those that made its negation hold. */
  assumptionsAgainst(negated: Literal): Literal[] {
    const { trail, seen, because } = this;
    const core: Literal[] = [negated ^ 1];
    if (trail.level[negated >> 1] === 0) return core;
    seen[negated >> 1] = SEEN;
    const lowest = trail.begins[0]!;
    for (let at = trail.size - 1; at >= lowest; at--) {
      const literal = trail.literals[at]!;
      const variable = literal >> 1;
      if (seen[variable] === UNSEEN) continue;
      seen[variable] = UNSEEN;
      if (trail.kind[variable] === NO_REASON) {
        core.push(literal);
        continue;
      }
      because.length = 0;
      this.explain(literal, because);
      for (const reason of because) if (trail.level[reason >> 1]! > 0) seen[reason >> 1] = SEEN;
    }
    return core;
  }
}
