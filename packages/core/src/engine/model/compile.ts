import { evaluatorOf } from '../../rules/shapes.js';
import type { RuleEvaluator } from '../../rules/evaluator.js';
import type { Instance } from '../instance.js';
import { EvenTurn } from '../turn/even.js';
import { slotTurn } from '../turn/other-orders.js';
import { Plays } from '../turn/plays.js';
import type { Turn, TurnContext, TurnPool } from '../turn/turn.js';
import { RuleContext, type Index } from '../../sequence/rule-context.js';
import { Sequence } from '../../sequence/sequence.js';

/** An instance with ids turned into small integers, so that the search touches only arrays. */
export interface Compiled {
  readonly instance: Instance;
  readonly itemIds: readonly string[];
  readonly itemIndex: ReadonlyMap<string, number>;
  readonly sequence: Sequence;
  readonly evaluators: readonly RuleEvaluator[];
  readonly turns: readonly Turn[];
  readonly plays: Plays;
  readonly indexes: readonly Index[];
  readonly pools: readonly TurnPool[];
  /** Pool by slot. */
  readonly poolOf: Int32Array;
  /** By slot, the items that may stand there. */
  readonly domains: readonly Int32Array[];
  /** Item of a locked slot, else -1. */
  readonly locked: Int32Array;
}

type ItemIds = Pick<Compiled, 'itemIds' | 'itemIndex'>;

/** Items are compiled again and again with other slots. */
const knownIds = new WeakMap<Instance['items'], ItemIds>();

function idsOf(items: Instance['items']): ItemIds {
  let ids = knownIds.get(items);
  if (!ids) {
    const itemIds = items.map((item) => item.id);
    knownIds.set(items, (ids = { itemIds, itemIndex: new Map(itemIds.map((id, index) => [id, index])) }));
  }
  return ids;
}

/** Compiles an instance whose ids have been checked, or are known to be good. */
export function compile(instance: Instance, seed = 1): Compiled {
  const { itemIds, itemIndex } = idsOf(instance.items);
  const sequence = new Sequence(instance, itemIndex);
  const context = new RuleContext(instance, sequence);
  const evaluators = instance.rules.map((rule) => evaluatorOf(rule, context));
  const pools = compilePools(instance, sequence, itemIndex);
  const poolIndex = new Map(pools.map((pool) => [pool.name, pool.index]));
  const plays = context.register(new Plays(sequence));
  const turns = compileTurns({ instance, sequence, plays, seed }, pools);
  for (const turn of turns) if (turn.insert) context.register(turn as Index);
  return {
    instance,
    itemIds,
    itemIndex,
    sequence,
    evaluators,
    turns,
    plays,
    indexes: context.indexes,
    pools,
    poolOf: Int32Array.from(instance.slots, (slot) => poolIndex.get(slot.pool)!),
    domains: compileDomains(instance, pools, poolIndex, itemIndex),
    locked: Int32Array.from(instance.slots, ({ locked }) => (locked === undefined ? -1 : itemIndex.get(locked)!)),
  };
}

function compilePools(instance: Instance, sequence: Sequence, itemIndex: ReadonlyMap<string, number>): TurnPool[] {
  const slots = new Map<string, number[]>(Object.keys(instance.pools).map((name) => [name, []]));
  instance.slots.forEach((slot, s) => slots.get(slot.pool)!.push(sequence.history + s));
  return Object.entries(instance.pools).map(([name, pool], index) => ({
    index,
    name,
    items: Int32Array.from(pool.items, (id) => itemIndex.get(id)!),
    slots: slots.get(name)!,
  }));
}

function compileTurns(context: TurnContext, pools: readonly TurnPool[]): Turn[] {
  const orderOf = (pool: TurnPool): string => context.instance.pools[pool.name]!.order;
  const turns: Turn[] = [];
  const even = pools.filter((pool) => orderOf(pool) === 'even');
  if (even.length > 0) turns.push(new EvenTurn(context, even));
  for (const pool of pools) {
    const { order } = context.instance.pools[pool.name]!;
    if (order !== 'even' && pool.slots.length > 0) turns.push(slotTurn(order, context, pool));
  }
  return turns;
}

function compileDomains(
  instance: Instance,
  pools: readonly TurnPool[],
  poolIndex: ReadonlyMap<string, number>,
  itemIndex: ReadonlyMap<string, number>,
): Int32Array[] {
  // Slots of one hour and category share what they allow.
  const known = new Map<TurnPool, Map<readonly string[], Int32Array>>();
  return instance.slots.map((slot) => {
    const pool = pools[poolIndex.get(slot.pool)!]!;
    if (!slot.allow) return pool.items;
    let ofPool = known.get(pool);
    if (!ofPool) known.set(pool, (ofPool = new Map()));
    let domain = ofPool.get(slot.allow);
    if (!domain) {
      const allowed = new Set(slot.allow.map((id) => itemIndex.get(id)!));
      ofPool.set(slot.allow, (domain = pool.items.filter((item) => allowed.has(item))));
    }
    return domain;
  });
}
