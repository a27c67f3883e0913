import { existsSync } from 'node:fs';
import { mkdir, open, readdir, rename, rm } from 'node:fs/promises';
import path from 'node:path';

/** Marks a file that is still being written. */
const PART = '.fuller-part';

/** Files of a hand-over on their way to a folder. */
export interface Parts {
  readonly id: string;
  readonly folder: string;
  readonly files: readonly string[];
}

/** Writes files whole beside their places. */
export async function writeParts(
  folder: string,
  id: string,
  files: readonly { name: string; text: string }[],
): Promise<void> {
  await mkdir(folder, { recursive: true });
  for (const { name, text } of files) await writeWhole(path.join(folder, partOf(name, id)), text);
}

async function writeWhole(file: string, text: string): Promise<void> {
  const handle = await open(file, 'w');
  try {
    await handle.writeFile(text, 'utf8');
    await handle.sync();
  } finally {
    await handle.close();
  }
}

function partOf(name: string, id: string): string {
  return `${name}${PART}-${id}`;
}

/** Puts whole files in their places; may be begun again where it was stopped. */
export async function placeFiles({ id, folder, files }: Parts): Promise<void> {
  for (const name of files) {
    const part = path.join(folder, partOf(name, id));
    try {
      await rename(part, path.join(folder, name));
    } catch (error) {
      // Already in its place when it was begun before.
      if ((error as NodeJS.ErrnoException).code !== 'ENOENT' || !existsSync(path.join(folder, name))) throw error;
    }
  }
}

/** Deletes what has not come to its place. */
export async function dropParts({ id, folder, files }: Parts): Promise<void> {
  for (const name of files) await rm(path.join(folder, partOf(name, id)), { force: true });
}

/** Deletes what is left half-written below a folder and nothing is known of. */
export async function sweep(root: string): Promise<void> {
  const entries = await readdir(root, { recursive: true, withFileTypes: true }).catch(() => []);
  for (const entry of entries)
    if (entry.isFile() && entry.name.includes(PART)) await rm(path.join(entry.parentPath, entry.name), { force: true });
}
