import { nameKey, type SetListRow } from '@fuller/core';
import type { DemoItem } from './library.js';
import type { Dice } from './random.js';
import { SUNDAY_LIST, VALE } from './set-up.js';

const SONGS = 26;
/** After so many songs one is picked when the list plays. */
const PICK_AFTER = 6;

/** The set lists of the station: an evening of quiet songs, and a short run of station audio. */
export function setListRows(
  items: readonly DemoItem[],
  dice: Dice,
  idOf: (item: DemoItem) => string,
): (Record<string, unknown> & { id: string })[] {
  const quiet = items.filter(({ category, kind }) => kind === 'song' && (category === 'L' || category === 'W'));
  // One song an artist, so that the list keeps the station's separations by itself.
  const byArtist = new Map<string, DemoItem>();
  while (byArtist.size < SONGS) {
    const song = dice.pick(quiet);
    if (!song.artist.includes('feat.') && !byArtist.has(song.artist)) byArtist.set(song.artist, song);
  }
  const songs = [...byArtist.values()];
  const rows = songs.flatMap((song, n): SetListRow[] => [
    { id: `row${n + 1}`, itemId: idOf(song) },
    ...(n % PICK_AFTER === PICK_AFTER - 1 ? [{ id: `pick${n + 1}`, categoryId: 'cat-l' }] : []),
  ]);
  const jingles = items.filter(({ kind }) => kind === 'jingle').slice(0, 6);
  const plain = { revision: 1, scope: 'station', stationId: VALE, wantedMs: null };
  return [
    {
      ...plain,
      id: SUNDAY_LIST,
      name: 'Sunday by the water',
      nameKey: nameKey('Sunday by the water'),
      wantedMs: 7_200_000,
      rows,
      position: 1,
    },
    {
      ...plain,
      id: 'list-new-jingles',
      name: 'New jingles',
      nameKey: nameKey('New jingles'),
      rows: jingles.map((item, n) => ({ id: `row${n + 1}`, itemId: idOf(item) })),
      position: 2,
    },
  ];
}
