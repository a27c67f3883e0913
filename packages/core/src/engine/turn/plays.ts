import { placeIn } from '../../sequence/occurrences.js';
import type { Sequence } from '../../sequence/sequence.js';

/** The plays of every item in order: what turn orders are worked out from. */
export class Plays {
  readonly lists: readonly number[][];

  constructor(readonly sequence: Sequence) {
    this.lists = Array.from(sequence.duration, () => []);
  }

  insert(p: number, item: number): void {
    const list = this.lists[item]!;
    let i = list.length;
    list.push(p);
    for (; i > 0 && list[i - 1]! > p; i--) list[i] = list[i - 1]!;
    list[i] = p;
  }

  remove(p: number, item: number): void {
    const list = this.lists[item]!;
    for (let i = placeIn(list, p) + 1; i < list.length; i++) list[i - 1] = list[i]!;
    list.pop();
  }

  countOf(item: number): number {
    return this.lists[item]!.length;
  }

  /** The item's play before a position, -1 without one. */
  before(p: number, item: number): number {
    const list = this.lists[item]!;
    const place = placeIn(list, p);
    return place > 0 ? list[place - 1]! : -1;
  }

  /** The item's play after a position, -1 without one. */
  after(p: number, item: number): number {
    const list = this.lists[item]!;
    const place = placeIn(list, p);
    return list[list[place] === p ? place + 1 : place] ?? -1;
  }
}
