import type { Literal } from '../../rules/clauses.js';

/** Why a literal holds. */
export const NO_REASON = 0;
/** One literal, or two, imply it. */
export const BY_PAIR = 1;
/** A clause, by its place in the store. */
export const BY_CLAUSE = 2;
/** A counting constraint, by its number. */
export const BY_COUNT = 3;

/** What holds so far, in the order in which it came to hold, with levels of decisions and reasons. */
export class Trail {
  /** By literal: 1 where it holds, -1 where its negation holds, else 0. */
  value = new Int8Array(128);
  /** By variable: the level of decisions it was set at, its place in the trail, and why. */
  level = new Int32Array(64);
  place = new Int32Array(64);
  kind = new Uint8Array(64);
  reason = new Int32Array(64);
  second = new Int32Array(64);
  literals = new Int32Array(64);
  size = 0;
  /** Literals before it have been propagated. */
  head = 0;
  /** By level, the size of the trail when it began. */
  readonly begins: number[] = [];
  variables = 0;

  get decisionLevel(): number {
    return this.begins.length;
  }

  newVariable(): number {
    if (this.variables === this.level.length) this.grow();
    return this.variables++;
  }

  private grow(): void {
    const length = this.level.length * 2;
    const longer = (old: Int32Array): Int32Array<ArrayBuffer> => {
      const made = new Int32Array(length);
      made.set(old);
      return made;
    };
    this.level = longer(this.level);
    this.place = longer(this.place);
    this.reason = longer(this.reason);
    this.second = longer(this.second);
    this.literals = longer(this.literals);
    const kind = new Uint8Array(length);
    kind.set(this.kind);
    this.kind = kind;
    const value = new Int8Array(2 * length);
    value.set(this.value);
    this.value = value;
  }

  /** Takes note that a literal holds, and why. */
  set(literal: Literal, kind: number, reason: number, second: number): void {
    const variable = literal >> 1;
    this.value[literal] = 1;
    this.value[literal ^ 1] = -1;
    this.level[variable] = this.begins.length;
    this.place[variable] = this.size;
    this.kind[variable] = kind;
    this.reason[variable] = reason;
    this.second[variable] = second;
    this.literals[this.size++] = literal;
  }
}
