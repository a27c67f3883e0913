import { clustersOf, parseCredits, Random, songDoubles, type KnownSong } from '@fuller/core';
import { demoLibrary } from '../library.js';
import { withMess } from '../mess.js';
import { Dice } from '../random.js';
import { DIRTS, dirtied } from './dirty-songs.js';

/** The songs of a demo library as Tidy sees them. */
export function demoSongsToTidy(seed = 971): KnownSong[] {
  const dice = new Dice(seed);
  return withMess(dice, demoLibrary(dice))
    .filter((item) => item.kind === 'song')
    .map(({ title, artist }, i) => ({ id: `s${i}`, title, artist: mainArtist(artist) }));
}

function mainArtist(credit: string): string {
  return parseCredits(credit)[0]?.name ?? '';
}

export interface DoublesMeasure {
  readonly copies: number;
  /** Copies found as doubles of their songs. */
  readonly right: number;
  /** Pairs found that are no doubles, of all pairs found. */
  readonly wrong: number;
  readonly found: number;
}

/** Dirties copies of songs and counts what of that is found; doubles the library had before are left out. */
export function measureDoubles(songs: readonly KnownSong[], copyCount: number, seed: number): DoublesMeasure {
  const own = new Set(songDoubles(songs).map(({ a, b }) => `${a} ${b}`));
  const random = new Random(seed);
  const copies: KnownSong[] = [];
  const truth = new Set<string>();
  for (let i = 0; i < copyCount; i++) {
    const song = songs[random.below(songs.length)]!;
    const dirt = DIRTS[i % DIRTS.length]!;
    const { title, artist } = dirtied(song, dirt, random);
    copies.push({ id: `${dirt} ${i}`, title, artist: mainArtist(artist) });
    truth.add(`${song.id} ${dirt} ${i}`);
  }
  const found = songDoubles([...songs, ...copies]).filter(({ a, b }) => !own.has(`${a} ${b}`));
  const right = found.filter(({ a, b }) => truth.has(`${a} ${b}`));
  // A copy of a song that the library held twice, or that was copied twice, is a double of each.
  const clusters = clustersOf([...right, ...songDoubles(songs)]);
  const together = new Map(clusters.flatMap(({ ids }, c) => ids.map((id) => [id, c] as const)));
  const wrong = found.filter(({ a, b }) => together.get(a) !== together.get(b) || !together.has(a));
  return { copies: copyCount, right: right.length, wrong: wrong.length, found: found.length };
}
