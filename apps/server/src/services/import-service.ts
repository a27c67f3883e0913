import { existsSync, renameSync, writeFileSync } from 'node:fs';
import { mkdir, readdir, readFile, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import type { ImportOptions, ImportSession, ImportSettings, ImportSummary } from '@fuller/contracts';
import { planImport, type ItemDraft, type KnownFamily } from '@fuller/core';
import { SettingEntity, StationEntity, TagFamilyEntity } from '../db/entities/index.js';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';
import type { Compute } from '../jobs/compute.js';
import type { JobOutcome, RunningJob } from '../jobs/job-runner.js';
import type { DraftedRows } from '../jobs/tasks.js';
import type { AudioRoots } from './audio-roots.js';
import { audioFiles, freePlace, moveFile, safeRelative } from './audio-files.js';
import type { ChangeSet } from './change-set.js';
import { existingItems, summarise, writePlan } from './import-write.js';
import type { Store } from './store.js';

const AUDIO_BATCH = 25;
const MOST_AUDIO_FILES = 100_000;
const PREVIEW_FILES = 8;
/** What an import is kept as beside its upload. */
const NOTE = '.import.json';
/** An import nobody has touched for so long is not taken up after a restart. */
const FORGOTTEN_MS = 3 * 86_400_000;
/** Of so many files the length is read where a table does not tell it. */
const MOST_LENGTHS = 2000;
/** Where dropped files stay in the audio folder. */
const DROPPED = 'dropped';
const NO_OPTIONS: ImportOptions = { makeCategories: false, folderCategories: false };

interface Session {
  readonly view: ImportSession;
  readonly stationId: string;
  /** The uploaded table, or the folder. */
  readonly path: string;
  /** Of a folder: these files of it alone. */
  readonly only: readonly string[] | null;
}

/** Imports into the library: looked at first, written only when confirmed, all or nothing. */
export class ImportService {
  private readonly sessions = new Map<string, Session>();

  constructor(
    private readonly store: Store,
    private readonly compute: Compute,
    private readonly now: () => number,
    private readonly folders: { readonly audio: string; readonly uploads: string },
    private readonly audioRoots: AudioRoots,
  ) {}

  /** Takes up the imports that were open when the server stopped; what belongs to none of them is deleted. */
  async recover(): Promise<void> {
    const names = await readdir(this.folders.uploads);
    const kept = new Set<string>();
    for (const name of names.filter((one) => one.endsWith(NOTE))) {
      const session = await readFile(path.join(this.folders.uploads, name), 'utf8')
        .then((text) => JSON.parse(text) as Session)
        .catch(() => null);
      const age = this.now() - (await stat(path.join(this.folders.uploads, name))).mtimeMs;
      if (!session || !existsSync(session.path) || age > FORGOTTEN_MS) continue;
      this.sessions.set(session.view.id, session);
      kept.add(name).add(path.basename(session.path));
    }
    for (const name of names)
      if (!kept.has(name)) await rm(path.join(this.folders.uploads, name), { force: true, recursive: true });
  }

  private async mustHaveStation(stationId: string): Promise<void> {
    if ((await this.store.read.count(StationEntity, { id: stationId })) === 0) throw notFound('station', stationId);
  }

  /** Begins with a table that has been uploaded or lies on disk; says at once when it is none. */
  async openTable(stationId: string, file: string, name: string, signal?: AbortSignal): Promise<ImportSession> {
    await this.mustHaveStation(stationId);
    const remembered = await this.store.read.findOne(SettingEntity, { id: mappingKey(stationId) });
    const families = (await this.families()).map((family) => family.name);
    const sniffed = await this.compute.run('sniffTable', [file, {}, families], signal);
    const known = remembered?.value as Record<string, ImportSettings['mapping']> | undefined;
    const mapping = known?.[sniffed.columns.join('\u001f')] ?? sniffed.settings.mapping;
    return this.keep(stationId, file, {
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
    return this.keep(stationId, absolute, ofFiles('folder', folder, absolute, files), only);
  }

  /** Those of some audio files on the server that no item of the library plays. */
  async notYetThere(files: readonly string[]): Promise<string[]> {
    const rows = await this.store.rows<{ file: string }>('select file from item where file is not null');
    const known = new Set(rows.map(({ file }) => file));
    return files.filter((file) => !known.has(this.storedName(file)));
  }

  /** Begins with audio files that are about to be sent one by one. */
  async openDropped(stationId: string): Promise<ImportSession> {
    await this.mustHaveStation(stationId);
    const view = ofFiles('dropped', 'dropped files', '', []);
    const folder = path.join(this.folders.uploads, view.id);
    await mkdir(folder);
    return this.keep(stationId, folder, view);
  }

  /** Takes one more file of a dropped import; `said` is its path as the browser knows it. */
  async addFile(id: string, uploaded: string, said: string): Promise<ImportSession> {
    const session = this.session(id);
    try {
      if (session.view.source !== 'dropped' || session.view.done)
        throw new FullerError('INVALID', 'This import takes no more files.', 'file');
      const place = freePlace(session.path, safeRelative(said));
      await moveFile(uploaded, path.join(session.path, place));
      const preview = [...session.view.preview, [place]].slice(0, PREVIEW_FILES);
      return this.change(id, { preview, summary: null });
    } catch (error) {
      await rm(uploaded, { force: true });
      throw error;
    }
  }

  private keep(
    stationId: string,
    where: string,
    view: ImportSession,
    only: readonly string[] | null = null,
  ): ImportSession {
    this.set({ view, stationId, path: where, only });
    return view;
  }

  get(id: string): ImportSession {
    return this.session(id).view;
  }

  stationOf(id: string): string {
    return this.session(id).stationId;
  }

  private session(id: string): Session {
    const session = this.sessions.get(id);
    if (!session) throw notFound('import', id);
    return session;
  }

  private change(id: string, change: Partial<ImportSession>): ImportSession {
    const session = this.session(id);
    const view = { ...session.view, ...change };
    this.set({ ...session, view });
    return view;
  }

  /** Keeps an import beside its upload, so that a restart does not lose it. */
  private set(session: Session): void {
    this.sessions.set(session.view.id, session);
    const file = path.join(this.folders.uploads, session.view.id + NOTE);
    writeFileSync(`${file}.part`, JSON.stringify(session));
    renameSync(`${file}.part`, file);
  }

  /** Changes how the table is read; a mapping is kept when it fits the columns. */
  async configure(id: string, settings: ImportSettings): Promise<ImportSession> {
    const { path: file } = this.session(id);
    const families = (await this.families()).map((family) => family.name);
    const sniffed = await this.compute.run('sniffTable', [file, settings, families]);
    return this.change(id, {
      format: sniffed.format,
      settings: sniffed.settings,
      columns: [...sniffed.columns],
      preview: sniffed.preview.map((row) => [...row]),
      summary: null,
    });
  }

  choose(id: string, options: ImportOptions): ImportSession {
    return this.change(id, { options, summary: null });
  }

  async dryRun(id: string, job: RunningJob): Promise<JobOutcome> {
    const rows = await this.readRows(id, job);
    job.progress(0.9, 'Comparing with the library');
    const plan = planImport(rows.drafts, await existingItems(this.store));
    const summary = await summarise(this.store, this.session(id).stationId, rows, plan);
    this.change(id, { summary });
    return { activityId: null, message: countsOf(summary), result: { importId: id } };
  }

  /** Writes the import; `category` is where items go whose row names none. */
  async commit(
    id: string,
    clientId: string,
    job: RunningJob,
    category: string | null = null,
  ): Promise<JobOutcome & { summary: ImportSummary }> {
    const session = this.session(id);
    if (session.view.done) throw new FullerError('CONFLICT', 'This import has been written already.');
    const rows = await this.readRows(id, job);
    const { stationId, view } = session;
    const moves = view.source === 'dropped' ? (await this.places(session)).filter(({ there }) => !there) : [];
    try {
      const label = `Import ${path.basename(view.name)}`;
      job.progress(0.4, 'Comparing with the library');
      const plan = planImport(rows.drafts, await existingItems(this.store));
      const summary = await summarise(this.store, stationId, rows, plan);
      const written = await this.store.writeInBatches({ clientId, stationId, label }, async (batches) => {
        await writePlan(batches, stationId, plan, { category, options: view.options, job });
        await batches.batch((changes) => rememberMapping(changes, stationId, view));
        for (const { from, stored } of moves) await moveFile(from, path.join(this.folders.audio, stored));
        job.signal.throwIfAborted();
        return summary;
      });
      this.change(id, { summary: written.value, done: true });
      return {
        activityId: written.activityId,
        message: countsOf(written.value),
        result: { importId: id },
        summary: written.value,
      };
    } catch (error) {
      for (const { from, stored } of moves) {
        const moved = path.join(this.folders.audio, stored);
        if (existsSync(moved) && !existsSync(from)) await moveFile(moved, from);
      }
      throw error;
    }
  }

  /** Where each dropped file is to stay in the audio folder; a file of that name and size is taken for the same. */
  private async places(session: Session): Promise<Place[]> {
    const places: Place[] = [];
    for (const from of await audioFiles(session.path)) {
      const wanted = path.posix.join(DROPPED, path.relative(session.path, from).split(path.sep).join('/'));
      const held = await stat(path.join(this.folders.audio, wanted)).catch(() => null);
      const there = held !== null && held.size === (await stat(from)).size;
      places.push({ from, there, stored: there ? wanted : freePlace(this.folders.audio, wanted) });
    }
    return places;
  }

  private async readRows(id: string, job: RunningJob): Promise<DraftedRows> {
    const session = this.session(id);
    job.progress(0, 'Reading');
    if (session.view.source !== 'table') return this.readFiles(session, job);
    if (!session.view.settings!.mapping.includes('title')) {
      throw new FullerError('INVALID', 'Say which column holds the title.', 'mapping');
    }
    const rows = await this.compute.run(
      'readTable',
      [session.path, session.view.settings!, new Date(this.now()).getUTCFullYear() + 1, await this.families()],
      job.signal,
    );
    return { ...rows, drafts: await this.withLengths(rows.drafts, job) };
  }

  /** Drafts with the lengths of their files, where the table does not tell them and the files are at hand. */
  private async withLengths(drafts: readonly ItemDraft[], job: RunningJob): Promise<readonly ItemDraft[]> {
    const bare = drafts.flatMap((draft) => {
      const absolute = !draft.durationMs && draft.file ? this.audioRoots.fileAt(draft.file) : null;
      return absolute ? [{ absolute, stored: draft.file! }] : [];
    });
    if (bare.length === 0) return drafts;
    const lengths = new Map<string, number | null>();
    for (let from = 0; from < Math.min(bare.length, MOST_LENGTHS); from += AUDIO_BATCH) {
      job.progress(0.3, `Reading lengths, ${from} of ${bare.length} files`);
      const part = await this.compute.run('readAudio', [bare.slice(from, from + AUDIO_BATCH), 1], job.signal);
      for (const { file, durationMs } of part.drafts) lengths.set(file!, durationMs);
    }
    return drafts.map((draft) =>
      draft.durationMs || !draft.file ? draft : { ...draft, durationMs: lengths.get(draft.file) ?? draft.durationMs },
    );
  }

  private async readFiles(session: Session, job: RunningJob): Promise<DraftedRows> {
    const files =
      session.view.source === 'dropped'
        ? (await this.places(session)).map(({ from, stored }) => ({ absolute: from, stored }))
        : (session.only ?? (await audioFiles(session.path))).map((absolute) => ({
            absolute,
            stored: this.storedName(absolute),
          }));
    if (files.length === 0) throw new FullerError('INVALID', 'There are no audio files to import.', 'file');
    const all: { drafts: ItemDraft[]; rejected: DraftedRows['rejected'][number][] } = { drafts: [], rejected: [] };
    for (let from = 0; from < files.length; from += AUDIO_BATCH) {
      job.progress((0.4 * from) / files.length, `Reading tags, ${from} of ${files.length} files`);
      const part = await this.compute.run('readAudio', [files.slice(from, from + AUDIO_BATCH), from + 1], job.signal);
      all.drafts.push(...part.drafts);
      all.rejected.push(...part.rejected);
    }
    if (!session.view.options.folderCategories) return { read: files.length, ...all };
    const drafts = all.drafts.map((draft) => ({
      ...draft,
      category: folderName(session.path, files[draft.row - 1]!.absolute),
    }));
    return { read: files.length, rejected: all.rejected, drafts };
  }

  /** Files below the audio folder are known by their place in it, so that the data folder can be moved. */
  private storedName(absolute: string): string {
    const relative = path.relative(this.folders.audio, absolute);
    return relative.startsWith('..') || path.isAbsolute(relative) ? absolute : relative.split(path.sep).join('/');
  }

  private async families(): Promise<KnownFamily[]> {
    const rows = await this.store.read.find(TagFamilyEntity, {}, { orderBy: { position: 'asc' } });
    return rows.map(({ name, single, values }) => ({ name, single: Boolean(single), values }));
  }

  /** Ends an import; what was uploaded for it is deleted. */
  async close(id: string): Promise<void> {
    const session = this.session(id);
    this.sessions.delete(id);
    await rm(path.join(this.folders.uploads, id + NOTE), { force: true });
    if (path.dirname(session.path) === this.folders.uploads) await rm(session.path, { force: true, recursive: true });
  }
}

interface Place {
  readonly from: string;
  /** Its name in the audio folder. */
  readonly stored: string;
  /** The very file is there already. */
  readonly there: boolean;
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

/** The name of the folder a file lies in, below the folder that is imported; null for a file that lies in that one itself. */
function folderName(root: string, file: string): string | null {
  const folder = path.dirname(file);
  return folder === root ? null : path.basename(folder);
}

function mappingKey(stationId: string): string {
  return `import-mapping:${stationId}`;
}

async function rememberMapping(changes: ChangeSet, stationId: string, view: ImportSession): Promise<void> {
  if (!view.settings) return;
  const id = mappingKey(stationId);
  const row = await changes.em.findOne(SettingEntity, { id });
  const value = { ...(row?.value as object | undefined), [view.columns.join('\u001f')]: view.settings.mapping };
  await changes.em.upsert(SettingEntity, { id, value });
}

function countsOf({ added, changed, unchanged, rejected }: ImportSummary): string {
  return `${added} new, ${changed} changed, ${unchanged} unchanged, ${rejected} rejected.`;
}
