import type { SetListService } from '../set-lists/set-list-service.js';
import { averageTeaseMs } from '../db/queries/station-data.js';
import { visibleTo } from '../db/visible.js';
import type { Catalogue, CategoryRow, Station } from '@fuller/contracts';
import { itemOfLine, localTimeOf, weeklyDemand, type AirPlan, drawsOfPlan, itemsOfPlan } from '@fuller/core';
import { countItemsSeen } from '../db/queries/categories.js';
import { itemsOfClocks, lengthsOfItems } from '../db/queries/items.js';
import { momentsByCategory } from '../db/queries/lengths.js';
import { CategoryEntity, CategoryGroupEntity, StationEntity, type StationRecord } from '../db/entities/index.js';
import { FullerError, notFound } from '../errors.js';
import {
  AVERAGE_SONG_MS,
  categoryView,
  poolRows,
  standardDeviationOf,
  type CategoryTotals,
} from '../categories/category-rows.js';
import type { PlanService } from '../week/plan-service.js';
import type { PoolService } from '../pools/pool-service.js';
import type { LimitSettingsService } from '../limits/limit-settings.js';
import type { DaypartService } from '../rules/daypart-service.js';
import { ruleFamilies } from '../rules/rule-names.js';
import type { RuleService } from '../rules/rule-service.js';
import { KeptLatest } from '../store/kept.js';
import type { Store } from '../store/store.js';

/** Categories, clocks, the week plan and rules of a station. */
export class CatalogueService {
  constructor(
    private readonly store: Store,
    private readonly pools: PoolService,
    private readonly plans: PlanService,
    private readonly setLists: SetListService,
    private readonly rules: RuleService,
    private readonly dayparts: DaypartService,
    private readonly limits: LimitSettingsService,
    private readonly now: () => number,
  ) {}

  async stations(): Promise<Station[]> {
    const rows = await this.store.read.find(StationEntity, {}, { orderBy: { position: 'asc' } });
    return rows.map((row) => this.stationView(row));
  }

  async station(id: string): Promise<StationRecord> {
    const row = await this.store.read.findOne(StationEntity, { id });
    if (!row) throw notFound('station', id);
    return row;
  }

  private stationView({ id, name, frequency, timeZone, revision, archived, movesByItself }: StationRecord): Station {
    const today = localTimeOf(this.now(), timeZone).date;
    return {
      id,
      name,
      frequency,
      timeZone,
      today,
      revision,
      archived: Boolean(archived),
      movesByItself: Boolean(movesByItself),
    };
  }

  private readonly stationsThere = new Set<string>();
  private readonly demands = new KeptLatest<ReadonlyMap<string, number>>(8);

  /** Throws NOT_FOUND for a station that is not there, and FORBIDDEN for a change of an archived one. */
  async mustHave(stationId: string, changes = false): Promise<void> {
    if (changes) {
      const { name, archived } = await this.station(stationId);
      if (archived) throw new FullerError('FORBIDDEN', `${name} is archived. Bring it back to change it.`);
      return;
    }
    if (this.stationsThere.has(stationId)) return;
    for (const { id } of await this.stations()) this.stationsThere.add(id);
    if (!this.stationsThere.has(stationId)) throw notFound('station', stationId);
  }

  async catalogue(stationId: string): Promise<Catalogue> {
    const station = await this.station(stationId);
    const em = this.store.read;
    const visible = visibleTo(stationId);
    const byPosition = { orderBy: { position: 'asc' as const } };
    const groups = await em.find(CategoryGroupEntity, {}, byPosition);
    const rows = await this.plans.rows(stationId);
    const plan = await this.plans.plan(stationId);
    const categories = await em.find(CategoryEntity, visible, byPosition);
    const totals = await this.totals(stationId);
    const clockItems = await this.clockItems(plan);
    // Lengths tell how long fill is and so which lines an hour has room for.
    const draws = await this.plans.drawCounts(
      stationId,
      drawsOfPlan(plan).filter(({ filter }) => filter !== ''),
    );
    const poolsOf = (demand: ReadonlyMap<string, number>): Promise<CategoryRow[]> =>
      poolRows(this.store, this.pools, stationId, demand);
    const lengthOf = new Map((await lengthsOfItems(em, itemsOfPlan(plan))).map(({ id, ms }) => [id, ms]));
    const teaseMs = await averageTeaseMs(em, stationId);
    const averages = new Map([...totals.byCategory].map(([id, { averageMs }]) => [id, averageMs]));
    // Laying out a week takes longer than all the rest, and most changes leave it as it is.
    const made = JSON.stringify([plan, [...averages], [...lengthOf], teaseMs]);
    const demand = await this.demands.get(stationId, made, () =>
      Promise.resolve(
        weeklyDemand(plan, {
          teaseMs,
          averageOf: ({ categoryId }) => averages.get(categoryId) ?? AVERAGE_SONG_MS,
          lengthOf: (id) => lengthOf.get(id) ?? 0,
        }),
      ),
    );
    return {
      station: this.stationView(station),
      groups: groups.map(({ id, name, position }) => ({ id, name, position })),
      categories: [
        ...categories.map((row) => categoryView(row, totals.byCategory.get(row.id), demand.get(row.id) ?? 0)),
        ...(await poolsOf(demand)),
      ],
      clocks: rows.clocks,
      clockItems,
      week: rows.week,
      shows: rows.shows,
      dates: rows.dates,
      draws,
      teaseMs,
      setLists: (await this.setLists.list(stationId)).map(({ id, name, rows: count, totalMs }) => ({
        id,
        name,
        rows: count,
        totalMs,
      })),
      rules: await this.rules.rows(stationId),
      dayparts: await this.dayparts.rows(stationId),
      limits: await this.limits.of(stationId),
      families: await ruleFamilies(em),
      items: totals.items,
      withoutCategory: totals.withoutCategory,
    };
  }

  private async totals(stationId: string): Promise<{
    items: number;
    withoutCategory: number;
    byCategory: Map<string, CategoryTotals>;
  }> {
    const em = this.store.read;
    const counts = await countItemsSeen(em, stationId);
    const rows = await momentsByCategory(em);
    return {
      ...counts,
      byCategory: new Map(
        rows.map(({ categoryId, items, average, squares }) => [
          categoryId,
          {
            items,
            averageMs: Math.round(average ?? 0),
            standardDeviationMs: standardDeviationOf(average ?? 0, squares ?? 0),
          },
        ]),
      ),
    };
  }

  private async clockItems({ clocks, shows }: AirPlan): Promise<Catalogue['clockItems']> {
    const named = clocks.flatMap(({ lines }) => lines.flatMap((line) => itemOfLine(line) ?? []));
    const ids = [...new Set([...named, ...shows.flatMap(({ announcementId }) => announcementId ?? [])])];
    if (ids.length === 0) return [];
    return itemsOfClocks(this.store.read, ids);
  }
}
