import { elementAt, songDoubles, type KnownSong } from '@fuller/core';
import { demoSongsToTidy, measureDoubles } from '@fuller/demo';
import { ms, table, timed } from './table.js';

const LARGE = [10_000, 100_000];

/** Doubles found in dirtied libraries with known truth, and the time that looking takes as the library grows. */
export async function tidy(): Promise<string> {
  const songs = demoSongsToTidy();
  const measured = [5, 6, 7].map((seed) => {
    const { copies, right, wrong, found } = measureDoubles(songs, 400, seed);
    return [
      `${songs.length} songs and ${copies} dirtied copies`,
      `${right} (${((100 * right) / copies).toFixed(1)} %)`,
      `${wrong} of ${found}`,
    ];
  });
  const times = [];
  for (const count of [songs.length, ...LARGE]) {
    const many = Array.from({ length: count }, (_, i): KnownSong => {
      const { title, artist } = elementAt(songs, i % songs.length);
      const more = letters(Math.floor(i / songs.length));
      return { id: `s${i}`, title: `${title} ${more}`, artist: `${artist} ${more}` };
    });
    times.push([count.toLocaleString('en-GB'), ms(await timed(3, () => songDoubles(many)))]);
  }
  return [
    table('Doubles in a dirtied library', ['library', 'copies found', 'pairs found that are none'], measured),
    table('Looking for doubles', ['songs', 'time'], times),
  ].join('\n');
}

/** A word of its own for each number, two letters or more from the next. */
function letters(number: number): string {
  return [...number.toString(5)].map((digit) => elementAt('bdfkm', Number(digit)).repeat(2)).join('o');
}
