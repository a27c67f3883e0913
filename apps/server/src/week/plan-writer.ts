import type { PlanService } from './plan-service.js';
import type { StationActor } from '../actor.js';
import { visibleTo } from '../db/visible.js';
import type { Catalogue, DatePlanRow, ShowRow, Week } from '@fuller/contracts';
import { elementAt, nameKey, type BlockContent, type PlanBlock } from '@fuller/core';
import { CategoryEntity, ClockEntity, PoolEntity, SetListEntity, ShowEntity } from '../db/entities/index.js';
import { FullerError } from '../errors.js';
import { newId } from '../ids.js';
import { nextPosition } from '../db/queries/categories.js';
import { dropPlaceFromRules } from '../rules/rule-places.js';
import { setShowPassword } from './show-password.js';
import type { ChangeSet } from '../store/change-set.js';
import type { Store, Written } from '../store/store.js';

export type PlanRows = Pick<Catalogue, 'clocks' | 'week' | 'shows' | 'dates'>;
type Write<T> = Promise<Written<T>>;
type ShowFields = Omit<ShowRow, 'id' | 'revision'>;
type DateFields = Omit<DatePlanRow, 'id' | 'revision'>;

/** Changes the week, shows, and dates that differ. */
export class PlanWriter {
  constructor(
    private readonly store: Store,
    private readonly plans: PlanService,
  ) {}

  updateWeek({ stationId, clientId }: StationActor, revision: number, patch: WeekPatch): Write<void> {
    const label = patch.framing ? 'Change what frames the hours' : 'Change the week';
    return this.store.write({ clientId, stationId, label }, (changes) =>
      this.updateWeekIn(changes, stationId, revision, patch),
    );
  }

  /** Within a write: changes the week. */
  async updateWeekIn(changes: ChangeSet, stationId: string, revision: number, patch: WeekPatch): Promise<void> {
    const known = await knownIds(changes, stationId);
    refuseUnknownBlocks(patch.blocks ?? [], known);
    refuseUnknownClock(patch.defaultClockId, known, 'defaultClockId');
    for (const [field, id] of Object.entries(patch.framing ?? {})) refuseUnknownClock(id, known, `framing.${field}`);
    await changes.update('week', stationId, { ...patch }, revision);
  }

  createShow({ stationId, clientId }: StationActor, fields: ShowFields): Write<string> {
    return this.store.write({ clientId, stationId, label: `New show ${fields.name}` }, async (changes) => {
      await this.refuseShow(changes, stationId, fields, null);
      const id = newId();
      const position = await nextPosition(changes.em, 'show');
      await changes.insert('show', [
        { ...fields, id, revision: 1, stationId, nameKey: nameKey(fields.name), position },
      ]);
      return id;
    });
  }

  updateShow(
    { stationId, clientId }: StationActor,
    id: string,
    revision: number,
    {
      password,
      ...patch
    }: { readonly [K in keyof ShowFields]?: ShowFields[K] | undefined } & { readonly password?: string | undefined },
  ): Write<string> {
    return this.store.write(
      { clientId, stationId, label: `Change show ${patch.name ?? ''}`.trim() },
      async (changes) => {
        await this.refuseShow(changes, stationId, patch, id);
        const key = patch.name === undefined ? {} : { nameKey: nameKey(patch.name) };
        await changes.mustSee('show', id);
        await changes.update('show', id, { ...patch, ...key }, revision);
        if (password !== undefined) await setShowPassword(changes.em, id, password);
        return id;
      },
    );
  }

  /** Deletes a show and takes it out of the week and of the dates it stands in. */
  deleteShow({ stationId, clientId }: StationActor, id: string): Write<string> {
    return this.store.write({ clientId, stationId, label: 'Delete a show' }, async (changes) => {
      await changes.mustSee('show', id);
      const { week, dates } = await this.plans.rows(stationId, changes.em);
      const others = (blocks: readonly PlanBlock[]): PlanBlock[] =>
        blocks.filter((block) => block.runs !== 'show' || block.id !== id);
      await changes.update('week', stationId, { blocks: others(week.blocks) });
      for (const date of dates) await changes.update('datePlan', date.id, { blocks: others(date.blocks) });
      await dropPlaceFromRules(changes, { kind: 'show', id });
      await changes.remove('show', id);
      return id;
    });
  }

  createDate({ stationId, clientId }: StationActor, fields: DateFields): Write<string> {
    return this.store.write({ clientId, stationId, label: `New date ${fields.name}` }, async (changes) => {
      refuseUnknownBlocks(fields.blocks, await knownIds(changes, stationId));
      const id = newId();
      const { like, ...rest } = fields;
      const position = await nextPosition(changes.em, 'date_plan');
      await changes.insert('datePlan', [{ ...rest, likeDay: like, id, revision: 1, stationId, position }]);
      return id;
    });
  }

  updateDate(
    { stationId, clientId }: StationActor,
    id: string,
    revision: number,
    { like, ...patch }: { readonly [K in keyof DateFields]?: DateFields[K] | undefined },
  ): Write<string> {
    return this.store.write(
      { clientId, stationId, label: `Change date ${patch.name ?? ''}`.trim() },
      async (changes) => {
        refuseUnknownBlocks(patch.blocks ?? [], await knownIds(changes, stationId));
        await changes.mustSee('datePlan', id);
        await changes.update('datePlan', id, { ...patch, likeDay: like }, revision);
        return id;
      },
    );
  }

  deleteDate({ stationId, clientId }: StationActor, id: string): Write<string> {
    return this.store.write({ clientId, stationId, label: 'Delete a date' }, async (changes) => {
      await changes.mustSee('datePlan', id);
      await changes.remove('datePlan', id);
      return id;
    });
  }

  private async refuseShow(
    changes: ChangeSet,
    stationId: string,
    fields: { readonly [K in keyof ShowFields]?: ShowFields[K] | undefined },
    ownId: string | null,
  ): Promise<void> {
    const shows = await changes.em.find(ShowEntity, { stationId }, { disableIdentityMap: true });
    if (fields.name !== undefined && shows.some((row) => row.id !== ownId && row.nameKey === nameKey(fields.name!)))
      throw new FullerError('NAME_TAKEN', `There is a show named “${fields.name}” already.`, 'name');
    const known = await knownIds(changes, stationId);
    for (const [n, id] of (fields.clockIds ?? []).entries()) refuseUnknownClock(id, known, `clockIds.${n}`);
    for (const field of ['openerId', 'closerId', 'hourOpenerId'] as const)
      refuseUnknownClock(fields[field], known, field);
    if (fields.announcementId && !(await changes.find('item', fields.announcementId)))
      throw new FullerError('INVALID', 'The item that announces the show is not there.', 'announcementId');
  }
}

export interface WeekPatch {
  readonly blocks?: PlanBlock[] | undefined;
  readonly defaultClockId?: string | null | undefined;
  readonly framing?: Week['framing'] | undefined;
}

type KnownIds = Readonly<Record<BlockContent['runs'], ReadonlySet<string>>>;

/** What a block names, as people call it. */
const RUNS_WORDS: Readonly<Record<BlockContent['runs'], string>> = {
  clock: 'clock',
  show: 'show',
  draw: 'category or pool',
  'set list': 'set list',
};

async function knownIds({ em }: ChangeSet, stationId: string): Promise<KnownIds> {
  const fresh = { disableIdentityMap: true };
  const clocks = await em.find(ClockEntity, visibleTo(stationId), fresh);
  const shows = await em.find(ShowEntity, { stationId }, fresh);
  const visible = visibleTo(stationId);
  const draws = [...(await em.find(CategoryEntity, visible, fresh)), ...(await em.find(PoolEntity, visible, fresh))];
  const lists = await em.find(SetListEntity, visible, { ...fresh, fields: ['id'] });
  const ids = (rows: readonly { readonly id: string }[]): ReadonlySet<string> => new Set(rows.map(({ id }) => id));
  return { clock: ids(clocks), show: ids(shows), draw: ids(draws), 'set list': ids(lists) };
}

function refuseUnknownBlocks(blocks: readonly PlanBlock[], known: KnownIds): void {
  const wrong = blocks.findIndex(({ runs, id }) => !known[runs].has(id));
  if (wrong >= 0)
    throw new FullerError(
      'INVALID',
      `Block ${wrong + 1} names a ${RUNS_WORDS[elementAt(blocks, wrong).runs]} that is not there.`,
      `blocks.${wrong}`,
    );
}

function refuseUnknownClock(id: string | null | undefined, known: KnownIds, field: string): void {
  if (id && !known.clock.has(id)) throw new FullerError('INVALID', 'That clock is not there.', field);
}
