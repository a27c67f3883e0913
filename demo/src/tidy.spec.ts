import { artistDoubles } from '@fuller/core';
import { describe, expect, it } from '@jest/globals';
import { demoSongsToTidy, measureDoubles } from './testing/measure-doubles.js';

const songs = demoSongsToTidy();

describe('doubles', () => {
  it('of a dirtied library are found, 95 of 100, and hardly anything else', () => {
    const { copies, right, wrong, found } = measureDoubles(songs, 400, 5);
    expect(right).toBeGreaterThanOrEqual(0.95 * copies);
    expect(wrong).toBeLessThanOrEqual(0.02 * found);
  });

  it('of artists are the misspelt ones', () => {
    const names = [...new Set(songs.map(({ artist }) => artist))];
    const found = artistDoubles(names.map((name) => ({ id: name, name })));
    expect(found.length).toBeGreaterThanOrEqual(8);
    expect(found.length).toBeLessThanOrEqual(11);
  });
});
