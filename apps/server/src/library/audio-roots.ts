import { realpathSync, statSync } from 'node:fs';
import { realpath, stat } from 'node:fs/promises';
import path from 'node:path';
import { FullerError } from '../errors.js';

/** The folders audio may be read from: the data folder's own, and those the configuration names. */
export class AudioRoots {
  private readonly roots: readonly string[];

  constructor(
    /** Against which relative names are read. */
    readonly own: string,
    more: readonly string[] = [],
  ) {
    this.roots = [own, ...more].map((root) => path.resolve(root));
  }

  /** The path of an audio file where it is a regular file below a root; null otherwise. */
  fileAt(file: string): string | null {
    if (file.includes('\0')) return null;
    const absolute = path.resolve(this.own, file);
    try {
      return this.holds(absolute, realpathSync) && statSync(absolute).isFile() ? absolute : null;
    } catch {
      return null;
    }
  }

  /** Files below the audio folder are known by their place in it, so that the data folder can be moved. */
  storedName(absolute: string): string {
    return isInside(this.own, absolute) ? path.relative(this.own, absolute).split(path.sep).join('/') : absolute;
  }

  /** The path of a folder below a root, or a root itself. Throws INVALID in words for any other. */
  async folderAt(folder: string): Promise<string> {
    const absolute = path.resolve(this.own, folder);
    if (folder.includes('\0') || !this.isBelow(absolute))
      throw new FullerError(
        'INVALID',
        `“${folder}” is outside the folders Fuller reads audio from: ${this.roots.join(', ')}. Others are named when it is started, with --audio-root.`,
        'folder',
      );
    const found = await stat(absolute).catch(() => null);
    const real = await realpath(absolute).catch(() => absolute);
    if (!found?.isDirectory() || !this.isReallyBelow(real))
      throw new FullerError('INVALID', `There is no folder “${folder}” on the server.`, 'folder');
    return absolute;
  }

  private holds(absolute: string, real: (file: string) => string): boolean {
    return this.isBelow(absolute) && this.isReallyBelow(real(absolute));
  }

  private isBelow(absolute: string): boolean {
    return this.roots.some((root) => isInside(root, absolute));
  }

  /** A link may lead out of a root, and a root may itself be one. */
  private isReallyBelow(real: string): boolean {
    return this.roots.some((root) => isInside(realOr(root), real));
  }
}

/** Whether a path is a folder or below it. */
export function isInside(root: string, file: string): boolean {
  const relative = path.relative(root, file);
  return relative === '' || (!relative.startsWith('..') && !path.isAbsolute(relative));
}

function realOr(folder: string): string {
  try {
    return realpathSync(folder);
  } catch {
    return folder;
  }
}
