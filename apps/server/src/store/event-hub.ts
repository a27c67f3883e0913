import type { ServerEvent } from '@fuller/contracts';

type Listener = (event: ServerEvent) => void;

/** Hands every event to whoever listens at the moment. */
export class EventHub {
  private readonly listeners = new Set<Listener>();

  readonly announce = (event: ServerEvent): void => {
    for (const listener of this.listeners) listener(event);
  };

  /** Returns what ends the listening. */
  listen(listener: Listener): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }
}
