import { existsSync, renameSync, writeFileSync } from 'node:fs';
import { readdir, readFile, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import type { ImportSession } from '@fuller/contracts';
import { notFound } from '../errors.js';
import type { OpenImport } from './import-rows.js';

/** What an import is kept as beside its upload. */
const NOTE = '.import.json';
/** An import nobody has touched for so long is not taken up after a restart. */
const FORGOTTEN_MS = 3 * 86_400_000;

/** The imports that have been begun, each kept in a file of the uploads too. */
export class ImportSessions {
  private readonly open = new Map<string, OpenImport>();

  constructor(
    private readonly folder: string,
    private readonly now: () => number,
  ) {}

  /** Takes up the imports that were open when the server stopped; what belongs to none of them is deleted. */
  async recover(): Promise<void> {
    const names = await readdir(this.folder);
    const kept = new Set<string>();
    for (const name of names.filter((one) => one.endsWith(NOTE))) {
      const session = await readFile(path.join(this.folder, name), 'utf8')
        .then((text) => JSON.parse(text) as OpenImport)
        .catch(() => null);
      const age = this.now() - (await stat(path.join(this.folder, name))).mtimeMs;
      if (!session || !existsSync(session.path) || age > FORGOTTEN_MS) continue;
      this.open.set(session.view.id, session);
      kept.add(name).add(path.basename(session.path));
    }
    for (const name of names)
      if (!kept.has(name)) await rm(path.join(this.folder, name), { force: true, recursive: true });
  }

  keep(stationId: string, where: string, view: ImportSession, only: readonly string[] | null = null): ImportSession {
    this.set({ view, stationId, path: where, only });
    return view;
  }

  mustFind(id: string): OpenImport {
    const session = this.open.get(id);
    if (!session) throw notFound('import', id);
    return session;
  }

  change(id: string, change: Partial<ImportSession>): ImportSession {
    const session = this.mustFind(id);
    const view = { ...session.view, ...change };
    this.set({ ...session, view });
    return view;
  }

  /** Keeps an import beside its upload, so that a restart does not lose it. */
  private set(session: OpenImport): void {
    this.open.set(session.view.id, session);
    const file = path.join(this.folder, session.view.id + NOTE);
    writeFileSync(`${file}.part`, JSON.stringify(session));
    renameSync(`${file}.part`, file);
  }

  /** Forgets an import; what it was to read stays where it is. */
  async forget(id: string): Promise<void> {
    this.open.delete(id);
    await rm(path.join(this.folder, id + NOTE), { force: true });
  }
}
