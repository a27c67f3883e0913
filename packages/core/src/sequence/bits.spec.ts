import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { Bits } from './bits.js';

describe('a set of positions', () => {
  it('finds the same neighbours as a sorted list, over the borders of its words', () => {
    const size = 150;
    const position = fc.integer({ min: 0, max: size - 1 });
    const step = fc.record({ add: fc.boolean(), at: fc.oneof(position, fc.constantFrom(0, 31, 32, 63, 64, 127, 149)) });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 60 }), position, (steps, asked) => {
        const bits = new Bits(size);
        const members = new Set<number>();
        for (const { add, at } of steps) {
          if (add) {
            bits.add(at);
            members.add(at);
          } else {
            bits.delete(at);
            members.delete(at);
          }
        }
        const sorted = [...members].sort((a, b) => a - b);
        expect(bits.next(asked)).toBe(sorted.find((one) => one > asked) ?? -1);
        expect(bits.previous(asked)).toBe(sorted.findLast((one) => one < asked) ?? -1);
      }),
    );
  });

  it('has no neighbours where it is empty, at either end', () => {
    const bits = new Bits(64);
    expect([bits.next(-1), bits.next(63), bits.previous(0), bits.previous(63)]).toEqual([-1, -1, -1, -1]);
    bits.add(0);
    bits.add(63);
    expect([bits.next(-1), bits.next(0), bits.next(63)]).toEqual([0, 63, -1]);
    expect([bits.previous(64), bits.previous(63), bits.previous(0)]).toEqual([63, 0, -1]);
  });
});
