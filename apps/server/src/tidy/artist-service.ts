import type { StationActor } from '../actor.js';
import type { AliasPreview, ArtistView } from '@fuller/contracts';
import { nameKey } from '@fuller/core';
import { ArtistAliasEntity, ArtistEntity, CreditEntity } from '../db/entities/index.js';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';
import type { ChangeSet } from '../store/change-set.js';
import { countItemsCrediting, itemsCrediting } from '../db/queries/items.js';
import { recredit } from '../library/credits.js';
import { folds } from '../library/item-row.js';
import type { Store, Written } from '../store/store.js';

const SHOWN = 200;

/** Artists as identities: their names, and which songs are theirs. */
export class ArtistService {
  constructor(private readonly store: Store) {}

  async view(id: string): Promise<ArtistView> {
    const artist = await this.store.read.findOne(ArtistEntity, { id });
    if (!artist) throw notFound('artist', id);
    const aliases = await this.store.read.find(ArtistAliasEntity, { artistId: id }, { orderBy: { nameKey: 'asc' } });
    return {
      id,
      name: artist.name,
      songs: await countItemsCrediting(this.store.read, id),
      aliases: aliases.map((alias) => ({ id: alias.id, name: alias.name })),
    };
  }

  /** Gives an artist another name for good; credits are printed with it from now on. */
  rename({ stationId, clientId }: StationActor, id: string, name: string): Promise<Written<void>> {
    return this.store.write({ clientId, stationId, label: `Rename an artist ${name}` }, async (changes) => {
      const artist = await changes.find('artist', id);
      if (!artist) throw notFound('artist', id);
      const key = nameKey(name);
      const holder = await holderOf(changes, key);
      if (holder !== null && holder !== id)
        throw new FullerError(
          'NAME_TAKEN',
          `There is an artist named “${name}” already; make it another name of this one to merge them.`,
          'name',
        );
      await reprint(changes, id, artist['name'] as string, name);
      await changes.update('artist', id, { name, nameKey: key });
    });
  }

  /** What another name for an artist would do, to songs of an artist who has it now or to songs that print it. */
  async previewAlias(id: string, name: string): Promise<AliasPreview> {
    const kept = await this.view(id);
    const holder = await this.store.read.findOne(ArtistEntity, { nameKey: nameKey(name) });
    if (!holder || holder.id === id) return { artist: null, rows: [] };
    const songs = await itemsCrediting(this.store.read, holder.id);
    return {
      artist: { id: holder.id, name: holder.name, songs: songs.length },
      rows: songs.slice(0, SHOWN).map(({ title, artist }) => ({
        title,
        before: artist,
        after: artist.replaceAll(holder.name, kept.name),
      })),
    };
  }

  /** Gives an artist another name; an artist who has it now becomes this one when `merge` says so. */
  addAlias({ stationId, clientId }: StationActor, id: string, name: string, merge: boolean): Promise<Written<void>> {
    return this.store.write({ clientId, stationId, label: `Another name: ${name}` }, async (changes) => {
      const artist = await changes.find('artist', id);
      if (!artist) throw notFound('artist', id);
      const key = nameKey(name);
      if (key === '') throw new FullerError('INVALID', 'A name needs a letter or a figure.', 'name');
      const holder = await holderOf(changes, key);
      if (holder === id)
        throw new FullerError('NAME_TAKEN', `${artist['name'] as string} is known as “${name}” already.`, 'name');
      if (holder !== null) {
        const other = await changes.em.findOne(ArtistEntity, { nameKey: key }, { disableIdentityMap: true });
        if (!merge || !other)
          throw new FullerError('NAME_TAKEN', `“${name}” is an artist with songs of its own.`, 'name');
        await mergeInto(changes, id, holder);
        return;
      }
      await changes.insert('artistAlias', [{ id: newId(), artistId: id, name, nameKey: key }]);
    });
  }

  removeAlias({ stationId, clientId }: StationActor, artistId: string, aliasId: string): Promise<Written<void>> {
    return this.store.write({ clientId, stationId, label: 'Take another name away' }, async (changes) => {
      const alias = await changes.find('artistAlias', aliasId);
      if (!alias || alias['artistId'] !== artistId) throw notFound('name', aliasId);
      await changes.remove('artistAlias', aliasId);
      // Songs that print the name are that artist's own again.
      for (const { id, artist } of await itemsCrediting(changes.em, artistId)) await recredit(changes, id, artist);
    });
  }

  /** Says that some songs of an artist are by another of the same name, who is made. */
  split(
    { stationId, clientId }: StationActor,
    id: string,
    itemIds: readonly string[],
    name: string,
  ): Promise<Written<string>> {
    return this.store.write({ clientId, stationId, label: `Split an artist: ${name}` }, async (changes) => {
      const artist = await changes.find('artist', id);
      if (!artist) throw notFound('artist', id);
      if ((await holderOf(changes, nameKey(name))) !== null)
        throw new FullerError(
          'NAME_TAKEN',
          `There is an artist named “${name}” already; the other one needs a name of its own, such as “${artist['name'] as string} (Bristol)”.`,
          'name',
        );
      const made = newId();
      await changes.insert('artist', [{ id: made, name, nameKey: nameKey(name) }]);
      for (const itemId of itemIds) {
        const credit = await changes.em.findOne(CreditEntity, { itemId, artistId: id }, { disableIdentityMap: true });
        const item = await changes.find('item', itemId);
        if (!credit || !item) throw new FullerError('INVALID', 'One of the songs is not by this artist.', 'itemIds');
        await changes.update('credit', credit.id, { artistId: made });
        const pins = item['creditPins'] as Record<string, string>;
        await changes.update('item', itemId, { creditPins: { ...pins, [artist['nameKey'] as string]: made } });
      }
      return made;
    });
  }
}

/** The artist a name key stands for, as a name or as another name; null when for none. */
async function holderOf(changes: ChangeSet, key: string): Promise<string | null> {
  const artist = await changes.em.findOne(ArtistEntity, { nameKey: key }, { disableIdentityMap: true });
  if (artist) return artist.id;
  const alias = await changes.em.findOne(ArtistAliasEntity, { nameKey: key }, { disableIdentityMap: true });
  return alias?.artistId ?? null;
}

/** Puts another name in the printed credits of an artist's songs. */
async function reprint(changes: ChangeSet, artistId: string, before: string, after: string): Promise<void> {
  for (const { id, artist } of await itemsCrediting(changes.em, artistId)) {
    const text = artist.replaceAll(before, after);
    await changes.update('item', id, { artist: text, ...folds({ artist: text }) });
  }
}

/** Makes an artist part of another: songs, printed names and other names go over, and the name stays known as one of the other's. */
export async function mergeInto(changes: ChangeSet, keep: string, other: string): Promise<void> {
  const kept = await changes.find('artist', keep);
  const gone = await changes.find('artist', other);
  if (!kept || !gone || keep === other) throw notFound('artist', !kept ? keep : other);
  await reprint(changes, other, gone['name'] as string, kept['name'] as string);
  const credits = await changes.em.find(CreditEntity, { artistId: other }, { disableIdentityMap: true });
  for (const { id, itemId } of credits) {
    const twice = await changes.em.count(CreditEntity, { itemId, artistId: keep });
    if (twice > 0) await changes.remove('credit', id);
    else await changes.update('credit', id, { artistId: keep });
    const item = await changes.find('item', itemId);
    const pins = Object.entries(item!['creditPins'] as Record<string, string>);
    if (pins.some(([, artistId]) => artistId === other))
      await changes.update('item', itemId, {
        creditPins: Object.fromEntries(pins.map(([key, artistId]) => [key, artistId === other ? keep : artistId])),
      });
  }
  const aliases = await changes.em.find(ArtistAliasEntity, { artistId: other }, { disableIdentityMap: true });
  for (const { id } of aliases) await changes.update('artistAlias', id, { artistId: keep });
  await changes.remove('artist', other);
  await changes.insert('artistAlias', [{ id: newId(), artistId: keep, name: gone['name'], nameKey: gone['nameKey'] }]);
}
