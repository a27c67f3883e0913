/** What the engine answers. */
export interface Solution {
  readonly format: 'fuller-solution';
  readonly version: 1;
  readonly seed: number;
  /** Item id by slot id; null where the slot stays open. */
  readonly assignment: Readonly<Record<string, string | null>>;
  /** Every place where a rule is broken; hard ones stand only between locked plays and history. */
  readonly breaks: readonly Violation[];
  readonly score: Score;
  readonly open: readonly OpenSlot[];
  readonly bound: Bound;
  readonly stats: { readonly ms: number; readonly evaluations: number; readonly conflicts: number };
}

/** One place where a rule of an instance is broken; `by` is in seconds or plays, as the rule's amount is. */
export interface Violation {
  readonly rule: string;
  readonly slot: string;
  /** Slot ids, or item ids for plays in history. */
  readonly with: readonly string[];
  /** Seconds too soon for apart, plays too many or missing for the others. */
  readonly by: number;
}

/** A solution's score by level, compared from the first field to the last; less is better. */
export interface Score {
  readonly open: number;
  /** By rank; ranks that are not listed are 0. */
  readonly soft: Readonly<Record<string, number>>;
  /** Sum over items of even pools of (plays less the pool's mean)². */
  readonly spread: number;
  /** Sum over plays of even pools of max(0, 1 - rest / target)². */
  readonly rest: number;
}

/** No assignment of the instance has fewer. */
export interface Bound {
  readonly open: number;
  /** Breaks by rank whatever the ranks above it have; ranks without a bound are not listed. */
  readonly soft: Readonly<Record<string, number>>;
}

/** How well it is shown that a slot cannot be filled. */
export const PROOFS = ['proven', 'local', 'budget'] as const;
/**
 * `proven`: no assignment of the instance fills more slots. `local`: none that changes only the
 * slots of the window. `budget`: neither could be shown with the effort given.
 */
export type Proof = (typeof PROOFS)[number];

/** A slot that stays open, with what holds its candidates back and what would let it be filled. */
export interface OpenSlot {
  readonly slot: string;
  readonly proof: Proof;
  /** With proof `local`: the slots that were free in the search. */
  readonly window?: readonly string[];
  /** For each item that could stand here, a hard rule that holds it back and the plays it would clash with. */
  readonly heldBackBy: readonly HeldBack[];
  /** Plays and locks that, kept as they are, hold every candidate back; none of them can be left out. */
  readonly conflict: readonly string[];
  /** Single rules loosened, each shown by solving again to fill the slots named and open no other. */
  readonly relax: readonly Relaxation[];
}

/** A candidate, a hard rule that holds it back, and the plays it would clash with. */
export interface HeldBack {
  readonly item: string;
  readonly rule: string;
  readonly with: readonly string[];
}

/** A rule loosened, and the slots that fills. */
export interface Relaxation {
  readonly rule: string;
  readonly to: Readonly<Record<string, number | boolean>>;
  readonly fills: readonly string[];
}
