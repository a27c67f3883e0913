import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, open, readdir, readFile, rename, rm } from 'node:fs/promises';
import path from 'node:path';

/** Marks a file that is still being written. */
const PART = '.fuller-part';
const MANIFEST = '.manifest.json';

/** A file to be handed over. */
export interface OutputFile {
  readonly name: string;
  readonly bytes: Uint8Array;
  readonly entries: number;
}

/** Files of a hand-over on their way to a folder. */
export interface Parts {
  readonly id: string;
  readonly folder: string;
  readonly files: readonly string[];
  /** Put in its place last, so that it never names files that are not there. */
  readonly manifest: string | null;
}

/** What a manifest says besides its files. */
export interface ManifestAbout {
  readonly station: string;
  readonly date: string;
  readonly output: string;
  readonly logRevision: number;
  /** ISO 8601, UTC. */
  readonly writtenAt: string;
}

/** The list of files with their sizes and checksums, beside them under the name of the first. */
export function manifestOf(files: readonly OutputFile[], about: ManifestAbout): OutputFile {
  const listed = files.map(({ name, bytes, entries }) => {
    return { name, bytes: bytes.length, entries, sha256: createHash('sha256').update(bytes).digest('hex') };
  });
  const text = `${JSON.stringify({ format: 'fuller-manifest', version: 1, ...about, files: listed }, null, 2)}\n`;
  return { name: `${files[0]?.name ?? about.date}${MANIFEST}`, bytes: Buffer.from(text), entries: 0 };
}

/** Writes files whole beside their places. */
export async function writeParts(
  folder: string,
  id: string,
  files: readonly Pick<OutputFile, 'name' | 'bytes'>[],
): Promise<void> {
  await mkdir(folder, { recursive: true });
  for (const { name, bytes } of files) await writeWhole(path.join(folder, partOf(name, id)), bytes);
}

async function writeWhole(file: string, bytes: Uint8Array): Promise<void> {
  const handle = await open(file, 'w');
  try {
    await handle.writeFile(bytes);
    await handle.sync();
  } finally {
    await handle.close();
  }
}

function partOf(name: string, id: string): string {
  return `${name}${PART}-${id}`;
}

/**
 * Puts whole files in their places, the manifest last; may be begun again where it was stopped. Manifests that name one
 * of them are deleted first: between two hand-overs there is none rather than a wrong one.
 */
export async function placeFiles({ id, folder, files, manifest }: Parts): Promise<void> {
  await dropManifests(folder, new Set(files));
  await syncFolder(folder);
  for (const name of files) await place(folder, name, id);
  await syncFolder(folder);
  if (manifest === null) return;
  await place(folder, manifest, id);
  await syncFolder(folder);
}

async function place(folder: string, name: string, id: string): Promise<void> {
  try {
    await rename(path.join(folder, partOf(name, id)), path.join(folder, name));
  } catch (error) {
    // Already in its place when it was begun before.
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT' || !existsSync(path.join(folder, name))) throw error;
  }
}

async function dropManifests(folder: string, names: ReadonlySet<string>): Promise<void> {
  for (const file of await readdir(folder)) {
    if (!file.endsWith(MANIFEST)) continue;
    const listed = filesListed(await readFile(path.join(folder, file), 'utf8').catch(() => ''));
    if (listed.some((name) => names.has(name))) await rm(path.join(folder, file), { force: true });
  }
}

function filesListed(manifest: string): string[] {
  try {
    const { files } = JSON.parse(manifest) as { files?: { name?: unknown }[] };
    return (files ?? []).map(({ name }) => String(name));
  } catch {
    return [];
  }
}

/** Makes new names last; a folder on a machine that cannot be synchronised is left to it. */
async function syncFolder(folder: string): Promise<void> {
  const handle = await open(folder, 'r').catch(() => null);
  await handle?.sync().catch(() => {});
  await handle?.close();
}

/** Deletes what has not come to its place. */
export async function dropParts({ id, folder, files, manifest }: Parts): Promise<void> {
  for (const name of manifest === null ? files : [...files, manifest])
    await rm(path.join(folder, partOf(name, id)), { force: true });
}

/** Deletes what is left half-written below a folder and nothing is known of. */
export async function sweep(root: string): Promise<void> {
  const entries = await readdir(root, { recursive: true, withFileTypes: true }).catch(() => []);
  for (const entry of entries)
    if (entry.isFile() && entry.name.includes(PART)) await rm(path.join(entry.parentPath, entry.name), { force: true });
}
