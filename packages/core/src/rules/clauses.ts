import type { Sequence } from '../sequence/sequence.js';
import type { TagIndex } from '../sequence/tag-index.js';

/** A variable of a model, 2v where it is true and 2v + 1 where it is false; `literal ^ 1` says the opposite. */
export type Literal = number;
/** Holds always. */
export const ALWAYS: Literal = 0;
/** Holds never. */
export const NEVER: Literal = 1;

/**
 * A log as yes and no: what a shape of rule is given to say, in clauses, when it is broken. Positions that the model does
 * not decide hold what they hold; breaks among them alone are left out.
 */
export interface ClauseModel {
  readonly sequence: Sequence;
  /** Whether some slot that the model decides may stay open. */
  readonly hasOpenings: boolean;
  /** The first position the model decides, and the one after the last. */
  readonly from: number;
  readonly to: number;

  /** Whether the model decides what plays at a position. */
  decides(p: number): boolean;
  /** That nothing plays at a position. */
  open(p: number): Literal;
  /** By value that may play at a position, that it does. */
  values(p: number, tags: TagIndex): ReadonlyMap<number, Literal>;
  /** The items having a value that may play at a position, each with its literal. */
  items(p: number, tags: TagIndex, value: number): readonly { readonly item: number; readonly literal: Literal }[];

  /** Whether no item that may play at a position has more than one value of a tag. */
  isSingle(p: number, tags: TagIndex): boolean;

  /** A new variable that nothing is said of yet. */
  fresh(): Literal;
  /** One of the literals holds. */
  clause(...literals: readonly Literal[]): void;
  /** At most so many hold, unless one of two others does. */
  atMost(literals: readonly Literal[], most: number, unless?: Literal, orElse?: Literal): void;
  /** Of plays in time order, none holds with one before its reach unless the later one’s way out does. */
  separate(literals: readonly Literal[], reach: readonly number[], unless: readonly Literal[]): void;
}

/** What of a rule its clauses are made from. */
export interface ClauseRule {
  readonly hard: boolean;
  readonly tags: TagIndex;
  /** By position, 1 where the rule sees the play, and where it can be charged with a break. */
  readonly visible: Uint8Array;
  readonly charged: Uint8Array;
  looksAt(value: number): boolean;
  /** That the rule is broken once more: costs a break of its rank, or never holds where the rule is hard. */
  violation(): Literal;
}

/** That both hold: a new variable that must be true then, unless one of them says it all. */
export function both(model: ClauseModel, a: Literal, b: Literal): Literal {
  if (a === NEVER || b === NEVER) return NEVER;
  if (a === ALWAYS || a === b) return b;
  if (b === ALWAYS) return a;
  const literal = model.fresh();
  model.clause(a ^ 1, b ^ 1, literal);
  return literal;
}

/** That either holds: a new variable that must be true then, unless one of them says it all. */
export function either(model: ClauseModel, a: Literal, b: Literal): Literal {
  if (a === ALWAYS || b === ALWAYS) return ALWAYS;
  if (a === NEVER || a === b) return b;
  if (b === NEVER) return a;
  const literal = model.fresh();
  model.clause(a ^ 1, literal);
  model.clause(b ^ 1, literal);
  return literal;
}

/**
 * What a break of a play costs, by position: one literal for all values where a play has one at most, which says the
 * same with fewer; else a new one each time.
 */
export function violationsAt(rule: ClauseRule, model: ClauseModel): (p: number) => Literal {
  const known = new Map<number, Literal>();
  return (p) => {
    if (!model.isSingle(p, rule.tags)) return rule.violation();
    let literal = known.get(p);
    if (literal === undefined) known.set(p, (literal = rule.violation()));
    return literal;
  };
}

/** The positions of a stretch that a rule sees and that do not stand open for certain. */
export function seenPositions(rule: ClauseRule, model: ClauseModel, from: number, to: number): number[] {
  const found: number[] = [];
  for (let p = Math.max(0, from); p < to; p++) {
    if (rule.visible[p] === 1 && model.open(p) !== ALWAYS) found.push(p);
  }
  return found;
}

/**
 * The positions among which a rule about neighbours can be broken by what is decided: so many plays before the first
 * and after the last of them as well.
 */
export function neighbourhood(rule: ClauseRule, model: ClauseModel, plays: number): number[] {
  const stands = (p: number): boolean => rule.visible[p] === 1 && model.open(p) === NEVER;
  let from = model.from;
  for (let left = plays; from > 0 && left > 0; from--) if (stands(from - 1)) left--;
  let to = model.to;
  for (let left = plays; to < model.sequence.length && left > 0; to++) if (stands(to)) left--;
  return seenPositions(rule, model, from, to);
}

/** By value that a rule looks at, the positions at which it may play, in order. */
export function placesByValue(
  rule: ClauseRule,
  model: ClauseModel,
  positions: readonly number[],
): Map<number, number[]> {
  const places = new Map<number, number[]>();
  for (const p of positions) {
    for (const value of model.values(p, rule.tags).keys()) {
      if (!rule.looksAt(value)) continue;
      const list = places.get(value);
      if (list) list.push(p);
      else places.set(value, [p]);
    }
  }
  return places;
}
