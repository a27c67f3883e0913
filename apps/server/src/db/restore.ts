import { existsSync } from 'node:fs';
import { mkdir, rename, rm } from 'node:fs/promises';
import path from 'node:path';
import { settle } from './dialect/sqlite/backup-file.js';

/** A checked backup that takes the place of the data at the next start. */
export const RESTORE_FILE = 'fuller.db.restore';

/**
 * Puts a backup that was laid ready in place of the data, before anything is opened. What was there goes to the backups,
 * with what waits in its log: cut off at any point, one or the other is whole. Answers whether there was one.
 */
export async function takeRestored(dataDir: string, nowMs: number): Promise<boolean> {
  const [ready, database] = [path.join(dataDir, RESTORE_FILE), path.join(dataDir, 'fuller.db')];
  if (!existsSync(ready)) return false;
  if (existsSync(database)) {
    settle(database);
    const folder = path.join(dataDir, 'backups');
    await mkdir(folder, { recursive: true });
    await rename(database, path.join(folder, `before-restored-${nowMs}.db`));
  }
  for (const rest of ['-wal', '-shm']) await rm(database + rest, { force: true });
  await rename(ready, database);
  return true;
}
