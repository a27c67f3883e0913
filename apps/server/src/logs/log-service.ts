import type { StationActor } from '../actor.js';
import type { AiredPlay, DaySummary, DeskData, HandEdit, LogView, StaleLog } from '@fuller/contracts';
import {
  addDays,
  airedIds,
  allEntries,
  byHand,
  changedEntries,
  checkLog,
  formatAirTime,
  formatLocalDateTime,
  invertEdit,
  itemOf,
  openSlots,
  slotsOf,
  staleHours,
  StationModel,
  undoEdit,
  type DailyLog,
  type LogEdit,
  type LogHour,
  type StationData,
  type StationPlay,
  type Strain,
} from '@fuller/core';
import {
  DailyLogEntity,
  HandOverEntity,
  PlayEntity,
  StationEntity,
  type DailyLogRecord,
} from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';
import { staleRevision, type ChangeSet, type RecordedChange } from '../store/change-set.js';
import type { Judge, Judgement } from './judge.js';
import { afterEdit, dayState, hoursToCome, labelOf, listed, sameShape } from './log-words.js';
import type { PlanService } from '../week/plan-service.js';
import { docOf, logRevision, readLog, type StationReader } from './station-reader.js';
import type { Store, Written } from '../store/store.js';

export { docOf } from './station-reader.js';

/** How a log change is recorded: made or unmade whole, or an edit. */
type LogChange =
  | { readonly kind: 'made'; readonly stationId: string; readonly log: DailyLog }
  | { readonly kind: 'edit'; readonly stationId: string; readonly date: string; readonly edit: LogEdit };

/** Daily logs: reading, judging and changing them. */
export class LogService {
  constructor(
    private readonly store: Store,
    private readonly reader: StationReader,
    private readonly plans: PlanService,
    private readonly judge: Judge,
    private readonly now: () => number,
  ) {
    store.onRevert('log', (changes, change, madeAtMs) => this.revert(changes, change, madeAtMs));
  }

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

  private async viewOf(revision: number, log: DailyLog, strains: readonly Strain[]): Promise<LogView> {
    return {
      revision,
      log: log as LogView['log'],
      items: await this.reader.logItems(allEntries(log).flatMap((entry) => itemOf(entry) ?? [])),
      strains: [...strains],
    };
  }

  /** What a day has played, as far as anything is known of it. */
  async aired(stationId: string, date: string): Promise<AiredPlay[]> {
    const plays = (await this.reader.plays(stationId, date, date)).filter(({ startMs }) => startMs <= this.now());
    const items = new Map(
      (await this.reader.logItems(plays.map(({ itemId }) => itemId))).map((item) => [item.id, item]),
    );
    return plays.map(({ itemId, startMs }) => {
      const item = items.get(itemId);
      return { itemId, startMs, title: item?.title ?? 'Deleted item', artist: item?.artist ?? '' };
    });
  }

  /** What the desk needs to judge a day's log by itself. */
  async deskData(stationId: string, date: string): Promise<DeskData> {
    const data = await this.stationData(stationId, date);
    return { data, items: await this.reader.logItems(Object.values(data.categories).flat()) };
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
    const ground = { data: { plan, timeZone: station.timeZone }, ...(await this.plans.lengths(stationId, plan)) };
    const stale: StaleLog[] = [];
    for (const row of rows) {
      const log = docOf(row);
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
    const logs = await this.store.rows<{
      date: string;
      slots: number;
      open: number;
      strains: number;
      revision: number;
    }>(
      `select "date", slots, "open", strains, revision from daily_log where station_id = ? and "date" between ? and ?`,
      [stationId, from, until],
    );
    const records = await em.find(HandOverEntity, { stationId, date: { $gte: from, $lte: until } });
    const aired = new Set(
      (
        await this.store.rows<{ date: string }>(
          `select distinct "date" from play where station_id = ? and log_id is null and "date" between ? and ?`,
          [stationId, from, until],
        )
      ).map((row) => row.date),
    );
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

  /** Carries out an edit made by hand; it is judged before anything waits for it. */
  async edit(
    { stationId, clientId }: StationActor,
    date: string,
    revision: number,
    hand: HandEdit,
  ): Promise<Written<LogView>> {
    const edit = byHand(hand);
    if (hand.type === 'replace' && (await this.reader.logItems([hand.itemId])).length === 0)
      throw notFound('item', hand.itemId);
    const row = await this.mustFind(stationId, date);
    if (row.revision !== revision) throw staleRevision('log');
    const before = docOf(row);
    const log = afterEdit(before, edit);
    if (log === before)
      return { activityId: null, label: labelOf(hand), value: await this.view(stationId, date), left: [] };
    const judged = await this.judge(stationId, log);
    const about = { clientId, stationId, label: labelOf(hand), tellsItself: true };
    const written = await this.store.write(about, async (changes) => {
      if ((await logRevision(changes.em, stationId, date)) !== revision) throw staleRevision('log');
      await this.apply(changes, row, before, edit, { log, judged });
    });
    const value = await this.viewOf(revision + 1, log, judged.strains);
    const item = hand.type === 'replace' ? await this.reader.logItems([hand.itemId]) : [];
    this.store.tell({
      type: 'log',
      stationId,
      clientId,
      date,
      revision: revision + 1,
      edit: hand,
      items: item,
      strains: value.strains,
      open: openSlots(log).length,
    });
    return { ...written, value };
  }

  /** Puts a new run's log in place of the one of its date, or makes the first one; nothing where it is the same. */
  async save(changes: ChangeSet, stationId: string, log: DailyLog, judged?: Judgement): Promise<void> {
    const row = await this.find(stationId, log.date, changes.em);
    if (!row) return this.make(changes, stationId, log, judged);
    const before = docOf(row);
    const edit: LogEdit = { type: 'refill', hours: log.hours };
    if (changedEntries(log, before).length === 0 && sameShape(log, before)) return;
    await this.apply(changes, row, before, edit, { log, judged: judged ?? (await this.judge(stationId, log)) });
  }

  private async apply(
    changes: ChangeSet,
    row: DailyLogRecord,
    before: DailyLog,
    edit: LogEdit,
    after: { readonly log: DailyLog; readonly judged: Judgement },
  ): Promise<void> {
    const about = { kind: 'edit' as const, stationId: row.stationId, date: row.date };
    await this.write(changes, row.stationId, checkLog(after.log), row, after.judged);
    changes.record({
      thing: 'log',
      thingId: row.id,
      before: { ...about, edit: invertEdit(before, edit) } satisfies LogChange,
      after: { ...about, edit } satisfies LogChange,
    });
  }

  private async make(changes: ChangeSet, stationId: string, log: DailyLog, judged?: Judgement): Promise<void> {
    const id = await this.write(changes, stationId, log, null, judged ?? (await this.judge(stationId, log)));
    changes.record({
      thing: 'log',
      thingId: id,
      before: null,
      after: { kind: 'made', stationId, log } satisfies LogChange,
    });
  }

  /** Writes the row of a log and those of its plays that are new; returns its id. */
  private async write(
    changes: ChangeSet,
    stationId: string,
    log: DailyLog,
    row: DailyLogRecord | null,
    { strains, plays }: Judgement,
  ): Promise<string> {
    const id = row?.id ?? newId();
    const counts = { slots: slotsOf(log).length, open: openSlots(log).length, strains: strains.length };
    const fields = { hours: log.hours as LogHour[], timeZone: log.timeZone, ...counts };
    if (row) await changes.em.nativeUpdate(DailyLogEntity, { id }, { ...fields, revision: row.revision + 1 });
    else await changes.em.insert(DailyLogEntity, { id, revision: 1, stationId, date: log.date, ...fields });
    changes.touchLog(stationId, log.date);
    await this.writePlays(changes, { id, stationId, date: log.date }, plays);
    return id;
  }

  private async writePlays(
    { em }: ChangeSet,
    { id, stationId, date }: { readonly id: string; readonly stationId: string; readonly date: string },
    plays: readonly StationPlay[],
  ): Promise<void> {
    const keyOf = ({ itemId, startMs }: StationPlay): string => `${startMs} ${itemId}`;
    const wanted = new Map(plays.map((play) => [keyOf(play), play]));
    const held = await this.store.rows<StationPlay & { id: number }>(
      'select id, item_id as itemId, start_ms as startMs from play where log_id = ?',
      [id],
      em,
    );
    const gone: number[] = [];
    for (const play of held) if (!wanted.delete(keyOf(play))) gone.push(play.id);
    for (let from = 0; from < gone.length; from += 500)
      await em.nativeDelete(PlayEntity, { id: { $in: gone.slice(from, from + 500) } } as never);
    const rows = [...wanted.values()].map((play) => ({ ...play, stationId, date, logId: id }));
    if (rows.length) await em.insertMany(PlayEntity, rows as never[]);
  }

  private async revert(changes: ChangeSet, change: RecordedChange, madeAtMs: number): Promise<void> {
    const before = change.before as LogChange | null;
    const after = change.after as LogChange | null;
    if (before?.kind === 'edit' && after?.kind === 'edit') {
      await this.revertEdit(changes, before, after.edit);
    } else if (before?.kind === 'made') {
      if (await this.find(before.stationId, before.log.date, changes.em))
        throw new FullerError('CANNOT_UNDO', `There is another log of ${before.log.date} since.`);
      await this.make(changes, before.stationId, before.log);
    } else if (after?.kind === 'made') {
      await this.unmake(changes, after, madeAtMs);
    }
  }

  /** Undoes an edit as far as nobody has changed the same since, and nothing of it has aired. */
  private async revertEdit(
    changes: ChangeSet,
    { stationId, date, edit: inverse }: Extract<LogChange, { kind: 'edit' }>,
    edit: LogEdit,
  ): Promise<void> {
    const row = await this.mustFind(stationId, date, changes.em);
    const log = docOf(row);
    const outcome = undoEdit(log, edit, inverse, await this.airedOf(stationId, log));
    if (!outcome.ok)
      throw new FullerError('CANNOT_UNDO', `The log of ${date} cannot go back: ${outcome.why}. Nothing was changed.`);
    const after = afterEdit(log, outcome.edit);
    if (outcome.left.length > 0) {
      const times = await this.timesOf(stationId, log, outcome.left);
      changes.leave(
        `${date}: ${listed(times)} left as ${times.length === 1 ? 'it is' : 'they are'}, changed or aired since.`,
      );
    }
    await this.apply(changes, row, log, outcome.edit, { log: after, judged: await this.judge(stationId, after) });
  }

  /** Takes a log away that a run made, unless it has been changed or has begun to air. */
  private async unmake(
    changes: ChangeSet,
    { stationId, log: made }: Extract<LogChange, { kind: 'made' }>,
    madeAtMs: number,
  ): Promise<void> {
    const row = await this.mustFind(stationId, made.date, changes.em);
    const log = docOf(row);
    const changed = changedEntries(log, made);
    if (changed.length > 0 || !sameShape(log, made)) {
      const times = await this.timesOf(stationId, log, changed);
      throw new FullerError(
        'CANNOT_UNDO',
        `The log of ${made.date} has been changed since it was made${times.length ? `, at ${listed(times)}` : ''}. Undo those changes first.`,
      );
    }
    if ((await this.airedOf(stationId, log, madeAtMs)).size > 0)
      throw new FullerError('CANNOT_UNDO', `The log of ${made.date} has begun to air since it was made.`);
    await changes.em.nativeDelete(DailyLogEntity, { id: row.id });
    changes.touchLog(stationId, made.date);
    const gone: LogChange = { kind: 'made', stationId, log };
    changes.record({ thing: 'log', thingId: row.id, before: gone, after: null });
  }

  /** What has begun of a log by now, and not before an instant. */
  private async airedOf(stationId: string, log: DailyLog, sinceMs?: number): Promise<ReadonlySet<string>> {
    const nowMs = this.now();
    if (nowMs < (log.hours[0]?.startMs ?? 0)) return new Set();
    const model = new StationModel(await this.reader.data(stationId, log.date, { log }));
    const aired = airedIds(model, log, nowMs);
    if (sinceMs === undefined) return aired;
    const before = airedIds(model, log, sinceMs);
    return new Set([...aired].filter((id) => !before.has(id)));
  }

  /** When some entries of a log air, as the station's clock shows it. */
  private async timesOf(stationId: string, log: DailyLog, ids: readonly string[]): Promise<string[]> {
    const { entries } = new StationModel(await this.reader.data(stationId, log.date, { log })).timing(log);
    return ids.flatMap((id) => {
      const at = entries.get(id);
      return at ? [formatAirTime(at.startMs, log.timeZone)] : [];
    });
  }
}
