import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { albumDoubles, artistDoubles, clustersOf, songDoubles } from './doubles.js';
import { isSlip, slipMarks } from './slip.js';

const letters = fc.string({ unit: fc.constantFrom(...'abc12 '), minLength: 4, maxLength: 9 });
/** A key with something typed wrong in it, figures among what may be wrong. */
const mistyped = fc.tuple(
  letters,
  fc.nat(8),
  fc.constantFrom('drop', 'add', 'change', 'turn'),
  fc.constantFrom(...'abc12'),
);
const song = (id: string, title: string, artist: string) => ({ id, title, artist });

describe('doubles of a library', () => {
  it('have a mark in common wherever one is a slip of the other, whatever letters and figures they have', () => {
    let slips = 0;
    fc.assert(
      fc.property(mistyped, ([key, at, how, letter]) => {
        const place = at % key.length;
        const [head, tail] = [key.slice(0, place), key.slice(place)];
        const other = {
          drop: head + tail.slice(1),
          add: head + letter + tail,
          change: head + letter + tail.slice(1),
          turn: head + (tail[1] ?? '') + (tail[0] ?? '') + tail.slice(2),
        }[how];
        if (!isSlip(key, other)) return;
        slips++;
        const marks = new Set(slipMarks(other));
        expect(slipMarks(key).some((mark) => marks.has(mark))).toBe(true);
      }),
      { numRuns: 3000 },
    );
    expect(slips).toBeGreaterThan(500);
  });

  it('are not looked for among numbered names: these have nothing in common but a letter', () => {
    expect(slipMarks('part 12')).toEqual(['part 12', 'art 12', 'prt 12', 'pat 12', 'par 12', 'part12']);
    const numbered = Array.from({ length: 300 }, (_, n) => song(`s${n}`, `River ${n}`, 'Ada'));
    expect(songDoubles(numbered)).toEqual([]);
  });

  it('are told with what speaks for them: the same, a slip, another version', () => {
    const found = songDoubles([
      song('a', 'Harbour Light', 'Ada Vale'),
      song('b', 'Harbor Light', 'Ada Vale'),
      song('c', 'Harbour Light (live)', 'Ada Vale'),
      song('d', 'Harbour Light', 'Bea Moor'),
      song('e', 'harbour light', 'Ada Vael'),
      song('f', '', 'Ada Vale'),
    ]);
    expect(found.map(({ a, b, evidence }) => [a + b, evidence.title, evidence.artist])).toEqual([
      ['ab', 'slip', 'same'],
      ['ac', 'version', 'same'],
      ['ae', 'same', 'slip'],
      ['bc', 'slip', 'same'],
      ['be', 'slip', 'slip'],
      ['ce', 'version', 'slip'],
    ]);
    expect(clustersOf(found).map(({ ids }) => ids)).toEqual([['a', 'b', 'c', 'e']]);
  });

  it('of artists are slips alone, of albums those of one artist alone', () => {
    const artists = ['The Silver Barrows', 'Silver Barows', 'Silver Barrows', 'Gold'].map((name, n) => ({
      id: `${n}`,
      name,
    }));
    expect(artistDoubles(artists).map(({ a, b }) => a + b)).toEqual(['01', '12']);
    const album = (id: string, name: string, artistId: string) => ({ id, album: name, artistId });
    expect(
      albumDoubles([album('a', 'First Light', 'x'), album('b', 'First Ligth', 'x'), album('c', 'First Light', 'y')]),
    ).toMatchObject([{ a: 'a', b: 'b' }]);
  });
});
