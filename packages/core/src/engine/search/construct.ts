import { HARD, type Assignment } from '../model/assignment.js';
import type { Order } from '../../sequence/orders.js';
import type { TurnPool } from '../turn/turn.js';

/** So many candidates are weighed for a slot, from the head of the pool's turn. */
const HEAD = 24;

/**
 * Fills the open slots, the pools with the least slack of supply against demand first and in time
 * order within one: each slot with the best of the candidates at the head of its pool's turn that
 * break no hard rule. Slots for which there is none stay open.
 */
export function construct(assignment: Assignment): void {
  const { compiled, history, itemAt } = assignment;
  for (const pool of byScarcity(compiled.pools)) {
    const open = pool.slots.filter((p) => itemAt[p]! < 0);
    if (open.length === 0) continue;
    const turn = new TurnQueue(assignment, pool);
    for (const p of open) {
      const domain = compiled.domains[p - history]!;
      const item = domain === pool.items ? turn.take(p) : best(assignment, p, turn.sorted(domain), domain.length);
      if (item >= 0) assignment.place(p, item);
    }
  }
}

/**
 * Lays the pools whose turn order is a sequence out anew in time order, each slot with the best next item; what other
 * searches leave out of order so comes right. Returns false when nothing was laid out.
 */
export function layOutSequences(assignment: Assignment, orders: readonly Order[]): boolean {
  const { compiled, history, sequence } = assignment;
  const pools = compiled.pools.filter(({ name, slots }) => {
    const { order } = compiled.instance.pools[name]!;
    return slots.length > 0 && orders.includes(order);
  });
  for (const pool of pools) {
    const free = pool.slots.filter((p) => sequence.fixed[p] === 0);
    for (const p of free) if (assignment.itemAt[p]! >= 0) assignment.clear(p);
    for (const p of free) {
      const domain = compiled.domains[p - history]!;
      const item = best(assignment, p, domain, domain.length, domain.length);
      if (item >= 0) assignment.place(p, item);
    }
  }
  return pools.length > 0;
}

function byScarcity(pools: readonly TurnPool[]): TurnPool[] {
  const demand = (pool: TurnPool): number => pool.slots.length / Math.max(1, pool.items.length);
  return [...pools].sort((a, b) => demand(b) - demand(a) || a.index - b.index);
}

/** The cheapest of the first candidates that break no hard rule, -1 when there is none among all of them. */
function best(assignment: Assignment, p: number, candidates: ArrayLike<number>, count: number, weigh = HEAD): number {
  let found = -1;
  let least = Number.POSITIVE_INFINITY;
  let weighed = 0;
  assignment.begin(p);
  for (let i = 0; i < count && weighed < weigh; i++) {
    const item = candidates[i]!;
    if (assignment.hardOf(p, item) + assignment.totals[HARD]! > 0) continue;
    weighed++;
    const cost = assignment.costOf(item);
    if (cost < least) {
      least = cost;
      found = item;
    }
  }
  return found;
}

/** The items of a pool by plays, then by how long ago the last one was; what is taken goes to the end. */
class TurnQueue {
  private readonly queue: number[];

  constructor(
    private readonly assignment: Assignment,
    pool: TurnPool,
  ) {
    this.queue = this.sorted(pool.items);
  }

  sorted(items: Int32Array): number[] {
    const { plays, sequence } = this.assignment.compiled;
    const turn = Float64Array.from(
      items,
      (item) => plays.countOf(item) * 2 * sequence.length + plays.before(sequence.length, item),
    );
    const order = Array.from(items.keys()).sort((a, b) => turn[a]! - turn[b]! || a - b);
    return order.map((i) => items[i]!);
  }

  take(p: number): number {
    const item = best(this.assignment, p, this.queue, this.queue.length);
    if (item < 0) return -1;
    const at = this.queue.indexOf(item);
    this.queue.splice(at, 1);
    this.queue.push(item);
    return item;
  }
}
