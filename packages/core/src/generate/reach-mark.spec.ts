import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { waysToReach } from './reach-mark.js';

/** The least any subset of up to three is off, by trying them all. */
function bestByTrying(gap: number, lengths: readonly number[]): number {
  let best = gap;
  const off = (...places: number[]): void => {
    best = Math.min(best, Math.abs(places.reduce((sum, place) => sum + lengths[place]!, 0) - gap));
  };
  for (let a = 0; a < lengths.length; a++) {
    off(a);
    for (let b = a + 1; b < lengths.length; b++) {
      off(a, b);
      for (let c = b + 1; c < lengths.length; c++) off(a, b, c);
    }
  }
  return best;
}

describe('waysToReach', () => {
  it('finds the nearest sum there is, using each length once', () => {
    const gap = fc.integer({ min: 0, max: 400 });
    fc.assert(
      fc.property(gap, fc.array(fc.integer({ min: 1, max: 200 }), { maxLength: 12 }), (wanted, lengths) => {
        const ways = waysToReach(wanted, lengths, 3);
        expect(Math.abs(ways[0]!.offMs)).toBe(bestByTrying(wanted, lengths));
        for (const { chosen, offMs } of ways) {
          expect(new Set(chosen).size).toBe(chosen.length);
          expect(chosen.reduce((sum, place) => sum + lengths[place]!, 0) - wanted).toBe(offMs);
        }
      }),
    );
  });
});
