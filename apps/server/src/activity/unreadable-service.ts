import type { Actor } from '../actor.js';
import type { UnreadableNote } from '@fuller/contracts';
import { UnreadableNoteEntity } from '../db/entities/index.js';
import type { Store, Written } from '../store/store.js';

/** Notes of stored documents that could not be read at the start. */
export class UnreadableService {
  constructor(private readonly store: Store) {}

  async notes(): Promise<UnreadableNote[]> {
    const rows = await this.store.read.find(UnreadableNoteEntity, {});
    return rows.map(({ id, text }) => ({ id, text }));
  }

  /** A person has read a note. */
  dismiss({ clientId }: Actor, id: string): Promise<Written<void>> {
    return this.store.write({ clientId, stationId: null, label: 'Dismiss a note' }, (changes) =>
      changes.remove('unreadableNote', id),
    );
  }
}
