import type { Announcement, ServerEvent } from '@fuller/contracts';
import type { Revisions } from './revisions.js';

type Listener = (event: ServerEvent) => void;

/** Hands every event to whoever listens at the moment, with the revision of the data after it. */
export class EventHub {
  private readonly listeners = new Set<Listener>();

  constructor(private readonly revisions: Revisions) {}

  /** How many listen. */
  get listening(): number {
    return this.listeners.size;
  }

  readonly announce = (event: Announcement): void => {
    // The same object for all, so that it is made text once.
    const told = { ...event, dataRevision: this.revisions.total };
    for (const listener of this.listeners) listener(told);
  };

  /** Begins with where the data stands. Returns what ends the listening. */
  listen(listener: Listener): () => void {
    this.listeners.add(listener);
    listener({ type: 'ready', dataRevision: this.revisions.total });
    return () => this.listeners.delete(listener);
  }
}
