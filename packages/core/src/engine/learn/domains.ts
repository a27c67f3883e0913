import type { Assignment } from '../model/assignment.js';

/** Models of so many plays, an item in a slot each, are made whole. */
const WHOLE = 15_000;
/** Items of a slot that a larger model looks at. */
const WIDTH = 48;
/** How far the band of one slot lies behind that of the one before. */
const STEP = 2;

/** What a model may put where. */
export interface Domains {
  readonly domain: (p: number) => ArrayLike<number>;
  /** Whether some slot has more items than are looked at. */
  readonly cut: boolean;
}

/**
 * The domains of slots, large ones cut to a band of their pool’s turn: those that have rested longest come first, and
 * the band moves on from slot to slot. What stands now is always in it.
 */
export class DomainCuts {
  /** By pool, the place of each item in its turn; by domain, its items in turn. Slots share domains where no filter cuts them. */
  private readonly turns = new Map<number, ReadonlyMap<number, number>>();
  private readonly ranked = new Map<Int32Array, readonly number[]>();

  constructor(private readonly assignment: Assignment) {}

  /** The domains of some positions, as things stand. */
  of(positions: readonly number[]): Domains {
    const { compiled, history } = this.assignment;
    const whole = (p: number): Int32Array => compiled.domains[p - history]!;
    const plays = positions.reduce((sum, p) => sum + whole(p).length, 0);
    const isLarge = (p: number): boolean => plays > WHOLE && whole(p).length > WIDTH;
    const cut = positions.some(isLarge);
    if (!cut) return { domain: whole, cut };
    const bands = new Map(positions.map((p) => [p, isLarge(p) ? this.band(p) : whole(p)]));
    return { domain: (p) => bands.get(p)!, cut };
  }

  private band(p: number): readonly number[] {
    const { compiled, history, itemAt } = this.assignment;
    const ranked = this.inTurn(compiled.domains[p - history]!, compiled.poolOf[p - history]!);
    const nth = compiled.pools[compiled.poolOf[p - history]!]!.slots.indexOf(p);
    const from = Math.min(nth * STEP, ranked.length - WIDTH);
    const band = ranked.slice(from, from + WIDTH);
    const standing = itemAt[p]!;
    if (standing >= 0 && !band.includes(standing)) band[band.length - 1] = standing;
    return band;
  }

  private inTurn(domain: Int32Array, pool: number): readonly number[] {
    let ranked = this.ranked.get(domain);
    if (!ranked) {
      const turn = this.turnOf(pool);
      this.ranked.set(domain, (ranked = Array.from(domain).sort((a, b) => turn.get(a)! - turn.get(b)!)));
    }
    return ranked;
  }

  /** By item of a pool, its place in the turn: the longest rested first. */
  private turnOf(pool: number): ReadonlyMap<number, number> {
    let turn = this.turns.get(pool);
    if (turn) return turn;
    const { compiled, sequence, itemAt } = this.assignment;
    const last = new Map<number, number>();
    for (let p = 0; p < sequence.history; p++) last.set(itemAt[p]!, p);
    const items = Array.from(compiled.pools[pool]!.items, (item, i) => ({ item, i, last: last.get(item) ?? -1 }));
    items.sort((a, b) => a.last - b.last || a.i - b.i);
    turn = new Map(items.map(({ item }, place) => [item, place]));
    this.turns.set(pool, turn);
    return turn;
  }
}
