import { randomBytes } from 'node:crypto';
import { mkdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import path from 'node:path';
import Database from 'libsql';
import { FullerError } from '../errors.js';

/** The server that owns a data folder, as other programs find it. */
export interface OwnerNote {
  readonly pid: number;
  /** Null while it is starting, and where it is no server. */
  readonly url: string | null;
  /** Shows that who asks can read the data folder, as its owner can. */
  readonly token: string;
}

export interface Ownership {
  readonly token: string;
  /** Lets other programs know where the owner answers. */
  tell(url: string): Promise<void>;
  release(): Promise<void>;
}

/** Of a database that several servers share: there is nothing to take, and nobody to tell. */
export function sharedOwnership(): Ownership {
  return { token: randomBytes(24).toString('base64url'), tell: async () => {}, release: async () => {} };
}

const LOCK = 'owner.lock';
const NOTE = 'owner.json';

/**
 * Takes a data folder for this process alone. The lock is one of the operating system on a file of SQLite's, so it
 * goes with the process, however that ends. Throws IN_USE where another process has the folder.
 */
export async function own(dataDir: string): Promise<Ownership> {
  await mkdir(dataDir, { recursive: true });
  const lock = new Database(path.join(dataDir, LOCK));
  try {
    lock.exec('pragma busy_timeout = 0; pragma journal_mode = delete;');
    lock.exec('begin exclusive');
  } catch {
    lock.close();
    throw await inUse(dataDir);
  }
  const token = randomBytes(24).toString('base64url');
  const note = (url: string | null): Promise<void> => writeNote(dataDir, { pid: process.pid, url, token });
  await note(null);
  return {
    token,
    tell: note,
    async release() {
      await rm(path.join(dataDir, NOTE), { force: true });
      lock.close();
    },
  };
}

/** What the owner of a folder has said of itself; null where nothing can be read. */
export async function ownerOf(dataDir: string): Promise<OwnerNote | null> {
  try {
    return JSON.parse(await readFile(path.join(dataDir, NOTE), 'utf8')) as OwnerNote;
  } catch {
    return null;
  }
}

async function writeNote(dataDir: string, note: OwnerNote): Promise<void> {
  const part = path.join(dataDir, `${NOTE}.${process.pid}.part`);
  await writeFile(part, JSON.stringify(note), { mode: 0o600 });
  await rename(part, path.join(dataDir, NOTE));
}

async function inUse(dataDir: string): Promise<FullerError> {
  const owner = await ownerOf(dataDir);
  const who = owner ? `Fuller${owner.url ? ` at ${owner.url}` : ''} (process ${owner.pid})` : 'another Fuller';
  return new FullerError(
    'IN_USE',
    `The data folder ${path.resolve(dataDir)} is in use by ${who}; one at a time can have it.`,
  );
}
