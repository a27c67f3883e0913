import { visibleTo } from '../db/visible.js';
import { averageTeaseMs } from '../db/queries/station-data.js';
import { lengthsOfItems } from '../db/queries/items.js';
import { averageOfDraw, momentsOfDraw } from '../db/queries/lengths.js';
import type { Catalogue, ClockRow, DatePlanRow, DrawCount, ShowRow, Week } from '@fuller/contracts';
import {
  parseFilter,
  type AirPlan,
  type Draw,
  type LengthLookup,
  type PlanBlock,
  drawsOfPlan,
  itemsOfPlan,
  listsOfPlan,
  type ScheduledList,
} from '@fuller/core';
import {
  ClockEntity,
  DatePlanEntity,
  ShowEntity,
  WeekPlanEntity,
  CategoryEntity,
  PoolEntity,
  SetListEntity,
} from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { standardDeviationOf } from '../categories/category-rows.js';
import type { PoolService } from '../pools/pool-service.js';
import type { Store } from '../store/store.js';

export type PlanRows = Pick<Catalogue, 'clocks' | 'week' | 'shows' | 'dates'>;

/** What a station plays when, as it is read: clocks, the week, shows, dates that differ, and what frames its hours. */
export class PlanService {
  constructor(
    private readonly store: Store,
    private readonly pools: PoolService,
  ) {}

  async rows(stationId: string, em: Em = this.store.read): Promise<PlanRows> {
    const byPosition = { orderBy: { position: 'asc' as const } };
    const clocks = await em.find(ClockEntity, visibleTo(stationId), byPosition);
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

  /** The plan of a station, its set lists at their tops. */
  async plan(stationId: string, em: Em = this.store.read): Promise<AirPlan> {
    const plan = this.planOf(await this.rows(stationId, em));
    return { ...plan, setLists: await this.setListsOf(plan, em), drawNames: await this.namesOfDraws(plan, em) };
  }

  private async setListsOf(plan: AirPlan, em: Em): Promise<ScheduledList[]> {
    const ids = [...listsOfPlan(plan)];
    if (ids.length === 0) return [];
    const lists = await em.find(SetListEntity, { id: { $in: ids } }, { disableIdentityMap: true });
    return lists.map(({ id, name, rows }) => ({ id, name, rows, lastRowId: null }));
  }

  /** What categories and pools that are painted onto the week are called. */
  private async namesOfDraws({ week, dates }: AirPlan, em: Em): Promise<Record<string, string>> {
    const blocks = [...week.blocks, ...dates.flatMap((date) => date.blocks)];
    const ids = blocks.flatMap(({ runs, id }) => (runs === 'draw' ? [id] : []));
    if (ids.length === 0) return {};
    const of = { id: { $in: ids } };
    const found = [...(await em.find(CategoryEntity, of)), ...(await em.find(PoolEntity, of))];
    return Object.fromEntries(found.map(({ id, name }) => [id, name]));
  }

  /** Throws INVALID where a filter cannot be read. */
  async readFilter(stationId: string, text: string): Promise<void> {
    await this.pools.read(stationId, text);
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
      const { items, average, squares } = await momentsOfDraw(this.store.read, {
        draw: { categoryId, filter },
        pool: inPool,
        fitting: filter === '' ? null : (fitting[filter] ?? []),
      });
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
    const items = await lengthsOfItems(this.store.read, itemsOfPlan(plan));
    const lengthOf = new Map(items.map(({ id, ms }) => [id, ms]));
    const averages = new Map<string, number>();
    for (const draw of drawsOfPlan(plan)) {
      const key = keyOf(draw);
      if (!averages.has(key)) averages.set(key, await this.averageOf(stationId, draw));
    }
    return {
      lengthOf: (id) => lengthOf.get(id) ?? 0,
      averageOf: (draw) => averages.get(keyOf(draw)) ?? 0,
      teaseMs: await averageTeaseMs(this.store.read, stationId),
    };
  }

  private async averageOf(stationId: string, draw: Draw): Promise<number> {
    const { categoryId, filter } = draw;
    const pool = (await this.pools.itemsOf(stationId, [categoryId]))[categoryId];
    const fitting = filter === '' ? null : ((await this.pools.itemsFitting(stationId, [filter]))[filter] ?? []);
    return averageOfDraw(this.store.read, stationId, { draw, pool, fitting });
  }
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
  const { id, revision, name, colour, clockIds, minutes, start, end, toleranceMs, after, presenter } = row;
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
    presenter,
    announcementId: row.announcementId ?? null,
    openerId: row.openerId ?? null,
    closerId: row.closerId ?? null,
    hourOpenerId: row.hourOpenerId ?? null,
  };
}

function keyOf({ categoryId, filter }: Draw): string {
  return JSON.stringify([categoryId, filter]);
}
