import type { Assignment } from '../model/assignment.js';

/** Models of so many plays, an item in a slot each, are made whole. */
const WHOLE = 15_000;
/** Items of a slot that a larger model looks at. */
const WIDTH = 48;
/** How far the band of one slot lies behind that of the one before. */
const STEP = 2;

/** What a model may put where. */
export interface Domains {
  readonly domain: (p: number) => readonly number[];
  /** Whether some slot has more items than are looked at. */
  readonly cut: boolean;
}

/**
 * The domains of slots, large ones cut to a band of their pool’s turn: those that have rested longest come first, and
 * the band moves on from slot to slot. What stands now is always in it.
 */
export function domainsFor(assignment: Assignment, positions: readonly number[]): Domains {
  const { compiled, history, itemAt } = assignment;
  const turns = new Map<number, ReadonlyMap<number, number>>();
  // Slots of a pool share their domain where no filter cuts it.
  const inTurn = new Map<Int32Array, number[]>();
  const met = new Map<number, number>();
  const chosen = new Map<number, number[]>();
  const plays = positions.reduce((sum, p) => sum + compiled.domains[p - history]!.length, 0);
  let cut = false;
  for (const p of positions) {
    const all = compiled.domains[p - history]!;
    if (all.length <= WIDTH || plays <= WHOLE) {
      chosen.set(p, Array.from(all));
      continue;
    }
    cut = true;
    const pool = compiled.poolOf[p - history]!;
    let turn = turns.get(pool);
    if (!turn) turns.set(pool, (turn = turnOf(assignment, pool)));
    const nth = met.get(pool) ?? 0;
    met.set(pool, nth + 1);
    let ranked = inTurn.get(all);
    if (!ranked) inTurn.set(all, (ranked = Array.from(all).sort((a, b) => turn.get(a)! - turn.get(b)! || a - b)));
    const from = Math.min(nth * STEP, ranked.length - WIDTH);
    const band = ranked.slice(from, from + WIDTH);
    const standing = itemAt[p]!;
    if (standing >= 0 && !band.includes(standing)) band[band.length - 1] = standing;
    chosen.set(p, band);
  }
  return { domain: (p) => chosen.get(p)!, cut };
}

/** By item of a pool, its place in the turn: the longest rested first. */
function turnOf({ compiled, sequence, itemAt }: Assignment, pool: number): Map<number, number> {
  const last = new Map<number, number>();
  for (let p = 0; p < sequence.history; p++) last.set(itemAt[p]!, p);
  const items = Array.from(compiled.pools[pool]!.items, (item, i) => ({ item, i, last: last.get(item) ?? -1 }));
  items.sort((a, b) => a.last - b.last || a.i - b.i);
  return new Map(items.map(({ item }, place) => [item, place]));
}
