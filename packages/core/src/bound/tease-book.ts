import type { Announced } from '../library/item.js';
import type { ScheduledItem, StationData } from '../station/station-data.js';
import type { Show } from '../week/show.js';
import { nameKey } from '../text/fold.js';

/** The tag of items that some tease announces. */
export const TEASED = 'teased';

/** What a tease is matched by. */
type Matched = Pick<ScheduledItem, 'id' | 'kind' | 'title' | 'artist' | 'artistIds' | 'announces'>;

/** Which teases announce which song, artist or show. */
export interface TeaseBook {
  /** Ids of the teases of a thing, in the order of the library. */
  readonly of: (announced: Announced) => readonly string[];
  /** Ids of the teases that announce an item: its own, or those of its artists where it has none. */
  readonly ofItem: (item: Matched) => readonly string[];
  /** Their average length, milliseconds; 0 without any. */
  readonly averageMs: number;
}

/**
 * The teases of a station. A tease announces what it is tied to; one that is tied to nothing announces the song of its
 * title and artist, the artist where its title is the artist's name, or the show of its title where it has no artist.
 * Names meet whatever their case.
 */
export function teaseBook({
  items,
  plan,
}: {
  readonly items: StationData['items'];
  readonly plan: { readonly shows: readonly Pick<Show, 'id' | 'name'>[] };
}): TeaseBook {
  const byThing = new Map<string, string[]>();
  const bySong = new Map<string, string[]>();
  const shows = new Map(plan.shows.map(({ id, name }) => [nameKey(name), id]));
  const teases = items.filter(({ kind }) => kind === 'tease');
  const add = (to: Map<string, string[]>, key: string, id: string): void => {
    const own = to.get(key);
    if (own) own.push(id);
    else to.set(key, [id]);
  };
  for (const { id, title, artist, artistIds, announces } of teases) {
    if (announces) add(byThing, thingKey(announces), id);
    else if (artist === '') {
      const showId = shows.get(nameKey(title));
      if (showId !== undefined) add(byThing, thingKey({ what: 'show', id: showId }), id);
    } else if (nameKey(title) === nameKey(artist)) {
      for (const artistId of artistIds) add(byThing, thingKey({ what: 'artist', id: artistId }), id);
    } else add(bySong, songKey({ title, artist }), id);
  }
  const of = (announced: Announced): readonly string[] => byThing.get(thingKey(announced)) ?? [];
  return {
    of,
    ofItem: (item) => {
      const own = [...of({ what: 'song', id: item.id }), ...(bySong.get(songKey(item)) ?? [])];
      if (own.length > 0) return own;
      return [...new Set(item.artistIds.flatMap((id) => of({ what: 'artist', id })))];
    },
    averageMs: teases.length === 0 ? 0 : Math.round(teases.reduce((sum, one) => sum + timeOf(one), 0) / teases.length),
  };
}

/** The time a tease takes until the next item begins. */
function timeOf({ durationMs, segueMs }: ScheduledItem): number {
  return durationMs - (segueMs ?? 0);
}

function thingKey({ what, id }: Announced): string {
  return `${what} ${id}`;
}

function songKey({ title, artist }: Pick<ScheduledItem, 'title' | 'artist'>): string {
  return `${nameKey(title)}|${nameKey(artist)}`;
}
