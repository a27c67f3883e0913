import type { StationActor } from '../actor.js';
import type { FamilyPatch, FamilyRow } from '@fuller/contracts';
import { changeValues, movedValues, nameKey, type TagValue } from '@fuller/core';
import { TagFamilyEntity, type TagFamilyRecord } from '../db/entities/index.js';
import { countTagValues, itemsWithFamily } from '../db/queries/categories.js';
import type { Em } from '../db/orm.js';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';
import type { ChangeSet } from '../store/change-set.js';
import { refuseThemed, renameInThemes } from '../clocks/clock-themes.js';
import { refuseRuledOn } from '../rules/rule-checks.js';
import { renameInRules } from '../rules/rule-places.js';
import type { Store, Written } from '../store/store.js';

/** The tag families of the library and their values. */
export class FamilyService {
  constructor(private readonly store: Store) {}

  async list(): Promise<FamilyRow[]> {
    const rows = await this.store.read.find(TagFamilyEntity, {}, { orderBy: { position: 'asc' } });
    const used = await countTagValues(this.store.read);
    const items = new Map(used.map((one) => [`${one.family}\u001f${one.value}`, one.items]));
    return rows.map(({ id, revision, name, single, values }) => ({
      id,
      revision,
      name,
      single: Boolean(single),
      values: values.map((value) => ({ ...value, items: items.get(`${name}\u001f${value.value}`) ?? 0 })),
    }));
  }

  create(
    { stationId, clientId }: StationActor,
    { name, single }: { name: string; single: boolean },
  ): Promise<Written<string>> {
    return this.store.write({ clientId, stationId, label: `New tag family ${name}` }, async (changes) => {
      await refuseTaken(changes, name, null);
      return insertFamily(changes, name, single, []);
    });
  }

  update({ stationId, clientId }: StationActor, id: string, patch: FamilyPatch): Promise<Written<string>> {
    return this.store.write({ clientId, stationId, label: 'Change a tag family' }, async (changes) => {
      const family = await changes.em.findOne(TagFamilyEntity, { id }, { disableIdentityMap: true });
      if (!family) throw notFound('tag family', id);
      const name = patch.name ?? family.name;
      if (patch.name !== undefined) await refuseTaken(changes, name, id);
      const items = await this.itemsWith(changes.em, family.name);
      if (patch.single && items.some(({ values }) => values.length > 1))
        throw new FullerError('IN_USE', `Some items have several values of ${name}; take all but one off them first.`);
      const next = patch.values ?? family.values.map((value) => ({ ...value, was: value.value }));
      const change = changeValues(family.values, next, patch.gone, countsOf(items));
      if (!change.ok) throw new FullerError('IN_USE', change.why, 'values');
      await renameInRules(changes, family.name, name, change.moved);
      await renameInThemes(changes, family.name, name);
      await changes.update(
        'tagFamily',
        id,
        { name, nameKey: nameKey(name), single: patch.single ?? Boolean(family.single), values: change.values },
        patch.revision,
      );
      if (name === family.name && change.moved.size === 0) return id;
      for (const { itemId, tags, values } of items) {
        const { [family.name]: before, ...others } = tags;
        void before;
        const after = movedValues(values, change.moved);
        await changes.update('item', itemId, { tags: after.length > 0 ? { ...others, [name]: after } : others });
      }
      return id;
    });
  }

  async remove({ stationId, clientId }: StationActor, id: string, offItems: boolean): Promise<Written<string>> {
    const family = await this.store.read.findOne(TagFamilyEntity, { id });
    if (!family) throw notFound('tag family', id);
    return this.store.write({ clientId, stationId, label: `Delete tag family ${family.name}` }, async (changes) => {
      await refuseRuledOn(changes.em, family.name);
      await refuseThemed(changes.em, family.name);
      const items = await this.itemsWith(changes.em, family.name);
      if (items.length > 0 && !offItems) throw new FullerError('IN_USE', `${family.name} is on ${items.length} items.`);
      for (const { itemId, tags } of items) {
        const { [family.name]: gone, ...others } = tags;
        void gone;
        await changes.update('item', itemId, { tags: others });
      }
      await changes.remove('tagFamily', id);
      return id;
    });
  }

  private async itemsWith(em: Em, family: string): Promise<{ itemId: string; tags: Tags; values: string[] }[]> {
    const rows = await itemsWithFamily(em, family);
    return rows.map(({ itemId, tags }) => ({ itemId, tags, values: tags[family] ?? [] }));
  }
}

type Tags = Record<string, string[]>;

function countsOf(items: readonly { readonly values: readonly string[] }[]): Map<string, number> {
  const counts = new Map<string, number>();
  for (const { values } of items) for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  return counts;
}

async function refuseTaken(changes: ChangeSet, name: string, ownId: string | null): Promise<void> {
  const twin = await changes.em.findOne(TagFamilyEntity, { nameKey: nameKey(name) }, { disableIdentityMap: true });
  if (twin && twin.id !== ownId)
    throw new FullerError('NAME_TAKEN', `There is a tag family named “${twin.name}” already.`, 'name');
}

async function insertFamily(
  changes: ChangeSet,
  name: string,
  single: boolean,
  values: readonly TagValue[],
): Promise<string> {
  const id = newId();
  const position = await changes.em.count(TagFamilyEntity);
  await changes.insert('tagFamily', [{ id, revision: 1, name, nameKey: nameKey(name), single, values, position }]);
  return id;
}

async function familiesByName(em: Em): Promise<Map<string, TagFamilyRecord>> {
  const rows = await em.find(TagFamilyEntity, {}, { disableIdentityMap: true });
  return new Map(rows.map((row) => [row.name, row]));
}

/** Refuses several values of a family that takes one. */
export async function refuseSeveral(em: Em, tags: Readonly<Record<string, readonly string[]>>): Promise<void> {
  const families = await familiesByName(em);
  for (const [name, values] of Object.entries(tags)) {
    if (values.length > 1 && families.get(name)?.single)
      throw new FullerError('INVALID', `An item has one value of ${name}, not ${values.length}.`, 'tags');
  }
}

/** Makes the families and values that items are given and that are new. */
export async function keepFamilies(
  changes: ChangeSet,
  tags: Readonly<Record<string, readonly string[]>>,
): Promise<void> {
  const families = await familiesByName(changes.em);
  for (const [name, used] of Object.entries(tags)) {
    const family = families.get(name);
    const known = new Set(family?.values.map(({ value }) => value));
    const added = used.filter((value) => !known.has(value)).map((value) => ({ value, code: '', colour: null }));
    if (!family) await insertFamily(changes, name, false, added);
    else if (added.length > 0) await changes.update('tagFamily', family.id, { values: [...family.values, ...added] });
  }
}
