import { IntLists } from './int-lists.js';
import { NEVER, type Literal } from '../../rules/clauses.js';
import { BY_COUNT, type Trail } from './trail.js';

/**
 * Counting constraints: of some literals at most so many hold, unless one of two others does. Kept as counts of
 * literals that hold, with reasons made when they are asked for.
 */
export class Counters {
  private readonly literals: Int32Array[] = [];
  private readonly most: number[] = [];
  private readonly unless: Literal[] = [];
  private readonly orElse: Literal[] = [];
  private readonly counts: number[] = [];
  /** By literal, the constraints that count it, and those it holds off. */
  private readonly counting = new IntLists();
  private readonly freeing = new IntLists();

  constructor(private readonly trail: Trail) {}

  ensure(literals: number): void {
    this.counting.ensure(literals);
    this.freeing.ensure(literals);
  }

  /** Adds a constraint; what holds already and has been propagated is counted. False where it cannot be kept. */
  add(literals: readonly Literal[], most: number, unless: Literal, orElse: Literal, conflict: number[]): boolean {
    const { trail } = this;
    const counter = this.literals.length;
    this.literals.push(Int32Array.from(literals));
    this.most.push(most);
    this.unless.push(unless);
    this.orElse.push(orElse);
    let count = 0;
    for (const literal of literals) {
      this.counting.push(literal, counter);
      if (trail.value[literal] === 1 && trail.place[literal >> 1]! < trail.head) count++;
    }
    this.counts.push(count);
    if (unless !== NEVER) this.freeing.push(unless ^ 1, counter);
    if (orElse !== NEVER) this.freeing.push(orElse ^ 1, counter);
    return this.check(counter, conflict);
  }

  /** A literal that holds is counted; to be called once for each before anything else follows from it. */
  count(literal: Literal): void {
    const list = this.counting.lists[literal]!;
    const size = this.counting.sizes[literal]!;
    for (let i = 0; i < size; i++) this.counts[list[i]!]!++;
  }

  /** A literal no longer holds. */
  uncount(literal: Literal): void {
    const list = this.counting.lists[literal]!;
    const size = this.counting.sizes[literal]!;
    for (let i = 0; i < size; i++) this.counts[list[i]!]!--;
  }

  /** Draws what follows from a literal that holds; false when that cannot be, with the reason in `conflict`. */
  propagate(literal: Literal, conflict: number[]): boolean {
    const counting = this.counting.lists[literal]!;
    let size = this.counting.sizes[literal]!;
    for (let i = 0; i < size; i++) {
      const counter = counting[i]!;
      if (this.counts[counter]! >= this.most[counter]! && !this.check(counter, conflict)) return false;
    }
    const freeing = this.freeing.lists[literal]!;
    size = this.freeing.sizes[literal]!;
    for (let i = 0; i < size; i++) {
      const counter = freeing[i]!;
      if (this.counts[counter]! >= this.most[counter]! && !this.check(counter, conflict)) return false;
    }
    return true;
  }

  private check(counter: number, conflict: number[]): boolean {
    const { trail } = this;
    const { value } = trail;
    const unless = this.unless[counter]!;
    const orElse = this.orElse[counter]!;
    if (value[unless] === 1 || value[orElse] === 1) return true;
    const over = this.counts[counter]! - this.most[counter]!;
    if (over < 0) return true;
    if (value[unless] === 0 || value[orElse] === 0) {
      if (over > 0 && value[unless] !== value[orElse])
        trail.set(value[unless] === 0 ? unless : orElse, BY_COUNT, counter, -1);
      return true;
    }
    if (over > 0) {
      this.reasons(counter, this.most[counter]! + 1, trail.size, conflict);
      return false;
    }
    const literals = this.literals[counter]!;
    for (let i = 0; i < literals.length; i++) {
      if (value[literals[i]!] === 0) trail.set(literals[i]! ^ 1, BY_COUNT, counter, -1);
    }
    return true;
  }

  /** The literals that made a constraint imply one. */
  explain(counter: number, implied: Literal, into: number[]): void {
    const isWayOut = implied === this.unless[counter] || implied === this.orElse[counter];
    const needed = this.most[counter]! + (isWayOut ? 1 : 0);
    this.reasons(counter, needed, this.trail.place[implied >> 1]!, into, implied);
  }

  private reasons(counter: number, needed: number, before: number, into: number[], implied = -1): void {
    const { value, place } = this.trail;
    const literals = this.literals[counter]!;
    let left = needed;
    for (let i = 0; i < literals.length && left > 0; i++) {
      const literal = literals[i]!;
      if (value[literal] !== 1 || place[literal >> 1]! >= before) continue;
      into.push(literal);
      left--;
    }
    const unless = this.unless[counter]!;
    const orElse = this.orElse[counter]!;
    if (unless !== implied) into.push(unless ^ 1);
    if (orElse !== implied) into.push(orElse ^ 1);
  }
}
