import type { StationActor } from '../actor.js';
import { visibleTo } from '../db/visible.js';
import { foldText, sourceOf, nameKey, type ClockLine, type Life } from '@fuller/core';
import { CategoryEntity, ClockEntity, PlacementEntity } from '../db/entities/index.js';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';
import type { ChangeSet } from '../store/change-set.js';
import { refuseDrawn } from '../set-lists/source-uses.js';
import { listNames } from '../store/list-names.js';
import { nextPosition } from '../db/queries/categories.js';
import { dropPlaceFromRules } from '../rules/rule-places.js';
import type { Store, Written } from '../store/store.js';

const FRESH = { disableIdentityMap: true } as const;
type Write<T> = Promise<Written<T>>;
type Fields = Record<string, unknown>;

import type { CatalogueService } from '../stations/catalogue-service.js';

/** Makes, changes and deletes categories. */
export class CategoryEdits {
  constructor(
    private readonly store: Store,
    private readonly catalogue: CatalogueService,
  ) {}

  create(
    { stationId, clientId }: StationActor,
    fields: { name: string; code: string; scope: 'group' | 'station' } & Fields,
  ): Write<string> {
    return this.store.write({ clientId, stationId, label: `New category ${fields.name}` }, async (changes) => {
      await this.refuseTaken(changes, stationId, fields, null);
      await refuseLife(changes, null, fields['life'] as Life | null | undefined);
      const id = newId();
      const { scope, ...rest } = fields;
      const owner = scope === 'group' ? null : stationId;
      await changes.insert('category', [
        {
          ...rest,
          id,
          revision: 1,
          scope,
          stationId: owner,
          ...categoryKeys(fields),
          position: await nextPosition(changes.em, 'category'),
        },
      ]);
      return id;
    });
  }

  update(
    { stationId, clientId }: StationActor,
    id: string,
    revision: number,
    patch: { name?: string; code?: string } & Fields,
  ): Write<string> {
    return this.store.write(
      { clientId, stationId, label: `Change category ${patch.name ?? ''}`.trim() },
      async (changes) => {
        await changes.mustSee('category', id);
        await this.refuseTaken(changes, stationId, patch, id);
        await refuseLife(changes, id, patch['life'] as Life | null | undefined);
        await changes.update('category', id, { ...patch, ...categoryKeys(patch) }, revision);
        if (patch['life']) await this.beginLives(changes, id);
        return id;
      },
    );
  }

  async remove({ stationId, clientId }: StationActor, id: string): Write<string> {
    const { categories } = await this.catalogue.catalogue(stationId);
    // A shared category may stand in a clock of any station.
    const clocks = await this.store.read.find(ClockEntity, {});
    const category = categories.find((row) => row.id === id);
    if (!category) throw notFound('category', id);
    const used = clocks.filter((clock) => clock.lines.some((line: ClockLine) => sourceOf(line) === id));
    if (used.length)
      throw new FullerError('IN_USE', `${category.name} stands in ${listNames(used.map((clock) => clock.name))}.`);
    await refuseDrawn(this.store.read, id, category.name);
    if (category.items)
      throw new FullerError('IN_USE', `${category.name} still holds ${category.items} items; move them first.`);
    return this.store.write({ clientId, stationId, label: `Delete category ${category.name}` }, async (changes) => {
      await dropPlaceFromRules(changes, { kind: 'category', id });
      for (const other of await changes.em.find(CategoryEntity, { life: { $ne: null } }, FRESH))
        if (other.life?.to === id) await changes.update('category', other.id, { life: null });
      await changes.remove('category', id);
      return id;
    });
  }

  /** Songs of which nobody knows when they came count from today. */
  private async beginLives(changes: ChangeSet, categoryId: string): Promise<void> {
    for (const { id } of await changes.em.find(PlacementEntity, { categoryId, since: null }, FRESH))
      await changes.update('placement', id, { since: changes.date });
  }

  /** Names and codes are unique among the categories a station sees, whatever the case. */
  private async refuseTaken(
    changes: ChangeSet,
    stationId: string,
    fields: { name?: string; code?: string },
    ownId: string | null,
  ): Promise<void> {
    const rows = await changes.em.find(CategoryEntity, visibleTo(stationId), { disableIdentityMap: true });
    const others = rows.filter((row) => row.id !== ownId);
    const { name, code } = fields;
    if (name !== undefined && others.some((row) => row.nameKey === nameKey(name))) {
      throw new FullerError('NAME_TAKEN', `There is a category named “${name}” already.`, 'name');
    }
    const holder = code === undefined ? undefined : others.find((row) => row.codeKey === foldText(code));
    if (holder) throw new FullerError('NAME_TAKEN', `The code ${code} belongs to ${holder.name}.`, 'code');
  }
}

/** Songs can go to a category that is there and another one; throws INVALID. */
async function refuseLife(changes: ChangeSet, id: string | null, life: Life | null | undefined): Promise<void> {
  if (!life || life.to === null) return;
  if (life.to === id) throw new FullerError('INVALID', 'Songs leave this category: choose another one.', 'life.to');
  await changes.mustSee('category', life.to);
}

function categoryKeys({ name, code }: { name?: string; code?: string }): Record<string, string> {
  return {
    ...(name === undefined ? {} : { nameKey: nameKey(name) }),
    ...(code === undefined ? {} : { codeKey: foldText(code) }),
  };
}
