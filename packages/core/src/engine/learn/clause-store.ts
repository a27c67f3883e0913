import { IntLists } from './int-lists.js';
import type { Literal } from '../../rules/clauses.js';
import { BY_CLAUSE, BY_PAIR, type Trail } from './trail.js';

/** Before the literals of a clause: their number, and its block distance (0: given, not learnt). */
const HEADER = 2;
/** Learnt clauses over no more blocks of levels than this are kept for good (Audemard and Simon, 2009). */
const KEPT_FOR_GOOD = 2;

/**
 * Clauses of three and more literals in one arena of integers, two watched literals each; those of two in lists of
 * their own. What a propagation finds wrong is left in `conflict` as literals that hold together and may not.
 */
export class ClauseStore {
  private arena = new Int32Array(1 << 12);
  private end = 0;
  /** By literal, what to look at when it holds: a clause and another of its literals, in turn. */
  private readonly watches = new IntLists();
  /** By literal, those it implies. */
  private readonly implied = new IntLists();
  /** Learnt clauses that may be dropped. */
  learnt = 0;

  constructor(private readonly trail: Trail) {}

  ensure(literals: number): void {
    this.watches.ensure(literals);
    this.implied.ensure(literals);
  }

  addPair(a: Literal, b: Literal): void {
    this.implied.push(a ^ 1, b);
    this.implied.push(b ^ 1, a);
  }

  /** Adds a clause of three and more; the first two are watched. Answers its place. */
  add(literals: ArrayLike<Literal>, distance: number): number {
    const { length } = literals;
    if (this.end + length + HEADER > this.arena.length) {
      const arena = new Int32Array(Math.max(this.arena.length * 2, this.end + length + HEADER));
      arena.set(this.arena);
      this.arena = arena;
    }
    const place = this.end;
    this.arena[place] = length;
    this.arena[place + 1] = distance;
    for (let i = 0; i < length; i++) this.arena[place + HEADER + i] = literals[i]!;
    this.end += length + HEADER;
    if (distance > KEPT_FOR_GOOD) this.learnt++;
    this.watch(place);
    return place;
  }

  private watch(place: number): void {
    const first = this.arena[place + HEADER]!;
    const second = this.arena[place + HEADER + 1]!;
    this.watches.push(first ^ 1, place);
    this.watches.push(first ^ 1, second);
    this.watches.push(second ^ 1, place);
    this.watches.push(second ^ 1, first);
  }

  /** Draws what follows from a literal that holds; false when that cannot be, with the reason in `conflict`. */
  propagate(literal: Literal, conflict: number[]): boolean {
    return this.propagatePairs(literal, conflict) && this.propagateClauses(literal, conflict);
  }

  private propagatePairs(literal: Literal, conflict: number[]): boolean {
    const { trail } = this;
    const { value } = trail;
    const list = this.implied.lists[literal]!;
    const size = this.implied.sizes[literal]!;
    for (let i = 0; i < size; i++) {
      const other = list[i]!;
      const now = value[other]!;
      if (now === 0) trail.set(other, BY_PAIR, literal, -1);
      else if (now < 0) {
        conflict.push(literal, other ^ 1);
        return false;
      }
    }
    return true;
  }

  private propagateClauses(literal: Literal, conflict: number[]): boolean {
    const { trail, arena, watches } = this;
    const { value } = trail;
    const list = watches.lists[literal]!;
    const size = watches.sizes[literal]!;
    const gone = literal ^ 1;
    let kept = 0;
    let i = 0;
    while (i < size) {
      const place = list[i]!;
      const hint = list[i + 1]!;
      i += 2;
      if (value[hint] === 1) {
        list[kept++] = place;
        list[kept++] = hint;
        continue;
      }
      const from = place + HEADER;
      if (arena[from] === gone) {
        arena[from] = arena[from + 1]!;
        arena[from + 1] = gone;
      }
      const first = arena[from]!;
      if (value[first] === 1) {
        list[kept++] = place;
        list[kept++] = first;
        continue;
      }
      const to = from + arena[place]!;
      let k = from + 2;
      while (k < to && value[arena[k]!] === -1) k++;
      if (k < to) {
        arena[from + 1] = arena[k]!;
        arena[k] = gone;
        watches.push(arena[from + 1]! ^ 1, place);
        watches.push(arena[from + 1]! ^ 1, first);
        continue;
      }
      list[kept++] = place;
      list[kept++] = first;
      if (value[first] === 0) {
        trail.set(first, BY_CLAUSE, place, -1);
        continue;
      }
      for (let j = from; j < to; j++) conflict.push(arena[j]! ^ 1);
      while (i < size) list[kept++] = list[i++]!;
      watches.sizes[literal] = kept;
      return false;
    }
    watches.sizes[literal] = kept;
    return true;
  }

  /** The literals that made a clause imply one. */
  explain(place: number, implied: Literal, into: number[]): void {
    const to = place + HEADER + this.arena[place]!;
    for (let k = place + HEADER; k < to; k++) if (this.arena[k] !== implied) into.push(this.arena[k]! ^ 1);
  }

  /**
   * Drops the worse half of what was learnt, and whatever holds for good. To be called at level 0 with nothing left to
   * propagate: then no reason is asked for again.
   */
  reduce(): void {
    const { arena, trail } = this;
    const distances: number[] = [];
    for (let place = 0; place < this.end; place += arena[place]! + HEADER) {
      if (arena[place + 1]! > KEPT_FOR_GOOD) distances.push(arena[place + 1]!);
    }
    distances.sort((a, b) => a - b);
    const limit = distances[distances.length >> 1] ?? 0;
    // Of equally distant ones the older go.
    let drop = distances.filter((distance) => distance >= limit).length - (distances.length >> 1);
    const { end } = this;
    this.end = 0;
    this.learnt = 0;
    this.watches.empty();
    const literals: Literal[] = [];
    for (let place = 0; place < end;) {
      const [length, distance] = [arena[place]!, arena[place + 1]!];
      const next = place + length + HEADER;
      literals.length = 0;
      let holds = false;
      for (let k = place + HEADER; k < next; k++) {
        const now = trail.value[arena[k]!]!;
        if (now === 1) holds = true;
        if (now === 0) literals.push(arena[k]!);
      }
      place = next;
      if (holds) continue;
      if (distance > KEPT_FOR_GOOD) {
        if (distance > limit) continue;
        if (distance === limit && drop > 0 && drop--) continue;
      }
      // Shorter than it was, so it never overtakes what is still to be read.
      if (literals.length === 2) this.addPair(literals[0]!, literals[1]!);
      else this.add(literals, distance);
    }
  }
}
