import path from 'node:path';
import type {
  HandOverChanges,
  HandOverPreview,
  HandOverRecord,
  HandOverSettings,
  HandOverState,
  Output,
} from '@fuller/contracts';
import { allEntries, isBound, elementAt } from '@fuller/core';
import type { StationActor } from '../actor.js';
import { HandOverEntity, PendingHandOverEntity, type HandOverRow, type PendingHandOver } from '../db/entities/index.js';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';
import type { RunningJob } from '../jobs/job-runner.js';
import type { LogWriter } from '../logs/log-writer.js';
import type { LogService } from '../logs/log-service.js';
import { docOf } from '../logs/stored-logs.js';
import type { VersionService } from '../logs/version-service.js';
import type { CatalogueService } from '../stations/catalogue-service.js';
import type { Store, Written } from '../store/store.js';
import { changedRows } from './changed-rows.js';
import { entriesOf, headOf, zipped, type FileMaker, type MadeFiles } from './file-maker.js';
import { dropParts, manifestOf, placeFiles, sweep, writeParts, type OutputFile } from './output-files.js';
import type { ExchangeRoots } from './exchange-roots.js';
import type { OutputService } from './output-service.js';
import { sendFiles } from './send-files.js';

const SHOWN_LINES = 60;
/** A file is sent again so often, first after so long, ms. */
const RETRIES = 4;
const RETRY_WAIT_MS = 1000;

export interface HandOverParts {
  readonly store: Store;
  readonly catalogue: CatalogueService;
  readonly maker: FileMaker;
  readonly outputs: OutputService;
  readonly roots: ExchangeRoots;
  readonly logs: LogService;
  readonly versions: VersionService;
  readonly logWriter: LogWriter;
  readonly now: () => number;
  /** Before a file is sent again the first time, ms. */
  readonly retryWaitMs?: number;
}

/** What is written, and from which log. */
interface Ready {
  readonly files: readonly OutputFile[];
  readonly manifest: OutputFile;
  readonly record: Omit<HandOverRow, 'folder'>;
}

/** Hands logs over to players. */
export class HandOverService {
  constructor(private readonly parts: HandOverParts) {}

  private async ownFolder(stationId: string): Promise<string> {
    const { name } = await this.parts.catalogue.station(stationId);
    const folder = name.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '-');
    return path.join(this.parts.roots.own, folder || stationId);
  }

  async files(stationId: string, date: string, settings: HandOverSettings): Promise<MadeFiles & { revision: number }> {
    const station = await this.parts.catalogue.station(stationId);
    const row = await this.parts.logs.mustFind(stationId, date);
    const stored = docOf(row);
    // The library may have changed since the log was written: nothing is announced that does not come.
    const log = allEntries(stored).some(isBound) ? (await this.parts.logs.judge(stationId, stored)).log : stored;
    return { ...(await this.parts.maker.make(station.name, log, settings)), revision: row.revision };
  }

  async preview(stationId: string, date: string, settings: HandOverSettings): Promise<HandOverPreview> {
    const { files, heldBack, silences, missingLetters, changedPaths, cut } = await this.files(
      stationId,
      date,
      settings,
    );
    return {
      files: files.map(({ name, shown, entries }) => ({ name, entries, head: headOf(shown, SHOWN_LINES) })),
      heldBack,
      silences: silences.map(({ hourIndex, startMs, durationMs }) => ({ hourIndex, startMs, durationMs })),
      missingLetters,
      changedPaths,
      cut,
      folder: await this.ownFolder(stationId),
    };
  }

  /** Hands a day over by an output of its station: writes its files, or sends them. */
  async handOver(
    actor: StationActor,
    date: string,
    outputId: string,
    job: RunningJob,
  ): Promise<Written<HandOverRecord>> {
    const output = await this.parts.outputs.mustFind(actor.stationId, outputId);
    const { target, files } = output;
    if (target.kind === 'folder') {
      const { folder } = target;
      return this.write(
        actor,
        date,
        files,
        folder === null ? undefined : await this.parts.roots.folderAt(folder),
        output,
      );
    }
    const ready = await this.ready(actor, date, files, output);
    const password = await this.parts.outputs.passwordOf(outputId);
    try {
      await sendFiles({ ...target, password }, [...ready.files, ready.manifest], {
        signal: job.signal,
        retries: RETRIES,
        waitMs: this.parts.retryWaitMs ?? RETRY_WAIT_MS,
        onProgress: (share, doing) => job.progress(share, doing),
      });
    } catch (error) {
      job.signal.throwIfAborted();
      throw new FullerError('INVALID', error instanceof Error ? error.message : String(error), 'url');
    }
    return this.keepRecord({ ...ready.record, folder: target.url }, actor.clientId, `Hand over ${date}`);
  }

  private async ready(
    actor: StationActor,
    date: string,
    settings: HandOverSettings,
    output: Pick<Output, 'id' | 'name'> | null,
  ): Promise<Ready> {
    const { stationId } = actor;
    await this.parts.logWriter.rebind(actor, date);
    const made = await this.files(stationId, date, settings);
    const { name: station } = await this.parts.catalogue.station(stationId);
    const files: readonly OutputFile[] = settings.zip ? [zipped(made.files, date)] : made.files;
    const atMs = this.parts.now();
    const manifest = manifestOf(files, {
      station,
      date,
      output: output?.name ?? '',
      logRevision: made.revision,
      writtenAt: new Date(atMs).toISOString(),
    });
    const record = {
      id: newId(),
      stationId,
      date,
      atMs,
      outputId: output?.id ?? null,
      outputName: output?.name ?? '',
      files: files.map((file) => file.name),
      entries: entriesOf(made.files),
      heldBack: made.heldBack.length,
      logRevision: made.revision,
      versionId: null,
    };
    return { files, manifest, record };
  }

  /** Writes the files to a folder, the station's own one when none is named; each appears whole or not at all. */
  async write(
    actor: StationActor,
    date: string,
    settings: HandOverSettings,
    into?: string,
    output: Pick<Output, 'id' | 'name'> | null = null,
  ): Promise<Written<HandOverRecord>> {
    const { stationId, clientId } = actor;
    const { files, manifest, record: made } = await this.ready(actor, date, settings, output);
    const folder = into ?? (await this.ownFolder(stationId));
    const record = { ...made, folder };
    const parts = { id: record.id, folder, files: record.files, manifest: manifest.name };
    const pending: PendingHandOver = {
      id: record.id,
      record,
      output: { manifest: manifest.name },
      clientId,
      state: 'writing',
    };
    return this.parts.store.underWay(record.id, async () => {
      await this.notePending(pending);
      try {
        await writeParts(folder, record.id, [...files, manifest]);
        await this.notePending({ ...pending, state: 'placing' });
        await placeFiles(parts);
      } catch (error) {
        await dropParts(parts);
        await this.forgetPending(record.id);
        throw cannotWrite(folder, error);
      }
      return this.keepRecord(record, clientId, `Hand over ${date}`);
    });
  }

  /** Hands the files of a day to a program that writes them elsewhere, the manifest last. */
  async take(
    actor: StationActor,
    date: string,
    settings: HandOverSettings,
  ): Promise<{ readonly record: HandOverRecord; readonly files: readonly OutputFile[] }> {
    const { files, manifest, record: made } = await this.ready(actor, date, settings, null);
    const record = { ...made, folder: 'another computer' };
    const { value } = await this.keepRecord(record, actor.clientId, `Hand over ${date}`);
    return { record: value, files: [...files, manifest] };
  }

  private notePending(pending: PendingHandOver): Promise<void> {
    return this.parts.store.quietly(async (em) => {
      await em.upsert(PendingHandOverEntity, pending);
    });
  }

  private forgetPending(id: string): Promise<void> {
    return this.parts.store.quietly(async (em) => {
      await em.nativeDelete(PendingHandOverEntity, { id });
    });
  }

  private keepRecord(record: HandOverRow, clientId: string, label: string): Promise<Written<HandOverRecord>> {
    const { store, logs, versions } = this.parts;
    return store.write({ clientId, stationId: record.stationId, label }, async (changes) => {
      const log = await logs.find(record.stationId, record.date, changes.em);
      const isSame = log?.revision === record.logRevision;
      const versionId = isSame ? (await versions.keep(changes.em, log, 'handed over')).id : null;
      await changes.insert('handOver', [{ ...record, versionId }]);
      await changes.em.nativeDelete(PendingHandOverEntity, { id: record.id });
      return shownRecord(record, record.logRevision);
    });
  }

  /**
   * Finishes a hand-over whose files a stopped process had begun to put in their places, and takes back one whose files
   * were still being written. Answers what was done, in words. Where no other server is at work, parts of files that belong to
   * nothing are deleted too.
   */
  async recover(alone = true): Promise<string[]> {
    const said: string[] = [];
    for (const { record, output, state, clientId } of await this.parts.store.read.find(PendingHandOverEntity, {})) {
      const { id, folder, files, date } = record;
      if (!(await this.parts.store.isLeft(id))) continue;
      const parts = { id, folder, files, manifest: output.manifest ?? null };
      try {
        if (state === 'writing') throw new Error('its files were not written yet');
        await placeFiles(parts);
        const kept = {
          ...record,
          outputId: record.outputId ?? null,
          outputName: record.outputName ?? '',
          versionId: null,
        };
        await this.keepRecord(kept, clientId, `Hand over ${date}, finished after a stop`);
        said.push(`The hand-over of ${date} to ${folder} had been interrupted; it is finished now.`);
      } catch (error) {
        await dropParts(parts);
        await this.forgetPending(id);
        said.push(
          `The hand-over of ${date} to ${folder} had been interrupted and was taken back: ${error instanceof Error ? error.message : String(error)}.`,
        );
      }
    }
    if (alone) await sweep(this.parts.roots.own);
    return said;
  }

  /** The file of an output as it is, several as a zip. */
  async download(stationId: string, date: string, outputId: string): Promise<{ name: string; bytes: Uint8Array }> {
    const output = await this.parts.outputs.mustFind(stationId, outputId);
    const { files } = await this.files(stationId, date, output.files);
    return files.length === 1 && !output.files.zip ? elementAt(files, 0) : zipped(files, date);
  }

  async state(stationId: string, date: string): Promise<HandOverState> {
    const em = this.parts.store.read;
    const records = await em.find(HandOverEntity, { stationId, date }, { orderBy: { atMs: 'desc' }, limit: 20 });
    const log = await this.parts.logs.find(stationId, date);
    return {
      outputs: await this.parts.outputs.list(stationId),
      records: records.map((record) => shownRecord(record, log?.revision)),
      folder: await this.ownFolder(stationId),
    };
  }

  /** What has changed in the log of a day since it was handed over. */
  async changes(stationId: string, date: string, recordId: string): Promise<HandOverChanges> {
    const { store, logs, versions } = this.parts;
    const record = await store.read.findOne(HandOverEntity, { id: recordId, stationId, date });
    if (!record) throw notFound('hand-over', recordId);
    const log = docOf(await logs.mustFind(stationId, date));
    const before = record.versionId && (await versions.logOf(record.versionId));
    return before ? changedRows(store.read, before, log) : { known: false, total: 0, rows: [] };
  }
}

function shownRecord(
  { id, date, atMs, outputId, outputName, folder, files, entries, heldBack, logRevision }: HandOverRow,
  revision: number | undefined,
): HandOverRecord {
  return {
    id,
    date,
    atMs,
    outputId: outputId ?? null,
    outputName,
    folder,
    files,
    entries,
    heldBack,
    stale: logRevision !== revision,
  };
}

function cannotWrite(folder: string, error: unknown): FullerError {
  return new FullerError(
    'INVALID',
    `The folder ${folder} cannot be written: ${error instanceof Error ? error.message : String(error)}`,
    'folder',
  );
}
