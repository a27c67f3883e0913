/** Names of files that hold audio. */
export const AUDIO = /\.(?:wav|mp3|flac|ogg|oga|opus|m4a|mp4|aac|aif|aiff)$/i;

/** A file and its path below what was dropped. */
export interface Dropped {
  readonly path: string;
  readonly file: File;
}

/** The files below a dropped file or folder. */
export async function filesOf(entry: FileSystemEntry): Promise<Dropped[]> {
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject));
    return [{ path: entry.fullPath.replace(/^\//, ''), file }];
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const found: Dropped[] = [];
  for (;;) {
    // A folder is read in parts; an empty part is the end.
    const part = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (part.length === 0) return found;
    for (const one of part) found.push(...(await filesOf(one)));
  }
}
