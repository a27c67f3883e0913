import type { StationActor } from '../actor.js';
import { isDeepStrictEqual } from 'node:util';
import type { WatchedFolder, WatchedFolderView } from '@fuller/contracts';
import { Mutex } from 'async-mutex';
import { watch, type FSWatcher } from 'chokidar';
import { CategoryEntity, WatchedFolderEntity } from '../db/entities/index.js';
import { notFound } from '../errors.js';
import type { JobRunner } from '../jobs/job-runner.js';
import { isAudioFile } from '../library/audio-files.js';
import type { AudioRoots } from '../library/audio-roots.js';
import type { ImportService } from './import-service.js';
import { ofActiveStations } from '../stations/active-stations.js';
import type { Store, Written } from '../store/store.js';

/** A file is whole when it has not grown for so long; then a little is waited for others, so that they come in together. */
const SETTLED_MS = 2000;
const GATHER_MS = 1500;
/** So deep a folder is watched, and so many files in it. */
const MOST_DEPTH = 16;
const MOST_FILES = 50_000;

interface Watching {
  readonly watcher: FSWatcher;
  readonly watched: WatchedFolder;
  waiting: Set<string>;
  timer: NodeJS.Timeout | null;
  files: number;
}

/** Folders on the server whose audio, as far as the library does not have it, comes in by itself. */
export class WatchService {
  private readonly watching = new Map<string, Watching>();
  private readonly faults = new Map<string, string>();
  private readonly following = new Mutex();
  private closed = false;

  constructor(
    private readonly store: Store,
    private readonly imports: ImportService,
    private readonly jobs: JobRunner,
    private readonly audioRoots: AudioRoots,
  ) {}

  /** Watches just what is to be watched: at the start, and after every change of it, undone ones too. */
  begin(): Promise<void> {
    return this.following.runExclusive(() => this.follow());
  }

  private async follow(): Promise<void> {
    if (this.closed) return;
    const rows = await this.store.read.find(WatchedFolderEntity, {});
    const active = await ofActiveStations(this.store.read, rows, ({ id }) => id);
    const wanted = new Map(active.map((row) => [row.id, folderOf(row)]));
    for (const stationId of new Set([...wanted.keys(), ...this.watching.keys()])) {
      const watched = wanted.get(stationId) ?? null;
      if (!isDeepStrictEqual(watched, this.watching.get(stationId)?.watched ?? null))
        await this.start(stationId, watched);
    }
  }

  async view(stationId: string): Promise<WatchedFolderView> {
    const row = await this.store.read.findOne(WatchedFolderEntity, { id: stationId });
    return { watched: row && folderOf(row), fault: this.faults.get(stationId) ?? null };
  }

  /** Watches a folder from now on; null watches none. */
  async set({ stationId, clientId }: StationActor, watched: WatchedFolder | null): Promise<Written<void>> {
    if (watched) {
      await this.audioRoots.folderAt(watched.folder);
      if (watched.categoryId !== null && !(await this.store.read.count(CategoryEntity, { id: watched.categoryId })))
        throw notFound('category', watched.categoryId);
    }
    const label = watched ? `Watch the folder ${watched.folder}` : 'Watch no folder';
    const written = await this.store.write({ clientId, stationId, label }, async (changes) => {
      const there = (await changes.find('watchedFolder', stationId)) !== null;
      if (watched && there) await changes.update('watchedFolder', stationId, watched);
      else if (watched) await changes.insert('watchedFolder', [{ id: stationId, ...watched }]);
      else if (there) await changes.remove('watchedFolder', stationId);
    });
    await this.begin();
    return written;
  }

  private async start(stationId: string, watched: WatchedFolder | null): Promise<void> {
    const before = this.watching.get(stationId);
    if (before?.timer) clearTimeout(before.timer);
    await before?.watcher.close();
    this.watching.delete(stationId);
    this.faults.delete(stationId);
    if (!watched) return;
    let folder: string;
    try {
      folder = await this.audioRoots.folderAt(watched.folder);
    } catch (error) {
      this.faults.set(stationId, error instanceof Error ? error.message : String(error));
      return;
    }
    const watcher = watch(folder, {
      depth: MOST_DEPTH,
      followSymlinks: false,
      awaitWriteFinish: { stabilityThreshold: SETTLED_MS, pollInterval: 200 },
      ignored: (file, stats) => stats?.isFile() === true && !isAudioFile(file),
    });
    const watching: Watching = { watcher, watched, waiting: new Set(), timer: null, files: 0 };
    this.watching.set(stationId, watching);
    watcher.on('add', (file) => {
      if (++watching.files > MOST_FILES) {
        this.faults.set(
          stationId,
          `${watched.folder} holds more than ${MOST_FILES.toLocaleString('en-GB')} audio files; it is not watched any more.`,
        );
        void watcher.close();
        return;
      }
      watching.waiting.add(file);
      if (watching.timer) clearTimeout(watching.timer);
      watching.timer = setTimeout(() => void this.bringIn(stationId, watching), GATHER_MS);
    });
    watcher.on('error', (error) => this.faults.set(stationId, error instanceof Error ? error.message : String(error)));
  }

  private async bringIn(stationId: string, watching: Watching): Promise<void> {
    const { folder, categoryId } = watching.watched;
    const found = [...watching.waiting].sort();
    watching.waiting = new Set();
    watching.timer = null;
    try {
      const files = await this.imports.notYetThere(found);
      if (files.length === 0) return;
      const session = await this.imports.openFolder(stationId, folder, files);
      const category = categoryId === null ? null : await this.store.read.findOne(CategoryEntity, { id: categoryId });
      const label = `Import from the watched folder ${folder}`;
      this.jobs.start({ kind: 'import', label, stationId, clientId: 'watched folder' }, async (job) => {
        const outcome = await this.imports.commit(session.id, 'watched folder', job, category?.code ?? null);
        await this.imports.close(session.id);
        return outcome;
      });
      this.faults.delete(stationId);
    } catch (error) {
      this.faults.set(stationId, error instanceof Error ? error.message : String(error));
    }
  }

  async close(): Promise<void> {
    this.closed = true;
    await this.following.waitForUnlock();
    for (const { watcher, timer } of this.watching.values()) {
      if (timer) clearTimeout(timer);
      await watcher.close();
    }
    this.watching.clear();
  }
}

function folderOf({ folder, categoryId }: { folder: string; categoryId?: string | null | undefined }): WatchedFolder {
  return { folder, categoryId: categoryId ?? null };
}
