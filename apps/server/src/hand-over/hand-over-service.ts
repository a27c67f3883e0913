import type { StationActor } from '../actor.js';
import path from 'node:path';
import type { HandOverPreview, HandOverRecord, HandOverSettings, HandOverState } from '@fuller/contracts';
import { elementAt, allEntries, handOver, itemOf, type HandOver, type Silence } from '@fuller/core';
import { zipSync, strToU8 } from 'fflate';
import { itemsToHandOver } from '../db/dialect/sqlite/items.js';
import { HandOverEntity, OutputEntity, PendingHandOverEntity, type PendingHandOver } from '../db/entities/index.js';
import { FullerError } from '../errors.js';
import { newId } from '../ids.js';
import type { CatalogueService } from '../stations/catalogue-service.js';
import type { LibraryService } from '../library/library-service.js';
import type { LogService } from '../logs/log-service.js';
import { docOf } from '../logs/stored-logs.js';
import type { VersionService } from '../logs/version-service.js';
import { dropParts, placeFiles, sweep, writeParts } from './output-files.js';
import type { Store, Written } from '../store/store.js';

const DEFAULTS: HandOverSettings = { pattern: '{station}_{date}.m3u8', hourly: false };

export interface HandOverFiles {
  readonly files: readonly { readonly name: string; readonly text: string; readonly entries: number }[];
  readonly heldBack: HandOverPreview['heldBack'];
  readonly silences: readonly Silence[];
  readonly revision: number;
}

/** Makes the player's files from logs. */
export class HandOverService {
  constructor(
    private readonly store: Store,
    private readonly catalogue: CatalogueService,
    private readonly library: LibraryService,
    private readonly logs: LogService,
    private readonly versions: VersionService,
    private readonly outputDir: string,
    private readonly now: () => number,
  ) {}

  private async folderOf(stationId: string): Promise<string> {
    const { name } = await this.catalogue.station(stationId);
    const folder = name.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '-');
    return path.join(this.outputDir, folder || stationId);
  }

  async files(stationId: string, date: string, { pattern, hourly }: HandOverSettings): Promise<HandOverFiles> {
    const station = await this.catalogue.station(stationId);
    const row = await this.logs.mustFind(stationId, date);
    const log = docOf(row);
    const ids = allEntries(log).flatMap((entry) => itemOf(entry) ?? []);
    const items = new Map((await itemsToHandOver(this.store.read, ids)).map((item) => [item.id, item]));
    const made: HandOver = handOver(log, {
      station: station.name,
      pattern,
      hourly,
      itemOf: (id) => items.get(id),
      pathOf: (file) => this.library.audioPath(file),
    });
    if (!made.ok) throw new FullerError('INVALID', made.why, 'pattern');
    return { ...made, heldBack: [...made.heldBack], revision: row.revision };
  }

  async preview(stationId: string, date: string, settings: HandOverSettings): Promise<HandOverPreview> {
    const { files, heldBack, silences } = await this.files(stationId, date, settings);
    return {
      files: files.map(({ name, text, entries }) => ({
        name,
        entries,
        head: text.split('\n').slice(0, 40).join('\n'),
      })),
      heldBack,
      silences: silences.map(({ hourIndex, startMs, durationMs }) => ({ hourIndex, startMs, durationMs })),
      folder: await this.folderOf(stationId),
    };
  }

  /** Writes the files to a folder, the station's own one when none is named; each appears whole or not at all. */
  async write(
    { stationId, clientId }: StationActor,
    date: string,
    settings: HandOverSettings,
    into?: string,
  ): Promise<Written<HandOverRecord>> {
    const { files, heldBack, revision } = await this.files(stationId, date, settings);
    const folder = into ?? (await this.folderOf(stationId));
    const record = {
      id: newId(),
      stationId,
      date,
      atMs: this.now(),
      folder,
      files: files.map((file) => file.name),
      entries: files.reduce((sum, file) => sum + file.entries, 0),
      heldBack: heldBack.length,
      logRevision: revision,
    };
    const pending: PendingHandOver = { id: record.id, record, output: settings, clientId, state: 'writing' };
    await this.notePending(pending);
    try {
      await writeParts(folder, record.id, files);
      await this.notePending({ ...pending, state: 'placing' });
      await placeFiles(record);
    } catch (error) {
      await dropParts(record);
      await this.forgetPending(record.id);
      throw cannotWrite(folder, error);
    }
    return this.keepRecord(pending, `Hand over ${date}`);
  }

  private notePending(pending: PendingHandOver): Promise<void> {
    return this.store.quietly(async (em) => {
      await em.upsert(PendingHandOverEntity, pending);
    });
  }

  private forgetPending(id: string): Promise<void> {
    return this.store.quietly(async (em) => {
      await em.nativeDelete(PendingHandOverEntity, { id });
    });
  }

  private keepRecord({ record, output, clientId }: PendingHandOver, label: string): Promise<Written<HandOverRecord>> {
    return this.store.write({ clientId, stationId: record.stationId, label }, async (changes) => {
      await changes.insert('handOver', [record]);
      const log = await this.logs.find(record.stationId, record.date, changes.em);
      if (log?.revision === record.logRevision) await this.versions.keep(changes.em, log, 'handed over');
      await changes.em.upsert(OutputEntity, { id: record.stationId, ...output });
      await changes.em.nativeDelete(PendingHandOverEntity, { id: record.id });
      return { ...record, stale: false };
    });
  }

  /**
   * Finishes a hand-over whose files a stopped process had begun to put in their places, and takes back one whose files
   * were still being written. Answers what was done, in words.
   */
  async recover(): Promise<string[]> {
    const said: string[] = [];
    for (const pending of await this.store.read.find(PendingHandOverEntity, {})) {
      const { record } = pending;
      try {
        if (pending.state === 'writing') throw new Error('its files were not written yet');
        await placeFiles(record);
        await this.keepRecord(pending, `Hand over ${record.date}, finished after a stop`);
        said.push(`The hand-over of ${record.date} to ${record.folder} had been interrupted; it is finished now.`);
      } catch (error) {
        await dropParts(record);
        await this.forgetPending(record.id);
        said.push(
          `The hand-over of ${record.date} to ${record.folder} had been interrupted and was taken back: ${error instanceof Error ? error.message : String(error)}.`,
        );
      }
    }
    await sweep(this.outputDir);
    return said;
  }

  /** One file as it is, several as a zip. */
  async download(
    stationId: string,
    date: string,
    settings: HandOverSettings,
  ): Promise<{ name: string; type: string; bytes: Uint8Array }> {
    const { files } = await this.files(stationId, date, settings);
    if (!settings.hourly)
      return {
        name: elementAt(files, 0).name,
        type: 'audio/x-mpegurl; charset=utf-8',
        bytes: strToU8(elementAt(files, 0).text),
      };
    const zip = zipSync(Object.fromEntries(files.map((file) => [file.name, strToU8(file.text)])), { level: 6 });
    return { name: `${date}.zip`, type: 'application/zip', bytes: zip };
  }

  async state(stationId: string, date: string): Promise<HandOverState> {
    const em = this.store.read;
    const output = await em.findOne(OutputEntity, { id: stationId });
    const records = await em.find(HandOverEntity, { stationId, date }, { orderBy: { atMs: 'desc' }, limit: 20 });
    const log = await this.logs.find(stationId, date);
    return {
      settings: output ? { pattern: output.pattern, hourly: Boolean(output.hourly) } : DEFAULTS,
      records: records.map(({ id, atMs, folder, files, entries, heldBack, logRevision }) => ({
        id,
        date,
        atMs,
        folder,
        files,
        entries,
        heldBack,
        stale: logRevision !== log?.revision,
      })),
    };
  }
}

function cannotWrite(folder: string, error: unknown): FullerError {
  return new FullerError(
    'INVALID',
    `The folder ${folder} cannot be written: ${error instanceof Error ? error.message : String(error)}`,
    'folder',
  );
}
