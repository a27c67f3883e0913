/** What the engine answers. */
export interface Solution {
  readonly format: 'fuller-solution';
  readonly version: 1;
  readonly seed: number;
  /** Item id by slot id; null where the slot stays open. */
  readonly assignment: Readonly<Record<string, string | null>>;
  /** Every place where a rule is broken; hard ones stand only between locked plays and history. */
  readonly breaks: readonly RuleBreak[];
  readonly score: Score;
  readonly open: readonly OpenSlot[];
  readonly stats: { readonly evaluations: number };
}

export interface RuleBreak {
  readonly rule: string;
  readonly slot: string;
  /** Slot ids, or item ids for plays in history. */
  readonly with: readonly string[];
  /** Seconds too soon. */
  readonly by: number;
}

export interface Score {
  readonly open: number;
  readonly soft: Readonly<Record<string, number>>;
  /** Sum over items of even pools of (plays less the pool's mean)². */
  readonly spread: number;
  /** Sum over plays of even pools of max(0, 1 - rest / target)². */
  readonly rest: number;
}

export interface OpenSlot {
  readonly slot: string;
  /** `proven` only when history and locked plays alone hold back every candidate. */
  readonly proof: 'proven' | 'budget';
  readonly heldBackBy: readonly { readonly item: string; readonly rule: string; readonly with: readonly string[] }[];
}
