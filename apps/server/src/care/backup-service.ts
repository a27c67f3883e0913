import { existsSync } from 'node:fs';
import { mkdir, readdir, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import type { BackupFacts, BackupRow, Backups, BackupSettings } from '@fuller/contracts';
import { formatAirTime, localTimeOf } from '@fuller/core';
import { BackupSettingEntity } from '../db/entities/index.js';
import { RESTORE_FILE } from '../db/restore.js';
import { FullerError, notFound } from '../errors.js';
import type { ExchangeRoots } from '../hand-over/exchange-roots.js';
import { UNWATCHED } from '../jobs/job-runner.js';
import type { CatalogueService } from '../stations/catalogue-service.js';
import type { Store } from '../store/store.js';
import type { LongWork } from '../writers/long-tasks.js';

const SETTING = 'backups';
const DEFAULTS: BackupSettings = { nightlyAt: '04:00', kept: 7, folder: '' };
const CHECK_EVERY_MS = 60_000;
const ENDING = '.db';

interface Parts {
  readonly store: Store;
  readonly work: LongWork;
  readonly catalogue: CatalogueService;
  readonly roots: ExchangeRoots;
  readonly dataDir: string;
  /** Whether the data stands in a file of the data folder, which can be copied. */
  readonly isFile: boolean;
  readonly now: () => number;
}

/** Backups: one file each, made while everybody works, checked before one takes the place of the data. */
export class BackupService {
  private timer: NodeJS.Timeout | null = null;
  private problem: string | null = null;
  private making: Promise<BackupRow> | null = null;

  constructor(private readonly parts: Parts) {}

  private get database(): string {
    return path.join(this.parts.dataDir, 'fuller.db');
  }

  async list(): Promise<Backups> {
    const settings = await this.settings();
    const folder = await this.folderOf(settings);
    const names = (await readdir(folder).catch(() => [])).filter((name) => name.endsWith(ENDING));
    const backups = await Promise.all(
      names.map(async (name): Promise<BackupRow> => {
        const { size, mtimeMs } = await stat(path.join(folder, name));
        return { name: name.slice(0, -ENDING.length), atMs: mtimeMs, bytes: size, made: madeBy(name) };
      }),
    );
    return {
      madeHere: this.parts.isFile,
      folder,
      settings,
      backups: backups.sort((a, b) => b.atMs - a.atMs),
      problem: this.problem,
    };
  }

  /** Makes a backup; asked for while one is being made, answers that one. */
  make(prefix: 'hand' | 'nightly' | 'before-restore' = 'hand'): Promise<BackupRow> {
    this.making ??= this.write(prefix).finally(() => (this.making = null));
    return this.making;
  }

  private async write(prefix: string): Promise<BackupRow> {
    if (!this.parts.isFile)
      throw new FullerError('CONFLICT', 'The data is in PostgreSQL. Back it up there, with its own tools.');
    const folder = await this.folderOf(await this.settings());
    const stamp = new Date(this.parts.now()).toISOString().slice(0, 19).replaceAll(/[-:]/g, '').replace('T', '-');
    let name = `${prefix}-${stamp}`;
    for (let n = 2; existsSync(path.join(folder, name + ENDING)); n++) name = `${prefix}-${stamp}-${n}`;
    await mkdir(folder, { recursive: true });
    await this.parts.work.run('backUp', [this.database, path.join(folder, name + ENDING)], UNWATCHED);
    const { size, mtimeMs } = await stat(path.join(folder, name + ENDING));
    return { name, atMs: mtimeMs, bytes: size, made: madeBy(name) };
  }

  async facts(name: string): Promise<BackupFacts> {
    const file = await this.mustFind(name);
    return { name, ...(await this.readFacts(file)) };
  }

  /** What a file holds and whether it can be restored here. */
  async readFacts(file: string): Promise<Omit<BackupFacts, 'name'>> {
    const { stations, items, logs, faults } = await this.parts.work.run('readBackup', [file], UNWATCHED);
    return { stations: [...stations], items, logs, faults: [...faults] };
  }

  async fileOf(name: string): Promise<string> {
    return this.mustFind(name);
  }

  /** Lays a backup ready to take the place of the data at the next start; what is there now is backed up first. */
  async layReady(file: string): Promise<string> {
    const { faults } = await this.readFacts(file);
    if (faults.length > 0) throw new FullerError('CONFLICT', `This backup cannot be restored: ${faults[0]}`);
    // One that is being made may lack what came since it began.
    await this.making?.catch(() => {});
    const before = await this.make('before-restore');
    await this.parts.work.run('backUp', [file, path.join(this.parts.dataDir, RESTORE_FILE)], UNWATCHED);
    return before.name;
  }

  async settings(): Promise<BackupSettings> {
    const row = await this.parts.store.read.findOne(BackupSettingEntity, { id: SETTING });
    return row ? { nightlyAt: row.nightlyAt ?? null, kept: row.kept, folder: row.folder } : DEFAULTS;
  }

  async set(settings: BackupSettings): Promise<void> {
    await this.folderOf(settings);
    const row = await this.parts.store.read.findOne(BackupSettingEntity, { id: SETTING });
    const lastDate = row?.lastDate ?? (await this.today()).date;
    await this.parts.store.quietly((em) => em.upsert(BackupSettingEntity, { id: SETTING, ...settings, lastDate }));
  }

  /** Looks from now on whether a backup is due. */
  watch(reportFault: (error: unknown) => void): void {
    const look = (): void => void this.makeDue().catch(reportFault);
    this.timer = setInterval(look, CHECK_EVERY_MS);
    this.timer.unref();
    look();
  }

  /** Makes the backup of the night where it is due, once a day; a late start makes up for it. */
  async makeDue(): Promise<BackupRow | null> {
    const settings = await this.settings();
    const { date, clock } = await this.today();
    const row = await this.parts.store.read.findOne(BackupSettingEntity, { id: SETTING });
    // Begun today, it is first due tomorrow.
    if (!this.parts.isFile) return null;
    if (!row) {
      await this.set(settings);
      return null;
    }
    if (settings.nightlyAt === null || clock < settings.nightlyAt || (row.lastDate ?? '') >= date) return null;
    await this.parts.store.quietly((em) =>
      em.upsert(BackupSettingEntity, { id: SETTING, ...settings, lastDate: date }),
    );
    try {
      const made = await this.make('nightly');
      this.problem = null;
      await this.dropOld(settings);
      return made;
    } catch (error) {
      this.problem = error instanceof Error ? error.message : String(error);
      throw error;
    }
  }

  private async dropOld({ kept }: BackupSettings): Promise<void> {
    const { folder, backups } = await this.list();
    const nightly = backups.filter(({ made }) => made === 'nightly');
    for (const { name } of nightly.slice(kept)) await rm(path.join(folder, name + ENDING), { force: true });
  }

  private async today(): Promise<{ date: string; clock: string }> {
    const first = (await this.parts.catalogue.stations()).find(({ archived }) => !archived);
    const [nowMs, zone] = [this.parts.now(), first?.timeZone ?? 'UTC'];
    return { date: localTimeOf(nowMs, zone).date, clock: formatAirTime(nowMs, zone).slice(0, 5) };
  }

  private async folderOf({ folder }: BackupSettings): Promise<string> {
    return folder === '' ? path.join(this.parts.dataDir, 'backups') : this.parts.roots.folderAt(folder);
  }

  private async mustFind(name: string): Promise<string> {
    const file = path.join(await this.folderOf(await this.settings()), name + ENDING);
    if (!existsSync(file)) throw notFound('backup', name);
    return file;
  }

  close(): void {
    if (this.timer) clearInterval(this.timer);
  }
}

function madeBy(name: string): BackupRow['made'] {
  if (name.startsWith('nightly-')) return 'nightly';
  return name.startsWith('before-') ? 'before' : 'by hand';
}
