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

/** What was dropped, once its files are known: audio with its folders, or one table. The event’s list is read at once, since it is emptied when the event has been handled. */
export function droppedBy({ dataTransfer }: DragEvent): () => Promise<readonly Dropped[] | File> {
  const entries = [...(dataTransfer?.items ?? [])].map((item) => item.webkitGetAsEntry());
  const file = dataTransfer?.files[0];
  return async () => {
    const found = (await Promise.all(entries.filter((entry) => entry !== null).map((entry) => filesOf(entry)))).flat();
    const audio = found.filter(({ path }) => AUDIO.test(path));
    if (audio.length > 0) return audio;
    if (file && found.length <= 1) return file;
    throw new Error('There is no audio among what was dropped. Drop one table, or audio files and folders.');
  };
}

/** Files that were chosen, with their paths below the folder that was. */
export function chosenFiles(files: FileList | null): Dropped[] {
  return [...(files ?? [])].map((file) => ({ path: file.webkitRelativePath || file.name, file }));
}
