import { describe, expect, it } from '@jest/globals';
import { Random } from '../random.js';
import { IntLists } from './int-lists.js';
import { luby } from './luby.js';
import { VariableOrder } from './variable-order.js';

describe('the order of variables', () => {
  it('gives the most active first, the earlier of equals, whatever came in between', () => {
    const random = new Random(31);
    for (let round = 0; round < 200; round++) {
      const order = new VariableOrder(0.9);
      const count = 1 + random.below(90);
      const activity = Array.from({ length: count }, () => 0);
      const inside = new Set(activity.keys());
      for (let v = 0; v < count; v++) order.add(v);
      let step = 1;
      for (let move = 0; move < 150; move++) {
        const v = random.below(count);
        const kind = random.below(4);
        if (kind < 2) {
          order.bump(v);
          activity[v]! += step;
        } else if (kind === 2) {
          order.fade();
          step /= 0.9;
        } else if (inside.size > 0) {
          const best = [...inside].sort((a, b) => activity[b]! - activity[a]! || a - b)[0]!;
          expect(order.pop()).toBe(best);
          inside.delete(best);
          if (random.below(2) === 0) {
            order.insert(best);
            inside.add(best);
          }
        }
      }
      const left = [...inside].sort((a, b) => activity[b]! - activity[a]! || a - b);
      expect(left.map(() => order.pop())).toEqual(left);
      expect(order.pop()).toBe(-1);
    }
  });

  it('keeps its order when scores grow beyond what numbers hold', () => {
    const order = new VariableOrder(0.5);
    for (let v = 0; v < 3; v++) order.add(v);
    // Each step weighs twice the one before: past 10^100 after some 340.
    for (let n = 0; n < 500; n++) {
      order.bump(n % 2);
      order.fade();
    }
    expect([order.pop(), order.pop(), order.pop()]).toEqual([1, 0, 2]);
  });
});

describe('restarts', () => {
  it('follow the Luby sequence', () => {
    expect(Array.from({ length: 15 }, (_, n) => luby(n))).toEqual([1, 1, 2, 1, 1, 2, 4, 1, 1, 2, 1, 1, 2, 4, 8]);
  });
});

describe('growing lists of integers', () => {
  it('hold what was pushed, each in its order, and nothing once emptied', () => {
    const lists = new IntLists();
    lists.ensure(3);
    for (let n = 0; n < 1000; n++) lists.push(n % 3, n);
    lists.ensure(500);
    const held = (list: number): number[] => Array.from(lists.lists[list]!.subarray(0, lists.sizes[list]));
    expect(held(1)).toEqual(Array.from({ length: 333 }, (_, n) => 3 * n + 1));
    expect([held(0).length, held(2).at(-1), held(499)]).toEqual([334, 998, []]);
    lists.empty();
    lists.push(2, 7);
    expect([held(0), held(2)]).toEqual([[], [7]]);
  });
});
