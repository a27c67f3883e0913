import type { AsRunDay, AsRunDecisions, AsRunLine, AsRunOutcome, AsRunRequest } from '@fuller/contracts';
import {
  addDays,
  elementAt,
  hoursOfDay,
  isDifference,
  localTimeOf,
  readAsRun,
  readEntryOfDate,
  unknownRows,
  type AiredRow,
  type AsRun,
  type MissedRow,
  type DailyLog,
  type ReconciledRow,
  type StationPlay,
} from '@fuller/core';
import type { StationActor } from '../actor.js';
import { airedBetween, itemsNamed, takePlaysWithoutLog, type StoredAired } from '../db/queries/as-run.js';
import {
  AsRunDayEntity,
  AsRunRowEntity,
  PlayEntity,
  StationEntity,
  type AsRunDayRecord,
} from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { FullerError, notFound } from '../errors.js';
import { fileName, titleKey } from '../limits/song-finder.js';
import type { LogService } from '../logs/log-service.js';
import { writePlays } from '../logs/play-writer.js';
import { docOf } from '../logs/stored-logs.js';
import { staleRevision, type ChangeSet, type RecordedChange } from '../store/change-set.js';
import type { Store, Written } from '../store/store.js';
import { countedPlays, reconciledDay } from './as-run-reader.js';
import type { OnAirSettingsService } from './on-air-settings.js';

/** What an import or a decision changed of a day, so that it can go back. */
interface AsRunChange {
  readonly stationId: string;
  readonly date: string;
  readonly day: AsRunDayRecord | null;
  readonly rows: readonly StoredAired[];
  /** Plays of a date without a log. */
  readonly plays: readonly StationPlay[];
}

/** What a day gets to know. */
interface News extends AsRun {
  readonly coveredFromMs: number;
  readonly source: string;
}

/** Takes what aired, and sets it beside what was planned. */
export class AsRunService {
  constructor(
    private readonly store: Store,
    private readonly logs: LogService,
    private readonly settings: OnAirSettingsService,
  ) {
    store.undoing.onRevert('asRun', (changes, change) => this.revert(changes, change));
  }

  async day(stationId: string, date: string): Promise<AsRunDay> {
    const row = await this.logs.find(stationId, date);
    return this.shown(this.store.read, stationId, date, row && docOf(row));
  }

  private async shown(em: Em, stationId: string, date: string, log: DailyLog | null): Promise<AsRunDay> {
    const found = await reconciledDay(em, stationId, date, log);
    if (!found) return { revision: 0, hasLog: log !== null, known: null, lines: [] };
    const { day, rows, decisionOf } = found;
    return {
      revision: day.revision,
      hasLog: log !== null,
      known: { fromMs: day.coveredFromMs, untilMs: day.coveredUntilMs, source: day.source },
      lines: rows.map((row) => lineOf(row, decisionOf)),
    };
  }

  /** Takes an as-run log of a date; what is known already is not taken twice. */
  async take(actor: StationActor, date: string, asked: AsRunRequest): Promise<AsRunOutcome> {
    const { stationId } = actor;
    const timeZone = await this.zoneOf(stationId);
    const fromMs = startOf(date, timeZone);
    const read = readAsRun(asked.text, { date, timeZone, fromMs, layout: asked.layout });
    if (!read.ok) throw new FullerError('INVALID', `Line ${read.line}: ${read.why}`, 'text');
    const untilMs = startOf(addDays(date, 1), timeZone);
    const own = read.asRun.rows.filter(({ startMs }) => startMs >= fromMs && startMs < untilMs);
    if (own.length === 0) throw new FullerError('INVALID', `No play of the file is on ${date}.`, 'text');
    const news: News = {
      ...read.asRun,
      rows: own,
      coveredFromMs: elementAt(own, 0).startMs,
      coveredUntilMs: Math.min(untilMs, read.asRun.coveredUntilMs),
      source: asked.fileName || 'As-run log',
    };
    const row = await this.logs.find(stationId, date);
    const known = await airedBetween(this.store.read, stationId, date, date);
    const fresh = unknownRows(known, own).length;
    const label = `Import what aired on ${date}`;
    let day: AsRunDay | null = null;
    const about = { clientId: actor.clientId, stationId, label };
    const write = async (changes: ChangeSet): Promise<void> => {
      await this.learn(changes, stationId, date, news, { record: true });
      day = await this.shown(changes.em, stationId, date, row && docOf(row));
    };
    const written = asked.dryRun ? await this.tried(about, write) : await this.store.write(about, write);
    return {
      activityId: written?.activityId ?? null,
      label,
      rows: own.length,
      known: own.length - fresh,
      day: day!,
    };
  }

  /** Writes and takes it back at once, so that what an import would do is what it does. */
  private async tried(about: StationAbout, write: (changes: ChangeSet) => Promise<void>): Promise<null> {
    const stop = new Error('tried');
    await this.store
      .write(about, async (changes) => {
        await write(changes);
        throw stop;
      })
      .catch((error: unknown) => {
        if (error !== stop) throw error;
      });
    return null;
  }

  /** Takes what a player tells as it plays; rows may be of several dates. Not to be undone. */
  async follow(stationId: string, asRun: AsRun, { source, fromMs }: { source: string; fromMs: number }): Promise<void> {
    const timeZone = await this.zoneOf(stationId);
    // What a log ran over midnight belongs to its day still.
    const dateOf = ({ entryId, ms }: { entryId: string; ms: number }): string =>
      readEntryOfDate(entryId)?.date ?? localTimeOf(ms, timeZone).date;
    const ofRow = ({ entryId, startMs }: AiredRow): string => dateOf({ entryId, ms: startMs });
    const ofMissed = ({ entryId, atMs }: MissedRow): string => dateOf({ entryId, ms: atMs });
    const dates = [...new Set([...asRun.rows.map(ofRow), ...asRun.missed.map(ofMissed)])].sort();
    if (dates.length === 0) return;
    await this.store.write({ clientId: 'player', stationId, label: 'What aired' }, async (changes) => {
      for (const date of dates) {
        const [begin, end] = [startOf(date, timeZone), startOf(addDays(date, 1), timeZone)];
        const news: News = {
          rows: asRun.rows.filter((row) => ofRow(row) === date),
          missed: asRun.missed.filter((row) => ofMissed(row) === date),
          coveredFromMs: Math.max(begin, Math.min(fromMs, end)),
          coveredUntilMs: Math.min(end, asRun.coveredUntilMs),
          source,
        };
        await this.learn(changes, stationId, date, news, { record: false });
      }
    });
  }

  /** What a person decides of differences. */
  async decide(
    { stationId, clientId }: StationActor,
    date: string,
    { revision, all, single }: AsRunDecisions,
  ): Promise<Written<void>> {
    const label = all === 'accepted' ? `Accept what aired on ${date}` : `Reconcile ${date}`;
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      const day = await changes.em.findOne(AsRunDayEntity, { stationId, date }, { disableIdentityMap: true });
      if (!day) throw notFound('as-run log', date);
      if (day.revision !== revision) throw staleRevision('as-run log');
      const before = { ...day };
      const decisions = { ...(all === undefined ? day.decisions : {}) };
      for (const [key, decision] of Object.entries(single)) {
        if (decision === null) delete decisions[key];
        else decisions[key] = decision;
      }
      const accepted = all === undefined ? day.accepted : all === 'accepted';
      const dismissed = all === 'dismissed' ? await this.differencesOf(changes.em, stationId, date) : [];
      for (const key of dismissed) decisions[key] ??= 'dismissed';
      const after = { ...before, revision: revision + 1, accepted, decisions };
      await changes.em.nativeUpdate(AsRunDayEntity, { id: day.id }, { revision: revision + 1, accepted, decisions });
      const plays = await this.recount(changes, stationId, date);
      record(
        changes,
        { stationId, date, day: before, rows: [], plays },
        { stationId, date, day: after, rows: [], plays: [] },
      );
    });
  }

  private async differencesOf(em: Em, stationId: string, date: string): Promise<string[]> {
    const row = await this.logs.find(stationId, date, em);
    const found = await reconciledDay(em, stationId, date, row && docOf(row));
    return (found?.rows ?? []).filter(isDifference).map(({ key }) => key);
  }

  /** Adds what a day gets to know, and counts its plays again. */
  private async learn(
    changes: ChangeSet,
    stationId: string,
    date: string,
    news: News,
    { record: recorded }: { readonly record: boolean },
  ): Promise<void> {
    const { em } = changes;
    const known = await airedBetween(em, stationId, date, date);
    const rows = await this.matched(em, stationId, date, unknownRows(known, news.rows));
    const before = await em.findOne(AsRunDayEntity, { stationId, date }, { disableIdentityMap: true });
    const kept = before && { ...before };
    const missedKeys = new Set(kept?.missed.map(({ key }) => key));
    const missed = [...(kept?.missed ?? []), ...news.missed.filter(({ key }) => !missedKeys.has(key))];
    const after: AsRunDayRecord = {
      id: kept?.id ?? `${stationId} ${date}`,
      stationId,
      date,
      revision: (kept?.revision ?? 0) + 1,
      coveredFromMs: Math.min(kept?.coveredFromMs ?? Infinity, news.coveredFromMs),
      coveredUntilMs: Math.max(kept?.coveredUntilMs ?? 0, news.coveredUntilMs),
      source: news.source,
      accepted: kept ? Boolean(kept.accepted) : (await this.settings.of(stationId, em)).acceptAll,
      decisions: kept?.decisions ?? {},
      missed,
    };
    const isNew = rows.length > 0 || missed.length !== (kept?.missed.length ?? 0) || !kept;
    if (!isNew && after.coveredUntilMs === kept.coveredUntilMs && after.coveredFromMs === kept.coveredFromMs) return;
    if (rows.length) await em.insertMany(AsRunRowEntity, rows.map((row) => ({ ...row, stationId })) as never[]);
    await em.upsert(AsRunDayEntity, after);
    const plays = await this.recount(changes, stationId, date);
    changes.note('asRun');
    if (recorded)
      record(
        changes,
        { stationId, date, day: kept, rows: [], plays },
        { stationId, date, day: after, rows, plays: [] },
      );
  }

  /** Which items and sponsors the rows are. */
  private async matched(em: Em, stationId: string, date: string, rows: readonly AiredRow[]): Promise<StoredAired[]> {
    const log = await this.logs.find(stationId, date, em);
    const entries = new Map(log?.hours.flatMap(({ entries: own }) => own.map((entry) => [entry.id, entry] as const)));
    const spots = (log?.hours ?? []).flatMap(({ entries: own }) =>
      own.flatMap((entry) => (entry.kind === 'break' ? (entry.spots ?? []) : [])),
    );
    const spotById = new Map(spots.map((spot) => [spot.id, spot]));
    const spotByCart = new Map(spots.map((spot) => [spot.cart, spot]));
    const items = await itemsNamed(em, stationId, {
      carts: rows.map(({ cart }) => cart).filter(Boolean),
      files: rows.map(({ file }) => fileName(file)).filter(Boolean),
      titles: rows.map(({ title }) => title).filter(Boolean),
    });
    const byCart = new Map(items.flatMap((item) => (item.cart ? [[item.cart, item.id]] : [])));
    const byFile = new Map(items.flatMap((item) => (item.file ? [[fileName(item.file), item.id]] : [])));
    const byName = new Map(items.map((item) => [titleKey(item), item.id]));
    return rows.map((row) => {
      const place = readEntryOfDate(row.entryId);
      const entryId = place?.date === date ? place.id : '';
      const entry = entries.get(entryId);
      const own = entry?.kind === 'pick' || entry?.kind === 'item' ? entry.itemId : null;
      const spot = spotById.get(entryId) ?? (own === null ? spotByCart.get(row.cart) : undefined);
      const found = own ?? byCart.get(row.cart) ?? byFile.get(fileName(row.file)) ?? byName.get(titleKey(row)) ?? null;
      const isSpot = spot !== undefined || row.kind === 'spot';
      return {
        ...row,
        date,
        kind: isSpot ? 'spot' : row.kind,
        itemId: isSpot ? null : found,
        sponsor: spot?.sponsor ?? (row.kind === 'spot' ? row.artist : ''),
      };
    });
  }

  /** Writes the plays of a date as history counts them; returns those of a date without a log that it replaced. */
  private async recount(changes: ChangeSet, stationId: string, date: string): Promise<readonly StationPlay[]> {
    const { em } = changes;
    changes.note('asRun');
    changes.touchLog(stationId, date);
    const row = await this.logs.find(stationId, date, em);
    if (row) {
      const log = docOf(row);
      const planned = async (): Promise<readonly StationPlay[]> => (await this.logs.judge(stationId, log)).plays;
      await writePlays(em, { id: row.id, stationId, date }, await countedPlays(em, stationId, log, planned));
      return [];
    }
    const day = await em.findOne(AsRunDayEntity, { stationId, date }, { disableIdentityMap: true });
    if (!day) return [];
    const span = { fromMs: day.coveredFromMs, untilMs: Math.max(day.coveredUntilMs, day.coveredFromMs + 1) };
    const before = await takePlaysWithoutLog(em, stationId, date, span);
    const aired = await airedBetween(em, stationId, date, date);
    await this.insertPlays(
      em,
      stationId,
      date,
      aired.flatMap(({ itemId, startMs }) => (itemId ? [{ itemId, startMs }] : [])),
    );
    return before;
  }

  private async insertPlays(em: Em, stationId: string, date: string, plays: readonly StationPlay[]): Promise<void> {
    if (plays.length)
      await em.insertMany(PlayEntity, plays.map((play) => ({ ...play, stationId, date, logId: null })) as never[]);
  }

  private async revert(changes: ChangeSet, { before, after }: RecordedChange): Promise<void> {
    const [was, is] = [before as AsRunChange, after as AsRunChange];
    const { stationId, date } = is;
    const { em } = changes;
    const day = await em.findOne(AsRunDayEntity, { stationId, date }, { disableIdentityMap: true });
    if (day?.revision !== is.day?.revision)
      throw new FullerError('CANNOT_UNDO', `More has been told of what aired on ${date} since.`);
    const keys = is.rows.map(({ key }) => key);
    if (day && !(await this.logs.find(stationId, date, em)))
      await takePlaysWithoutLog(em, stationId, date, { fromMs: day.coveredFromMs, untilMs: day.coveredUntilMs + 1 });
    await em.nativeDelete(AsRunRowEntity, { stationId, key: { $in: keys } } as never);
    if (was.rows.length) await em.insertMany(AsRunRowEntity, was.rows.map((row) => ({ ...row, stationId })) as never[]);
    if (was.day) await em.upsert(AsRunDayEntity, was.day);
    else await em.nativeDelete(AsRunDayEntity, { stationId, date });
    await this.recount(changes, stationId, date);
    if (!was.day) await this.insertPlays(em, stationId, date, was.plays);
    record(changes, { ...is, plays: [] }, { ...was, plays: [] });
  }

  private async zoneOf(stationId: string): Promise<string> {
    const station = await this.store.read.findOne(StationEntity, { id: stationId });
    if (!station) throw notFound('station', stationId);
    return station.timeZone;
  }
}

interface StationAbout {
  readonly clientId: string;
  readonly stationId: string;
  readonly label: string;
}

function record(changes: ChangeSet, before: AsRunChange, after: AsRunChange): void {
  changes.record({ thing: 'asRun', thingId: `${after.stationId} ${after.date}`, before, after });
}

function startOf(date: string, timeZone: string): number {
  return elementAt(hoursOfDay(date, timeZone), 0).startMs;
}

function lineOf(row: ReconciledRow<StoredAired>, decisionOf: (key: string) => AsRunLine['decision']): AsRunLine {
  const { key, is, planned, aired, byMs, why } = row;
  return {
    key,
    is,
    planned: planned && {
      startMs: planned.startMs,
      durationMs: planned.durationMs,
      kind: planned.kind,
      artist: planned.artist,
      title: planned.title,
    },
    aired: aired && {
      startMs: aired.startMs,
      durationMs: aired.endMs - aired.startMs,
      kind: aired.kind,
      artist: aired.artist,
      title: aired.title,
      ended: aired.ended,
      by: aired.by,
      known: aired.itemId !== null || aired.kind === 'spot' || aired.kind === 'live',
    },
    byMs,
    why,
    decision: isDifference(row) ? decisionOf(key) : null,
  };
}
