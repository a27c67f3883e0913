import { elementAt } from '@fuller/core';
import type { DemoItem } from './library.js';
import type { Dice } from './random.js';

/** The honest mess of a real library: misspelt artists, doubled titles, missing files, impossible years. */
export function withMess(dice: Dice, items: readonly DemoItem[]): DemoItem[] {
  const messy = items.map((item): MessyItem => ({ ...item }));
  const songs = messy.filter((item) => item.kind === 'song' && ['G', 'D', 'L', 'W', 'N'].includes(item.category ?? ''));
  const respelt = new Set<string>();
  for (const song of songs) {
    if (respelt.size >= 11) break;
    const twin = songs.find((other) => other !== song && other.artist === song.artist);
    if (!twin || respelt.has(song.artist) || song.artist.includes(' feat. ')) continue;
    respelt.add(song.artist);
    twin.artist = misspell(dice, song.artist);
  }
  const spare = songs.filter((song) => !respelt.has(song.artist));
  for (let i = 0; i < 6; i++) {
    const [first, second] = [elementAt(spare, i * 11), elementAt(spare, i * 11 + 5)];
    second.title = i % 2 === 0 ? first.title : `${first.title} (live)`;
    second.artist = first.artist;
  }
  for (let i = 0; i < 5; i++) elementAt(spare, 100 + i * 7).file = null;
  for (let i = 0; i < 3; i++) elementAt(spare, 140 + i * 9).year = elementAt([2096, 1797, 2107], i);
  return messy;
}

/** The mess is made on copies, which may be written to. */
type MessyItem = { -readonly [K in keyof DemoItem]: DemoItem[K] };

function misspell(dice: Dice, name: string): string {
  const at = dice.whole(2, name.length - 2);
  return dice.chance(0.5)
    ? name.slice(0, at) + name.slice(at + 1)
    : name.slice(0, at) + elementAt(name, at) + name.slice(at);
}
