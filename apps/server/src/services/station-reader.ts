import type { LogItem } from '@fuller/contracts';
import {
  addDays,
  allEntries,
  drawOf,
  parseFilter,
  type DailyLog,
  type Rule,
  type StationData,
  type StationPlay,
} from '@fuller/core';
import {
  CategoryEntity,
  DailyLogEntity,
  RuleEntity,
  StationEntity,
  type DailyLogRecord,
} from '../db/entities/index.js';
import { LOG_ITEMS, PLACEMENTS, PLAYS_OF_DATES, SCHEDULED_ITEMS } from '../db/sql/station-data.js';
import { notFound } from '../errors.js';
import { Kept } from './kept.js';
import type { PlanService } from './plan-service.js';
import type { PoolService } from './pool-service.js';
import type { Revisions } from './revisions.js';
import type { Store } from './store.js';

/** History this far back counts; the longest separation is as long. */
export const HISTORY_DAYS = 28;
/** What a filter that looks at the time since the last play finds is good for so long. */
const FRESH_MS = 60_000;

/** What a station's days are made from, apart from plays and logs. */
export type Ground = Omit<StationData, 'history' | 'nextLog'>;

/** Reads what days are made from, once for every change of it. */
export class StationReader {
  private readonly grounds = new Kept<Ground>(3);
  private readonly days = new Kept<readonly StationPlay[]>(1500);
  private readonly items = new Kept<ReadonlyMap<string, LogItem>>(1);
  private readonly found = new Kept<readonly string[]>(400);

  constructor(
    private readonly store: Store,
    private readonly pools: PoolService,
    private readonly plans: PlanService,
    private readonly revisions: Revisions,
    private readonly now: () => number,
  ) {}

  /** Everything generation needs for a date; filters that neither clocks nor logs name yet are looked up too. */
  async data(
    stationId: string,
    date: string,
    moreFilters: readonly string[] = [],
    log?: DailyLog,
  ): Promise<StationData> {
    const ground = await this.ground(stationId);
    const [own, next] = await Promise.all([
      log ?? this.find(stationId, date).then((row) => (row ? docOf(row) : null)),
      this.find(stationId, addDays(date, 1)).then((row) => (row ? docOf(row) : null)),
    ]);
    const history = await this.plays(stationId, addDays(date, -HISTORY_DAYS), addDays(date, -1));
    return { ...(await this.withDraws(stationId, ground, [own, next], moreFilters)), history, nextLog: next };
  }

  find(stationId: string, date: string): Promise<DailyLogRecord | null> {
    return this.store.read.findOne(DailyLogEntity, { stationId, date }, { disableIdentityMap: true });
  }

  ground(stationId: string): Promise<Ground> {
    return this.grounds.get(`${stationId} ${this.revisions.ground}`, () => this.readGround(stationId));
  }

  /** The plays of some dates, both ends included, in order. */
  async plays(stationId: string, from: string, to: string): Promise<StationPlay[]> {
    const dates: string[] = [];
    for (let date = from; date <= to; date = addDays(date, 1)) dates.push(date);
    const parts = await this.playsOf(stationId, dates);
    return parts.flat();
  }

  /** Dates that are not kept are read together. */
  private async playsOf(stationId: string, dates: readonly string[]): Promise<(readonly StationPlay[])[]> {
    const keyOf = (date: string): string => `${stationId} ${date} ${this.revisions.ofDate(stationId, date)}`;
    let reading: Promise<Map<string, StationPlay[]>> | null = null;
    const read = (): Promise<Map<string, StationPlay[]>> => (reading ??= this.readPlays(stationId, dates));
    return Promise.all(dates.map((date) => this.days.get(keyOf(date), async () => (await read()).get(date) ?? [])));
  }

  private async readPlays(stationId: string, dates: readonly string[]): Promise<Map<string, StationPlay[]>> {
    const rows = await this.store.rows<StationPlay & { date: string }>(PLAYS_OF_DATES, [
      stationId,
      dates[0]!,
      dates.at(-1)!,
    ]);
    const byDate = new Map<string, StationPlay[]>();
    for (const { date, itemId, startMs } of rows) {
      const plays = byDate.get(date);
      if (plays) plays.push({ itemId, startMs });
      else byDate.set(date, [{ itemId, startMs }]);
    }
    return byDate;
  }

  /** What a log shows of items, by id. */
  async logItems(ids: Iterable<string>): Promise<LogItem[]> {
    const known = await this.items.get(String(this.revisions.ground), () => this.readLogItems());
    return [...new Set(ids)].flatMap((id) => known.get(id) ?? []);
  }

  private async readLogItems(): Promise<ReadonlyMap<string, LogItem>> {
    const rows = await this.store.rows<Omit<LogItem, 'tempo' | 'hasFile'> & { tempo: string | null; hasFile: number }>(
      LOG_ITEMS,
    );
    return new Map(
      rows.map(({ tempo, hasFile, ...row }) => [
        row.id,
        { ...row, tempo: tempo === null ? null : Number(tempo), hasFile: hasFile === 1 },
      ]),
    );
  }

  private async readGround(stationId: string): Promise<Ground> {
    const em = this.store.read;
    const station = await em.findOne(StationEntity, { id: stationId });
    if (!station) throw notFound('station', stationId);
    const visible = { $or: [{ scope: 'group' as const }, { stationId }] };
    const items = await this.store.rows<
      Omit<StationData['items'][number], 'approved' | 'artistIds' | 'mainArtistIds'> & {
        artists: string | null;
        mainArtists: string | null;
        approved: number;
      }
    >(SCHEDULED_ITEMS, [stationId], em);
    const categories: Record<string, string[]> = {};
    for (const row of await this.store.rows<{ categoryId: string; itemId: string }>(PLACEMENTS, [stationId], em)) {
      (categories[row.categoryId] ??= []).push(row.itemId);
    }
    const known = await em.find(CategoryEntity, visible);
    const rules = await em.find(RuleEntity, visible, { orderBy: { position: 'asc' } });
    return {
      timeZone: station.timeZone,
      plan: await this.plans.plan(stationId, em),
      items: items.map(({ artists, mainArtists, approved, ...item }) => ({
        ...item,
        approved: approved === 1,
        artistIds: artists ? artists.split(',') : [],
        // Said only where it is not all of them.
        ...(artists === mainArtists ? {} : { mainArtistIds: mainArtists ? mainArtists.split(',') : [] }),
      })),
      categories,
      filters: {},
      musicCategories: known.filter(({ music }) => music).map(({ id }) => id),
      spreadHours: true,
      approvedOnly: known.filter(({ approvedOnly }) => approvedOnly).map(({ id }) => id),
      coolOffs: Object.fromEntries(known.flatMap(({ id, coolOff }) => (coolOff ? [[id, coolOff]] : []))),
      orders: Object.fromEntries(known.map(({ id, turnOrder }) => [id, turnOrder])),
      rules: rules.map(({ id, shape, tag, seconds, secondsByCategory, resting }): Rule => ({
        id,
        shape,
        tag,
        seconds,
        secondsByCategory,
        resting: Boolean(resting),
      })),
    };
  }

  /** The ground with the pools and filters that clocks and logs draw from. */
  private async withDraws(
    stationId: string,
    ground: Ground,
    logs: readonly (DailyLog | null)[],
    moreFilters: readonly string[],
  ): Promise<Ground> {
    const logged = logs.flatMap((log) => (log ? allEntries(log) : []));
    const drawn = [
      ...ground.plan.clocks.flatMap(({ lines }) => lines.flatMap((line) => drawOf(line) ?? [])),
      ...logged.flatMap((entry) => (entry.kind === 'pick' ? [{ categoryId: entry.categoryId, filter: '' }] : [])),
    ];
    const categories: Record<string, readonly string[]> = { ...ground.categories };
    const pools: string[] = [];
    for (const id of new Set(drawn.map(({ categoryId }) => categoryId))) {
      if (categories[id] || Object.hasOwn(ground.orders, id)) continue;
      const items = await this.foundBy(
        stationId,
        `pool ${id}`,
        async () => (await this.pools.itemsOf(stationId, [id]))[id] ?? null,
      );
      if (!items) continue;
      categories[id] = items;
      pools.push(id);
    }
    const texts = [
      ...moreFilters,
      ...drawn.map(({ filter }) => filter).filter((filter) => filter !== ''),
      ...logged.flatMap((entry) => (entry.kind === 'pick' ? (entry.filters ?? []) : [])),
    ];
    const filters: Record<string, readonly string[]> = {};
    for (const text of new Set(texts))
      filters[text] =
        (await this.foundBy(
          stationId,
          `filter ${text}`,
          async () => (await this.pools.itemsFitting(stationId, [text]))[text] ?? [],
        )) ?? [];
    return { ...ground, categories, filters, musicCategories: [...ground.musicCategories, ...pools] };
  }

  /** What a pool or filter finds, kept as long as the library is as it is; rests change by the minute. */
  private async foundBy(
    stationId: string,
    key: string,
    find: () => Promise<readonly string[] | null>,
  ): Promise<readonly string[] | null> {
    const at =
      key.startsWith('pool') || (await this.looksAtRests(stationId, key.slice(7)))
        ? `${this.revisions.total} ${Math.floor(this.now() / FRESH_MS)}`
        : String(this.revisions.ground);
    const items = await this.found.get(`${stationId} ${key} ${at}`, async () => (await find()) ?? NOTHING);
    return items === NOTHING ? null : items;
  }

  private async looksAtRests(stationId: string, text: string): Promise<boolean> {
    if (!/last|rest|play/i.test(text)) return false;
    const parsed = parseFilter(text, await this.pools.vocabulary(stationId));
    return parsed.ok;
  }
}

const NOTHING: readonly string[] = [];

export function docOf(row: Pick<DailyLogRecord, 'date' | 'timeZone' | 'hours'>): DailyLog {
  return { date: row.date, timeZone: row.timeZone, hours: row.hours };
}
