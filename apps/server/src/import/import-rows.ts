import { elementAt } from '@fuller/core';
import { stat } from 'node:fs/promises';
import path from 'node:path';
import type { ImportSession } from '@fuller/contracts';
import type { ItemDraft, KnownFamily } from '@fuller/core';
import { TagFamilyEntity } from '../db/entities/index.js';
import { FullerError } from '../errors.js';
import type { Compute } from '../jobs/compute.js';
import type { RunningJob } from '../jobs/job-runner.js';
import type { DraftedRows } from '../jobs/tasks.js';
import { audioFiles, freePlace } from '../library/audio-files.js';
import type { AudioRoots } from '../library/audio-roots.js';
import type { Store } from '../store/store.js';

const AUDIO_BATCH = 25;
/** Of so many files the length is read where a table does not tell it. */
const MOST_LENGTHS = 2000;
/** Where dropped files stay in the audio folder. */
const DROPPED = 'dropped';

/** An import that has been begun: what the person sees of it, and where its rows come from. */
export interface OpenImport {
  readonly view: ImportSession;
  readonly stationId: string;
  /** The uploaded table, or the folder. */
  readonly path: string;
  /** Of a folder: these files of it alone. */
  readonly only: readonly string[] | null;
}

/** A dropped file. */
export interface DroppedFile {
  readonly from: string;
  /** Its name in the audio folder. */
  readonly stored: string;
  /** The very file is there already. */
  readonly there: boolean;
}

export async function knownFamilies(store: Store): Promise<KnownFamily[]> {
  const rows = await store.read.find(TagFamilyEntity, {}, { orderBy: { position: 'asc' } });
  return rows.map(({ name, single, values }) => ({ name, single: Boolean(single), values }));
}

/** Reads what an import holds: the rows of a table, or the tags of audio files. */
export class ImportRows {
  constructor(
    private readonly store: Store,
    private readonly compute: Compute,
    private readonly now: () => number,
    private readonly audioRoots: AudioRoots,
  ) {}

  async read(open: OpenImport, job: RunningJob): Promise<DraftedRows> {
    job.progress(0, 'Reading');
    if (open.view.source !== 'table') return this.readFiles(open, job);
    const { settings } = open.view;
    if (!settings?.mapping.includes('title'))
      throw new FullerError('INVALID', 'Choose the column that holds the title.', 'mapping');
    const latestYear = new Date(this.now()).getUTCFullYear() + 1;
    const families = await knownFamilies(this.store);
    const rows = await this.compute.run('readTable', [open.path, settings, latestYear, families], job.signal);
    return { ...rows, drafts: await this.withLengths(rows.drafts, job) };
  }

  /** Drafts with the lengths of their files, where the table does not tell them and the files are at hand. */
  private async withLengths(drafts: readonly ItemDraft[], job: RunningJob): Promise<readonly ItemDraft[]> {
    const bare = drafts.flatMap((draft) => {
      const stored = draft.durationMs ? null : draft.file;
      const absolute = stored ? this.audioRoots.fileAt(stored) : null;
      return stored && absolute ? [{ absolute, stored }] : [];
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

  private async readFiles(open: OpenImport, job: RunningJob): Promise<DraftedRows> {
    const files =
      open.view.source === 'dropped'
        ? (await this.droppedFiles(open)).map(({ from, stored }) => ({ absolute: from, stored }))
        : (open.only ?? (await audioFiles(open.path))).map((absolute) => ({
            absolute,
            stored: this.audioRoots.storedName(absolute),
          }));
    if (files.length === 0) throw new FullerError('INVALID', 'There are no audio files to import.', 'file');
    const all: { drafts: ItemDraft[]; rejected: DraftedRows['rejected'][number][] } = { drafts: [], rejected: [] };
    for (let from = 0; from < files.length; from += AUDIO_BATCH) {
      job.progress((0.4 * from) / files.length, `Reading tags, ${from} of ${files.length} files`);
      const part = await this.compute.run('readAudio', [files.slice(from, from + AUDIO_BATCH), from + 1], job.signal);
      all.drafts.push(...part.drafts);
      all.rejected.push(...part.rejected);
    }
    if (!open.view.options.folderCategories) return { read: files.length, ...all };
    const drafts = all.drafts.map((draft) => ({
      ...draft,
      category: folderName(open.path, elementAt(files, draft.row - 1).absolute),
    }));
    return { read: files.length, rejected: all.rejected, drafts };
  }

  /** Where each dropped file is to stay in the audio folder; a file of that name and size is taken for the same. */
  async droppedFiles(open: OpenImport): Promise<DroppedFile[]> {
    const audio = this.audioRoots.own;
    const files: DroppedFile[] = [];
    for (const from of await audioFiles(open.path)) {
      const wanted = path.posix.join(DROPPED, path.relative(open.path, from).split(path.sep).join('/'));
      const held = await stat(path.join(audio, wanted)).catch(() => null);
      const there = held !== null && held.size === (await stat(from)).size;
      files.push({ from, there, stored: there ? wanted : freePlace(audio, wanted) });
    }
    return files;
  }
}

/** The name of the folder a file lies in, below the folder that is imported; null for a file in that one itself. */
function folderName(root: string, file: string): string | null {
  const folder = path.dirname(file);
  return folder === root ? null : path.basename(folder);
}
