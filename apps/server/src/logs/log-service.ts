import type { AiredPlay, DaySummary, DeskData, LogRun, LogView, RulesGround, StaleLog } from '@fuller/contracts';
import {
  addDays,
  airedIds,
  allEntries,
  formatLocalDateTime,
  itemOf,
  staleHours,
  StationModel,
  type DailyLog,
  type StationData,
  type Strain,
} from '@fuller/core';
import { datesPlayedWithoutLog, logCounts } from '../db/queries/plays.js';
import {
  ActivityEntity,
  AttendedRunEntity,
  DailyLogEntity,
  HandOverEntity,
  LogRunEntity,
  StationEntity,
  type DailyLogRecord,
} from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { FullerError, notFound } from '../errors.js';
import type { Judge } from './judge.js';
import { dayState, hoursToCome, shownDecision } from './log-words.js';
import type { PlanService } from '../week/plan-service.js';
import type { StationReader } from './station-reader.js';
import { docOf, readLog } from './stored-logs.js';
import type { Store } from '../store/store.js';

/** So many runs over a day are told. */
const MOST_RUNS = 20;

/** Daily logs as they are read and judged. */
export class LogService {
  constructor(
    private readonly store: Store,
    private readonly reader: StationReader,
    private readonly plans: PlanService,
    readonly judge: Judge,
    private readonly now: () => number,
  ) {}

  /** Everything generation needs for a date; some items besides. */
  stationData(stationId: string, date: string, items: readonly string[] = []): Promise<StationData> {
    return this.reader.data(stationId, date, { items });
  }

  /** The log of a date as it was last committed, or as a write sees it. */
  find(stationId: string, date: string, em?: Em): Promise<DailyLogRecord | null> {
    return em ? readLog(em, stationId, date) : this.reader.find(stationId, date);
  }

  async mustFind(stationId: string, date: string, em?: Em): Promise<DailyLogRecord> {
    const row = await this.find(stationId, date, em);
    if (!row) throw new FullerError('NO_LOG', `There is no log for ${date} yet.`);
    return row;
  }

  async view(stationId: string, date: string): Promise<LogView> {
    const row = await this.mustFind(stationId, date);
    const log = docOf(row);
    return this.viewOf(row.revision, log, (await this.judge(stationId, log)).strains);
  }

  async viewOf(revision: number, log: DailyLog, strains: readonly Strain[]): Promise<LogView> {
    return {
      revision,
      log: log as LogView['log'],
      items: await this.reader.shown.withIds(allEntries(log).flatMap((entry) => itemOf(entry) ?? [])),
      strains: [...strains],
    };
  }

  /** What the runs over a day were asked for, the latest first. */
  async runs(stationId: string, date: string): Promise<LogRun[]> {
    const em = this.store.read;
    const rows = await em.find(LogRunEntity, { stationId, date }, { orderBy: { atMs: 'desc' }, limit: MOST_RUNS });
    const undone = new Set(
      (await em.find(ActivityEntity, { id: { $in: rows.map(({ activityId }) => activityId) } }))
        .filter(({ undoneBy }) => undoneBy)
        .map(({ id }) => id),
    );
    const attended = new Map(
      (await em.find(AttendedRunEntity, { id: { $in: rows.map(({ id }) => id) } })).map((run) => [run.id, run]),
    );
    return rows.map((row): LogRun => {
      const { activityId, atMs, seed, only, hours, rulesOff, answers, categories, replacedByHand } = row;
      const decisions = attended.get(row.id)?.decisions.map(shownDecision) ?? null;
      return {
        atMs,
        seed,
        only,
        hours: hours ?? null,
        categories: categories ?? null,
        replacedByHand: Boolean(replacedByHand),
        rulesOff,
        answers,
        decisions,
        undone: undone.has(activityId),
      };
    });
  }

  /** What a day has played, as far as anything is known of it. */
  async aired(stationId: string, date: string): Promise<AiredPlay[]> {
    const plays = (await this.reader.plays.between(stationId, date, date)).filter(
      ({ startMs }) => startMs <= this.now(),
    );
    const items = new Map(
      (await this.reader.shown.withIds(plays.map(({ itemId }) => itemId))).map((item) => [item.id, item]),
    );
    return plays.map(({ itemId, startMs }) => {
      const item = items.get(itemId);
      return { itemId, startMs, title: item?.title ?? 'Deleted item', artist: item?.artist ?? '' };
    });
  }

  /** What the desk needs to judge a day's log by itself. */
  async deskData(stationId: string, date: string): Promise<DeskData> {
    const data = await this.stationData(stationId, date);
    return { data, items: await this.reader.shown.withIds(Object.values(data.categories).flat()) };
  }

  /** What rules are held against while they are typed. */
  async rulesGround(stationId: string): Promise<RulesGround> {
    const station = await this.store.read.findOne(StationEntity, { id: stationId });
    if (!station) throw notFound('station', stationId);
    const today = formatLocalDateTime(this.now(), station.timeZone).slice(0, 10);
    return { data: await this.reader.data(stationId, today, { everyTag: true }) };
  }

  /** The hours of logs from today on that the clocks would make otherwise now. */
  async stale(stationId: string): Promise<StaleLog[]> {
    const station = await this.store.read.findOne(StationEntity, { id: stationId });
    if (!station) throw notFound('station', stationId);
    const today = formatLocalDateTime(this.now(), station.timeZone).slice(0, 10);
    const rows = await this.store.read.find(
      DailyLogEntity,
      { stationId, date: { $gte: today } },
      { orderBy: { date: 'asc' }, limit: 31 },
    );
    if (rows.length === 0) return [];
    const plan = await this.plans.plan(stationId);
    const lengths = await this.plans.lengths(stationId, plan);
    const stale: StaleLog[] = [];
    for (const row of rows) {
      const log = docOf(row);
      const planOn = await this.reader.planOn(stationId, row.date, plan);
      const ground = { data: { plan: planOn, timeZone: station.timeZone }, ...lengths };
      let found = hoursToCome(log, staleHours(ground, log), this.now());
      // What is on the air is asked for only where its hour is among them.
      if (found.some(({ startMs }) => startMs <= this.now()))
        found = hoursToCome(log, staleHours(ground, log, await this.airedOf(stationId, log)), this.now());
      const hours = found.map(({ index, localHour, clockName }) => ({ index, localHour, clockName }));
      if (hours.length > 0) stale.push({ date: row.date, hours });
    }
    return stale;
  }

  /** Fourteen days or so at a glance. */
  async days(stationId: string, from: string, count: number): Promise<DaySummary[]> {
    const station = await this.store.read.findOne(StationEntity, { id: stationId });
    if (!station) throw notFound('station', stationId);
    const until = addDays(from, count - 1);
    const em = this.store.read;
    const logs = await logCounts(em, stationId, from, until);
    const records = await em.find(HandOverEntity, { stationId, date: { $gte: from, $lte: until } });
    const aired = new Set(await datesPlayedWithoutLog(em, stationId, from, until));
    const today = formatLocalDateTime(this.now(), station.timeZone).slice(0, 10);
    return Array.from({ length: count }, (_, index) => {
      const date = addDays(from, index);
      const log = logs.find((row) => row.date === date);
      const handedOver = records.some((record) => record.date === date && record.logRevision === log?.revision);
      return {
        date,
        state: dayState(log, handedOver, (date < today && log !== undefined) || aired.has(date)),
        slots: log?.slots ?? 0,
        open: log?.open ?? 0,
        strains: log?.strains ?? 0,
      };
    });
  }

  /** What has begun of a log by now, and not before an instant. */
  async airedOf(stationId: string, log: DailyLog, sinceMs?: number): Promise<ReadonlySet<string>> {
    const nowMs = this.now();
    if (nowMs < (log.hours[0]?.startMs ?? 0)) return new Set();
    const model = new StationModel(await this.reader.data(stationId, log.date, { log }));
    const aired = airedIds(model, log, nowMs);
    if (sinceMs === undefined) return aired;
    const before = airedIds(model, log, sinceMs);
    return new Set([...aired].filter((id) => !before.has(id)));
  }
}
