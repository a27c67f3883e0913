import { lastOf } from '@fuller/core';
import { existsSync } from 'node:fs';
import { mkdir, opendir, rename } from 'node:fs/promises';
import path from 'node:path';
import { FullerError } from '../errors.js';

/** How names of audio files end. */
export const AUDIO_ENDINGS = [
  '.wav',
  '.mp3',
  '.flac',
  '.ogg',
  '.oga',
  '.opus',
  '.m4a',
  '.mp4',
  '.aac',
  '.aif',
  '.aiff',
];

export function isAudioFile(name: string): boolean {
  return AUDIO_ENDINGS.includes(path.extname(name).toLowerCase());
}

/** So many files and folders are looked at below a folder, and so deep. */
const MOST_ENTRIES = 300_000;
const MOST_DEPTH = 32;

/**
 * The audio files below a folder, subfolders included, in the order of their names; links are not followed. Throws
 * INVALID where the folder holds more than is sensible to look through.
 */
export async function audioFiles(folder: string): Promise<string[]> {
  const found: string[] = [];
  const waiting = [{ folder, depth: 0 }];
  let entries = 0;
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const folderEntries = await opendir(next.folder).catch(() => null);
    if (!folderEntries) continue;
    for await (const entry of folderEntries) {
      if (++entries > MOST_ENTRIES)
        throw new FullerError(
          'INVALID',
          `“${folder}” holds more than ${MOST_ENTRIES.toLocaleString('en-GB')} files and folders; choose a folder below it.`,
          'folder',
        );
      const place = path.join(next.folder, entry.name);
      if (entry.isDirectory() && next.depth < MOST_DEPTH) waiting.push({ folder: place, depth: next.depth + 1 });
      else if (entry.isFile() && isAudioFile(entry.name)) found.push(place);
    }
  }
  return found.sort();
}

const MOST_FOLDERS = 12;

/** A path below a folder, from what a browser says; refuses one that leads out of it or names no audio. */
export function safeRelative(said: string): string {
  const parts = said.split(/[\\/]+/).filter((part) => part !== '' && part !== '.');

  const odd = parts.some((part) => part === '..' || /[\u0000-\u001f:*?"<>|]/.test(part) || part.length > 200);
  if (odd || parts.length === 0 || parts.length > MOST_FOLDERS)
    throw new FullerError('INVALID', `“${said.slice(0, 80)}” is not a file name that can be kept.`, 'path');
  if (!isAudioFile(lastOf(parts)))
    throw new FullerError('INVALID', `“${lastOf(parts)}” is not an audio file Fuller knows.`, 'path');
  return parts.join('/');
}

/** A place below a folder for a file of that relative name where no other file is. */
export function freePlace(folder: string, relative: string): string {
  const { dir, name, ext } = path.posix.parse(relative);
  for (let n = 1; ; n++) {
    const candidate = path.posix.join(dir, n === 1 ? `${name}${ext}` : `${name} (${n})${ext}`);
    if (!existsSync(path.join(folder, candidate))) return candidate;
  }
}

export async function moveFile(from: string, to: string): Promise<void> {
  await mkdir(path.dirname(to), { recursive: true });
  await rename(from, to);
}
