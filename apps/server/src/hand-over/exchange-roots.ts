import { realpath } from 'node:fs/promises';
import path from 'node:path';
import { FullerError } from '../errors.js';
import { isInside } from '../library/audio-roots.js';

/** The folders through which files are exchanged with other programs: one of the data folder's own, and those the configuration names. */
export class ExchangeRoots {
  private readonly roots: readonly string[];

  constructor(
    /** Against which relative names are read. */
    readonly own: string,
    more: readonly string[] = [],
  ) {
    this.roots = [own, ...more].map((root) => path.resolve(root));
  }

  /** The path of a folder below a root, there already or not. Throws INVALID in words for any other. */
  async folderAt(folder: string): Promise<string> {
    const absolute = path.resolve(this.own, folder);
    const real = folder.includes('\0') ? '' : await realOf(absolute);
    const realRoots = await Promise.all(this.roots.map(realOf));
    const isBelow =
      this.roots.some((root) => isInside(root, absolute)) && realRoots.some((root) => isInside(root, real));
    if (real === '' || !isBelow)
      throw new FullerError(
        'INVALID',
        `“${folder}” is outside the folders Fuller exchanges files through: ${this.roots.join(', ')}. Others are named when it is started, with --exchange-root.`,
        'folder',
      );
    return absolute;
  }
}

/** A path without links; of what is not there yet, below what is. */
async function realOf(file: string): Promise<string> {
  try {
    return await realpath(file);
  } catch {
    const parent = path.dirname(file);
    return parent === file ? file : path.join(await realOf(parent), path.basename(file));
  }
}
