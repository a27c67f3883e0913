import { readdir, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import type { ImportSession, ImportSettings, ImportSummary } from '@fuller/contracts';
import { foldText, planImport, type ExistingItem, type ImportPlan, type ItemDraft, type ItemKind } from '@fuller/core';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';
import type { Compute } from '../jobs/compute.js';
import type { JobOutcome, RunningJob } from '../jobs/job-runner.js';
import type { DraftedRows } from '../jobs/tasks.js';
import { SettingEntity } from '../db/entities/index.js';
import type { ChangeSet, Row } from './change-set.js';
import { addCredits, recredit } from './credits.js';
import { folds, newItemRow } from './library-service.js';
import type { Store } from './store.js';

const AUDIO_FILE = /\.(?:wav|mp3|flac|ogg|oga|opus|m4a|mp4|aac|aif|aiff)$/i;
const SHOWN_ROWS = 200;
const AUDIO_BATCH = 25;
const MOST_AUDIO_FILES = 100_000;
const EXISTING = `select id, kind, title, artist, album, year, duration_ms as durationMs, intro_ms as introMs,
  outro_ms as outroMs, cart, file, isrc, label, notes, start_date as startDate, end_date as endDate from item`;

interface Session {
  readonly view: ImportSession;
  readonly stationId: string;
  /** The uploaded table or the folder. */
  readonly path: string;
}

/** Imports into the library: looked at first, written only when confirmed, all or nothing. */
export class ImportService {
  private readonly sessions = new Map<string, Session>();

  constructor(
    private readonly store: Store,
    private readonly compute: Compute,
    private readonly now: () => number,
    private readonly audioDir: string,
  ) {}

  /** Begins with a table that has been uploaded or lies on disk; says at once when it is none. */
  async openTable(stationId: string, file: string, name: string): Promise<ImportSession> {
    const remembered = await this.store.read.findOne(SettingEntity, { id: mappingKey(stationId) });
    const sniffed = await this.compute.run('sniffTable', [file, {}]);
    const known = remembered?.value as Record<string, ImportSettings['mapping']> | undefined;
    const mapping = known?.[sniffed.columns.join('\u001f')] ?? sniffed.settings.mapping;
    return this.keep(stationId, file, {
      id: newId(),
      source: 'table',
      format: sniffed.format,
      name,
      settings: { ...sniffed.settings, mapping },
      columns: [...sniffed.columns],
      preview: sniffed.preview.map((row) => [...row]),
      summary: null,
      done: false,
    });
  }

  /** Begins with a folder of audio files on the server, its subfolders included. */
  async openFolder(stationId: string, folder: string): Promise<ImportSession> {
    const absolute = path.resolve(this.audioDir, folder);
    const found = await stat(absolute).catch(() => null);
    if (!found?.isDirectory())
      throw new FullerError('INVALID', `There is no folder “${folder}” on the server.`, 'folder');
    const files = await audioFiles(absolute);
    if (files.length === 0) throw new FullerError('INVALID', `“${folder}” holds no audio files.`, 'folder');
    if (files.length > MOST_AUDIO_FILES)
      throw new FullerError('INVALID', `“${folder}” holds more than 100,000 audio files.`, 'folder');
    return this.keep(stationId, absolute, {
      id: newId(),
      source: 'folder',
      format: null,
      name: folder,
      settings: null,
      columns: ['File'],
      preview: files.slice(0, 8).map((file) => [path.relative(absolute, file)]),
      summary: null,
      done: false,
    });
  }

  private keep(stationId: string, where: string, view: ImportSession): ImportSession {
    this.sessions.set(view.id, { view, stationId, path: where });
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
    this.sessions.set(id, { ...session, view });
    return view;
  }

  /** Changes how the table is read; a mapping is kept when it fits the columns. */
  async configure(id: string, settings: ImportSettings): Promise<ImportSession> {
    const { path: file } = this.session(id);
    const sniffed = await this.compute.run('sniffTable', [file, settings]);
    return this.change(id, {
      format: sniffed.format,
      settings: sniffed.settings,
      columns: [...sniffed.columns],
      preview: sniffed.preview.map((row) => [...row]),
      summary: null,
    });
  }

  async dryRun(id: string, job: RunningJob): Promise<JobOutcome> {
    const rows = await this.readRows(id, job);
    job.progress(0.9, 'Comparing with the library');
    const plan = planImport(rows.drafts, await this.existing());
    const summary = await this.summarise(this.session(id).stationId, rows, plan);
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
    const { stationId } = session;
    const label = `Import ${path.basename(session.view.name)}`;
    const written = await this.store.write({ clientId, stationId, label }, async (changes) => {
      job.progress(0.4, 'Comparing with the library');
      const plan = planImport(rows.drafts, await this.existing(changes));
      const summary = await this.summarise(stationId, rows, plan, changes);
      await this.write(changes, stationId, plan, category, job);
      await rememberMapping(changes, stationId, session.view);
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
  }

  private async readRows(id: string, job: RunningJob): Promise<DraftedRows> {
    const { view, path: where } = this.session(id);
    job.progress(0, 'Reading');
    if (view.source === 'folder') return this.readFolder(where, job);
    if (!view.settings!.mapping.includes('title')) {
      throw new FullerError('INVALID', 'Say which column holds the title.', 'mapping');
    }
    return this.compute.run(
      'readTable',
      [where, view.settings!, new Date(this.now()).getUTCFullYear() + 1],
      job.signal,
    );
  }

  private async readFolder(folder: string, job: RunningJob): Promise<DraftedRows> {
    const files = (await audioFiles(folder)).map((absolute) => ({ absolute, stored: this.storedName(absolute) }));
    const all: { drafts: ItemDraft[]; rejected: DraftedRows['rejected'][number][] } = { drafts: [], rejected: [] };
    for (let from = 0; from < files.length; from += AUDIO_BATCH) {
      job.progress((0.4 * from) / files.length, `Reading tags, ${from} of ${files.length} files`);
      const part = await this.compute.run('readAudio', [files.slice(from, from + AUDIO_BATCH), from + 1], job.signal);
      all.drafts.push(...part.drafts);
      all.rejected.push(...part.rejected);
    }
    return { read: files.length, ...all };
  }

  /** Files below the audio folder are known by their place in it, so that the data folder can be moved. */
  private storedName(absolute: string): string {
    const relative = path.relative(this.audioDir, absolute);
    return relative.startsWith('..') || path.isAbsolute(relative) ? absolute : relative.split(path.sep).join('/');
  }

  private async existing(changes?: ChangeSet): Promise<ExistingItem[]> {
    return this.store.rows<ExistingItem>(EXISTING, [], changes?.em);
  }

  private async write(
    changes: ChangeSet,
    stationId: string,
    plan: ImportPlan,
    category: string | null,
    job: RunningJob,
  ): Promise<void> {
    const categoryIds = await categoriesByKey(changes, stationId);
    if (category !== null && !categoryIds.has(foldText(category))) throw notFound('category', category);
    const rows = plan.added.map((draft) => ({ draft, row: newItemRow(itemFields(draft)) }));
    await changes.insert(
      'item',
      rows.map(({ row }) => row),
      (count) => {
        job.signal.throwIfAborted();
        job.progress(0.4 + (0.4 * count) / Math.max(1, rows.length), `Writing, ${count} of ${rows.length} items`);
      },
    );
    job.progress(0.85, 'Crediting artists');
    await addCredits(
      changes,
      rows.map(({ row, draft }) => ({ itemId: row.id, artist: draft.artist ?? '' })),
    );
    for (const { itemId, changes: fields } of plan.changed) {
      job.signal.throwIfAborted();
      const patch = Object.fromEntries(fields.map(({ field, after }) => [field, after]));
      await changes.update('item', itemId, { ...patch, ...folds(patch) });
      if (typeof patch['artist'] === 'string') await recredit(changes, itemId, patch['artist']);
    }
    job.progress(0.95, 'Putting items into categories');
    const placements = rows.flatMap(({ row, draft }): Row[] => {
      const categoryId = categoryIds.get(foldText(draft.category ?? category ?? ''));
      return categoryId ? [{ id: newId(), itemId: row.id, categoryId }] : [];
    });
    await changes.insert('placement', placements);
  }

  /** Inside a write it must read through that write, which holds the only connection. */
  private async summarise(
    stationId: string,
    rows: DraftedRows,
    plan: ImportPlan,
    changes?: ChangeSet,
  ): Promise<ImportSummary> {
    const known = await categoriesByKey(changes ?? this.store, stationId);
    const named = new Set(rows.drafts.flatMap((draft) => (draft.category ? [draft.category] : [])));
    const rejected = [...rows.rejected, ...plan.rejected].sort((a, b) => a.row - b.row);
    return {
      read: rows.read,
      added: plan.added.length,
      changed: plan.changed.length,
      unchanged: plan.unchanged.length,
      rejected: new Set(rejected.map((error) => error.row)).size,
      unknownCategories: [...named].filter((name) => !known.has(foldText(name))).slice(0, SHOWN_ROWS),
      addedRows: plan.added
        .slice(0, SHOWN_ROWS)
        .map(({ row, title, artist, durationMs }) => ({ row, title, artist: artist ?? '', durationMs })),
      changedRows: plan.changed
        .slice(0, SHOWN_ROWS)
        .map(({ draft, changes }) => ({ row: draft.row, title: draft.title, changes: [...changes] })),
      rejectedRows: rejected.slice(0, SHOWN_ROWS),
    };
  }

  /** Ends an import; an uploaded file is deleted. */
  async close(id: string, uploadDir: string): Promise<void> {
    const session = this.session(id);
    this.sessions.delete(id);
    if (session.view.source === 'table' && path.dirname(session.path) === uploadDir)
      await rm(session.path, { force: true });
  }
}

async function audioFiles(folder: string): Promise<string[]> {
  const entries = await readdir(folder, { recursive: true, withFileTypes: true });
  return entries
    .filter((entry) => entry.isFile() && AUDIO_FILE.test(entry.name))
    .map((entry) => path.join(entry.parentPath, entry.name))
    .sort();
}

function itemFields(draft: ItemDraft): Parameters<typeof newItemRow>[0] {
  const { title, year, introMs, outroMs, cart, file, isrc, label, startDate, endDate } = draft;
  return {
    title,
    year,
    introMs,
    outroMs,
    cart,
    file,
    isrc,
    label,
    startDate,
    endDate,
    kind: draft.kind ?? ('song' satisfies ItemKind),
    artist: draft.artist ?? '',
    album: draft.album ?? '',
    durationMs: draft.durationMs ?? 0,
    notes: draft.notes ?? '',
  };
}

/** Categories a station sees, by folded name and by folded code. */
async function categoriesByKey(from: Store | ChangeSet, stationId: string): Promise<Map<string, string>> {
  const sql = `select id, name, code from category where scope = 'group' or station_id = ?`;
  const rows = ('em' in from ? await from.em.execute(sql, [stationId]) : await from.rows(sql, [stationId])) as {
    id: string;
    name: string;
    code: string;
  }[];
  return new Map(rows.flatMap((row) => [[foldText(row.code), row.id] as const, [foldText(row.name), row.id] as const]));
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
