import type { KnownSong, Random } from '@fuller/core';

/** Ways in which one song comes to stand twice in a library. */
export const DIRTS = [
  'case',
  'accents',
  'article',
  'punctuation',
  'title slip',
  'artist slip',
  'featured',
  'version',
] as const;
export type Dirt = (typeof DIRTS)[number];

/** A copy of a song, dirtied; the same song where the dirt does not take on it. */
export function dirtied(song: KnownSong, dirt: Dirt, random: Random): Pick<KnownSong, 'title' | 'artist'> {
  const { title, artist } = song;
  const pick = <T>(values: readonly T[]): T => values[random.below(values.length)]!;
  switch (dirt) {
    case 'case':
      return { title: title.toUpperCase(), artist: artist.toLowerCase() };
    case 'accents':
      return { title: title.replace(/[aeiou]/g, (letter) => `${letter}\u0301`), artist };
    case 'article':
      return artist.startsWith('The ')
        ? { title, artist: `${artist.slice(4)}, The` }
        : { title, artist: `The ${artist}` };
    case 'punctuation':
      return { title: title.replace(/ /g, '  ').replace(/,/g, ''), artist: `${artist}.` };
    case 'title slip':
      return { title: slipped(title, random), artist };
    case 'artist slip':
      return { title, artist: slipped(artist, random) };
    case 'featured':
      return { title, artist: `${artist} ${pick(['feat.', 'ft.', 'featuring'])} Someone Else` };
    case 'version':
      return {
        title: `${title} ${pick(['(live)', '[Radio Edit]', '- 2019 Remaster', '(feat. Someone Else)'])}`,
        artist,
      };
  }
}

/** One letter left out, doubled, wrong, or two changed about; never the first. */
function slipped(text: string, random: Random): string {
  const at = 1 + random.below(text.length - 2);
  const [before, after] = [text.slice(0, at), text.slice(at + 1)];
  const ways = [
    before + after,
    before + text[at]! + text[at]! + after,
    `${before}x${after}`,
    before + after.slice(0, 1) + text[at]! + after.slice(1),
  ];
  return ways[random.below(ways.length)]!;
}
