import type { PlaylistSong } from '@fuller/core';
import { foldText } from '@fuller/core';
import { songsForPlaylist, type LibrarySong } from '../db/queries/songs-for-playlist.js';
import { OneActEntity } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';

/** The songs of a playlist with what the library knows of them; what is no song is left out. */
export interface CompletedSongs {
  readonly songs: readonly PlaylistSong[];
  /** Names that are one act whatever stands in them. */
  readonly oneAct: readonly string[];
}

/**
 * Completes songs from the library by their file, else by title and artist: what the playlist does not tell itself. An
 * item of another kind than a song counts towards nothing, but keeps its position.
 */
export async function completeFromLibrary(
  em: Em,
  stationId: string,
  songs: readonly PlaylistSong[],
): Promise<CompletedSongs> {
  const files = songs.map(({ file }) => fileName(file)).filter(Boolean);
  const titles = songs.map(({ title }) => foldText(title)).filter(Boolean);
  const known = await songsForPlaylist(em, stationId, files, titles);
  const byFile = new Map<string, LibrarySong>();
  const byTitle = new Map<string, LibrarySong>();
  for (const song of known) {
    if (song.file) byFile.set(fileName(song.file), song);
    byTitle.set(titleKey(song), song);
  }
  const completed = songs.flatMap((song): PlaylistSong[] => {
    const found = byFile.get(fileName(song.file)) ?? byTitle.get(titleKey(song));
    if (!found) return [song];
    if (found.kind !== 'song') return [];
    return [
      {
        ...song,
        title: song.title || found.title,
        artist: song.artist || found.artist,
        album: song.album || found.album,
      },
    ];
  });
  return { songs: completed, oneAct: (await em.find(OneActEntity, {})).map(({ name }) => name) };
}

/** What tells a song by its name, whatever the case and accents. */
export function titleKey({ title, artist }: { readonly title: string; readonly artist: string }): string {
  return `${foldText(title)}|${foldText(artist)}`;
}

/** The last part of a path, by which files are met whatever folder they lie in on either machine. */
export function fileName(file: string): string {
  return (file.split(/[\\/]/).at(-1) ?? '').toLowerCase();
}
