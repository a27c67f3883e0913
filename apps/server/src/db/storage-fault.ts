const FAULTS: readonly (readonly [RegExp, string])[] = [
  [
    /SQLITE_FULL|disk is full|ENOSPC|No space left on device/i,
    'The disk is full; nothing of this was saved. Free space on it and try again.',
  ],
  [
    /SQLITE_READONLY|readonly database|EROFS|EACCES|EPERM/i,
    'Fuller may not write to its data folder; nothing of this was saved. Let it write there and try again.',
  ],
  [
    /SQLITE_BUSY|database is locked/i,
    'Another program holds the database; nothing of this was saved. Close it and try again.',
  ],
  [
    /Connection terminated|terminating connection|the database system is/i,
    'The database cannot be reached; nothing of this was saved. Try again in a moment.',
  ],
  [/SQLITE_IOERR|disk I\/O error|EIO/i, 'The disk could not be read or written; nothing of this was saved.'],
];

/** What is wrong with the disk or the folder, in words; null where an error speaks of neither. */
export function storageFault(error: unknown): string | null {
  const { message = '', code = '' } = (error ?? {}) as { message?: string; code?: string };
  const said = `${code} ${message.slice(0, 2000)}`;
  return FAULTS.find(([pattern]) => pattern.test(said))?.[1] ?? null;
}
