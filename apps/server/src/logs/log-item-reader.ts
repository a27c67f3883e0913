import type { LogItem } from '@fuller/contracts';
import { logItems } from '../db/queries/station-data.js';
import type { Revisions } from '../store/revisions.js';
import type { Store } from '../store/store.js';

/** Reads what a log shows of items, each once as long as the library stays as it is. */
export class LogItemReader {
  private revision = 0;
  private known = new Map<string, LogItem>();

  constructor(
    private readonly store: Store,
    private readonly revisions: Revisions,
  ) {}

  /** Those of some items that exist. */
  async withIds(ids: Iterable<string>): Promise<LogItem[]> {
    if (this.revision !== this.revisions.ground) {
      this.revision = this.revisions.ground;
      this.known = new Map();
    }
    // What is read while something changes goes into the map it was read for.
    const known = this.known;
    const wanted = [...new Set(ids)];
    const unknown = wanted.filter((id) => !known.has(id));
    if (unknown.length > 0) for (const item of await logItems(this.store.read, unknown)) known.set(item.id, item);
    return wanted.flatMap((id) => known.get(id) ?? []);
  }
}
