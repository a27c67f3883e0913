import { mkdir, open, readdir, rename, rm } from 'node:fs/promises';
import path from 'node:path';
import type { HandOverPreview, HandOverRecord, HandOverSettings, HandOverState } from '@fuller/contracts';
import { handOver, type HandOver, type HandOverItem } from '@fuller/core';
import { zipSync, strToU8 } from 'fflate';
import { HandOverEntity, SettingEntity } from '../db/entities/index.js';
import { FullerError } from '../errors.js';
import { newId } from '../ids.js';
import type { CatalogueService } from './catalogue-service.js';
import type { LibraryService } from './library-service.js';
import { docOf, type LogService } from './log-service.js';
import type { Store, Written } from './store.js';

const DEFAULTS: HandOverSettings = { pattern: '{station}_{date}.m3u8', hourly: false };
/** Marks a file that is still being written; left-over ones are swept away at start. */
const PART = '.fuller-part';

export interface HandOverFiles {
  readonly files: readonly { readonly name: string; readonly text: string; readonly entries: number }[];
  readonly heldBack: HandOverPreview['heldBack'];
  readonly revision: number;
}

/** Makes the player's files from logs. */
export class HandOverService {
  constructor(
    private readonly store: Store,
    private readonly catalogue: CatalogueService,
    private readonly library: LibraryService,
    private readonly logs: LogService,
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
    const items = new Map(
      (
        await this.store.rows<HandOverItem & { id: string }>(
          'select id, title, artist, duration_ms as durationMs, file from item',
        )
      ).map((item) => [item.id, item]),
    );
    const made: HandOver = handOver(docOf(row), {
      station: station.name,
      pattern,
      hourly,
      itemOf: (id) => items.get(id),
      pathOf: (file) => this.library.audioPath(file),
    });
    if (!made.ok) throw new FullerError('INVALID', made.why, 'pattern');
    return { files: made.files, heldBack: [...made.heldBack], revision: row.revision };
  }

  async preview(stationId: string, date: string, settings: HandOverSettings): Promise<HandOverPreview> {
    const { files, heldBack } = await this.files(stationId, date, settings);
    return {
      files: files.map(({ name, text, entries }) => ({
        name,
        entries,
        head: text.split('\n').slice(0, 40).join('\n'),
      })),
      heldBack,
      folder: await this.folderOf(stationId),
    };
  }

  /** Writes the files to a folder, the station's own one when none is named; each appears whole or not at all. */
  async write(
    stationId: string,
    clientId: string,
    date: string,
    settings: HandOverSettings,
    into?: string,
  ): Promise<Written<HandOverRecord>> {
    const { files, heldBack, revision } = await this.files(stationId, date, settings);
    const folder = into ?? (await this.folderOf(stationId));
    await writeFiles(folder, files);
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
    return this.store.write({ clientId, stationId, label: `Hand over ${date}` }, async (changes) => {
      await changes.insert('handOver', [record]);
      await changes.em.upsert(SettingEntity, { id: settingsKey(stationId), value: settings });
      return { ...record, stale: false };
    });
  }

  /** One file as it is, several as a zip. */
  async download(
    stationId: string,
    date: string,
    settings: HandOverSettings,
  ): Promise<{ name: string; type: string; bytes: Uint8Array }> {
    const { files } = await this.files(stationId, date, settings);
    if (!settings.hourly)
      return { name: files[0]!.name, type: 'audio/x-mpegurl; charset=utf-8', bytes: strToU8(files[0]!.text) };
    const zip = zipSync(Object.fromEntries(files.map((file) => [file.name, strToU8(file.text)])), { level: 6 });
    return { name: `${date}.zip`, type: 'application/zip', bytes: zip };
  }

  async state(stationId: string, date: string): Promise<HandOverState> {
    const em = this.store.read;
    const setting = await em.findOne(SettingEntity, { id: settingsKey(stationId) });
    const records = await em.find(HandOverEntity, { stationId, date }, { orderBy: { atMs: 'desc' }, limit: 20 });
    const log = await this.logs.find(stationId, date);
    return {
      settings: (setting?.value as HandOverSettings | undefined) ?? DEFAULTS,
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

  /** Deletes what a stopped process left half-written. */
  async sweep(): Promise<void> {
    const entries = await readdir(this.outputDir, { recursive: true, withFileTypes: true }).catch(() => []);
    for (const entry of entries) {
      if (entry.isFile() && entry.name.includes(PART))
        await rm(path.join(entry.parentPath, entry.name), { force: true });
    }
  }
}

function settingsKey(stationId: string): string {
  return `hand-over:${stationId}`;
}

async function writeFiles(folder: string, files: readonly { name: string; text: string }[]): Promise<void> {
  await mkdir(folder, { recursive: true });
  const suffix = `${PART}-${newId()}`;
  try {
    for (const { name, text } of files) {
      const handle = await open(path.join(folder, name + suffix), 'w');
      await handle.writeFile(text, 'utf8');
      await handle.sync();
      await handle.close();
    }
    for (const { name } of files) await rename(path.join(folder, name + suffix), path.join(folder, name));
  } catch (error) {
    await Promise.all(files.map(({ name }) => rm(path.join(folder, name + suffix), { force: true })));
    throw new FullerError(
      'INVALID',
      `The folder ${folder} cannot be written: ${error instanceof Error ? error.message : String(error)}`,
      'folder',
    );
  }
}
