import { visibleTo } from '../db/visible.js';
import { visibleSql } from '../db/dialect/sqlite/visible-sql.js';
import type { Catalogue, CategoryRow, Station } from '@fuller/contracts';
import { drawOf, itemOfLine, localTimeOf, weeklyDemand, type AirPlan } from '@fuller/core';
import { CategoryEntity, CategoryGroupEntity, StationEntity, type StationRecord } from '../db/entities/index.js';
import { notFound } from '../errors.js';
import {
  AVERAGE_SONG_MS,
  categoryView,
  poolRows,
  standardDeviationOf,
  type CategoryTotals,
} from '../categories/category-rows.js';
import type { PlanService } from '../week/plan-service.js';
import type { PoolService } from '../pools/pool-service.js';
import { type RuleService } from '../rules/rule-service.js';
import type { Store } from '../store/store.js';

/** Categories, clocks, the week plan and rules of a station. */
export class CatalogueService {
  constructor(
    private readonly store: Store,
    private readonly pools: PoolService,
    private readonly plans: PlanService,
    private readonly rules: RuleService,
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

  private stationView({ id, name, frequency, timeZone }: StationRecord): Station {
    return { id, name, frequency, timeZone, today: localTimeOf(this.now(), timeZone).date };
  }

  private readonly stationsThere = new Set<string>();

  /** Throws NOT_FOUND for a station that is not there. */
  async mustHave(stationId: string): Promise<void> {
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
    const plan = this.plans.planOf(rows);
    const categories = await em.find(CategoryEntity, visible, byPosition);
    const totals = await this.totals(stationId);
    const clockItems = await this.itemsOfPlan(plan);
    // Lengths tell how long fill is and so which lines an hour has room for.
    const draws = await this.plans.drawCounts(
      stationId,
      plan.clocks
        .flatMap(({ lines }) => lines.flatMap((line) => drawOf(line) ?? []))
        .filter(({ filter }) => filter !== ''),
    );
    const poolsOf = (demand: ReadonlyMap<string, number>): Promise<CategoryRow[]> =>
      poolRows(this.store, this.pools, stationId, demand);
    const lengthOf = new Map(clockItems.map((item) => [item.id, item.durationMs]));
    const demand = weeklyDemand(plan, {
      averageOf: ({ categoryId }) => totals.byCategory.get(categoryId)?.averageMs ?? AVERAGE_SONG_MS,
      lengthOf: (id) => lengthOf.get(id) ?? 0,
    });
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
      rules: await this.rules.rows(stationId),
      families: await this.rules.families(),
      items: totals.items,
      withoutCategory: totals.withoutCategory,
    };
  }

  private async totals(stationId: string): Promise<{
    items: number;
    withoutCategory: number;
    byCategory: Map<string, CategoryTotals>;
  }> {
    const [counts] = await this.store.rows<{ items: number; bare: number }>(
      `select count(*) as items, sum(not exists (select 1 from placement p join category c on c.id = p.category_id
         where p.item_id = i.id and ${visibleSql('c')})) as bare
       from item i where ${visibleSql('i')}`,
      [stationId, stationId],
    );
    const rows = await this.store.rows<{ category_id: string; items: number; average: number; squares: number }>(
      `select p.category_id, count(*) as items, avg(i.duration_ms) as average,
         avg(1.0 * i.duration_ms * i.duration_ms) as squares
       from placement p join item i on i.id = p.item_id group by p.category_id`,
    );
    return {
      items: counts!.items,
      withoutCategory: counts!.bare ?? 0,
      byCategory: new Map(
        rows.map(({ category_id: id, items, average, squares }) => [
          id,
          { items, averageMs: Math.round(average), standardDeviationMs: standardDeviationOf(average, squares) },
        ]),
      ),
    };
  }

  private async itemsOfPlan({ clocks, shows }: AirPlan): Promise<Catalogue['clockItems']> {
    const named = clocks.flatMap(({ lines }) => lines.flatMap((line) => itemOfLine(line) ?? []));
    const ids = [...new Set([...named, ...shows.flatMap(({ announcementId }) => announcementId ?? [])])];
    if (ids.length === 0) return [];
    return this.store.rows(
      `select id, title, kind, duration_ms as durationMs from item where id in (${ids.map(() => '?').join(',')})`,
      ids,
    );
  }
}
