import type { SetListContent, SetListEditRequest, SetListInfo, SetListItemInfo, SetListPatch } from '@fuller/contracts';
import {
  applySetListEdit,
  invertSetListEdit,
  MOST_SET_LIST_ROWS,
  nameKey,
  setListTotal,
  type Draw,
  type Scope,
  type SetListEdit,
  type SetListRow,
} from '@fuller/core';
import type { StationActor } from '../actor.js';
import { nextPosition } from '../db/queries/categories.js';
import { setListItems } from '../db/queries/set-lists.js';
import { SetListEntity, type SetListRecord } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { visibleTo } from '../db/visible.js';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';
import { referencesOf } from '../sharing/references.js';
import { mustBeSeen } from '../sharing/seen-by-all.js';
import { staleRevision, type ChangeSet, type RecordedChange } from '../store/change-set.js';
import { listNames } from '../store/list-names.js';
import type { Store, Written } from '../store/store.js';
import type { PlanService } from '../week/plan-service.js';
import { usesOfList } from './set-list-uses.js';

/** A change of rows as it is recorded: it applies to the list as the change before it left it, and to no other. */
interface RowsChange {
  readonly edit: SetListEdit;
  /** Ids of the rows it applies to, in order. */
  readonly before: string;
}

/** The set lists of a station. */
export class SetListService {
  constructor(
    private readonly store: Store,
    private readonly plans: PlanService,
  ) {
    store.undoing.onRevert('setListRows', (changes, change) => this.revert(changes, change));
  }

  /** The lists a station sees, by their order. */
  rows(stationId: string, em: Em = this.store.read): Promise<SetListRecord[]> {
    return em.find(SetListEntity, visibleTo(stationId), { orderBy: { position: 'asc' } });
  }

  async list(stationId: string): Promise<SetListInfo[]> {
    const records = await this.rows(stationId);
    const items = await this.itemsOf(records);
    return Promise.all(records.map((record) => this.infoOf(stationId, record, items)));
  }

  async one(stationId: string, id: string): Promise<SetListContent> {
    const record = await this.mustFind(stationId, id);
    const items = await this.itemsOf([record]);
    return { ...(await this.infoOf(stationId, record, items)), content: record.rows, items: [...items.values()] };
  }

  async mustFind(stationId: string, id: string, em: Em = this.store.read): Promise<SetListRecord> {
    const record = await em.findOne(SetListEntity, { id, ...visibleTo(stationId) }, { disableIdentityMap: true });
    if (!record) throw notFound('set list', id);
    return record;
  }

  create(
    { stationId, clientId }: StationActor,
    { name, scope }: { name: string; scope: Scope },
  ): Promise<Written<string>> {
    return this.store.write({ clientId, stationId, label: `New set list ${name}` }, async (changes) => {
      await this.refuseTaken(changes, stationId, name, null);
      const id = newId();
      const position = await nextPosition(changes.em, 'set_list');
      const owner = scope === 'group' ? null : stationId;
      await changes.insert('setList', [
        { id, revision: 1, scope, stationId: owner, name, nameKey: nameKey(name), wantedMs: null, rows: [], position },
      ]);
      return id;
    });
  }

  update({ stationId, clientId }: StationActor, id: string, patch: SetListPatch): Promise<Written<string>> {
    const { revision, name, wantedMs } = patch;
    return this.store.write({ clientId, stationId, label: 'Change a set list' }, async (changes) => {
      await changes.mustSee('setList', id);
      if (name !== undefined) await this.refuseTaken(changes, stationId, name, id);
      const key = name === undefined ? {} : { name, nameKey: nameKey(name) };
      await changes.update('setList', id, { ...key, wantedMs }, revision);
      return id;
    });
  }

  async remove({ stationId, clientId }: StationActor, id: string): Promise<Written<string>> {
    const { name } = await this.mustFind(stationId, id);
    const uses = await usesOfList(this.store.read, id);
    if (uses.length > 0)
      throw new FullerError('IN_USE', `${name} is played by ${listNames(uses)}; take it out there first.`);
    return this.store.write({ clientId, stationId, label: `Delete set list ${name}` }, async (changes) => {
      await changes.mustSee('setList', id);
      await changes.remove('setList', id);
      return id;
    });
  }

  /** Puts rows in, takes rows out or moves them; only what changes is recorded. */
  edit(
    { stationId, clientId }: StationActor,
    id: string,
    { revision, edit, label }: SetListEditRequest,
  ): Promise<Written<string>> {
    const about = { clientId, stationId, label: label ?? 'Change the rows of a set list' };
    return this.store.write(about, async (changes) => {
      const record = await this.mustFind(stationId, id, changes.em);
      if (record.revision !== revision) throw staleRevision('set list');
      await this.refuseUnknown(changes, stationId, edit, record.stationId ?? null);
      const rows = applied(record.rows, edit);
      await this.write(changes, record, rows, { edit, inverse: invertSetListEdit(record.rows, edit) });
      return id;
    });
  }

  private async write(
    changes: ChangeSet,
    record: SetListRecord,
    rows: SetListRow[],
    { edit, inverse }: { readonly edit: SetListEdit; readonly inverse: SetListEdit },
  ): Promise<void> {
    const { id, revision } = record;
    await changes.em.nativeUpdate(SetListEntity, { id }, { rows, revision: revision + 1 });
    changes.record({
      thing: 'setListRows',
      thingId: id,
      before: { edit: inverse, before: orderOf(rows) } satisfies RowsChange,
      after: { edit, before: orderOf(record.rows) } satisfies RowsChange,
    });
  }

  private async revert(changes: ChangeSet, change: RecordedChange): Promise<void> {
    const [inverse, edit] = [change.before as RowsChange, change.after as RowsChange];
    const record = await changes.em.findOne(SetListEntity, { id: change.thingId }, { disableIdentityMap: true });
    if (!record || orderOf(record.rows) !== inverse.before)
      throw new FullerError('CANNOT_UNDO', 'The set list has been changed since. Undo those changes first.');
    await this.write(changes, record, applied(record.rows, inverse.edit), { edit: inverse.edit, inverse: edit.edit });
  }

  private async refuseUnknown(
    changes: ChangeSet,
    stationId: string,
    edit: SetListEdit,
    owner: string | null,
  ): Promise<void> {
    const inserted = edit.flatMap(({ insert }) => insert);
    const picks = inserted.filter((row) => !('itemId' in row));
    await mustBeSeen(changes.em, referencesOf('setList', { rows: picks }), owner, () => 'edit');
    const items = new Set(inserted.flatMap((row) => ('itemId' in row ? [row.itemId] : [])));
    const found = new Set((await setListItems(changes.em, items)).map(({ id }) => id));
    const missing = [...items].find((id) => !found.has(id));
    if (missing !== undefined) throw notFound('item', missing);
    for (const row of inserted) {
      if ('itemId' in row) continue;
      if (!(await changes.find('category', row.categoryId)) && !(await changes.find('pool', row.categoryId)))
        throw new FullerError('INVALID', 'A row names a category or pool that is not there.', 'edit');
      if (row.filter) await this.plans.readFilter(stationId, row.filter);
    }
  }

  private async refuseTaken(changes: ChangeSet, stationId: string, name: string, ownId: string | null): Promise<void> {
    const others = await changes.em.find(SetListEntity, visibleTo(stationId), {
      disableIdentityMap: true,
      fields: ['id', 'nameKey'],
    });
    if (others.some((row) => row.id !== ownId && row.nameKey === nameKey(name)))
      throw new FullerError('NAME_TAKEN', `There is a set list named “${name}” already.`, 'name');
  }

  private async itemsOf(records: readonly SetListRecord[]): Promise<ReadonlyMap<string, SetListItemInfo>> {
    const ids = new Set(records.flatMap(({ rows }) => rows.flatMap((row) => ('itemId' in row ? [row.itemId] : []))));
    return new Map((await setListItems(this.store.read, ids)).map((item) => [item.id, item]));
  }

  private async infoOf(
    stationId: string,
    record: SetListRecord,
    items: ReadonlyMap<string, SetListItemInfo>,
  ): Promise<SetListInfo> {
    const picks = record.rows.flatMap((row): Draw[] =>
      'itemId' in row ? [] : [{ categoryId: row.categoryId, filter: row.filter ?? '' }],
    );
    const counts = await this.plans.drawCounts(stationId, picks);
    const countOf = new Map(counts.map((count) => [`${count.categoryId} ${count.filter}`, count]));
    const total = setListTotal(record.rows, {
      lengthOf: (id) => items.get(id)?.durationMs ?? 0,
      averageOf: ({ categoryId, filter }) => countOf.get(`${categoryId} ${filter ?? ''}`)?.averageMs ?? 0,
      standardDeviationOf: ({ categoryId, filter }) =>
        countOf.get(`${categoryId} ${filter ?? ''}`)?.standardDeviationMs ?? 0,
    });
    const { id, revision, scope, name } = record;
    return {
      id,
      revision,
      scope,
      name,
      wantedMs: record.wantedMs ?? null,
      rows: record.rows.length,
      ...total,
      uses: await usesOfList(this.store.read, id),
    };
  }
}

/** What tells the rows of a list and their order from any other. */
function orderOf(rows: readonly SetListRow[]): string {
  let hash = 0;
  for (const { id } of rows) for (let n = 0; n < id.length; n++) hash = (Math.imul(hash, 31) + id.charCodeAt(n)) | 0;
  return `${rows.length} ${hash}`;
}

function applied(rows: readonly SetListRow[], edit: SetListEdit): SetListRow[] {
  try {
    const edited = applySetListEdit(rows, edit);
    if (edited.length > MOST_SET_LIST_ROWS)
      throw new FullerError(
        'INVALID',
        `A set list has ${MOST_SET_LIST_ROWS.toLocaleString('en')} rows at most.`,
        'edit',
      );
    return edited;
  } catch (error) {
    if (error instanceof RangeError) throw new FullerError('INVALID', `That cannot be done: ${error.message}.`, 'edit');
    throw error;
  }
}
