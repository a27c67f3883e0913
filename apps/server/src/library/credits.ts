import { foldText, nameKey, parseCredits } from '@fuller/core';
import { SettingEntity } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { newId } from '../ids.js';
import type { ChangeSet, Row } from '../store/change-set.js';

/** Names that read like several artists and are one act. */
const ACTS = 'acts';

export async function actsOf(em: Em): Promise<readonly string[]> {
  const row = await em.findOne(SettingEntity, { id: ACTS }, { disableIdentityMap: true });
  return (row?.value as string[] | undefined) ?? [];
}

export function isOneAct(name: string, acts: readonly string[]): boolean {
  return acts.some((act) => nameKey(act) === nameKey(name));
}

/** Keeps a name as one act, or no longer, and credits anew every item that prints it. */
export async function setAct(changes: ChangeSet, name: string, one: boolean): Promise<void> {
  const acts = await actsOf(changes.em);
  if (isOneAct(name, acts) === one) return;
  const value = one ? [...acts, name] : acts.filter((act) => nameKey(act) !== nameKey(name));
  if (await changes.find('setting', ACTS)) await changes.update('setting', ACTS, { value });
  else await changes.insert('setting', [{ id: ACTS, value }]);
  const items = (await changes.em.execute('select id, artist from item where instr(artist_fold, ?) > 0', [
    foldText(name),
  ])) as { id: string; artist: string }[];
  for (const { id, artist } of items) await recredit(changes, id, artist);
}

/** Credits an item anew after its artist text has changed. */
export async function recredit(changes: ChangeSet, itemId: string, artist: string): Promise<void> {
  const old = (await changes.em.execute('select id from credit where item_id = ?', [itemId])) as { id: string }[];
  for (const { id } of old) await changes.remove('credit', id);
  const [row] = (await changes.em.execute('select credit_pins as pins from item where id = ?', [itemId])) as {
    pins: string;
  }[];
  await addCredits(changes, [{ itemId, artist, pins: JSON.parse(row?.pins ?? '{}') as Record<string, string> }]);
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
  const artists = (await changes.em.execute(
    `with wanted as (select value as key from json_each(?))
     select id, name_key as nameKey from artist where name_key in (select key from wanted)
     union all select artist_id, name_key from artist_alias where name_key in (select key from wanted)`,
    [JSON.stringify([...keys])],
  )) as {
    id: string;
    nameKey: string;
  }[];
  for (const artist of artists) known.set(artist.nameKey, artist.id);
  const newArtists: Row[] = [];
  const credits: Row[] = [];
  for (const [n, { itemId, pins = {} }] of items.entries()) {
    const own = new Set<string>();
    credited[n]!.forEach(({ name, role }, position) => {
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
