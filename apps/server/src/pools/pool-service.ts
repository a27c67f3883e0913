import type { StationActor } from '../actor.js';
import { visibleTo } from '../db/visible.js';
import type { PoolRow } from '@fuller/contracts';
import { sourceOf, nameKey, parseFilter, type Filter, type FilterVocabulary } from '@fuller/core';
import { CategoryEntity, ClockEntity, PoolEntity, TagFamilyEntity } from '../db/entities/index.js';
import { countFound, idsFound } from '../db/queries/item-list.js';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';
import { refuseDrawn } from '../set-lists/source-uses.js';
import type { ChangeSet } from '../store/change-set.js';
import type { Store, Written } from '../store/store.js';

/** Filters over the library, and the pools that are saved ones. */
export class PoolService {
  constructor(
    private readonly store: Store,
    private readonly now: () => number,
  ) {}

  /** What a station's filters can name. */
  async vocabulary(stationId: string): Promise<FilterVocabulary> {
    const visible = visibleTo(stationId);
    const categories = await this.store.read.find(CategoryEntity, visible, { orderBy: { position: 'asc' } });
    const families: Record<string, string[]> = {};
    const known = await this.store.read.find(TagFamilyEntity, {}, { orderBy: { position: 'asc' } });
    for (const { name, values } of known) families[name] = values.map(({ value }) => value);
    return { categories: categories.map(({ id, code, name }) => ({ id, code, name })), families };
  }

  /** The filter a text stands for; throws INVALID saying what of it cannot be read. */
  async read(stationId: string, text: string, vocabulary?: FilterVocabulary): Promise<Filter> {
    // Words alone name nothing, and looking at every tag takes time.
    const known =
      vocabulary ?? (text.includes(':') ? await this.vocabulary(stationId) : { categories: [], families: {} });
    const parsed = parseFilter(text, known);
    if (!parsed.ok) throw new FullerError('INVALID', parsed.fault.why, 'q');
    return parsed.filter;
  }

  /** The pools a station sees, each with how many items it holds now, or what is wrong with it. */
  async list(stationId: string): Promise<PoolRow[]> {
    const visible = visibleTo(stationId);
    const pools = await this.store.read.find(PoolEntity, visible, { orderBy: { position: 'asc' } });
    if (pools.length === 0) return [];
    const vocabulary = await this.vocabulary(stationId);
    const rows: PoolRow[] = [];
    for (const { id, revision, scope, name, filter } of pools) {
      rows.push({ id, revision, scope, name, filter, ...(await this.countOf(stationId, filter, vocabulary)) });
    }
    return rows;
  }

  /** How many items a filter finds now; throws INVALID when it cannot be read. */
  async count(stationId: string, text: string): Promise<number> {
    return countFound(this.store.read, stationId, await this.read(stationId, text), this.now());
  }

  /** The items each of some pools holds now, by pool id; a pool whose filter cannot be read holds none. */
  async itemsOf(stationId: string, ids: readonly string[]): Promise<Record<string, string[]>> {
    if (ids.length === 0) return {};
    const pools = await this.store.read.find(PoolEntity, { id: { $in: [...ids] } });
    const vocabulary = await this.vocabulary(stationId);
    const found: Record<string, string[]> = {};
    for (const { id, filter } of pools) {
      const parsed = parseFilter(filter, vocabulary);
      found[id] = parsed.ok ? await idsFound(this.store.read, stationId, parsed.filter, this.now()) : [];
    }
    return found;
  }

  /** The items each of some filters finds now, by the filter's text; one that cannot be read finds none. */
  async itemsFitting(stationId: string, texts: readonly string[]): Promise<Record<string, string[]>> {
    const found: Record<string, string[]> = {};
    if (texts.length === 0) return found;
    const vocabulary = await this.vocabulary(stationId);
    for (const text of new Set(texts)) {
      const parsed = parseFilter(text, vocabulary);
      found[text] = parsed.ok ? await idsFound(this.store.read, stationId, parsed.filter, this.now()) : [];
    }
    return found;
  }

  private async countOf(
    stationId: string,
    text: string,
    vocabulary: FilterVocabulary,
  ): Promise<{ items: number; fault: string | null }> {
    const parsed = parseFilter(text, vocabulary);
    // A category or a tag value it names may have gone since.
    if (!parsed.ok) return { items: 0, fault: parsed.fault.why };
    return { items: await countFound(this.store.read, stationId, parsed.filter, this.now()), fault: null };
  }

  async create(
    { stationId, clientId }: StationActor,
    fields: { name: string; filter: string; scope: 'group' | 'station' },
  ): Promise<Written<string>> {
    await this.refuseEmpty(stationId, fields.filter);
    return this.store.write({ clientId, stationId, label: `New pool ${fields.name}` }, async (changes) => {
      await this.refuseTaken(changes, stationId, fields.name, null);
      const id = newId();
      const owner = fields.scope === 'group' ? null : stationId;
      const position = (await changes.em.count(PoolEntity)) + 1;
      await changes.insert('pool', [
        { ...fields, id, revision: 1, stationId: owner, nameKey: nameKey(fields.name), position },
      ]);
      return id;
    });
  }

  async update(
    { stationId, clientId }: StationActor,
    id: string,
    revision: number,
    patch: { name?: string | undefined; filter?: string | undefined },
  ): Promise<Written<string>> {
    if (patch.filter !== undefined) await this.refuseEmpty(stationId, patch.filter);
    return this.store.write({ clientId, stationId, label: 'Change a pool' }, async (changes) => {
      if (patch.name !== undefined) await this.refuseTaken(changes, stationId, patch.name, id);
      const keys = patch.name === undefined ? {} : { nameKey: nameKey(patch.name) };
      await changes.mustSee('pool', id);
      await changes.update('pool', id, { ...patch, ...keys }, revision);
      return id;
    });
  }

  async remove({ stationId, clientId }: StationActor, id: string): Promise<Written<string>> {
    const pool = await this.store.read.findOne(PoolEntity, { id });
    if (!pool) throw notFound('pool', id);
    const clocks = await this.store.read.find(ClockEntity, {});
    const used = clocks.find(({ lines }) => lines.some((line) => sourceOf(line) === id));
    if (used)
      throw new FullerError('IN_USE', `${pool.name} stands in the clock ${used.name}; take it out there first.`);
    await refuseDrawn(this.store.read, id, pool.name);
    return this.store.write({ clientId, stationId, label: `Delete pool ${pool.name}` }, async (changes) => {
      await changes.mustSee('pool', id);
      await changes.remove('pool', id);
      return id;
    });
  }

  private async refuseEmpty(stationId: string, text: string): Promise<void> {
    if ((await this.read(stationId, text)).length === 0)
      throw new FullerError('INVALID', 'A pool needs a filter; this one asks for everything.', 'filter');
  }

  private async refuseTaken(changes: ChangeSet, stationId: string, name: string, ownId: string | null): Promise<void> {
    const rows = await changes.em.find(PoolEntity, visibleTo(stationId), { disableIdentityMap: true });
    if (rows.some((row) => row.id !== ownId && row.nameKey === nameKey(name)))
      throw new FullerError('NAME_TAKEN', `There is a pool named “${name}” already.`, 'name');
  }
}
