import { renameSync, rmSync } from 'node:fs';
import { copyInto, factsOf, type FileFacts } from '../db/dialect/sqlite/backup-file.js';
import { unknownMigration } from '../db/newer.js';
import { FullerError } from '../errors.js';

/** What a file holds, and why it could not be restored here; nothing of it is changed. */
export function factsOfBackup(file: string): FileFacts {
  const { faults, ...facts } = factsOf(file);
  const unknown = unknownMigration(facts.migrations);
  const newer = unknown === null ? [] : [`It was written by a newer Fuller (it has been through “${unknown}”).`];
  return { ...facts, faults: [...faults, ...newer] };
}

/**
 * Writes a database into a file that is whole or not there, and tells what it holds. Throws STORAGE in words where it could
 * not be written, or is not sound.
 */
export function backupOf(database: string, file: string): FileFacts {
  const part = `${file}.part`;
  rmSync(part, { force: true });
  try {
    copyInto(database, part);
    const facts = factsOf(part);
    if (facts.faults.length > 0) throw new FullerError('STORAGE', `The copy is not sound: ${facts.faults[0]}`);
    renameSync(part, file);
    return facts;
  } catch (error) {
    rmSync(part, { force: true });
    if (error instanceof FullerError) throw error;
    const why = error instanceof Error ? error.message.split('\n')[0] : String(error);
    throw new FullerError('STORAGE', `No backup could be written to ${file}: ${why}.`);
  }
}
