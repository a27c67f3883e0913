import type { ItemPatch } from '@fuller/contracts';
import type { StationActor } from '../actor.js';
import { placementsOfItem } from '../db/queries/items.js';
import type { Announced } from '@fuller/core';
import { ArtistEntity, ItemEntity, ShowEntity } from '../db/entities/index.js';
import { FullerError, notFound } from '../errors.js';
import { placementRow } from '../categories/placement-row.js';
import type { ChangeSet } from '../store/change-set.js';
import type { Store, Written } from '../store/store.js';
import { keepFamilies, refuseSeveral } from '../tags/family-service.js';
import { recredit, setAct } from './credits.js';
import { folds } from './item-row.js';

const POINTS = [
  ['introMs', 'intro'],
  ['outroMs', 'outro'],
  ['segueMs', 'segue'],
] as const;
/** Changes of items by hand: their fields, their approval, their category. */
export class ItemEdits {
  constructor(
    private readonly store: Store,
    private readonly now: () => number,
  ) {}

  /** Says that a name which reads like several artists is one act, or several after all; every item that prints it is credited anew. */
  setAct({ stationId, clientId }: StationActor, name: string, one: boolean): Promise<Written<void>> {
    const label = one ? `${name} is one act` : `${name} are several artists`;
    return this.store.write({ clientId, stationId, label }, (changes) => setAct(changes, name, one));
  }

  update({ stationId, clientId }: StationActor, itemId: string, patch: ItemPatch): Promise<Written<string>> {
    const { revision, ...fields } = patch;
    return this.store.write({ clientId, stationId, label: 'Change an item' }, async (changes) => {
      const before = await changes.mustSee('item', itemId);
      const duration = fields.durationMs ?? (before['durationMs'] as number);
      for (const [field, name] of POINTS) {
        if ((fields[field] ?? 0) > duration)
          throw new FullerError('INVALID', `The ${name} is longer than the item.`, field);
      }
      if (fields.announces) await this.refuseUnknownThing(changes, stationId, fields.announces);
      if (fields.cart) await this.refuseTakenCart(changes, itemId, fields.cart);
      if (fields.tags) {
        await refuseSeveral(changes.em, fields.tags);
        await keepFamilies(changes, fields.tags);
      }
      await changes.update('item', itemId, { ...fields, ...folds(fields) }, revision);
      const artist = fields.artist ?? (before['artist'] as string);
      if (artist !== before['artist'] || (fields.kind !== undefined && fields.kind !== before['kind']))
        await recredit(changes, itemId, artist);
      return itemId;
    });
  }

  /** Throws NOT_FOUND where a tease is to announce what there is not. */
  private async refuseUnknownThing(changes: ChangeSet, stationId: string, { what, id }: Announced): Promise<void> {
    const { em } = changes;
    const found =
      what === 'song'
        ? await changes.mustSee('item', id)
        : what === 'artist'
          ? await em.findOne(ArtistEntity, { id })
          : await em.findOne(ShowEntity, { id, stationId });
    if (!found) throw notFound(what, id);
  }

  private async refuseTakenCart(changes: ChangeSet, itemId: string, cart: string): Promise<void> {
    const holder = await changes.em.findOne(ItemEntity, { cart, id: { $ne: itemId } });
    if (holder) throw new FullerError('NAME_TAKEN', `Cart ${cart} belongs to “${holder.title}”.`, 'cart');
  }

  /** Clears items for air in somebody's name; null takes that back. */
  approve(
    { stationId, clientId }: StationActor,
    itemIds: readonly string[],
    by: string | null,
  ): Promise<Written<void>> {
    const count = itemIds.length === 1 ? 'an item' : `${itemIds.length} items`;
    const label = by === null ? `Take back the approval of ${count}` : `Approve ${count}`;
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      const patch =
        by === null ? { approvedAtMs: null, approvedBy: null } : { approvedAtMs: this.now(), approvedBy: by };
      for (const itemId of itemIds) {
        const item = await changes.mustSee('item', itemId);
        // Who approved first stays said.
        if ((by === null) !== (item['approvedAtMs'] === null)) await changes.update('item', itemId, patch);
      }
    });
  }

  /** Puts items into a category in place of the one they are in; null takes them out. */
  place(
    { stationId, clientId }: StationActor,
    itemIds: readonly string[],
    categoryId: string | null,
  ): Promise<Written<number>> {
    const count = itemIds.length === 1 ? 'an item' : `${itemIds.length} items`;
    const label = categoryId === null ? `Take ${count} out of the category` : `Move ${count} to a category`;
    return this.store.write({ clientId, stationId, label }, (changes) =>
      this.placeIn(changes, stationId, itemIds, categoryId),
    );
  }

  /** Within a write: puts items into a category in place of the one they are in; null takes them out. */
  async placeIn(
    changes: ChangeSet,
    stationId: string,
    itemIds: readonly string[],
    categoryId: string | null,
  ): Promise<number> {
    if (categoryId !== null) await changes.mustSee('category', categoryId);
    let moved = 0;
    for (const itemId of itemIds) {
      await changes.mustSee('item', itemId);
      const current = await placementsOfItem(changes.em, stationId, itemId);
      if (current.some((row) => row.categoryId === categoryId)) continue;
      for (const row of current) await changes.remove('placement', row.id);
      if (categoryId !== null) await changes.insert('placement', [placementRow(changes, itemId, categoryId)]);
      moved++;
    }
    return moved;
  }
}
