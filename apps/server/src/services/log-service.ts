import type { DaySummary, DeskData, DayState, HandEdit, LogItem, LogView, StaleLog } from '@fuller/contracts';
import {
  addDays,
  allEntries,
  applyEdit,
  byHand,
  drawOf,
  formatLocalDateTime,
  hoursOfDay,
  invertEdit,
  itemOf,
  openSlots,
  LogInspector,
  checkLog,
  slotsOf,
  staleHours,
  StationModel,
  type DailyLog,
  type LogEdit,
  type LogHour,
  type StationData,
  type Rule,
} from '@fuller/core';
import {
  CategoryEntity,
  DailyLogEntity,
  HandOverEntity,
  PlayEntity,
  RuleEntity,
  StationEntity,
  type DailyLogRecord,
} from '../db/entities/index.js';
import { PLACEMENTS, PLAYS_BETWEEN, SCHEDULED_ITEMS } from '../db/sql/station-data.js';
import type { Em } from '../db/orm.js';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';
import type { PlanService } from './plan-service.js';
import type { PoolService } from './pool-service.js';
import { staleRevision, type ChangeSet, type RecordedChange } from './change-set.js';
import type { Store, Written } from './store.js';

/** History this far back counts; the longest separation is as long. */
const HISTORY_DAYS = 28;

/** How a log change is recorded: made or unmade whole, or an edit. */
type LogChange =
  | { readonly kind: 'made'; readonly stationId: string; readonly log: DailyLog }
  | { readonly kind: 'edit'; readonly stationId: string; readonly date: string; readonly edit: LogEdit };

/** Daily logs: reading, judging and changing them. */
export class LogService {
  constructor(
    private readonly store: Store,
    private readonly pools: PoolService,
    private readonly plans: PlanService,
    private readonly now: () => number,
  ) {
    store.onRevert('log', (changes, change) => this.revert(changes, change));
  }

  /**
   * Everything generation needs for a date; reads on the given manager, so a write sees its own changes. Filters that
   * neither clocks nor logs name yet are looked up too.
   */
  async stationData(
    stationId: string,
    date: string,
    em: Em = this.store.read,
    moreFilters: readonly string[] = [],
  ): Promise<StationData> {
    const station = await em.findOne(StationEntity, { id: stationId });
    if (!station) throw notFound('station', stationId);
    const visible = { $or: [{ scope: 'group' as const }, { stationId }] };
    const plan = await this.plans.plan(stationId, em);
    const dayStart = hoursOfDay(date, station.timeZone)[0]!.startMs;
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
    const next = await em.findOne(DailyLogEntity, { stationId, date: addDays(date, 1) }, { disableIdentityMap: true });
    const visibleCategories = await em.find(CategoryEntity, visible);
    const known = new Set(visibleCategories.map(({ id }) => id));
    const own = await this.find(stationId, date, em);
    const logged = [own, next].flatMap((row) => (row ? allEntries(docOf(row)) : []));
    const drawn = [
      ...plan.clocks.flatMap(({ lines }) => lines.flatMap((line) => drawOf(line) ?? [])),
      ...logged.flatMap((entry) => (entry.kind === 'pick' ? [{ categoryId: entry.categoryId, filter: '' }] : [])),
    ];
    const pools = await this.pools.itemsOf(
      stationId,
      [...new Set(drawn.map(({ categoryId }) => categoryId))].filter((id) => !known.has(id)),
    );
    Object.assign(categories, pools);
    const filters = await this.pools.itemsFitting(stationId, [
      ...moreFilters,
      ...drawn.map(({ filter }) => filter).filter((filter) => filter !== ''),
      ...logged.flatMap((entry) => (entry.kind === 'pick' ? (entry.filters ?? []) : [])),
    ]);
    return {
      timeZone: station.timeZone,
      plan,
      items: items.map(({ artists, mainArtists, approved, ...item }) => ({
        ...item,
        approved: approved === 1,
        artistIds: artists ? artists.split(',') : [],
        // Said only where it is not all of them.
        ...(artists === mainArtists ? {} : { mainArtistIds: mainArtists ? mainArtists.split(',') : [] }),
      })),
      categories,
      filters,
      musicCategories: [...visibleCategories.filter(({ music }) => music).map(({ id }) => id), ...Object.keys(pools)],
      spreadHours: true,
      approvedOnly: visibleCategories.filter(({ approvedOnly }) => approvedOnly).map(({ id }) => id),
      coolOffs: Object.fromEntries(visibleCategories.flatMap(({ id, coolOff }) => (coolOff ? [[id, coolOff]] : []))),
      orders: Object.fromEntries(visibleCategories.map(({ id, turnOrder }) => [id, turnOrder])),
      rules: (await em.find(RuleEntity, visible, { orderBy: { position: 'asc' } })).map(
        ({ id, shape, tag, seconds, secondsByCategory, resting }): Rule => ({
          id,
          shape,
          tag,
          seconds,
          secondsByCategory,
          resting: Boolean(resting),
        }),
      ),
      history: await this.store.rows(PLAYS_BETWEEN, [stationId, dayStart - HISTORY_DAYS * 86_400_000, dayStart], em),
      nextLog: next ? docOf(next) : null,
    };
  }

  async find(stationId: string, date: string, em: Em = this.store.read): Promise<DailyLogRecord | null> {
    return em.findOne(DailyLogEntity, { stationId, date }, { disableIdentityMap: true });
  }

  async mustFind(stationId: string, date: string, em: Em = this.store.read): Promise<DailyLogRecord> {
    const row = await this.find(stationId, date, em);
    if (!row) throw new FullerError('NO_LOG', `There is no log for ${date} yet.`);
    return row;
  }

  async view(stationId: string, date: string): Promise<LogView> {
    const row = await this.mustFind(stationId, date);
    const log = docOf(row);
    const data = await this.stationData(stationId, date);
    const items = await this.logItems(allEntries(log).flatMap((entry) => itemOf(entry) ?? []));
    return {
      revision: row.revision,
      log: log as LogView['log'],
      items,
      strains: new LogInspector(new StationModel(data), log).strains(),
    };
  }

  private async logItems(ids: readonly string[]): Promise<LogItem[]> {
    const unique = [...new Set(ids)];
    const items: LogItem[] = [];
    for (let from = 0; from < unique.length; from += 500) {
      const part = unique.slice(from, from + 500);
      const rows = await this.store.rows<
        Omit<LogItem, 'tempo' | 'hasFile'> & { tempo: string | null; file: string | null }
      >(
        `select id, title, artist, kind, duration_ms as durationMs, intro_ms as introMs, segue_ms as segueMs, file,
           json_extract(tags, '$.tempo[0]') as tempo from item where id in (${part.map(() => '?').join(',')})`,
        part,
      );
      for (const { tempo, file, ...row } of rows)
        items.push({ ...row, tempo: tempo === null ? null : Number(tempo), hasFile: file !== null });
    }
    return items;
  }

  /** What the desk needs to judge a day's log by itself. */
  async deskData(stationId: string, date: string): Promise<DeskData> {
    const data = await this.stationData(stationId, date);
    return { data, items: await this.logItems(Object.values(data.categories).flat()) };
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
    return rows.flatMap((row): StaleLog[] => {
      const log = docOf(row);
      const hours = staleHours(ground, log).flatMap((index) => {
        const hour = log.hours[index];
        const over = hour && hour.startMs + hour.durationMs <= this.now();
        return !hour || over ? [] : [{ index, localHour: hour.localHour, clockName: hour.clockName }];
      });
      return hours.length ? [{ date: row.date, hours }] : [];
    });
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

  /** Carries out an edit made by hand. */
  edit(stationId: string, clientId: string, date: string, revision: number, hand: HandEdit): Promise<Written<LogView>> {
    const edit = byHand(hand);
    return this.store
      .write({ clientId, stationId, label: labelOf(hand) }, async (changes) => {
        if (hand.type === 'replace' && hand.itemId !== null && !(await changes.find('item', hand.itemId)))
          throw notFound('item', hand.itemId);
        const row = await this.mustFind(stationId, date, changes.em);
        if (row.revision !== revision) throw staleRevision('log');
        await this.apply(changes, row, edit);
      })
      .then(async (written) => ({ ...written, value: await this.view(stationId, date) }));
  }

  /** Puts a new run's log in place of the one of its date, or makes the first one. */
  async save(changes: ChangeSet, stationId: string, log: DailyLog): Promise<void> {
    const row = await this.find(stationId, log.date, changes.em);
    if (row) await this.apply(changes, row, { type: 'refill', hours: log.hours });
    else await this.make(changes, stationId, log);
  }

  private async apply(changes: ChangeSet, row: DailyLogRecord, edit: LogEdit): Promise<void> {
    const before = docOf(row);
    const outcome = applyEdit(before, edit);
    if (!outcome.ok) throw new FullerError('INVALID', `That cannot be done: ${outcome.why}.`, 'edit');
    if (outcome.log === before) return;
    const about = { kind: 'edit' as const, stationId: row.stationId, date: row.date };
    await this.write(changes, row.stationId, checkLog(outcome.log), row);
    changes.record({
      thing: 'log',
      thingId: row.id,
      before: { ...about, edit: invertEdit(before, edit) } satisfies LogChange,
      after: { ...about, edit } satisfies LogChange,
    });
  }

  private async make(changes: ChangeSet, stationId: string, log: DailyLog): Promise<void> {
    const id = await this.write(changes, stationId, log, null);
    changes.record({
      thing: 'log',
      thingId: id,
      before: null,
      after: { kind: 'made', stationId, log } satisfies LogChange,
    });
  }

  /** Writes the row of a log and its plays; returns its id. */
  private async write(
    changes: ChangeSet,
    stationId: string,
    log: DailyLog,
    row: DailyLogRecord | null,
  ): Promise<string> {
    const filters = slotsOf(log).flatMap((entry) => entry.filters ?? []);
    const data = await this.stationData(stationId, log.date, changes.em, filters);
    const id = row?.id ?? newId();
    const counts = {
      slots: slotsOf(log).length,
      open: openSlots(log).length,
      strains: new LogInspector(new StationModel(data), log).strains().length,
    };
    const fields = { hours: log.hours as LogHour[], timeZone: log.timeZone, ...counts };
    if (row) await changes.em.nativeUpdate(DailyLogEntity, { id }, { ...fields, revision: row.revision + 1 });
    else await changes.em.insert(DailyLogEntity, { id, revision: 1, stationId, date: log.date, ...fields });
    await changes.em.nativeDelete(PlayEntity, { logId: id });
    const plays = new StationModel(data).plays(log).map((play) => ({ ...play, stationId, date: log.date, logId: id }));
    if (plays.length) await changes.em.insertMany(PlayEntity, plays as never[]);
    return id;
  }

  private async revert(changes: ChangeSet, change: RecordedChange): Promise<void> {
    const before = change.before as LogChange | null;
    const after = change.after as LogChange | null;
    if (before?.kind === 'edit') {
      await this.apply(changes, await this.mustFind(before.stationId, before.date, changes.em), before.edit);
    } else if (before?.kind === 'made') {
      await this.make(changes, before.stationId, before.log);
    } else if (after?.kind === 'made') {
      const row = await this.mustFind(after.stationId, after.log.date, changes.em);
      await changes.em.nativeDelete(DailyLogEntity, { id: row.id });
      const gone: LogChange = { kind: 'made', stationId: after.stationId, log: docOf(row) };
      changes.record({ thing: 'log', thingId: row.id, before: gone, after: null });
    }
  }
}

export function docOf(row: Pick<DailyLogRecord, 'date' | 'timeZone' | 'hours'>): DailyLog {
  return { date: row.date, timeZone: row.timeZone, hours: row.hours };
}

function labelOf(edit: HandEdit): string {
  switch (edit.type) {
    case 'replace':
      return edit.itemId === null ? 'Open a slot' : 'Replace an entry';
    case 'lock':
      return edit.locked ? 'Lock an entry' : 'Unlock an entry';
    case 'note':
      return 'Write a note';
  }
}

function dayState(log: { open: number } | undefined, handedOver: boolean, aired: boolean): DayState {
  if (aired) return 'aired';
  if (!log) return 'none';
  if (handedOver) return 'handed over';
  return log.open > 0 ? 'open' : 'complete';
}
