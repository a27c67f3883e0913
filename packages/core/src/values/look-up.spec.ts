import { describe, expect, it } from '@jest/globals';
import { elementAt, lastOf, lookUp, lookUpIn } from './look-up.js';

describe('a value that must be there', () => {
  it('is found by its place, or as the last', () => {
    expect([
      elementAt([1, 2, 3], 0),
      lastOf([1, 2, 3]),
      elementAt('abc', 1),
      elementAt(new Uint8Array([7]), 0),
    ]).toEqual([1, 3, 'b', 7]);
    expect(elementAt([undefined], 0)).toBeUndefined();
  });

  it.each([3, -1, Number.NaN])('is refused at the place %d of three', (place) =>
    expect(() => elementAt([1, 2, 3], place)).toThrow(RangeError),
  );

  it('is refused as the last of none', () => expect(() => lastOf([])).toThrow(RangeError));

  it('is found by its key or its name, and told by it where it is missing', () => {
    expect([lookUp(new Map([['a', 0]]), 'a'), lookUpIn({ a: 0 }, 'a')]).toEqual([0, 0]);
    expect(() => lookUp(new Map(), 'gold')).toThrow('gold');
    expect(() => lookUpIn({}, 'gold')).toThrow('gold');
  });
});
