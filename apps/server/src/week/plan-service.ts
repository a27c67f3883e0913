import type { StationActor } from '../actor.js';
import type { Catalogue, ClockRow, DatePlanRow, DrawCount, ShowRow, Week } from '@fuller/contracts';
import {
  drawOf,
  itemOfLine,
  nameKey,
  parseFilter,
  type AirPlan,
  type Draw,
  type LengthLookup,
  type PlanBlock,
} from '@fuller/core';
import { ClockEntity, DatePlanEntity, ShowEntity, WeekPlanEntity } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { FullerError } from '../errors.js';
import { newId } from '../ids.js';
import { nextPosition } from '../store/next-position.js';
import { dropPlaceFromRules } from '../rules/rule-service.js';
import { standardDeviationOf } from '../categories/category-rows.js';
import type { ChangeSet } from '../store/change-set.js';
import type { PoolService } from '../pools/pool-service.js';
import type { Store, Written } from '../store/store.js';

export type PlanRows = Pick<Catalogue, 'clocks' | 'week' | 'shows' | 'dates'>;
type Write<T> = Promise<Written<T>>;
type ShowFields = Omit<ShowRow, 'id' | 'revision'>;
type DateFields = Omit<DatePlanRow, 'id' | 'revision'>;

/** What a station plays when: the week, shows, dates that differ, and what frames its hours. */
export class PlanService {
  constructor(
    private readonly store: Store,
    private readonly pools: PoolService,
  ) {}

  async rows(stationId: string, em: Em = this.store.read): Promise<PlanRows> {
    const byPosition = { orderBy: { position: 'asc' as const } };
    const clocks = await em.find(ClockEntity, { $or: [{ scope: 'group' as const }, { stationId }] }, byPosition);
    const week = await em.findOneOrFail(WeekPlanEntity, { id: stationId });
    const shows = await em.find(ShowEntity, { stationId }, byPosition);
    const dates = await em.find(DatePlanEntity, { stationId }, byPosition);
    return {
      clocks: clocks.map(({ id, revision, scope, name, colour, lengthMs, lines }): ClockRow => ({
        id,
        revision,
        scope,
        name,
        colour,
        lengthMs,
        lines,
      })),
      week: weekView(week),
      shows: shows.map(showView),
      dates: dates.map(({ id, revision, name, start, repeat, likeDay, instead, blocks }): DatePlanRow => ({
        id,
        revision,
        name,
        start,
        repeat,
        like: likeDay ?? null,
        instead: Boolean(instead),
        blocks,
      })),
    };
  }

  planOf({ clocks, week, shows, dates }: PlanRows): AirPlan {
    const { blocks, defaultClockId, framing } = week;
    return { clocks, shows, dates, framing, week: { blocks, defaultClockId } };
  }

  async plan(stationId: string, em?: Em): Promise<AirPlan> {
    return this.planOf(await this.rows(stationId, em));
  }

  /** What lines can draw from: how many items, and how long they are. */
  async drawCounts(stationId: string, draws: readonly Draw[]): Promise<DrawCount[]> {
    const unique = [...new Map(draws.map((draw) => [keyOf(draw), draw])).values()];
    if (unique.length === 0) return [];
    const vocabulary = await this.pools.vocabulary(stationId);
    const fitting = await this.pools.itemsFitting(
      stationId,
      unique.map(({ filter }) => filter).filter((filter) => filter !== ''),
    );
    const counts: DrawCount[] = [];
    for (const { categoryId, filter } of unique) {
      const parsed = filter === '' ? null : parseFilter(filter, vocabulary);
      const inPool = (await this.pools.itemsOf(stationId, [categoryId]))[categoryId];
      const [row] = await this.store.rows<{ items: number; average: number | null; squares: number | null }>(
        `select count(*) as items, avg(duration_ms) as average, avg(1.0 * duration_ms * duration_ms) as squares
         from item where (? or id in (select value from json_each(?)))
           and (id in (select value from json_each(?)) or exists
             (select 1 from placement p where p.item_id = item.id and p.category_id = ?))`,
        [filter === '', JSON.stringify(fitting[filter] ?? []), JSON.stringify(inPool ?? []), categoryId],
      );
      const { items, average, squares } = row!;
      counts.push({
        categoryId,
        filter,
        items,
        averageMs: Math.round(average ?? 0),
        standardDeviationMs: standardDeviationOf(average ?? 0, squares ?? 0),
        fault: parsed && !parsed.ok ? parsed.fault.why : null,
      });
    }
    return counts;
  }

  /** Lengths of what the clocks of a plan are made of, as generation reckons with them. */
  async lengths(stationId: string, plan: AirPlan): Promise<LengthLookup> {
    const lines = plan.clocks.flatMap((clock) => clock.lines);
    const itemIds = [
      ...lines.flatMap((line) => itemOfLine(line) ?? []),
      ...plan.shows.flatMap((show) => show.announcementId ?? []),
    ];
    const items = await this.store.rows<{ id: string; ms: number }>(
      'select id, duration_ms - coalesce(segue_ms, 0) as ms from item where id in (select value from json_each(?))',
      [JSON.stringify(itemIds)],
    );
    const lengthOf = new Map(items.map(({ id, ms }) => [id, ms]));
    const averages = new Map<string, number>();
    for (const draw of lines.flatMap((line) => drawOf(line) ?? [])) {
      const key = keyOf(draw);
      if (!averages.has(key)) averages.set(key, await this.averageOf(stationId, draw));
    }
    return { lengthOf: (id) => lengthOf.get(id) ?? 0, averageOf: (draw) => averages.get(keyOf(draw)) ?? 0 };
  }

  private async averageOf(stationId: string, { categoryId, filter }: Draw): Promise<number> {
    const pool = (await this.pools.itemsOf(stationId, [categoryId]))[categoryId];
    const fitting = filter === '' ? null : (await this.pools.itemsFitting(stationId, [filter]))[filter];
    const [row] = await this.store.rows<{ ms: number | null }>(
      `select avg(duration_ms - coalesce(segue_ms, 0)) as ms from item
       where id in (select item_id from placement where category_id = ? union select value from json_each(?))
         and (? or id in (select value from json_each(?))) and (scope = 'group' or station_id = ?)`,
      [categoryId, JSON.stringify(pool ?? []), fitting === null, JSON.stringify(fitting ?? []), stationId],
    );
    return Math.round(row?.ms ?? 0);
  }

  updateWeek({ stationId, clientId }: StationActor, revision: number, patch: WeekPatch): Write<void> {
    const label = patch.framing ? 'Change what frames the hours' : 'Change the week';
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      const known = await knownIds(changes, stationId);
      refuseUnknownBlocks(patch.blocks ?? [], known);
      refuseUnknownClock(patch.defaultClockId, known, 'defaultClockId');
      for (const [field, id] of Object.entries(patch.framing ?? {})) refuseUnknownClock(id, known, `framing.${field}`);
      await changes.update('week', stationId, { ...patch }, revision);
    });
  }

  createShow({ stationId, clientId }: StationActor, fields: ShowFields): Write<string> {
    return this.store.write({ clientId, stationId, label: `New show ${fields.name}` }, async (changes) => {
      await this.refuseShow(changes, stationId, fields, null);
      const id = newId();
      const position = await nextPosition(changes, 'show');
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
    patch: { readonly [K in keyof ShowFields]?: ShowFields[K] | undefined },
  ): Write<string> {
    return this.store.write(
      { clientId, stationId, label: `Change show ${patch.name ?? ''}`.trim() },
      async (changes) => {
        await this.refuseShow(changes, stationId, patch, id);
        const key = patch.name === undefined ? {} : { nameKey: nameKey(patch.name) };
        await changes.update('show', id, { ...patch, ...key }, revision);
        return id;
      },
    );
  }

  /** Deletes a show and takes it out of the week and of the dates it stands in. */
  deleteShow({ stationId, clientId }: StationActor, id: string): Write<string> {
    return this.store.write({ clientId, stationId, label: 'Delete a show' }, async (changes) => {
      const { week, dates } = await this.rows(stationId, changes.em);
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
      const position = await nextPosition(changes, 'date_plan');
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
        await changes.update('datePlan', id, { ...patch, likeDay: like }, revision);
        return id;
      },
    );
  }

  deleteDate({ stationId, clientId }: StationActor, id: string): Write<string> {
    return this.store.write({ clientId, stationId, label: 'Delete a date' }, async (changes) => {
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

interface KnownIds {
  readonly clock: ReadonlySet<string>;
  readonly show: ReadonlySet<string>;
}

async function knownIds({ em }: ChangeSet, stationId: string): Promise<KnownIds> {
  const fresh = { disableIdentityMap: true };
  const clocks = await em.find(ClockEntity, { $or: [{ scope: 'group' }, { stationId }] }, fresh);
  const shows = await em.find(ShowEntity, { stationId }, fresh);
  return { clock: new Set(clocks.map(({ id }) => id)), show: new Set(shows.map(({ id }) => id)) };
}

function refuseUnknownBlocks(blocks: readonly PlanBlock[], known: KnownIds): void {
  const wrong = blocks.findIndex(({ runs, id }) => !known[runs].has(id));
  if (wrong >= 0)
    throw new FullerError(
      'INVALID',
      `Block ${wrong + 1} names a ${blocks[wrong]!.runs} that is not there.`,
      `blocks.${wrong}`,
    );
}

function refuseUnknownClock(id: string | null | undefined, known: KnownIds, field: string): void {
  if (id && !known.clock.has(id)) throw new FullerError('INVALID', 'That clock is not there.', field);
}

function weekView({
  revision,
  blocks,
  defaultClockId,
  framing,
}: {
  revision: number;
  blocks: PlanBlock[];
  defaultClockId?: string | null | undefined;
  framing: Week['framing'];
}): Week {
  return { revision, blocks, defaultClockId: defaultClockId ?? null, framing };
}

function showView(
  row: Omit<ShowRow, 'announcementId' | 'openerId' | 'closerId' | 'hourOpenerId'> & {
    announcementId?: string | null | undefined;
    openerId?: string | null | undefined;
    closerId?: string | null | undefined;
    hourOpenerId?: string | null | undefined;
  },
): ShowRow {
  const { id, revision, name, colour, clockIds, minutes, start, end, toleranceMs, after } = row;
  return {
    id,
    revision,
    name,
    colour,
    clockIds,
    minutes,
    start,
    end,
    toleranceMs,
    after,
    announcementId: row.announcementId ?? null,
    openerId: row.openerId ?? null,
    closerId: row.closerId ?? null,
    hourOpenerId: row.hourOpenerId ?? null,
  };
}

function keyOf({ categoryId, filter }: Draw): string {
  return JSON.stringify([categoryId, filter]);
}
