import type { TagIndex } from './tag-index.js';

/** For every value of a tag, the positions of its plays in order, as far as a rule sees them. */
export class Occurrences {
  readonly lists: readonly number[][];

  constructor(
    private readonly tags: TagIndex,
    private readonly visible: Uint8Array,
  ) {
    this.lists = tags.names.map(() => []);
  }

  insert(p: number, item: number): void {
    if (this.visible[p] === 0) return;
    const { first, values } = this.tags;
    for (let k = first[item]!; k < first[item + 1]!; k++) {
      const list = this.lists[values[k]!]!;
      let i = list.length;
      list.push(p);
      for (; i > 0 && list[i - 1]! > p; i--) list[i] = list[i - 1]!;
      list[i] = p;
    }
  }

  remove(p: number, item: number): void {
    if (this.visible[p] === 0) return;
    const { first, values } = this.tags;
    for (let k = first[item]!; k < first[item + 1]!; k++) {
      const list = this.lists[values[k]!]!;
      for (let i = placeIn(list, p) + 1; i < list.length; i++) list[i - 1] = list[i]!;
      list.pop();
    }
  }
}

/** Where a position stands, or would stand, in an ascending list. */
export function placeIn(list: readonly number[], p: number): number {
  let low = 0;
  let high = list.length;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (list[middle]! < p) low = middle + 1;
    else high = middle;
  }
  return low;
}
