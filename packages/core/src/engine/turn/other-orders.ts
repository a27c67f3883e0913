import { placeIn } from '../../sequence/occurrences.js';
import { tagIndex } from '../../sequence/tag-index.js';
import { hashed } from '../random.js';
import { shortRest } from './even.js';
import type { Order } from '../../sequence/orders.js';
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
    return this.mine(p, item) ? this.cost(p, item) : 0;
  }

  protected mine(p: number, item: number): boolean {
    return this.own[p] === 1 && this.place[item]! >= 0;
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
 * Order shuffle: slots are dealt into rounds as long as the pool has items, the first going on where history stopped.
 * Each play of an item in a round that has it already costs 2, and each play a number drawn for the item and the
 * round, which counts a quarter at most. What never played in its round comes first where rules got in the way.
 */
class ShuffleTurn extends SlotTurn {
  private readonly roundOf: Int32Array;
  private readonly counts: Int32Array;

  constructor(context: TurnContext, pool: TurnPool) {
    super(context, pool);
    const size = Math.max(1, pool.items.length);
    const played = this.playedInRound();
    this.roundOf = new Int32Array(context.sequence.length);
    pool.slots.forEach((p, n) => (this.roundOf[p] = Math.floor((played.size + n) / size)));
    const rounds = Math.floor((played.size + pool.slots.length) / size) + 1;
    this.counts = new Int32Array(rounds * size);
    for (const item of played) this.counts[this.place[item]!] = 1;
  }

  /** The items that history has played since the last round was over. */
  private playedInRound(): ReadonlySet<number> {
    const { itemAt, history } = this.context.sequence;
    const counts = new Map<number, number>(Array.from(this.pool.items, (item) => [item, 0]));
    for (let p = 0; p < history; p++) {
      const item = itemAt[p]!;
      if (counts.has(item)) counts.set(item, counts.get(item)! + 1);
    }
    const least = Math.min(...counts.values());
    const most = Math.max(...counts.values());
    if (most - least <= 1) return new Set([...counts].flatMap(([item, count]) => (count > least ? [item] : [])));
    // Where counts tell nothing, the plays since the last repeat.
    const since = new Set<number>();
    for (let p = history - 1; p >= 0 && !since.has(itemAt[p]!); p--) if (counts.has(itemAt[p]!)) since.add(itemAt[p]!);
    return since.size === counts.size ? new Set() : since;
  }

  insert(p: number, item: number): void {
    if (this.mine(p, item)) this.counts[this.cell(p, item)]!++;
  }

  remove(p: number, item: number): void {
    if (this.mine(p, item)) this.counts[this.cell(p, item)]!--;
  }

  private cell(p: number, item: number): number {
    return this.roundOf[p]! * this.pool.items.length + this.place[item]!;
  }

  protected override cost(p: number, item: number): number {
    return 2 * this.counts[this.cell(p, item)]! + hashed(this.context.seed, item, this.roundOf[p]!) / 4;
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

/**
 * Order inOrder: how many places of the list are skipped from one play of the pool to the next, as a share. A play
 * that is fixed is charged nothing, and the next one goes on from it.
 */
class InOrderTurn extends SlotTurn {
  protected override cost(p: number, item: number): number {
    const { itemAt, fixed } = this.context.sequence;
    const at = placeIn(this.pool.slots, p);
    let [before, after] = [at - 1, at + 1];
    while (before >= 0 && itemAt[this.pool.slots[before]!]! < 0) before--;
    while (after < this.pool.slots.length && itemAt[this.pool.slots[after]!]! < 0) after++;
    const left = before >= 0 ? this.place[itemAt[this.pool.slots[before]!]!]! : this.lastOfHistory();
    const next = this.pool.slots[after];
    const here = this.place[item]!;
    const own = fixed[p] === 1 ? 0 : this.skipped(left, here);
    if (next === undefined || fixed[next] === 1) return own;
    const right = this.place[itemAt[next]!]!;
    return own + this.skipped(here, right) - this.skipped(left, right);
  }

  private skipped(from: number, to: number): number {
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

/** The turn of a pool whose order is not even. */
export function slotTurn(order: Exclude<Order, 'even'>, context: TurnContext, pool: TurnPool): Turn {
  return new TURNS[order](context, pool);
}
