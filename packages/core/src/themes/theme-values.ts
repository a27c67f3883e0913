import type { ScheduledItem } from '../station/station-data.js';
import { nameKey } from '../text/fold.js';

/** The values an item has of what a theme goes by; those of the artist are its main ones. */
export function themeValues(item: ScheduledItem, by: string): readonly string[] {
  switch (by) {
    case 'artist':
      return item.mainArtistIds ?? item.artistIds;
    case 'album': {
      const album = nameKey(item.album);
      return album ? [`${album}|${item.artistIds[0] ?? ''}`] : [];
    }
    case 'year':
      return item.year ? [String(item.year)] : [];
    case 'decade':
      return item.year ? [`${Math.floor(item.year / 10) * 10}s`] : [];
    default:
      return item.tags?.[by] ?? [];
  }
}

/** What people call a value of an item. */
export function themeWords(item: ScheduledItem, by: string, value: string): string {
  if (by === 'artist') return item.artist;
  return by === 'album' ? item.album : value;
}
