import * as v from 'valibot';
import { Id } from './basics.js';

/** Artists that may be one; the one with the most songs first. */
export const ArtistCluster = v.object({
  key: v.string(),
  members: v.array(v.object({ id: Id, name: v.string(), songs: v.number() })),
});
export type ArtistCluster = v.InferOutput<typeof ArtistCluster>;

/** Songs that may be one; the one that played most first. */
export const SongCluster = v.object({
  key: v.string(),
  /** What sets the titles apart: nothing but spelling, a typing slip, or a mark of another version. */
  title: v.picklist(['same', 'slip', 'version']),
  artist: v.picklist(['same', 'slip']),
  members: v.array(
    v.object({
      id: Id,
      title: v.string(),
      artist: v.string(),
      durationMs: v.number(),
      year: v.nullable(v.number()),
      categoryId: Id,
      plays: v.number(),
    }),
  ),
});
export type SongCluster = v.InferOutput<typeof SongCluster>;

/** Albums of one artist that may be one; the one with the most songs first. */
export const AlbumCluster = v.object({
  key: v.string(),
  artistId: Id,
  artist: v.string(),
  title: v.picklist(['same', 'slip']),
  members: v.array(v.object({ album: v.string(), songs: v.number() })),
});
export type AlbumCluster = v.InferOutput<typeof AlbumCluster>;

/** Items that lack something or cannot be right, as a filter that finds them. */
export const TidyGap = v.object({ name: v.string(), filter: v.string(), items: v.number() });
export const TidyView = v.object({
  artists: v.array(ArtistCluster),
  songs: v.array(SongCluster),
  albums: v.array(AlbumCluster),
  gaps: v.array(TidyGap),
  refused: v.number(),
});
export type TidyView = v.InferOutput<typeof TidyView>;

export const MergeArtists = v.strictObject({
  merges: v.pipe(
    v.array(v.strictObject({ keep: Id, others: v.pipe(v.array(Id), v.minLength(1, 'is empty')) })),
    v.minLength(1, 'is empty'),
    v.maxLength(2000, 'is more than 2,000'),
  ),
});
export type MergeArtists = v.InferOutput<typeof MergeArtists>;
const AlbumName = v.pipe(v.string(), v.minLength(1, 'is empty'), v.maxLength(500));
export const MergeAlbums = v.strictObject({
  merges: v.pipe(
    v.array(
      v.strictObject({
        artistId: Id,
        keep: AlbumName,
        others: v.pipe(v.array(AlbumName), v.minLength(1, 'is empty'), v.maxLength(100)),
      }),
    ),
    v.minLength(1, 'is empty'),
    v.maxLength(2000, 'is more than 2,000'),
  ),
});
export type MergeAlbums = v.InferOutput<typeof MergeAlbums>;

export const RefuseDoubles = v.strictObject({
  keys: v.pipe(
    v.array(v.pipe(v.string(), v.maxLength(4000))),
    v.minLength(1, 'is empty'),
    v.maxLength(2000, 'is more than 2,000'),
  ),
});
