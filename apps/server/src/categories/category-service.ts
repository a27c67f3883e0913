import type { StationActor } from '../actor.js';
import { visibleTo } from '../db/visible.js';
import type { CategoryUse } from '@fuller/contracts';
import {
  elementAt,
  BAND_COLOURS,
  sourceOf,
  foldText,
  nameKey,
  parseFilter,
  withSource,
  type ClockLine,
} from '@fuller/core';
import { itemsAndPlaysOfCategory } from '../db/queries/categories.js';
import { CategoryEntity, CategoryGroupEntity, ClockEntity, PlacementEntity, PoolEntity } from '../db/entities/index.js';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';
import type { ChangeSet, Row } from '../store/change-set.js';
import type { ItemEdits } from '../library/item-edits.js';
import type { PoolService } from '../pools/pool-service.js';
import { dropPlaceFromRules, rulesNaming } from '../rules/rule-places.js';
import { refuseDrawn } from '../set-lists/source-uses.js';
import type { Store, Written } from '../store/store.js';

/** Categories made one, split, and done away with; the groups they stand in. */
export class CategoryService {
  constructor(
    private readonly store: Store,
    private readonly pools: PoolService,
    private readonly itemEdits: ItemEdits,
  ) {}

  /** What hangs on a category: what would change if it went. */
  async use(stationId: string, id: string): Promise<CategoryUse> {
    const em = this.store.read;
    const clocks = (await em.find(ClockEntity, {})).filter(({ lines }) => lines.some((line) => picksFrom(line, id)));
    const vocabulary = await this.pools.vocabulary(stationId);
    const pools = (await em.find(PoolEntity, {})).filter(({ filter }) => {
      const parsed = parseFilter(filter, vocabulary);
      return parsed.ok && parsed.filter.some(({ test }) => test.on === 'category' && test.any.includes(id));
    });
    const rules = await rulesNaming(em, { kind: 'category', id });
    return {
      ...(await itemsAndPlaysOfCategory(em, stationId, id)),
      clocks: clocks.map(({ name }) => name),
      pools: pools.map(({ name }) => name),
      rules,
    };
  }

  /** Makes a category part of another: its items, its lines in clocks and its plays' items go over, and it goes. */
  merge({ stationId, clientId }: StationActor, id: string, into: string): Promise<Written<void>> {
    return this.store.write({ clientId, stationId, label: 'Merge two categories' }, async (changes) => {
      const gone = await changes.mustSee('category', id);
      await changes.mustSee('category', into);
      if (id === into) throw notFound('category', into);
      const named = (await this.use(stationId, id)).pools;
      if (named.length > 0)
        throw new FullerError(
          'IN_USE',
          `The pool ${elementAt(named, 0)} asks for ${gone['name'] as string}; change its filter first.`,
        );
      await refuseDrawn(changes.em, id, gone['name'] as string);
      const placements = await changes.em.find(PlacementEntity, { categoryId: id }, { disableIdentityMap: true });
      for (const { id: placementId, itemId } of placements) {
        const there = await changes.em.count(PlacementEntity, { itemId, categoryId: into });
        if (there > 0) await changes.remove('placement', placementId);
        else await changes.update('placement', placementId, { categoryId: into, since: changes.date, planned: null });
      }
      for (const clock of await changes.em.find(ClockEntity, {}, { disableIdentityMap: true })) {
        if (!clock.lines.some((line) => picksFrom(line, id))) continue;
        const lines = clock.lines.map((line) => (picksFrom(line, id) ? withSource(line, into) : line));
        await changes.update('clock', clock.id, { lines });
      }
      await dropPlaceFromRules(changes, { kind: 'category', id });
      await changes.remove('category', id);
    });
  }

  /** Puts some items of a category into a new one like it. */
  split(
    { stationId, clientId }: StationActor,
    id: string,
    { name, code, itemIds }: { name: string; code: string; itemIds: readonly string[] },
  ): Promise<Written<string>> {
    return this.store.write({ clientId, stationId, label: `Split off category ${name}` }, async (changes) => {
      const category = await changes.mustSee('category', id);
      const rows = await changes.em.find(CategoryEntity, visibleTo(stationId), { disableIdentityMap: true });
      if (rows.some((row) => row.nameKey === nameKey(name)))
        throw new FullerError('NAME_TAKEN', `There is a category named “${name}” already.`, 'name');
      const holder = rows.find((row) => row.codeKey === foldText(code));
      if (holder) throw new FullerError('NAME_TAKEN', `The code ${code} belongs to ${holder.name}.`, 'code');
      const made = newId();
      const used = new Set(rows.map((row) => row.colour));
      const row: Row = {
        ...category,
        id: made,
        revision: 1,
        name,
        nameKey: nameKey(name),
        code,
        codeKey: foldText(code),
        colour: BAND_COLOURS.find((colour) => !used.has(colour)) ?? (category['colour'] as string),
        position: Math.max(...rows.map(({ position }) => position)) + 1,
      };
      await changes.insert('category', [row]);
      await this.itemEdits.placeIn(changes, stationId, itemIds, made);
      return made;
    });
  }

  createGroup({ stationId, clientId }: StationActor, name: string): Promise<Written<string>> {
    return this.store.write({ clientId, stationId, label: `New group ${name}` }, async (changes) => {
      await refuseTakenGroup(changes, name, null);
      const id = newId();
      await changes.insert('categoryGroup', [{ id, name, position: await changes.em.count(CategoryGroupEntity) }]);
      return id;
    });
  }

  renameGroup({ stationId, clientId }: StationActor, id: string, name: string): Promise<Written<string>> {
    return this.store.write({ clientId, stationId, label: `Rename a group ${name}` }, async (changes) => {
      await refuseTakenGroup(changes, name, id);
      await changes.update('categoryGroup', id, { name });
      return id;
    });
  }

  /** Takes a group away; its categories stay, in no group. */
  removeGroup({ stationId, clientId }: StationActor, id: string): Promise<Written<string>> {
    return this.store.write({ clientId, stationId, label: 'Delete a group' }, async (changes) => {
      for (const category of await changes.em.find(CategoryEntity, { groupId: id }, { disableIdentityMap: true }))
        await changes.update('category', category.id, { groupId: null });
      await changes.remove('categoryGroup', id);
      return id;
    });
  }
}

function picksFrom(line: ClockLine, categoryId: string): boolean {
  return sourceOf(line) === categoryId;
}

async function refuseTakenGroup(changes: ChangeSet, name: string, ownId: string | null): Promise<void> {
  const groups = await changes.em.find(CategoryGroupEntity, {}, { disableIdentityMap: true });
  if (groups.some((group) => group.id !== ownId && nameKey(group.name) === nameKey(name)))
    throw new FullerError('NAME_TAKEN', `There is a group named “${name}” already.`, 'name');
}
