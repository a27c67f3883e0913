import { elementAt, foldText, nameKey, parseCredits, type ItemKind } from '@fuller/core';
import { ItemEntity, CreditEntity, OneActEntity } from '../db/entities/index.js';
import { artistsByKey, itemsPrinting } from '../db/queries/items.js';
import type { Em } from '../db/orm.js';
import { newId } from '../ids.js';
import type { ChangeSet, Row } from '../store/change-set.js';

/** Names that read like several artists and are one act. */
export async function actsOf(em: Em): Promise<readonly string[]> {
  const acts = await em.find(OneActEntity, {}, { orderBy: { id: 'asc' }, disableIdentityMap: true });
  return acts.map(({ name }) => name);
}

export function isOneAct(name: string, acts: readonly string[]): boolean {
  return acts.some((act) => nameKey(act) === nameKey(name));
}

/** Keeps a name as one act, or no longer, and credits every item that prints it again. */
export async function setAct(changes: ChangeSet, name: string, one: boolean): Promise<void> {
  const id = nameKey(name);
  if (((await changes.find('oneAct', id)) !== null) === one) return;
  if (one) await changes.insert('oneAct', [{ id, name }]);
  else await changes.remove('oneAct', id);
  for (const item of await itemsPrinting(changes.em, foldText(name))) await recredit(changes, item.id, item.artist);
}

/** What an item is credited by: who is named by a message or a spot is its sponsor, and no artist. */
export function creditOf(kind: ItemKind, artist: string): string {
  return kind === 'sponsor message' || kind === 'spot' ? '' : artist;
}

/** Credits an item again after its artist text has changed. */
export async function recredit(changes: ChangeSet, itemId: string, artist: string): Promise<void> {
  const old = await changes.em.find(CreditEntity, { itemId }, { disableIdentityMap: true });
  for (const { id } of old) await changes.remove('credit', id);
  const item = await changes.em.findOne(ItemEntity, { id: itemId }, { disableIdentityMap: true });
  await addCredits(changes, [
    { itemId, artist: item ? creditOf(item.kind, artist) : artist, pins: item?.creditPins ?? {} },
  ]);
}

/**
 * Credits items with their artists, making the artists that are new. Names and aliases meet whatever their
 * spelling; pins of an item say which of several artists of a name is meant.
 */
export async function addCredits(
  changes: ChangeSet,
  items: readonly { itemId: string; artist: string; pins?: Readonly<Record<string, string>> }[],
): Promise<void> {
  const acts = await actsOf(changes.em);
  const known = new Map<string, string>();
  const credited = items.map(({ artist }) => parseCredits(artist, acts));
  const keys = new Set(credited.flatMap((names) => names.map(({ name }) => nameKey(name))));
  const artists = await artistsByKey(changes.em, keys);
  for (const artist of artists) known.set(artist.nameKey, artist.id);
  const newArtists: Row[] = [];
  const credits: Row[] = [];
  for (const [n, { itemId, pins = {} }] of items.entries()) {
    const own = new Set<string>();
    elementAt(credited, n).forEach(({ name, role }, position) => {
      const key = nameKey(name);
      let artistId = pins[key] ?? known.get(key);
      if (artistId === undefined) {
        artistId = newId();
        known.set(key, artistId);
        newArtists.push({ id: artistId, name, nameKey: key });
      }
      // Two names of one artist in a credit are one credit.
      if (own.has(artistId)) return;
      own.add(artistId);
      credits.push({ id: newId(), itemId, artistId, role, position });
    });
  }
  await changes.insert('artist', newArtists);
  await changes.insert('credit', credits);
}
