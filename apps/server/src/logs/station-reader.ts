import type { LogItem } from '@fuller/contracts';
import { visibleTo } from '../db/visible.js';
import {
  ITEM_TAGS,
  addDays,
  allEntries,
  drawOf,
  itemOf,
  itemOfLine,
  parseFilter,
  type DailyLog,
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
import {
  LOG_ITEMS,
  PLACEMENTS,
  PLAYS_OF_DATES,
  SCHEDULED_ITEMS,
  SCHEDULED_ITEMS_WITH_IDS,
} from '../db/dialect/sqlite/station-data.js';
import type { Em } from '../db/orm.js';
import { notFound } from '../errors.js';
import { ruleOf } from '../rules/rule-service.js';
import { Kept } from '../store/kept.js';
import type { PlanService } from '../week/plan-service.js';
import type { PoolService } from '../pools/pool-service.js';
import type { Revisions } from '../store/revisions.js';
import type { Store } from '../store/store.js';

/** History this far back counts; the longest separation is as long. */
export const HISTORY_DAYS = 28;
/** What a filter that looks at the time since the last play finds is good for so long. */
const FRESH_MS = 60_000;

/** What a station's days are made from, apart from plays and logs. */
export type Ground = Omit<StationData, 'history' | 'nextLog'>;

/** What is to be among the data besides what clocks and logs name. */
interface DataWishes {
  readonly filters?: readonly string[];
  readonly items?: readonly string[];
  /** Stands for the log of the date. */
  readonly log?: DailyLog;
}

type ScheduledRow = Omit<StationData['items'][number], 'approved' | 'artistIds' | 'mainArtistIds' | 'tags'> & {
  readonly artists: string | null;
  readonly mainArtists: string | null;
  readonly approved: number;
  /** JSON. */
  readonly tags: string;
};

/** Of tag families only those named are kept; null keeps all. */
function itemOfRow(
  { artists, mainArtists, approved, tags, ...item }: ScheduledRow,
  families: ReadonlySet<string> | null,
): StationData['items'][number] {
  const asked = families?.size === 0 ? null : pick(JSON.parse(tags) as Record<string, string[]>, families);
  return {
    ...item,
    ...(asked && { tags: asked }),
    approved: approved === 1,
    artistIds: artists ? artists.split(',') : [],
    // Told only where it is not all of them.
    ...(artists === mainArtists ? {} : { mainArtistIds: mainArtists ? mainArtists.split(',') : [] }),
  };
}

function pick(tags: Record<string, string[]>, families: ReadonlySet<string> | null): Record<string, string[]> {
  return families ? Object.fromEntries(Object.entries(tags).filter(([family]) => families.has(family))) : tags;
}

const idsOf = new WeakMap<Ground['items'], ReadonlySet<string>>();

/** Reads what days are made from, once for every change of it. */
export class StationReader {
  private readonly grounds = new Kept<Ground>(3);
  private readonly logs = new Kept<DailyLogRecord | null>(24);
  private readonly days = new Kept<readonly StationPlay[]>(1500);
  private readonly spans = new Kept<readonly StationPlay[]>(12);
  private readonly furtherItems = new Kept<Ground['items']>(20);
  private logItemsAt = 0;
  private knownLogItems = new Map<string, LogItem>();
  private readonly found = new Kept<readonly string[]>(400);

  constructor(
    private readonly store: Store,
    private readonly pools: PoolService,
    private readonly plans: PlanService,
    private readonly revisions: Revisions,
    private readonly now: () => number,
  ) {}

  /** Everything generation needs for a date. */
  async data(
    stationId: string,
    date: string,
    { filters = [], items = [], log }: DataWishes = {},
  ): Promise<StationData> {
    const ground = await this.ground(stationId);
    const [own, next] = await Promise.all([
      log ?? this.find(stationId, date).then((row) => (row ? docOf(row) : null)),
      this.find(stationId, addDays(date, 1)).then((row) => (row ? docOf(row) : null)),
    ]);
    const history = await this.plays(stationId, addDays(date, -HISTORY_DAYS), addDays(date, -1));
    const drawn = await this.withDraws(stationId, ground, [own, next], filters);
    const named = [own, next].flatMap((one) => (one ? allEntries(one).flatMap((entry) => itemOf(entry) ?? []) : []));
    const found = Object.keys(drawn.categories).filter((id) => !Object.hasOwn(ground.categories, id));
    const wanted = [...items, ...named, ...found.flatMap((id) => drawn.categories[id]!)];
    return { ...drawn, items: await this.withFurther(stationId, ground.items, wanted), history, nextLog: next };
  }

  /** The items of the ground and those of some ids that are not among them; the very same array for the same ids. */
  private async withFurther(
    stationId: string,
    items: Ground['items'],
    ids: readonly string[],
  ): Promise<Ground['items']> {
    let known = idsOf.get(items);
    if (!known) idsOf.set(items, (known = new Set(items.map(({ id }) => id))));
    const further = [...new Set(ids)].filter((id) => !known.has(id)).sort();
    if (further.length === 0) return items;
    const key = `${stationId} ${this.revisions.ground} ${further.join(' ')}`;
    return this.furtherItems.get(key, async () => {
      const rows = await this.store.rows<ScheduledRow>(SCHEDULED_ITEMS_WITH_IDS, [stationId, JSON.stringify(further)]);
      return [...items, ...rows.map((row) => itemOfRow(row, null))];
    });
  }

  /** The log of a date as it is stored; the very same object as long as it stays as it is. */
  find(stationId: string, date: string): Promise<DailyLogRecord | null> {
    const key = `${stationId} ${date} ${this.revisions.ofDate(stationId, date)}`;
    return this.logs.get(key, () => readLog(this.store.read, stationId, date));
  }

  ground(stationId: string): Promise<Ground> {
    return this.grounds.get(`${stationId} ${this.revisions.ground}`, () => this.readGround(stationId));
  }

  /** The plays of some dates, both ends included, in order; the very same array as long as they stay as they are. */
  plays(stationId: string, from: string, to: string): Promise<readonly StationPlay[]> {
    const key = `${stationId} ${from} ${to} ${this.revisions.ofDates(stationId, from, to)}`;
    return this.spans.get(key, async () => {
      const dates: string[] = [];
      for (let date = from; date <= to; date = addDays(date, 1)) dates.push(date);
      return (await this.playsOf(stationId, dates)).flat();
    });
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
    if (this.logItemsAt !== this.revisions.ground) {
      this.logItemsAt = this.revisions.ground;
      this.knownLogItems = new Map();
    }
    // What is read while something changes goes into the map it was read for.
    const known = this.knownLogItems;
    const wanted = [...new Set(ids)];
    const unknown = wanted.filter((id) => !known.has(id));
    if (unknown.length > 0) for (const item of await this.readLogItems(unknown)) known.set(item.id, item);
    return wanted.flatMap((id) => known.get(id) ?? []);
  }

  private async readLogItems(ids: readonly string[]): Promise<LogItem[]> {
    const rows = await this.store.rows<Omit<LogItem, 'tempo' | 'hasFile'> & { tempo: string | null; hasFile: number }>(
      LOG_ITEMS,
      [JSON.stringify(ids)],
    );
    return rows.map(({ tempo, hasFile, ...row }) => ({
      ...row,
      tempo: tempo === null ? null : Number(tempo),
      hasFile: hasFile === 1,
    }));
  }

  private async readGround(stationId: string): Promise<Ground> {
    const em = this.store.read;
    const station = await em.findOne(StationEntity, { id: stationId });
    if (!station) throw notFound('station', stationId);
    const visible = visibleTo(stationId);
    const plan = await this.plans.plan(stationId, em);
    const rules = (await em.find(RuleEntity, visible, { orderBy: { position: 'asc' } })).map(ruleOf);
    const families = new Set(
      rules.map(({ tag }) => tag).filter((tag) => !(ITEM_TAGS as readonly string[]).includes(tag)),
    );
    const rows = await this.store.rows<ScheduledRow>(SCHEDULED_ITEMS, [stationId, stationId], em);
    const read = rows.map((row) => itemOfRow(row, families));
    const items = await this.withFurther(stationId, read, [
      ...plan.clocks.flatMap(({ lines }) => lines.flatMap((line) => itemOfLine(line) ?? [])),
      ...plan.shows.flatMap((show) => show.announcementId ?? []),
    ]);
    const categories: Record<string, string[]> = {};
    for (const row of await this.store.rows<{ categoryId: string; itemId: string }>(PLACEMENTS, [stationId], em)) {
      (categories[row.categoryId] ??= []).push(row.itemId);
    }
    const known = await em.find(CategoryEntity, visible);
    return {
      timeZone: station.timeZone,
      plan,
      items,
      categories,
      filters: {},
      musicCategories: known.filter(({ music }) => music).map(({ id }) => id),
      spreadHours: true,
      approvedOnly: known.filter(({ approvedOnly }) => approvedOnly).map(({ id }) => id),
      coolOffs: Object.fromEntries(known.flatMap(({ id, coolOff }) => (coolOff ? [[id, coolOff]] : []))),
      orders: Object.fromEntries(known.map(({ id, turnOrder }) => [id, turnOrder])),
      rules,
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

/** Reads a log past the unit of work, which would compare and copy the whole of it. */
export async function readLog(em: Em, stationId: string, date: string): Promise<DailyLogRecord | null> {
  const row = (await em.qb(DailyLogEntity).where({ stationId, date }).execute('get')) as
    (Omit<DailyLogRecord, 'hours'> & { readonly hours: string }) | null;
  return row && ({ ...row, hours: JSON.parse(row.hours) as DailyLogRecord['hours'] } as DailyLogRecord);
}

/** The revision of a log; null where there is none. */
export async function logRevision(em: Em, stationId: string, date: string): Promise<number | null> {
  const row = (await em.qb(DailyLogEntity).select('revision').where({ stationId, date }).execute('get')) as {
    readonly revision: number;
  } | null;
  return row?.revision ?? null;
}

export function docOf(row: Pick<DailyLogRecord, 'date' | 'timeZone' | 'hours'>): DailyLog {
  return { date: row.date, timeZone: row.timeZone, hours: row.hours };
}
