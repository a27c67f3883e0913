import { placeIn } from '../model/occurrences.js';
import { tagIndex } from '../model/tag-index.js';
import { hashed } from '../random.js';
import { shortRest } from './even.js';
import type { Order } from './orders.js';
import { instanceLength, type Turn, type TurnContext, type TurnPool } from './turn.js';

/** A turn order of one pool that minds only plays in the pool's own slots. */
abstract class SlotTurn implements Turn {
  private readonly own: Uint8Array;
  protected readonly place: Int32Array;

  constructor(
    protected readonly context: TurnContext,
    protected readonly pool: TurnPool,
  ) {
    this.own = new Uint8Array(context.sequence.length);
    for (const p of pool.slots) this.own[p] = 1;
    this.place = new Int32Array(context.sequence.blank + 1).fill(-1);
    pool.items.forEach((item, index) => (this.place[item] = index));
  }

  add(p: number, item: number): number {
    return this.own[p] === 1 && this.place[item]! >= 0 ? this.cost(p, item) : 0;
  }

  rest(): number {
    return 0;
  }

  protected abstract cost(p: number, item: number): number;
}

/** Order random: a number drawn for each pair of slot and item; the sum is made small. */
class RandomTurn extends SlotTurn {
  protected override cost(p: number, item: number): number {
    return hashed(this.context.seed, p - this.context.sequence.history, item);
  }
}

/** Order newest: the place in the pool's list, which has the newest first, as a share of its size. */
class NewestTurn extends SlotTurn {
  protected override cost(_p: number, item: number): number {
    return this.place[item]! / this.pool.items.length;
  }
}

/**
 * Order shuffle: as even, so that every item comes once before any comes again, and within a turn
 * by a number drawn for each item and turn, which counts a quarter at most.
 */
class ShuffleTurn extends SlotTurn {
  protected override cost(_p: number, item: number): number {
    const turn = this.context.plays.countOf(item);
    return 2 * turn + 1 + hashed(this.context.seed, item, turn) / 4;
  }
}

/** Order weighted: the sum of plays² / weight, smallest when plays stand in the ratio of the weights. */
class WeightedTurn extends SlotTurn {
  private readonly weights: Float64Array;

  constructor(context: TurnContext, pool: TurnPool) {
    super(context, pool);
    const given = context.instance.pools[pool.name]!.weights ?? {};
    const weights = Float64Array.from(pool.items, (item) => given[context.instance.items[item]!.id] ?? 1);
    const mean = weights.reduce((sum, one) => sum + one, 0) / Math.max(1, weights.length);
    this.weights = weights.map((weight) => weight / mean);
  }

  protected override cost(_p: number, item: number): number {
    return (2 * this.context.plays.countOf(item) + 1) / this.weights[this.place[item]!]!;
  }
}

/** Order fewestPlays: the sum of plays² over the history given and the log; rests do not matter. */
class FewestPlaysTurn extends SlotTurn {
  protected override cost(_p: number, item: number): number {
    return 2 * this.context.plays.countOf(item) + 1;
  }
}

/** Order inOrder: how many places of the list are passed over from one play of the pool to the next, as a share. */
class InOrderTurn extends SlotTurn {
  protected override cost(p: number, item: number): number {
    const { itemAt } = this.context.sequence;
    const at = placeIn(this.pool.slots, p);
    let [before, after] = [at - 1, at + 1];
    while (before >= 0 && itemAt[this.pool.slots[before]!]! < 0) before--;
    while (after < this.pool.slots.length && itemAt[this.pool.slots[after]!]! < 0) after++;
    const left = before >= 0 ? this.place[itemAt[this.pool.slots[before]!]!]! : this.lastOfHistory();
    const right = after < this.pool.slots.length ? this.place[itemAt[this.pool.slots[after]!]!]! : -1;
    const here = this.place[item]!;
    const through = this.passed(left, here) + (right < 0 ? 0 : this.passed(here, right));
    return through - (right < 0 ? 0 : this.passed(left, right));
  }

  private passed(from: number, to: number): number {
    const size = this.pool.items.length;
    return ((((to - from - 1) % size) + size) % size) / size;
  }

  private last: number | null = null;

  /** Place in the list of the pool's latest play in history, -1 without one, so that the head comes next. */
  private lastOfHistory(): number {
    if (this.last === null) {
      const { itemAt, history } = this.context.sequence;
      let p = history - 1;
      while (p >= 0 && this.place[itemAt[p]!]! < 0) p--;
      this.last = p >= 0 ? this.place[itemAt[p]!]! : -1;
    }
    return this.last;
  }
}

/** Order artistRest: as the rest of order even, with the latest play of any artist of the item in place of the item's own. */
class ArtistRestTurn extends SlotTurn {
  private readonly artists;
  private readonly lists: readonly number[][];
  private readonly target: number;

  constructor(context: TurnContext, pool: TurnPool) {
    super(context, pool);
    this.artists = tagIndex(context.instance.items, 'artist');
    this.lists = this.artists.names.map(() => []);
    const names = new Set(Array.from(pool.items, (item) => this.artists.values[this.artists.first[item]!] ?? -1));
    this.target = (names.size * instanceLength(context.instance)) / Math.max(1, pool.slots.length);
  }

  insert(p: number, item: number): void {
    this.each(item, (list) => list.splice(placeIn(list, p), 0, p));
  }

  remove(p: number, item: number): void {
    this.each(item, (list) => list.splice(placeIn(list, p), 1));
  }

  private each(item: number, visit: (list: number[]) => void): void {
    const { first, values } = this.artists;
    for (let k = first[item]!; k < first[item + 1]!; k++) visit(this.lists[values[k]!]!);
  }

  protected override cost(p: number, item: number): number {
    const { start } = this.context.sequence;
    const { first, values } = this.artists;
    let [before, after] = [-1, -1];
    for (let k = first[item]!; k < first[item + 1]!; k++) {
      const list = this.lists[values[k]!]!;
      const place = placeIn(list, p);
      if (place > 0) before = Math.max(before, list[place - 1]!);
      const next = list[place] ?? -1;
      if (next >= 0 && (after < 0 || next < after)) after = next;
    }
    const short = before >= 0 ? shortRest(start[p]! - start[before]!, this.target) : 0;
    return short + (after >= 0 ? shortRest(start[after]! - start[p]!, this.target) : 0);
  }
}

const TURNS: Readonly<Record<Exclude<Order, 'even'>, new (context: TurnContext, pool: TurnPool) => SlotTurn>> = {
  random: RandomTurn,
  shuffle: ShuffleTurn,
  weighted: WeightedTurn,
  fewestPlays: FewestPlaysTurn,
  artistRest: ArtistRestTurn,
  newest: NewestTurn,
  inOrder: InOrderTurn,
};

export function slotTurn(order: Exclude<Order, 'even'>, context: TurnContext, pool: TurnPool): Turn {
  return new TURNS[order](context, pool);
}
