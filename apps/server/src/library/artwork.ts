import { parseFile } from 'music-metadata';

export interface Artwork {
  readonly type: string;
  readonly data: Uint8Array;
}

/** Only what every browser draws and nothing that can hold a script. */
const DRAWN = /^image\/(?:jpeg|png|gif|webp)$/;
const LARGEST = 8 * 1024 * 1024;

/** The picture in an audio file's tags, or null when it has none that can be shown. */
export async function artworkOf(file: string): Promise<Artwork | null> {
  try {
    const { common } = await parseFile(file, { duration: false });
    const picture = common.picture?.find(({ format, data }) => DRAWN.test(format) && data.length <= LARGEST);
    return picture ? { type: picture.format, data: picture.data } : null;
  } catch {
    // A file that cannot be read has no picture either; playing it says what is wrong.
    return null;
  }
}
