import { elementAt } from '../../values/look-up.js';
import { nameKey } from '../../text/fold.js';
import { isSlip, slipMarks } from './slip.js';
import { withoutVersion } from './version-mark.js';

/** What two things are thought to be one for. */
export interface Evidence {
  /** `same`: alike but for case, accents, articles and punctuation; `slip`: a typing slip; `version`: one is marked as another version. */
  readonly title: 'same' | 'slip' | 'version' | null;
  readonly artist: 'same' | 'slip';
}

/** Two ids that may be one thing. */
export interface Double {
  readonly a: string;
  readonly b: string;
  readonly evidence: Evidence;
}

/** An artist as the search for doubles sees it. */
export interface KnownArtist {
  readonly id: string;
  readonly name: string;
}

/** A song as the search for doubles sees it. */
export interface KnownSong {
  readonly id: string;
  readonly title: string;
  /** The name of its first credited artist. */
  readonly artist: string;
}

/** More things than this with one mark in common have nothing to say about each other. */
const MOST_ALIKE = 60;

/** Artists that are likely one, mistyped. Names that differ in nothing but case, accents or articles are one identity already. */
export function artistDoubles(artists: readonly KnownArtist[]): Double[] {
  const keys = artists.map(({ name }) => nameKey(name));
  return alike(keys, (i, j) => isSlip(elementAt(keys, i), elementAt(keys, j))).map(([i, j]) => ({
    a: elementAt(artists, i).id,
    b: elementAt(artists, j).id,
    evidence: { title: null, artist: 'slip' },
  }));
}

/** Songs that are likely one: title and artist are the same or a slip apart. Another version of a title is told as such. */
export function songDoubles(songs: readonly KnownSong[]): Double[] {
  const parts = songs.map(({ title, artist }) => {
    const { title: bare, marks } = withoutVersion(title);
    return { title: nameKey(bare), marks: nameKey(marks.join(' ')), artist: nameKey(artist) };
  });
  const evidenceOf = (i: number, j: number): Evidence | null => {
    const [one, other] = [elementAt(parts, i), elementAt(parts, j)];
    if (one.title === '' || one.artist === '') return null;
    const artist = likeness(one.artist, other.artist);
    const title = artist && likeness(one.title, other.title);
    if (!artist || !title) return null;
    return { title: one.marks !== other.marks && title === 'same' ? 'version' : title, artist };
  };
  const titles = parts.map(({ title }) => title);
  return alike(titles, (i, j) => evidenceOf(i, j) !== null).map(([i, j]) => ({
    a: elementAt(songs, i).id,
    b: elementAt(songs, j).id,
    evidence: evidenceOf(i, j)!,
  }));
}

/** An album as the search for doubles sees it. */
export interface KnownAlbum {
  readonly id: string;
  readonly album: string;
  /** Its main artist's id: albums of different artists are never one. */
  readonly artistId: string;
}

/** Albums of one artist that are likely one: printed in another way, or a slip apart. */
export function albumDoubles(albums: readonly KnownAlbum[]): Double[] {
  const byArtist = new Map<string, { readonly id: string; readonly key: string }[]>();
  for (const { id, album, artistId } of albums) {
    const others = byArtist.get(artistId) ?? [];
    byArtist.set(artistId, [...others, { id, key: nameKey(album) }]);
  }
  const found: Double[] = [];
  for (const own of byArtist.values()) {
    for (const [i, one] of own.entries()) {
      for (const other of own.slice(i + 1)) {
        const title = one.key === '' ? null : likeness(one.key, other.key);
        if (title) found.push({ a: one.id, b: other.id, evidence: { title, artist: 'same' } });
      }
    }
  }
  return found;
}

function likeness(a: string, b: string): 'same' | 'slip' | null {
  if (a === b) return 'same';
  return isSlip(a, b) ? 'slip' : null;
}

/** Pairs of places that share a slip mark and are accepted, each once, in order. */
function alike(keys: readonly string[], isAccepted: (i: number, j: number) => boolean): [number, number][] {
  const byMark = new Map<string, number[]>();
  keys.forEach((key, i) => {
    for (const mark of slipMarks(key)) {
      const places = byMark.get(mark);
      if (places) places.push(i);
      else byMark.set(mark, [i]);
    }
  });
  // Only what is accepted is kept: a large library has millions of pairs with a mark in common.
  const pairs = new Set<number>();
  for (const places of byMark.values()) {
    if (places.length < 2 || places.length > MOST_ALIKE) continue;
    places.forEach((i, x) => {
      for (const j of places.slice(x + 1)) if (isAccepted(i, j)) pairs.add(i * keys.length + j);
    });
  }
  return [...pairs].sort((a, b) => a - b).map((pair) => [Math.floor(pair / keys.length), pair % keys.length]);
}

/** Things that hang together by doubles, each cluster in the order the things are listed. */
export function clustersOf(
  doubles: readonly Double[],
): { readonly ids: readonly string[]; readonly links: readonly Double[] }[] {
  const root = new Map<string, string>();
  const find = (id: string): string => {
    const up = root.get(id) ?? id;
    if (up === id) return id;
    const top = find(up);
    root.set(id, top);
    return top;
  };
  for (const { a, b } of doubles) {
    root.set(a, find(a));
    root.set(b, find(b));
    root.set(find(b), find(a));
  }
  const clusters = new Map<string, { ids: string[]; links: Double[] }>();
  for (const link of doubles) {
    const top = find(link.a);
    const cluster = clusters.get(top) ?? { ids: [], links: [] };
    clusters.set(top, cluster);
    cluster.links.push(link);
    for (const id of [link.a, link.b]) if (!cluster.ids.includes(id)) cluster.ids.push(id);
  }
  return [...clusters.values()];
}

/** A name for a cluster that stays the same while its members do. */
export function clusterKey(ids: readonly string[]): string {
  return [...ids].sort().join(' ');
}
