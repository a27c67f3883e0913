import { nameKey } from '../text/fold.js';
import type { ScheduledItem } from './station-data.js';

/** Values of the tags that rules look at: those of every item, and those of tag families. Titles meet whatever their spelling. */
export function tagsOf(item: ScheduledItem): Record<string, string[]> {
  const mainArtist = item.artistIds[0] ?? '';
  const title = nameKey(item.title);
  const album = nameKey(item.album);
  return {
    ...item.tags,
    title: title ? [title] : [],
    artist: [...item.artistIds],
    'main artist': [...(item.mainArtistIds ?? item.artistIds)],
    // The same recording twice in the library is one song; speech and imaging go by the item.
    song: [title && mainArtist ? `${title}|${mainArtist}` : item.id],
    // Two artists may each have an album of the same name.
    album: album ? [`${album}|${mainArtist}`] : [],
  };
}
