import { mkdir, rm } from 'node:fs/promises';
import path from 'node:path';
import type { ImportOptions, ImportSession, ImportSettings, ImportSummary } from '@fuller/contracts';
import { filesOfItems } from '../db/queries/items.js';
import { ColumnMappingEntity, StationEntity } from '../db/entities/index.js';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';
import type { Compute } from '../jobs/compute.js';
import type { JobOutcome, RunningJob } from '../jobs/job-runner.js';
import type { LongWork } from '../writers/long-tasks.js';
import type { AudioRoots } from '../library/audio-roots.js';
import { audioFiles, freePlace, moveFile, safeRelative } from '../library/audio-files.js';
import type { Store } from '../store/store.js';
import { knownFamilies } from './import-rows.js';
import { columnsKey } from './import-run.js';
import { ImportSessions } from './import-sessions.js';

const MOST_AUDIO_FILES = 100_000;
const PREVIEW_FILES = 8;
const NO_OPTIONS: ImportOptions = { makeCategories: false, folderCategories: false };

/** Imports into the library: looked at first, written only when confirmed, all or nothing. */
export class ImportService {
  private readonly sessions: ImportSessions;

  constructor(
    private readonly store: Store,
    private readonly compute: Compute,
    private readonly work: LongWork,
    now: () => number,
    private readonly folders: { readonly uploads: string },
    private readonly audioRoots: AudioRoots,
  ) {
    this.sessions = new ImportSessions(folders.uploads, now);
  }

  /** Takes up the imports that were open when the server stopped. */
  recover(): Promise<void> {
    return this.sessions.recover();
  }

  get(id: string): ImportSession {
    return this.sessions.mustFind(id).view;
  }

  stationOf(id: string): string {
    return this.sessions.mustFind(id).stationId;
  }

  private async mustHaveStation(stationId: string): Promise<void> {
    if ((await this.store.read.count(StationEntity, { id: stationId })) === 0) throw notFound('station', stationId);
  }

  /** Begins with a table that has been uploaded or lies on disk; says at once when it is none. */
  async openTable(stationId: string, file: string, name: string, signal?: AbortSignal): Promise<ImportSession> {
    await this.mustHaveStation(stationId);
    const families = (await knownFamilies(this.store)).map((family) => family.name);
    const sniffed = await this.compute.run('sniffTable', [file, {}, families], signal);
    const columns = columnsKey(sniffed.columns);
    const known = await this.store.read.findOne(ColumnMappingEntity, { stationId, columns });
    const mapping = known?.mapping ?? sniffed.settings.mapping;
    return this.sessions.keep(stationId, file, {
      id: newId(),
      source: 'table',
      format: sniffed.format,
      name,
      settings: { ...sniffed.settings, mapping },
      options: NO_OPTIONS,
      columns: [...sniffed.columns],
      preview: sniffed.preview.map((row) => [...row]),
      summary: null,
      done: false,
    });
  }

  /** Begins with a folder of audio files on the server, its subfolders included, or with some files of it alone. */
  async openFolder(stationId: string, folder: string, only: readonly string[] | null = null): Promise<ImportSession> {
    await this.mustHaveStation(stationId);
    const absolute = await this.audioRoots.folderAt(folder);
    const files = only ?? (await audioFiles(absolute));
    if (files.length === 0) throw new FullerError('INVALID', `“${folder}” holds no audio files.`, 'folder');
    if (files.length > MOST_AUDIO_FILES)
      throw new FullerError('INVALID', `“${folder}” holds more than 100,000 audio files.`, 'folder');
    return this.sessions.keep(stationId, absolute, ofFiles('folder', folder, absolute, files), only);
  }

  /** Those of some audio files on the server that no item of the library plays. */
  async notYetThere(files: readonly string[]): Promise<string[]> {
    const known = new Set(await filesOfItems(this.store.read));
    return files.filter((file) => !known.has(this.audioRoots.storedName(file)));
  }

  /** Begins with audio files that are about to be sent one by one. */
  async openDropped(stationId: string): Promise<ImportSession> {
    await this.mustHaveStation(stationId);
    const view = ofFiles('dropped', 'dropped files', '', []);
    const folder = path.join(this.folders.uploads, view.id);
    await mkdir(folder);
    return this.sessions.keep(stationId, folder, view);
  }

  /** Takes one more file of a dropped import; `said` is its path as the browser knows it. */
  async addFile(id: string, uploaded: string, said: string): Promise<ImportSession> {
    const session = this.sessions.mustFind(id);
    try {
      if (session.view.source !== 'dropped' || session.view.done)
        throw new FullerError('INVALID', 'This import takes no more files.', 'file');
      const place = freePlace(session.path, safeRelative(said));
      await moveFile(uploaded, path.join(session.path, place));
      const preview = [...session.view.preview, [place]].slice(0, PREVIEW_FILES);
      return this.sessions.change(id, { preview, summary: null });
    } catch (error) {
      await rm(uploaded, { force: true });
      throw error;
    }
  }

  /** Changes how the table is read; a mapping is kept when it fits the columns. */
  async configure(id: string, settings: ImportSettings): Promise<ImportSession> {
    const { path: file } = this.sessions.mustFind(id);
    const families = (await knownFamilies(this.store)).map((family) => family.name);
    const sniffed = await this.compute.run('sniffTable', [file, settings, families]);
    return this.sessions.change(id, {
      format: sniffed.format,
      settings: sniffed.settings,
      columns: [...sniffed.columns],
      preview: sniffed.preview.map((row) => [...row]),
      summary: null,
    });
  }

  choose(id: string, options: ImportOptions): ImportSession {
    return this.sessions.change(id, { options, summary: null });
  }

  async dryRun(id: string, job: RunningJob): Promise<JobOutcome> {
    const summary = await this.work.run('summariseImport', [this.sessions.mustFind(id)], job);
    this.sessions.change(id, { summary });
    return { activityId: null, message: countsOf(summary), result: { importId: id } };
  }

  /** Writes the import; `category` is where items go whose row names none. */
  async commit(
    id: string,
    clientId: string,
    job: RunningJob,
    category: string | null = null,
  ): Promise<JobOutcome & { summary: ImportSummary }> {
    const session = this.sessions.mustFind(id);
    if (session.view.done) throw new FullerError('CONFLICT', 'This import has been written already.');
    const { activityId, summary } = await this.work.run('writeImport', [session, clientId, category], job);
    this.sessions.change(id, { summary, done: true });
    return { activityId, message: countsOf(summary), result: { importId: id }, summary };
  }

  /** Ends an import; what was uploaded for it is deleted. */
  async close(id: string): Promise<void> {
    const session = this.sessions.mustFind(id);
    await this.sessions.forget(id);
    if (path.dirname(session.path) === this.folders.uploads) await rm(session.path, { force: true, recursive: true });
  }
}

function ofFiles(source: 'folder' | 'dropped', name: string, root: string, files: readonly string[]): ImportSession {
  return {
    id: newId(),
    source,
    format: null,
    name,
    settings: null,
    options: NO_OPTIONS,
    columns: ['File'],
    preview: files.slice(0, PREVIEW_FILES).map((file) => [path.relative(root, file)]),
    summary: null,
    done: false,
  };
}

function countsOf({ added, changed, unchanged, rejected }: ImportSummary): string {
  return `${added} new, ${changed} changed, ${unchanged} unchanged, ${rejected} rejected.`;
}
