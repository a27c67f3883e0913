import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { fillInTurn, PIECES_TO_LAND } from './fill-room.js';

const option = (item: number, lengthMs: number) => ({ item, lengthMs });
const options = fc
  .array(fc.integer({ min: 0, max: 60_000 }), { minLength: 0, maxLength: 12 })
  .map((lengths) => lengths.map((lengthMs, item) => option(item, lengthMs)));

describe('filling a long gap', () => {
  it('takes pieces in turn, the longest rested first, and leaves the last few to land', () => {
    const pieces = [10_000, 12_000, 8_000].map((lengthMs, item) => option(item, lengthMs));
    const { chosen, leftMs } = fillInTurn(100_000, pieces, 50);
    expect(chosen.slice(0, 6)).toEqual([0, 1, 2, 0, 1, 2]);
    expect(leftMs).toBeLessThanOrEqual(10_000 * PIECES_TO_LAND);
    expect(leftMs).toBeGreaterThan(0);
  });

  it('never plays longer than the gap, takes no more slots than there are, and counts what is left', () => {
    fc.assert(
      fc.property(
        options,
        fc.integer({ min: 0, max: 900_000 }),
        fc.integer({ min: 0, max: 40 }),
        (pieces, gapMs, slots) => {
          const { chosen, queue, leftMs } = fillInTurn(gapMs, pieces, slots);
          const played = chosen.reduce((sum, item) => sum + pieces[item]!.lengthMs, 0);
          expect(leftMs).toBe(gapMs - played);
          expect(leftMs).toBeGreaterThanOrEqual(0);
          expect(chosen.length).toBeLessThanOrEqual(slots);
          // What is offered for the landing are other pieces than the ones that played last.
          for (const item of queue) expect(pieces[item]!.lengthMs).toBeGreaterThan(0);
          expect(new Set(queue).size).toBe(queue.length);
        },
      ),
    );
  });

  it('plays no piece twice running as long as there are others that fit', () => {
    const lengths = fc.array(fc.integer({ min: 5_000, max: 9_000 }), { minLength: 3, maxLength: 10 });
    fc.assert(
      fc.property(lengths, (list) => {
        const { chosen } = fillInTurn(
          300_000,
          list.map((lengthMs, item) => option(item, lengthMs)),
          100,
        );
        for (const [n, item] of chosen.entries()) if (n > 0) expect(item).not.toBe(chosen[n - 1]);
      }),
    );
  });

  it('plays nothing where nothing has a length, or nothing fits', () => {
    expect(fillInTurn(60_000, [option(0, 0)], 9)).toEqual({ chosen: [], queue: [], leftMs: 60_000 });
    expect(fillInTurn(4_000, [option(0, 9_000)], 9).chosen).toEqual([]);
    expect(fillInTurn(60_000, [], 9).chosen).toEqual([]);
  });
});
