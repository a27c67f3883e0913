import type { StationActor } from '../actor.js';
import type { AlbumCluster, MergeAlbums, MergeArtists, SongCluster, TidyView } from '@fuller/contracts';
import { elementAt, lookUp, clusterKey } from '@fuller/core';
import { albumNames, creditedArtists, itemsOfAlbum, scheduledSongs, type AlbumName } from '../db/queries/doubles.js';
import { KeptApartEntity } from '../db/entities/index.js';
import type { Compute } from '../jobs/compute.js';
import { mergeInto } from './artist-service.js';
import { folds } from '../library/item-row.js';
import type { PoolService } from '../pools/pool-service.js';
import type { Revisions } from '../store/revisions.js';
import type { Store, Written } from '../store/store.js';

/** What in the library is likely double, or cannot be right. */
export class TidyService {
  /** What was found last for a station, as long as nothing has been written since. */
  private readonly known = new Map<string, { readonly version: number; readonly view: Promise<TidyView> }>();

  constructor(
    private readonly store: Store,
    private readonly pools: PoolService,
    private readonly compute: Compute,
    private readonly revisions: Revisions,
    private readonly now: () => number,
  ) {}

  async view(stationId: string): Promise<TidyView> {
    const version = this.revisions.total;
    const known = this.known.get(stationId);
    if (known?.version === version) return known.view;
    const view = this.look(stationId);
    this.known.set(stationId, { version, view });
    view.catch(() => this.known.delete(stationId));
    return view;
  }

  private async look(stationId: string): Promise<TidyView> {
    const em = this.store.read;
    const artists = await creditedArtists(em);
    const songs = await scheduledSongs(em, stationId);
    const albums = await albumNames(em);
    const found = await this.compute.run('findDoubles', [
      artists.map(({ id, name }) => ({ id, name })),
      songs.map(({ id, title, mainArtist }) => ({ id, title, artist: mainArtist })),
      albums.map(({ album, artistId }, at) => ({ id: String(at), album, artistId })),
    ]);
    const refused = await this.refused();
    const artistById = new Map(artists.map((artist) => [artist.id, artist]));
    const songById = new Map(songs.map(({ mainArtist, ...song }) => [song.id, { ...song, mainArtist }]));
    const open = <T extends { ids: readonly string[] }>(clusters: readonly T[]): T[] =>
      clusters.filter(({ ids }) => !refused.has(clusterKey(ids)));
    return {
      artists: open(found.artists).map(({ ids }) => ({
        key: clusterKey(ids),
        members: ids.map((id) => lookUp(artistById, id)).sort((a, b) => b.songs - a.songs),
      })),
      songs: open(found.songs).map(({ ids, links }): SongCluster => {
        const titles = links.map(({ evidence }) => evidence.title);
        return {
          key: clusterKey(ids),
          title: titles.includes('version') ? 'version' : titles.includes('slip') ? 'slip' : 'same',
          artist: links.some(({ evidence }) => evidence.artist === 'slip') ? 'slip' : 'same',
          members: ids
            .map((id) => {
              const { mainArtist, ...song } = lookUp(songById, id);
              void mainArtist;
              return song;
            })
            .sort((a, b) => b.plays - a.plays),
        };
      }),
      albums: found.albums
        .map(({ ids, links }): AlbumCluster => {
          const own = ids.map((id) => elementAt(albums, Number(id)));
          const [{ artistId, artist }] = own as [AlbumName, ...AlbumName[]];
          return {
            key: clusterKey(own.map(({ album }) => `album ${artistId} ${album}`)),
            artistId,
            artist,
            title: links.some(({ evidence }) => evidence.title === 'slip') ? 'slip' : 'same',
            members: own.map(({ album, songs }) => ({ album, songs })).sort((a, b) => b.songs - a.songs),
          };
        })
        .filter(({ key }) => !refused.has(key)),
      gaps: await this.gaps(stationId),
      refused: refused.size,
    };
  }

  private async gaps(stationId: string): Promise<TidyView['gaps']> {
    // Records of next year come in before it, and imports take them.
    const beyond = new Date(this.now()).getUTCFullYear() + 2;
    const asked = [
      { name: 'Songs without a file', filter: 'kind:song file:none' },
      { name: 'Songs in no category', filter: 'kind:song category:none' },
      { name: 'Years that cannot be', filter: `year:..1899,${beyond}..` },
      { name: 'Without a length, so nothing plays them', filter: 'length:..0:00' },
      { name: 'Songs of a quarter of an hour and more', filter: 'kind:song length:15:00..' },
      { name: 'In a category and not approved', filter: '-category:none approved:none' },
      { name: 'In a category and never played', filter: '-category:none rested:never' },
    ];
    const gaps = [];
    for (const gap of asked) gaps.push({ ...gap, items: await this.pools.count(stationId, gap.filter) });
    return gaps.filter(({ items }) => items > 0);
  }

  private async refused(): Promise<Set<string>> {
    return new Set((await this.store.read.find(KeptApartEntity, {})).map(({ id }) => id));
  }

  /** Makes artists one: their songs are credited to the one that is kept, in the credit as printed too. */
  merge({ stationId, clientId }: StationActor, { merges }: MergeArtists): Promise<Written<void>> {
    const label = merges.length === 1 ? 'Merge artists' : `Merge artists, ${merges.length} times`;
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      for (const { keep, others } of merges) for (const other of others) await mergeInto(changes, keep, other);
    });
  }

  /** Makes albums of an artist one: their songs print the name that is kept. */
  mergeAlbums({ stationId, clientId }: StationActor, { merges }: MergeAlbums): Promise<Written<void>> {
    const label = merges.length === 1 ? 'Merge albums' : `Merge albums, ${merges.length} times`;
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      for (const { artistId, keep, others } of merges) {
        for (const other of others) {
          for (const id of await itemsOfAlbum(changes.em, other, artistId))
            await changes.update('item', id, { album: keep, ...folds({ album: keep }) });
        }
      }
    });
  }

  /** Remembers that things are not the same, so that they are not asked about again. */
  refuse({ stationId, clientId }: StationActor, keys: readonly string[]): Promise<Written<void>> {
    const label = keys.length === 1 ? 'Tell two things apart' : `Tell ${keys.length} pairs apart`;
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      const known = new Set((await changes.em.find(KeptApartEntity, {})).map(({ id }) => id));
      const rows = [...new Set(keys)].filter((key) => !known.has(key)).map((id) => ({ id }));
      await changes.insert('keptApart', rows);
    });
  }
}
