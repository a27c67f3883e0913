import { expect, it } from '@jest/globals';
import fc from 'fast-check';
import { CellCounts } from './cell-counts.js';

/** More cells than fit an array, so that only those in use are held. */
const MANY = 1 << 20;

it.each([
  ['few', 7],
  ['very many', MANY],
])('counts by value and cell like a map, with %s cells', (_, cells) => {
  const change = fc.record({
    value: fc.integer({ min: 0, max: 40 }),
    cell: fc.integer({ min: 0, max: Math.min(cells - 1, 6000) }),
    up: fc.boolean(),
  });
  fc.assert(
    fc.property(fc.array(change, { maxLength: 400 }), (changes) => {
      const counts = new CellCounts(41, cells);
      const map = new Map<string, number>();
      for (const { value, cell, up } of changes) {
        const key = `${value} ${cell}`;
        const now = map.get(key) ?? 0;
        if (!up && now === 0) continue;
        map.set(key, now + (up ? 1 : -1));
        counts.add(value, cell, up ? 1 : -1);
      }
      for (const [key, count] of map) {
        const [value, cell] = key.split(' ').map(Number);
        expect(counts.get(value!, cell!)).toBe(count);
      }
      expect(counts.get(40, cells - 1)).toBe(map.get(`40 ${cells - 1}`) ?? 0);
    }),
    { numRuns: 30 },
  );
});

it('keeps thousands of cells apart, and gives room back that is no longer used', () => {
  const counts = new CellCounts(64, MANY);
  for (let round = 0; round < 3; round++) {
    for (let cell = 0; cell < 6000; cell++) counts.add(cell % 64, cell * 17 + round, 1);
    for (let cell = 0; cell < 6000; cell++) expect(counts.get(cell % 64, cell * 17 + round)).toBe(1);
    for (let cell = 0; cell < 6000; cell++) counts.add(cell % 64, cell * 17 + round, -1);
  }
  expect(counts.get(0, 0)).toBe(0);
});
