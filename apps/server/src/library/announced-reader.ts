import type { ItemCard } from '@fuller/contracts';
import { foldText, nameKey, teaseBook, type Announced } from '@fuller/core';
import { itemsWithIds, teaseItems } from '../db/queries/station-data.js';
import { ArtistEntity, ItemEntity, ShowEntity, type ItemRecord } from '../db/entities/index.js';
import { visibleTo } from '../db/visible.js';
import type { Store } from '../store/store.js';

/** So many teases of an item are named. */
const MOST_NAMED = 12;

/** Which teases announce what. */
export class AnnouncedReader {
  constructor(private readonly store: Store) {}

  /** The teases of an item: its own, or those of its artists. */
  async teasesOf(stationId: string, { id, kind }: Pick<ItemRecord, 'id' | 'kind'>): Promise<ItemCard['teases']> {
    if (kind === 'tease') return [];
    const em = this.store.read;
    const [item] = await itemsWithIds(em, stationId, [id]);
    const items = item ? await teaseItems(em, stationId) : [];
    if (!item || items.length === 0) return [];
    const titles = new Map(items.map((tease) => [tease.id, tease.title]));
    const found = teaseBook({ items, plan: { shows: [] } }).ofItem(item);
    return found.slice(0, MOST_NAMED).map((one) => ({ id: one, title: titles.get(one) ?? '' }));
  }

  /** What a tease announces; null for other items, and where there is nothing it could announce. */
  async of(stationId: string, item: ItemRecord): Promise<ItemCard['announces']> {
    if (item.kind !== 'tease') return null;
    const tied = item.announces ?? null;
    const announced = tied ?? (await this.matched(stationId, item));
    const name = announced && (await this.nameOf(announced));
    return announced && name !== null ? { ...announced, name, tied: tied !== null } : null;
  }

  private async matched(stationId: string, { title, artist, id }: ItemRecord): Promise<Announced | null> {
    const em = this.store.read;
    if (artist === '') {
      const shows = await em.find(ShowEntity, { stationId });
      const show = shows.find(({ name }) => nameKey(name) === nameKey(title));
      return show ? { what: 'show', id: show.id } : null;
    }
    if (nameKey(title) === nameKey(artist)) {
      const found = await em.findOne(ArtistEntity, { nameKey: nameKey(artist) });
      return found ? { what: 'artist', id: found.id } : null;
    }
    const named = await em.find(ItemEntity, {
      ...visibleTo(stationId),
      titleFold: foldText(title),
      kind: { $ne: 'tease' },
    });
    const song = named.find((one) => one.id !== id && nameKey(one.artist) === nameKey(artist));
    return song ? { what: 'song', id: song.id } : null;
  }

  private async nameOf({ what, id }: Announced): Promise<string | null> {
    const em = this.store.read;
    if (what === 'artist') return (await em.findOne(ArtistEntity, { id }))?.name ?? null;
    if (what === 'show') return (await em.findOne(ShowEntity, { id }))?.name ?? null;
    const item = await em.findOne(ItemEntity, { id });
    return item ? `“${item.title}”${item.artist ? ` by ${item.artist}` : ''}` : null;
  }
}
