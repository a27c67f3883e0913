import { placeIn } from '../../sequence/occurrences.js';
import { instanceLength, poolsOfItems, type Turn, type TurnContext, type TurnPool } from './turn.js';

/** How far short of the target a rest comes, squared; 0 from the target on. */
export function shortRest(rest: number, target: number): number {
  const short = 1 - rest / target;
  return short > 0 ? short * short : 0;
}

/**
 * Order even. First term, spread: over the items of the pool, the sum of (plays less the pool's
 * mean)², plays of history and log together. Second term, rest: over plays in the log, the sum of
 * max(0, 1 - rest / target)², where rest is the start-to-start distance from the item's play
 * before and target the pool's turnover: items x length of the instance / slots of the pool.
 */
export class EvenTurn implements Turn {
  private readonly poolsOf: readonly (readonly number[])[];
  private readonly sizes: Float64Array;
  private readonly targets: Float64Array;
  private readonly played: Float64Array;

  constructor(
    private readonly context: TurnContext,
    pools: readonly TurnPool[],
  ) {
    const length = instanceLength(context.instance);
    this.poolsOf = poolsOfItems(context.sequence.blank + 1, pools);
    this.sizes = Float64Array.from(pools, (pool) => pool.items.length);
    this.targets = Float64Array.from(pools, ({ items, slots }) =>
      slots.length === 0 ? 0 : (items.length * length) / slots.length,
    );
    this.played = new Float64Array(pools.length);
  }

  insert(_p: number, item: number): void {
    for (const pool of this.poolsOf[item]!) this.played[pool]!++;
  }

  remove(_p: number, item: number): void {
    for (const pool of this.poolsOf[item]!) this.played[pool]!--;
  }

  /** With n plays of the item and T of all m items: (2n + 1) - (2T + 1) / m. */
  add(_p: number, item: number): number {
    const pools = this.poolsOf[item]!;
    if (pools.length === 0) return 0;
    const count = this.context.plays.countOf(item);
    let change = 0;
    for (const pool of pools) change += 2 * count + 1 - (2 * this.played[pool]! + 1) / this.sizes[pool]!;
    return change;
  }

  rest(p: number, item: number): number {
    const pools = this.poolsOf[item]!;
    if (pools.length === 0) return 0;
    const { start } = this.context.sequence;
    const list = this.context.plays.lists[item]!;
    const place = placeIn(list, p);
    const before = place > 0 ? list[place - 1]! : -1;
    const after = place < list.length ? list[place]! : -1;
    let change = 0;
    for (const pool of pools) {
      const target = this.targets[pool]!;
      if (target === 0) continue;
      if (before >= 0) change += shortRest(start[p]! - start[before]!, target);
      if (after < 0) continue;
      change += shortRest(start[after]! - start[p]!, target);
      if (before >= 0) change -= shortRest(start[after]! - start[before]!, target);
    }
    return change;
  }
}
