import type { InstanceItem } from './parts.js';

/** The values of one tag as integers: those of item i are `values[first[i]]` up to `values[first[i + 1]]`. */
export interface TagIndex {
  readonly names: readonly string[];
  readonly numbers: ReadonlyMap<string, number>;
  readonly first: Int32Array;
  readonly values: Int32Array;
}

/** Items are compiled again and again with other slots; their tags stay the same. */
const known = new WeakMap<readonly InstanceItem[], Map<string, TagIndex>>();

/** The index of a tag over items. */
export function tagIndex(items: readonly InstanceItem[], tag: string): TagIndex {
  let ofItems = known.get(items);
  if (!ofItems) known.set(items, (ofItems = new Map()));
  let index = ofItems.get(tag);
  if (!index) ofItems.set(tag, (index = makeIndex(items, tag)));
  return index;
}

function makeIndex(items: readonly InstanceItem[], tag: string): TagIndex {
  const numbers = new Map<string, number>();
  // One more than the items: the blank, which has no values.
  const first = new Int32Array(items.length + 2);
  const values: number[] = [];
  items.forEach((item, i) => {
    for (const name of new Set(item.tags[tag] ?? [])) {
      let value = numbers.get(name);
      if (value === undefined) numbers.set(name, (value = numbers.size));
      values.push(value);
    }
    first[i + 1] = values.length;
  });
  first[items.length + 1] = values.length;
  return { names: [...numbers.keys()], numbers, first, values: Int32Array.from(values) };
}

/** Whether an item has a value. */
export function hasValue(tags: TagIndex, item: number, value: number): boolean {
  const { first, values } = tags;
  const end = first[item + 1]!;
  for (let k = first[item]!; k < end; k++) if (values[k] === value) return true;
  return false;
}
