import type { AlbumCluster, ArtistCluster, SongCluster, TidyView } from '@fuller/contracts';
import { plural } from '../../shared/text/plural';

/** Two or more things that may be one, as they are shown. */
export interface TidyRow {
  readonly key: string;
  readonly kind: 'artists' | 'songs' | 'albums';
  /** Of albums: whose they are. */
  readonly artistId?: string;
  readonly evidence: string;
  /** What would be kept unless one says otherwise comes first. */
  readonly members: readonly TidyMember[];
  /** Another version of a song is kept on purpose more often than not, so it is not swept up with the others. */
  readonly sure: boolean;
}

export interface TidyMember {
  readonly id: string;
  readonly name: string;
  readonly says: string;
  readonly categoryId: string | null;
}

export function tidyRows(view: TidyView, length: (ms: number) => string): TidyRow[] {
  return [
    ...view.artists.map(artistRow),
    ...view.songs.map((cluster) => songRow(cluster, length)),
    ...view.albums.map(albumRow),
  ];
}

function artistRow({ key, members }: ArtistCluster): TidyRow {
  return {
    key,
    kind: 'artists',
    evidence: 'One letter differs',
    members: members.map(({ id, name, songs }) => ({ id, name, says: plural(songs, 'song'), categoryId: null })),
    sure: true,
  };
}

function albumRow({ key, artistId, artist, title, members }: AlbumCluster): TidyRow {
  return {
    key,
    kind: 'albums',
    artistId,
    evidence: `${title === 'slip' ? 'one letter of the album differs' : 'one album, printed in two ways'}, one artist`,
    members: members.map(({ album, songs }) => ({
      id: album,
      name: album,
      says: `${artist}, ${plural(songs, 'song')}`,
      categoryId: null,
    })),
    sure: true,
  };
}

function songRow({ key, title, artist, members }: SongCluster, length: (ms: number) => string): TidyRow {
  const titles = { same: 'the same title', slip: 'one letter of the title differs', version: 'another version' }[title];
  return {
    key,
    kind: 'songs',
    evidence: `${titles}, ${artist === 'slip' ? 'one letter of the artist differs' : 'one artist'}`,
    members: members.map((song) => ({
      id: song.id,
      name: song.title,
      says: [song.artist, length(song.durationMs), song.year ?? 'no year', plural(song.plays, 'play')].join(', '),
      categoryId: song.categoryId,
    })),
    sure: title !== 'version',
  };
}
