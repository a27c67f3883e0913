import { IntLists } from './int-lists.js';
import { NEVER, type Literal } from '../../rules/clauses.js';
import { BY_PAIR, type Trail } from './trail.js';

/**
 * Plays in time of which no two near each other may both hold, unless the later one's way out does. One list takes the
 * place of a clause for each of its pairs; a literal that holds is the whole reason for what it forbids.
 */
export class Separations {
  private literal: Literal[] = [];
  private unless: Literal[] = [];
  /** By entry, the first it may not stand with before it, and the first after it that is far enough. */
  private from: number[] = [];
  private to: number[] = [];
  private readonly entries = new IntLists();
  private readonly guarded = new IntLists();

  constructor(private readonly trail: Trail) {}

  ensure(literals: number): void {
    this.entries.ensure(literals);
    this.guarded.ensure(literals);
  }

  /**
   * Adds plays in time order. `reach[i]` is the first later one that is far enough from play i and never falls from one
   * to the next; `unless[j]` frees pairs of which play j is the later one. To be called at level 0.
   */
  add(literals: readonly Literal[], reach: readonly number[], unless: readonly Literal[]): void {
    const base = this.literal.length;
    let from = 0;
    literals.forEach((literal, i) => {
      while (from < i && reach[from]! <= i) from++;
      this.literal.push(literal);
      this.unless.push(unless[i]!);
      this.from.push(base + from);
      this.to.push(base + Math.max(i + 1, reach[i]!));
      this.entries.push(literal, base + i);
      if (unless[i] !== NEVER) this.guarded.push(unless[i]! ^ 1, base + i);
    });
  }

  /** Draws what follows from a literal that holds; false when that cannot be, with the reason in `conflict`. */
  propagate(literal: Literal, conflict: number[]): boolean {
    const entries = this.entries.lists[literal]!;
    let size = this.entries.sizes[literal]!;
    for (let i = 0; i < size; i++) {
      const entry = entries[i]!;
      if (!this.lookBack(entry, conflict) || !this.lookAhead(entry, conflict)) return false;
    }
    const guarded = this.guarded.lists[literal]!;
    size = this.guarded.sizes[literal]!;
    for (let i = 0; i < size; i++) {
      const entry = guarded[i]!;
      const now = this.trail.value[this.literal[entry]!]!;
      if (now === 1 ? !this.lookBack(entry, conflict) : now === 0 && !this.forbidIfNear(entry)) return false;
    }
    return true;
  }

  /** What a play that holds means for those before it, or for its own way out. */
  private lookBack(entry: number, conflict: number[]): boolean {
    const { trail } = this;
    const { value } = trail;
    const self = this.literal[entry]!;
    const unless = this.unless[entry]!;
    const free = value[unless]!;
    if (free === 1) return true;
    for (let other = this.from[entry]!; other < entry; other++) {
      const earlier = this.literal[other]!;
      if (free === 0) {
        if (value[earlier] !== 1) continue;
        trail.set(unless, BY_PAIR, self, earlier);
        return true;
      }
      if (value[earlier] === 1) {
        conflict.push(self, earlier, unless ^ 1);
        return false;
      }
      if (value[earlier] === 0) trail.set(earlier ^ 1, BY_PAIR, self, unless ^ 1);
    }
    return true;
  }

  private lookAhead(entry: number, conflict: number[]): boolean {
    const { trail } = this;
    const { value } = trail;
    const self = this.literal[entry]!;
    const end = this.to[entry]!;
    for (let other = entry + 1; other < end; other++) {
      const later = this.literal[other]!;
      const now = value[later]!;
      if (now === -1) continue;
      const unless = this.unless[other]!;
      const free = value[unless]!;
      if (free === 1) continue;
      if (free === 0) {
        if (now === 1) trail.set(unless, BY_PAIR, self, later);
      } else if (now === 1) {
        conflict.push(self, later, unless ^ 1);
        return false;
      } else trail.set(later ^ 1, BY_PAIR, self, unless ^ 1);
    }
    return true;
  }

  /** A play without a way out may not hold where one before it does. */
  private forbidIfNear(entry: number): true {
    const { trail } = this;
    for (let other = this.from[entry]!; other < entry; other++) {
      if (trail.value[this.literal[other]!] !== 1) continue;
      trail.set(this.literal[entry]! ^ 1, BY_PAIR, this.literal[other]!, this.unless[entry]! ^ 1);
      break;
    }
    return true;
  }
}
