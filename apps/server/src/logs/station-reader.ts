import { rulesAt } from '../rules/rules-at.js';
import { visibleTo } from '../db/visible.js';
import {
  ITEM_TAGS,
  addDays,
  allEntries,
  itemOf,
  itemsOfPlan,
  elementAt,
  hoursOfDay,
  lastListRows,
  movedTo,
  withListPlaces,
  type AirPlan,
  limitRules,
  THEME_TAGS,
  themePlays,
  type ThemePlay,
  type DailyLog,
  type Placed,
  type StationData,
} from '@fuller/core';
import { CategoryEntity, StationEntity, type DailyLogRecord } from '../db/entities/index.js';
import { placedSongs, type PlacedRow } from '../db/queries/lives.js';
import { votesSince } from '../db/queries/as-run.js';
import { itemsByCategory, itemsWithIds } from '../db/queries/station-data.js';
import { notFound } from '../errors.js';
import type { LimitSettingsService } from '../limits/limit-settings.js';
import type { DaypartService } from '../rules/daypart-service.js';
import { ruleOf } from '../rules/rule-rows.js';
import { Kept, KeptLatest } from '../store/kept.js';
import type { SponsorService } from '../sponsors/sponsor-service.js';
import type { PlanService } from '../week/plan-service.js';
import type { PoolService } from '../pools/pool-service.js';
import type { Revisions } from '../store/revisions.js';
import type { Store } from '../store/store.js';
import type { Ground } from './ground.js';
import { DrawReader } from './draw-reader.js';
import { LogItemReader } from './log-item-reader.js';
import { ScheduledReader } from './scheduled-reader.js';
import { SisterReader } from './sister-reader.js';
import { PlayReader } from './play-reader.js';
import { docOf, readLog } from './stored-logs.js';

/** History this far back counts; the longest separation is as long. */
export const HISTORY_DAYS = 28;

/** What is to be among the data besides what clocks and logs name. */
interface DataWishes {
  /** The items with every tag, not only those that rules look at. */
  readonly everyTag?: boolean;
  /** The categories as they are now, whatever leaves them by the date. */
  readonly asPlaced?: boolean;
  readonly filters?: readonly string[];
  readonly items?: readonly string[];
  /** Stands for the log of the date. */
  readonly log?: DailyLog;
}

/** Themes are looked back on for so many days. */
const THEME_DAYS = 14;
const HOUR_MS = 3_600_000;
/** Requests this far back are votes, and so many of them count for one song. */
const VOTES_MS = 7 * 24 * HOUR_MS;
const MOST_VOTES = 9;

interface Votes {
  readonly key: string;
  readonly byItem: ReadonlyMap<string, number>;
}

/** Each vote adds its weight once more, for turn orders that go by weight. */
function weighedBy(items: Ground['items'], votes: ReadonlyMap<string, number>): Ground['items'] {
  if (votes.size === 0) return items;
  return items.map((item) => {
    const count = Math.min(MOST_VOTES, votes.get(item.id) ?? 0);
    return count === 0 ? item : { ...item, weight: item.weight * (1 + count) };
  });
}

/** The ground of a station but for its items. */
type SetUp = Omit<Ground, 'items'> & { readonly families: ReadonlySet<string> };

const idsOf = new WeakMap<Ground['items'], ReadonlySet<string>>();

/** Reads what days are made from, once for every change of it. */
export class StationReader {
  readonly plays: PlayReader;
  /** What logs show of items. */
  readonly shown: LogItemReader;
  private readonly draws: DrawReader;
  private readonly sisters: SisterReader;
  private readonly grounds = new KeptLatest<Ground>(8);
  private readonly setUps = new KeptLatest<SetUp>(8);
  private readonly scheduled: ScheduledReader;
  private readonly logs = new Kept<DailyLogRecord | null>(24);
  private readonly counted = new Kept<Votes>(4);
  private readonly themed = new Kept<readonly ThemePlay[]>(80);
  private readonly furtherItems = new Kept<Ground['items']>(20);

  constructor(
    private readonly store: Store,
    pools: PoolService,
    private readonly plans: PlanService,
    private readonly dayparts: DaypartService,
    private readonly limits: LimitSettingsService,
    private readonly sponsors: SponsorService,
    private readonly revisions: Revisions,
    private readonly now: () => number,
  ) {
    this.plays = new PlayReader(store, revisions);
    this.scheduled = new ScheduledReader(store, revisions);
    this.sisters = new SisterReader(store, this.plays);
    this.shown = new LogItemReader(store, revisions);
    this.draws = new DrawReader(pools, revisions, now);
  }

  /** Everything generation needs for a date. */
  async data(
    stationId: string,
    date: string,
    { filters = [], items = [], log, everyTag = false, asPlaced = false }: DataWishes = {},
  ): Promise<StationData> {
    const still = await this.ground(stationId, everyTag);
    const planned = { ...still, plan: await this.planOn(stationId, date, still.plan) };
    const ground = asPlaced ? planned : await this.movedTo(stationId, date, planned);
    const [own, next] = await Promise.all([
      log ?? this.find(stationId, date).then((row) => (row ? docOf(row) : null)),
      this.find(stationId, addDays(date, 1)).then((row) => (row ? docOf(row) : null)),
    ]);
    const history = await this.plays.between(stationId, addDays(date, -HISTORY_DAYS), addDays(date, -1));
    const themes = await this.themes(stationId, ground, date);
    const drawn = await this.draws.added(stationId, ground, [own, next], filters);
    const named = [own, next].flatMap((one) => (one ? allEntries(one).flatMap((entry) => itemOf(entry) ?? []) : []));
    const found = Object.entries(drawn.categories).filter(([id]) => !Object.hasOwn(ground.categories, id));
    const wanted = [...items, ...named, ...found.flatMap(([, ids]) => ids)];
    return {
      ...drawn,
      items: await this.withFurther(stationId, ground.items, wanted),
      history,
      nextLog: next,
      ...themes,
      ...(await this.sisters.about(stationId, date, ground)),
    };
  }

  /** The ground with every song where it is to be on a date. */
  private async movedTo(stationId: string, date: string, ground: Ground): Promise<Ground> {
    if (!ground.placed) return ground;
    const { lives = {}, timeZone } = ground;
    const counts = Object.values(lives).some(({ unit }) => unit === 'plays');
    const planned = Object.values(ground.placed).some((one) => one.planned?.kind === 'plays');
    if (!counts && !planned) return movedTo(ground, date);
    const beforeMs = elementAt(hoursOfDay(date, timeZone), 0).startMs;
    return movedTo({ ...ground, placed: byItem(await placedSongs(this.store.read, stationId, beforeMs)) }, date);
  }

  /** A plan whose set lists go on where the logs before a date have left them. */
  async planOn(stationId: string, date: string, plan: AirPlan): Promise<AirPlan> {
    const wanted = new Set(plan.setLists?.map(({ id }) => id));
    const last = new Map<string, string>();
    for (let back = 1; back <= HISTORY_DAYS && wanted.size > 0; back++) {
      const row = await this.find(stationId, addDays(date, -back));
      for (const [id, rowId] of row ? lastListRows(docOf(row)) : []) if (wanted.delete(id)) last.set(id, rowId);
    }
    return withListPlaces(plan, last);
  }

  /** The values that were themes in the days before a date; none where no clock has themes. */
  private async themes(stationId: string, { plan }: Ground, date: string): Promise<Pick<StationData, 'themes'>> {
    const isThemed = plan.clocks.some(({ lines }) => lines.some((line) => line.kind === 'pick' && line.theme));
    if (!isThemed) return {};
    const dates = Array.from({ length: THEME_DAYS }, (_, n) => addDays(date, n - THEME_DAYS));
    const days = dates.map((one) => this.themesOf(stationId, one));
    return { themes: (await Promise.all(days)).flat() };
  }

  /** The themes of a date's log, each once for a run of its clock. */
  private themesOf(stationId: string, date: string): Promise<readonly ThemePlay[]> {
    const key = `${stationId} ${date} ${this.revisions.ofDate(stationId, date)}`;
    return this.themed.get(key, async () => {
      const row = await this.find(stationId, date);
      return row ? themePlays(docOf(row)) : [];
    });
  }

  /** The log of a date as it is stored; the very same object as long as it stays as it is. */
  find(stationId: string, date: string): Promise<DailyLogRecord | null> {
    const key = `${stationId} ${date} ${this.revisions.ofDate(stationId, date)}`;
    return this.logs.get(key, () => readLog(this.store.read, stationId, date));
  }

  /** Changes with everything a log is judged by besides itself, what other stations play left aside. */
  basisOf(stationId: string, date: string): string {
    const { revisions } = this;
    const before = revisions.ofDates(stationId, addDays(date, -HISTORY_DAYS), addDays(date, -1));
    return `${revisions.ground} ${before} ${revisions.ofDate(stationId, addDays(date, 1))}`;
  }

  async ground(stationId: string, everyTag = false): Promise<Ground> {
    const votes = await this.votes(stationId);
    const revision = `${this.revisions.ground} ${votes.key}`;
    return this.grounds.get(`${stationId} ${everyTag}`, revision, () =>
      this.readGround(stationId, everyTag, votes.byItem),
    );
  }

  /** What listeners asked for lately; counted once an hour, so that days are not made from other figures every time. */
  private votes(stationId: string): Promise<Votes> {
    const hour = Math.floor(this.now() / HOUR_MS);
    return this.counted.get(`${stationId} ${hour}`, async () => {
      const byItem = await votesSince(this.store.read, stationId, hour * HOUR_MS - VOTES_MS);
      return { key: byItem.size > 0 ? String(hour) : '', byItem };
    });
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
    return this.furtherItems.get(key, async () => [
      ...items,
      ...(await itemsWithIds(this.store.read, stationId, further)),
    ]);
  }

  private async readGround(stationId: string, everyTag: boolean, votes: ReadonlyMap<string, number>): Promise<Ground> {
    const set = await this.setUps.get(stationId, String(this.revisions.beyondItems), () => this.readSetUp(stationId));
    const { families, ...setUp } = set;
    const scheduled = await this.scheduled.items(stationId, everyTag ? null : families);
    const items = await this.withFurther(stationId, weighedBy(scheduled, votes), itemsOfPlan(setUp.plan));
    return { ...setUp, items };
  }

  /** What of the ground no edit of an item changes, and the tag families it looks at. */
  private async readSetUp(stationId: string): Promise<SetUp> {
    const em = this.store.read;
    const station = await em.findOne(StationEntity, { id: stationId });
    if (!station) throw notFound('station', stationId);
    const plan = await this.plans.plan(stationId, em);
    const limits = await this.limits.of(stationId, em);
    const rules = [...(limits.applies ? limitRules(limits.strict) : []), ...(await rulesAt(em, stationId)).map(ruleOf)];
    const themes = plan.clocks.flatMap(({ lines }) =>
      lines.flatMap((line) => (line.kind === 'pick' && line.theme ? [line.theme.by] : [])),
    );
    const built: readonly string[] = [...ITEM_TAGS, ...THEME_TAGS];
    const known = await em.find(CategoryEntity, visibleTo(stationId));
    const isKnown = (to: string | null): boolean => to === null || known.some(({ id }) => id === to);
    const placed = (await placedSongs(em, stationId, 0)).filter(
      ({ planned }) => !planned || planned.kind === 'stays' || isKnown(planned.to),
    );
    return {
      families: new Set([...rules.map(({ tag }) => tag), ...themes].filter((tag) => !built.includes(tag))),
      timeZone: station.timeZone,
      plan,
      categories: await itemsByCategory(em, stationId),
      ...(placed.length > 0 && {
        placed: byItem(placed),
        lives: Object.fromEntries(known.flatMap(({ id, life }) => (life && isKnown(life.to) ? [[id, life]] : []))),
      }),
      filters: {},
      musicCategories: known.filter(({ music }) => music).map(({ id }) => id),
      spreadHours: true,
      approvedOnly: known.filter(({ approvedOnly }) => approvedOnly).map(({ id }) => id),
      coolOffs: Object.fromEntries(known.flatMap(({ id, coolOff }) => (coolOff ? [[id, coolOff]] : []))),
      orders: Object.fromEntries(known.map(({ id, turnOrder }) => [id, turnOrder])),
      rules,
      dayparts: (await this.dayparts.rows(stationId, em)).map(({ id, name, hours }) => ({ id, name, hours })),
      exemptAlbums: limits.exemptAlbums,
      sponsors: await this.sponsors.policy(stationId, em),
    };
  }
}

function byItem(rows: readonly PlacedRow[]): Record<string, Placed> {
  return Object.fromEntries(
    rows.map(({ itemId, categoryId, since, planned, plays }) => [itemId, { categoryId, since, planned, plays }]),
  );
}
