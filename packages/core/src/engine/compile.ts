import type { Instance } from './instance.js';

/** An instance with ids turned into small integers, so that the search touches only arrays. */
export interface Compiled {
  readonly instance: Instance;
  readonly itemIds: readonly string[];
  readonly duration: Int32Array;
  /** Per pool, its items in the order given. */
  readonly poolItems: readonly Int32Array[];
  readonly slotStart: Int32Array;
  readonly slotPool: Int32Array;
  /** Item of a locked slot, else -1. */
  readonly slotLocked: Int32Array;
  readonly rules: readonly CompiledRule[];
  /** Plays before the first slot, by start. */
  readonly historyItem: Int32Array;
  readonly historyStart: Int32Array;
}

export interface CompiledRule {
  readonly id: string;
  /** Per item, the values it has for the rule's tag. */
  readonly valuesOf: readonly Int32Array[];
  readonly values: number;
  /** Per slot, the distance asked there, seconds; 0 where the rule does not look. */
  readonly secondsAt: Int32Array;
  /** Per slot, 1 where the play is invisible to the rule. */
  readonly exemptAt: Uint8Array;
}

/** Compiles an instance; throws RangeError naming the path of anything it refers to that is not there. */
export function compile(instance: Instance): Compiled {
  const itemIndex = new Map(instance.items.map((item, index) => [item.id, index]));
  const itemAt = (id: string, path: string): number => {
    const index = itemIndex.get(id);
    if (index === undefined) throw new RangeError(`${path}: no item “${id}”`);
    return index;
  };
  const poolNames = Object.keys(instance.pools);
  const poolIndex = new Map(poolNames.map((name, index) => [name, index]));
  const known = instance.history.filter((play) => itemIndex.has(play.item)).sort((a, b) => a.start - b.start);
  return {
    instance,
    itemIds: instance.items.map((item) => item.id),
    duration: Int32Array.from(instance.items, (item) => item.duration),
    poolItems: poolNames.map((name) =>
      Int32Array.from(instance.pools[name]!.items, (id, i) => itemAt(id, `pools.${name}.items[${i}]`)),
    ),
    slotStart: Int32Array.from(instance.slots, (slot) => slot.start),
    slotPool: Int32Array.from(instance.slots, (slot, i) => {
      const pool = poolIndex.get(slot.pool);
      if (pool === undefined) throw new RangeError(`slots[${i}].pool: no pool “${slot.pool}”`);
      return pool;
    }),
    slotLocked: Int32Array.from(instance.slots, (slot, i) =>
      slot.locked === undefined ? -1 : itemAt(slot.locked, `slots[${i}].locked`),
    ),
    rules: instance.rules.map((rule) => compileRule(instance, rule)),
    historyItem: Int32Array.from(known, (play) => itemIndex.get(play.item)!),
    historyStart: Int32Array.from(known, (play) => play.start),
  };
}

function compileRule(instance: Instance, rule: Instance['rules'][number]): CompiledRule {
  return {
    id: rule.id,
    ...tagValues(instance.items, rule.tag),
    secondsAt: Int32Array.from(instance.slots, (slot) => rule.secondsByPool?.[slot.pool] ?? rule.seconds),
    exemptAt: Uint8Array.from(instance.slots, (slot) => (slot.exempt?.includes(rule.id) ? 1 : 0)),
  };
}

interface TagValues {
  readonly valuesOf: readonly Int32Array[];
  readonly values: number;
}

/** Items are compiled again and again with other slots; their tags stay the same. */
const compiledTags = new WeakMap<Instance['items'], Map<string, TagValues>>();

function tagValues(items: Instance['items'], tag: string): TagValues {
  let known = compiledTags.get(items);
  if (!known) compiledTags.set(items, (known = new Map()));
  let values = known.get(tag);
  if (!values) known.set(tag, (values = indexTag(items, tag)));
  return values;
}

function indexTag(items: Instance['items'], tag: string): TagValues {
  const valueIndex = new Map<string, number>();
  const valuesOf = items.map((item) =>
    Int32Array.from(new Set(item.tags[tag] ?? []), (value) => {
      const index = valueIndex.get(value) ?? valueIndex.size;
      valueIndex.set(value, index);
      return index;
    }),
  );
  return { valuesOf, values: valueIndex.size };
}
