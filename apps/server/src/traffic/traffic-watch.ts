import { readFile, stat } from 'node:fs/promises';
import path from 'node:path';
import { LONGEST_TRAFFIC, type TrafficOutcome } from '@fuller/contracts';
import { findDate, localTimeOf, proposeLayout, readTextLog } from '@fuller/core';
import { decodeText } from '@fuller/core/decode-text';
import { Mutex } from 'async-mutex';
import { watch, type FSWatcher } from 'chokidar';
import { programAt, type StationActor } from '../actor.js';
import { FullerError, notFound } from '../errors.js';
import type { JobRunner } from '../jobs/job-runner.js';
import type { LogService } from '../logs/log-service.js';
import type { CatalogueService } from '../stations/catalogue-service.js';
import type { EventHub } from '../store/event-hub.js';
import type { TrafficService } from './traffic-service.js';
import type { TrafficSettingsService } from './traffic-settings.js';

/** A file is whole when it has not grown for so long, ms. */
const SETTLED_MS = 1500;
/** Logs that change at once are looked at together after so long, ms. */
const GATHER_MS = 500;
const MOST_FILES = 2000;
/** A letter is four bytes at most. */
const LARGEST_FILE = LONGEST_TRAFFIC * 4;
const BY_ITSELF = 'traffic folder';

interface Waiting {
  readonly file: string;
  readonly date: string;
  readonly text: string;
  /** Whether it has been imported by itself, or in vain: what a person takes back stays so until the file changes. */
  tried: boolean;
}

type ReadFile =
  { readonly ok: true; readonly date: string; readonly text: string } | { readonly ok: false; readonly why: string };

function refuse(why: string): ReadFile {
  return { ok: false, why };
}

interface Watching {
  readonly folder: string;
  readonly watcher: FSWatcher;
  readonly files: Map<string, Waiting>;
  /** Why others in the folder are no traffic logs, by name. */
  readonly unread: Map<string, string>;
}

export interface WatchParts {
  readonly settings: TrafficSettingsService;
  readonly traffic: TrafficService;
  readonly catalogue: CatalogueService;
  readonly logs: LogService;
  readonly jobs: JobRunner;
  readonly events: EventHub;
  readonly now: () => number;
  readonly reportFault: (error: unknown, about: object) => void;
}

/** Folders into which traffic puts its files: those for a day that has a log come in by themselves where the station wants that. */
export class TrafficWatch {
  private readonly watching = new Map<string, Watching>();
  private readonly faults = new Map<string, string>();
  private readonly turn = new Mutex();
  private timer: NodeJS.Timeout | null = null;
  private stopListening: (() => void) | null = null;
  private closed = false;

  constructor(private readonly parts: WatchParts) {}

  /** Watches just what is to be watched, from now on. */
  async begin(): Promise<void> {
    this.stopListening ??= this.parts.events.listen((event) => {
      if (event.type !== 'changed') return;
      if (event.what.includes('traffic')) this.follow().catch((error: unknown) => this.report(error));
      if (event.what.includes('logs')) this.lookSoon();
    });
    await this.follow();
  }

  private follow(): Promise<void> {
    return this.turn.runExclusive(async () => {
      if (this.closed) return;
      const wanted = new Map(
        (await this.parts.settings.watching()).map(({ stationId, folder }) => [stationId, folder]),
      );
      for (const [stationId, { folder }] of this.watching)
        if (wanted.get(stationId) !== folder) await this.stop(stationId);
      for (const [stationId, folder] of wanted) if (!this.watching.has(stationId)) await this.start(stationId, folder);
      this.lookSoon();
    });
  }

  private async start(stationId: string, folder: string): Promise<void> {
    this.faults.delete(stationId);
    let absolute: string;
    try {
      absolute = await this.parts.settings.roots.folderAt(folder);
      if (!(await stat(absolute).catch(() => null))?.isDirectory()) throw new Error(`There is no folder ${absolute}.`);
    } catch (error) {
      this.faults.set(stationId, error instanceof Error ? error.message : String(error));
      return;
    }
    const watcher = watch(absolute, {
      depth: 0,
      followSymlinks: false,
      awaitWriteFinish: { stabilityThreshold: SETTLED_MS, pollInterval: 200 },
      ignored: (file, stats) => stats?.isFile() === true && path.basename(file).startsWith('.'),
    });
    const watching: Watching = { folder, watcher, files: new Map(), unread: new Map() };
    this.watching.set(stationId, watching);
    const note = (file: string): void => {
      this.note(stationId, watching, file).catch((error: unknown) => this.faults.set(stationId, String(error)));
    };
    watcher.on('add', note).on('change', note);
    watcher.on('unlink', (file) => {
      watching.files.delete(path.basename(file));
      watching.unread.delete(path.basename(file));
    });
    watcher.on('error', (error) => this.faults.set(stationId, error instanceof Error ? error.message : String(error)));
  }

  private async stop(stationId: string): Promise<void> {
    await this.watching.get(stationId)?.watcher.close();
    this.watching.delete(stationId);
    this.faults.delete(stationId);
  }

  /** Finds out which day a file is for; past days are left alone. */
  private async note(stationId: string, { files, unread }: Watching, file: string): Promise<void> {
    const name = path.basename(file);
    files.delete(name);
    unread.delete(name);
    if (files.size + unread.size >= MOST_FILES) return;
    const { timeZone } = await this.parts.catalogue.station(stationId);
    const found = await this.read(stationId, file);
    if (!found.ok) return void unread.set(name, found.why);
    if (found.date < localTimeOf(this.parts.now(), timeZone).date) return;
    files.set(name, { file: name, date: found.date, text: found.text, tried: false });
    this.lookSoon();
  }

  private async read(stationId: string, file: string): Promise<ReadFile> {
    const found = await stat(file).catch(() => null);
    if (!found?.isFile()) return refuse('It cannot be read.');
    if (found.size > LARGEST_FILE) return refuse('It is too large.');
    const layout = await this.parts.settings.layoutOf(stationId);
    const encoding = layout && layout.encoding !== 'auto' ? layout.encoding : undefined;
    const decoded = decodeText(await readFile(file), encoding);
    if (!decoded.ok) return refuse(decoded.why);
    const { text } = decoded;
    if (text.length > LONGEST_TRAFFIC) return refuse('It is too large.');
    const by = layout ?? proposeLayout(text, 'Proposed');
    if (!by) return refuse('No column of it holds times and none lengths.');
    const date = dateIn(text, by) ?? findDate(path.basename(file), true);
    return date === null ? refuse('Neither it nor its name tells a date.') : { ok: true, date, text };
  }

  private lookSoon(): void {
    if (this.closed) return;
    if (this.timer) clearTimeout(this.timer);
    this.timer = setTimeout(() => {
      this.timer = null;
      this.turn.runExclusive(() => this.bringIn()).catch((error: unknown) => this.report(error));
    }, GATHER_MS);
    this.timer.unref();
  }

  private async bringIn(): Promise<void> {
    for (const [stationId, { files }] of this.watching) {
      if (this.closed || !(await this.parts.settings.of(stationId)).automatic) continue;
      for (const waiting of files.values()) {
        const { date, text, file } = waiting;
        if (waiting.tried || !(await this.parts.logs.find(stationId, date))) continue;
        if (await this.parts.traffic.isImported(stationId, date, text)) continue;
        const label = `Import traffic for ${date}`;
        await new Promise<void>((resolve) => {
          this.parts.jobs.start({ kind: 'import', label, stationId, clientId: BY_ITSELF }, async () => {
            try {
              waiting.tried = true;
              const outcome = await this.take(programAt(stationId, BY_ITSELF), date, waiting);
              return { activityId: outcome.activityId, message: `${file}: ${inWords(outcome)}`, result: null };
            } finally {
              resolve();
            }
          });
        });
      }
    }
  }

  private take(actor: StationActor, date: string, { text, file }: Waiting): Promise<TrafficOutcome> {
    return this.parts.traffic.take(actor, date, {
      text,
      fileName: file,
      layout: null,
      toleranceMs: null,
      dryRun: false,
    });
  }

  /** The names of files that are for a day and have not been imported. */
  async waiting(stationId: string, date: string): Promise<string[]> {
    const found: string[] = [];
    for (const one of this.watching.get(stationId)?.files.values() ?? [])
      if (one.date === date && !(await this.parts.traffic.isImported(stationId, date, one.text))) found.push(one.file);
    return found.sort();
  }

  /** Imports a file of the watched folder because a person wants it. */
  async importWaiting(actor: StationActor, date: string, fileName: string): Promise<TrafficOutcome> {
    const found = this.watching.get(actor.stationId)?.files.get(fileName);
    if (found?.date !== date) throw notFound('file', fileName);
    return this.take(actor, date, found);
  }

  /** Why the folder of a station, or a file in it, cannot be read. */
  faultOf(stationId: string): string | null {
    const fault = this.faults.get(stationId);
    if (fault !== undefined) return fault;
    const [first, ...others] = this.watching.get(stationId)?.unread ?? [];
    if (!first) return null;
    return `“${first[0]}” is no traffic log: ${first[1]}${others.length > 0 ? ` And ${others.length} more.` : ''}`;
  }

  private report(error: unknown): void {
    if (!this.closed && !(error instanceof FullerError)) this.parts.reportFault(error, { about: 'traffic folders' });
  }

  async close(): Promise<void> {
    this.closed = true;
    if (this.timer) clearTimeout(this.timer);
    this.stopListening?.();
    await this.turn.waitForUnlock();
    for (const stationId of [...this.watching.keys()]) await this.stop(stationId);
  }
}

function dateIn(text: string, layout: Parameters<typeof readTextLog>[1]): string | null {
  try {
    return readTextLog(text, layout).date;
  } catch {
    return null;
  }
}

/** What became of a traffic log, in a sentence. */
export function inWords({ placed, tray, errors, added, removed }: TrafficOutcome): string {
  const counts = [`${placed} spots placed (${added} new, ${removed} gone)`];
  if (tray.length > 0) counts.push(`${tray.length} in the tray`);
  if (errors.length > 0) counts.push(`${errors.length} lines with errors`);
  return `${counts.join(', ')}.`;
}
