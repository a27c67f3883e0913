import { createHash } from 'node:crypto';
import { gunzipSync, gzipSync } from 'node:zlib';
import type { KeptLog, LogVersion, LogView } from '@fuller/contracts';
import {
  allEntries,
  itemOf,
  openSlots,
  restoreHours,
  slotsOf,
  StationModel,
  type DailyLog,
  type LogHour,
} from '@fuller/core';
import type { StationActor } from '../actor.js';
import { LogVersionEntity, type DailyLogRecord, type LogVersionRecord } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';
import { staleRevision, type ChangeSet } from '../store/change-set.js';
import type { Store, Written } from '../store/store.js';
import type { LogService } from './log-service.js';
import type { LogWriter } from './log-writer.js';
import type { StationReader } from './station-reader.js';
import { docOf, logRevision } from './stored-logs.js';

/** So many versions of a day are kept, the latest. */
const KEPT = 40;

type Reason = LogVersion['reasons'][number];

/** Keeps versions of logs, and puts them back. */
export class VersionService {
  constructor(
    private readonly store: Store,
    private readonly reader: StationReader,
    private readonly logs: LogService,
    private readonly writer: LogWriter,
    private readonly now: () => number,
  ) {}

  /** Keeps a log as it is; one that is kept already gets the reason besides. */
  async keep(em: Em, row: DailyLogRecord, reason: Reason): Promise<LogVersionRecord> {
    const { stationId, date } = row;
    const text = JSON.stringify(row.hours);
    const hash = createHash('sha256').update(text).digest('base64url');
    const known = await em.findOne(LogVersionEntity, { stationId, date, hash });
    if (known) {
      const reasons = [...new Set([...known.reasons, reason])];
      const again = { ...known, atMs: this.now(), revision: row.revision, reasons };
      const { atMs, revision } = again;
      await em.nativeUpdate(LogVersionEntity, { id: known.id }, { atMs, revision, reasons });
      return again;
    }
    const log = docOf(row);
    const version: LogVersionRecord = {
      id: newId(),
      stationId,
      date,
      atMs: this.now(),
      revision: row.revision,
      reasons: [reason],
      hash,
      hours: gzipSync(text),
      timeZone: row.timeZone,
      slots: slotsOf(log).length,
      open: openSlots(log).length,
    } as LogVersionRecord;
    await em.insert(LogVersionEntity, version);
    const older = await em.find(
      LogVersionEntity,
      { stationId, date },
      { orderBy: { atMs: 'desc' }, offset: KEPT, fields: ['id'] },
    );
    if (older.length > 0) await em.nativeDelete(LogVersionEntity, { id: { $in: older.map(({ id }) => id) } });
    return version;
  }

  /** Keeps the log of a day as it is, because a person wants it. */
  async save(stationId: string, date: string): Promise<LogVersion> {
    return this.store.quietly(async (em) =>
      shown(await this.keep(em, await this.logs.mustFind(stationId, date, em), 'saved')),
    );
  }

  async list(stationId: string, date: string): Promise<LogVersion[]> {
    const rows = await this.store.read.find(
      LogVersionEntity,
      { stationId, date },
      { orderBy: { atMs: 'desc' }, exclude: ['hours'] },
    );
    return rows.map((row) => shown(row));
  }

  async read(stationId: string, date: string, versionId: string): Promise<KeptLog> {
    const version = await this.mustFind(stationId, date, versionId);
    const log = logOf(version);
    const ids = allEntries(log).flatMap((entry) => itemOf(entry) ?? []);
    return { ...shown(version), log: log as KeptLog['log'], items: await this.reader.shown.withIds(ids) };
  }

  /** A log as it was kept; null where it is not kept any more. */
  async logOf(versionId: string): Promise<DailyLog | null> {
    const version = await this.store.read.findOne(LogVersionEntity, { id: versionId });
    return version && logOf(version);
  }

  private async mustFind(stationId: string, date: string, id: string): Promise<LogVersionRecord> {
    const version = await this.store.read.findOne(LogVersionEntity, { stationId, date, id });
    if (!version) throw notFound('version', id);
    return version;
  }

  /** Puts a version back, whole or some hours of it; what has begun to air stays as it is. */
  async restore(
    { stationId, clientId }: StationActor,
    date: string,
    { revision, versionId, hours }: { revision: number; versionId: string; hours?: readonly number[] | undefined },
  ): Promise<Written<LogView>> {
    const kept = logOf(await this.mustFind(stationId, date, versionId));
    const row = await this.logs.mustFind(stationId, date);
    if (row.revision !== revision) throw staleRevision('log');
    const before = docOf(row);
    const nowMs = this.now();
    const aired = await this.logs.airedOf(stationId, before);
    const model = new StationModel(await this.reader.data(stationId, date, { log: kept }));
    const log = restoreHours(model, before, kept, { hours: hours ?? null, aired, nowMs });
    if (hours?.length === 0) throw new FullerError('INVALID', 'Choose the hours to put back.', 'hours');
    const judged = await this.logs.judge(stationId, log);
    const label = `Restore ${hours ? (hours.length === 1 ? 'an hour' : `${hours.length} hours`) : 'a version'} of ${date}`;
    const written = await this.store.write({ clientId, stationId, label }, async (changes: ChangeSet) => {
      if ((await logRevision(changes.em, stationId, date)) !== revision) throw staleRevision('log');
      await this.keep(changes.em, row, 'before restoring');
      await this.writer.save(changes, stationId, log, judged);
    });
    return { ...written, value: await this.logs.view(stationId, date) };
  }
}

function shown({ id, atMs, revision, reasons, slots, open }: Omit<LogVersionRecord, 'hours'>): LogVersion {
  return { id, atMs, revision, reasons, slots, open };
}

function logOf({ date, timeZone, hours }: LogVersionRecord): DailyLog {
  return { date, timeZone, hours: JSON.parse(gunzipSync(hours as Uint8Array).toString()) as LogHour[] };
}
