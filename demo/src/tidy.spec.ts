import { clustersOf, parseCredits, Random, songDoubles, artistDoubles, type KnownSong } from '@fuller/core';
import { describe, expect, it } from '@jest/globals';
import { demoLibrary } from './library.js';
import { withMess } from './mess.js';
import { Dice } from './random.js';
import { DIRTS, dirtied } from './testing/dirty-songs.js';

const COPIES = 400;
const dice = new Dice(971);
const songs = withMess(dice, demoLibrary(dice))
  .filter((item) => item.kind === 'song')
  .map(({ title, artist }, i): KnownSong => ({ id: `s${i}`, title, artist: mainArtist(artist) }));

function mainArtist(credit: string): string {
  return parseCredits(credit)[0]?.name ?? '';
}

describe('doubles', () => {
  it('of a dirtied library are found, 95 of 100, and hardly anything else', () => {
    const own = new Set(songDoubles(songs).map(({ a, b }) => `${a} ${b}`));
    const random = new Random(5);
    const copies: KnownSong[] = [];
    const truth = new Set<string>();
    for (let i = 0; i < COPIES; i++) {
      const song = songs[random.below(songs.length)]!;
      const dirt = DIRTS[i % DIRTS.length]!;
      const { title, artist } = dirtied(song, dirt, random);
      copies.push({ id: `${dirt} ${i}`, title, artist: mainArtist(artist) });
      truth.add(`${song.id} ${dirt} ${i}`);
    }
    const found = songDoubles([...songs, ...copies]).filter(({ a, b }) => !own.has(`${a} ${b}`));
    const right = found.filter(({ a, b }) => truth.has(`${a} ${b}`));
    // A copy of a song that the library held twice, or that was copied twice, is a double of each.
    const clusters = clustersOf(found.filter((one) => right.includes(one)).concat(songDoubles(songs)));
    const together = new Map(clusters.flatMap(({ ids }, c) => ids.map((id) => [id, c] as const)));
    const wrong = found.filter(({ a, b }) => together.get(a) !== together.get(b) || !together.has(a));
    expect(right.length).toBeGreaterThanOrEqual(0.95 * COPIES);
    expect(wrong.length).toBeLessThanOrEqual(0.02 * found.length);
  });

  it('of artists are the misspelt ones', () => {
    const names = [...new Set(songs.map(({ artist }) => artist))];
    const found = artistDoubles(names.map((name) => ({ id: name, name })));
    expect(found.length).toBeGreaterThanOrEqual(8);
    expect(found.length).toBeLessThanOrEqual(11);
  });
});
