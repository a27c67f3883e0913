import { mkdir, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { newId } from '../ids.js';
import { putInstead, unreadableRows } from './queries/unreadable-rows.js';
import { DOCUMENTS } from './documents.js';
import { UnreadableNoteEntity } from './entities/index.js';
import type { Orm } from './orm.js';

/**
 * Finds stored documents that cannot be read, so that none takes down more than itself: what was stored is kept in a
 * file of the data folder, a plain value takes its place, and a note of it is left. Returns what to tell.
 */
export async function setUnreadableAside(orm: Orm, dataDir: string, atMs: number): Promise<string[]> {
  const told: string[] = [];
  const day = new Date(atMs).toISOString().slice(0, 10);
  for (const documents of DOCUMENTS) {
    for (const row of await unreadableRows(orm.em.fork(), documents)) {
      const file = path.join('recovered', `${documents.table}-${documents.column}-${row.place}-${day}.txt`);
      await mkdir(path.join(dataDir, 'recovered'), { recursive: true });
      await writeFile(path.join(dataDir, file), row.stored, { flag: 'a' });
      const text = `${documents.told(row.name ?? 'without a name')} What was stored is kept in ${file}.`;
      await orm.em.fork().transactional(async (em) => {
        await putInstead(em, documents, row.place, atMs);
        await em.insert(UnreadableNoteEntity, { id: newId(), text });
      });
      told.push(text);
    }
  }
  return told;
}
