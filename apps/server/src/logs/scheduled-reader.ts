import type { StationData } from '@fuller/core';
import { itemsWithIds, scheduledItems, scheduledRevisions } from '../db/queries/station-data.js';
import { KeptLatest } from '../store/kept.js';
import type { Revisions } from '../store/revisions.js';
import type { Store } from '../store/store.js';

type Items = StationData['items'];

/** Items as generation takes them, by id, and the revision of each row they were made of. */
type Known = Map<string, { readonly revision: number; readonly item: Items[number] }>;

/** So many changed items are read by their ids; for more, all are read. */
const MOST_CHANGED = 500;

/**
 * Reads the items of a station as generation takes them. Where nothing but items has changed, only what changed is read
 * again; the others stay the very same objects, so that what was worked out of them stays too.
 */
export class ScheduledReader {
  private readonly known = new KeptLatest<Known>(8);

  constructor(
    private readonly store: Store,
    private readonly revisions: Revisions,
  ) {}

  /** Of tag families only those named, or all. */
  async items(stationId: string, families: ReadonlySet<string> | null): Promise<Items> {
    const em = this.store.read;
    const named = families === null ? 'every tag' : [...families].sort().join('\u001f');
    const known = await this.known.get(`${stationId} ${named}`, String(this.revisions.beyondItems), () =>
      Promise.resolve(new Map()),
    );
    const rows = await scheduledRevisions(em, stationId);
    const changed = rows.filter(({ id, revision }) => known.get(id)?.revision !== revision);
    const read =
      changed.length > MOST_CHANGED
        ? await scheduledItems(em, stationId, families)
        : await itemsWithIds(
            em,
            stationId,
            changed.map(({ id }) => id),
            families,
          );
    const byId = new Map(read.map((item) => [item.id, item]));
    for (const { id, revision } of changed) {
      const item = byId.get(id);
      if (item) known.set(id, { revision, item });
    }
    return rows.flatMap(({ id }) => known.get(id)?.item ?? []);
  }
}
