import { patchState, signalStoreFeature, withMethods, withState } from '@ngrx/signals';
import { Newest } from './api/newest';

/** What a place has read from the server. */
export interface Reading<T> {
  /** Null until it is there; it stays while it is read again. */
  readonly read: T | null;
  /** Why it cannot be read; null where it can. */
  readonly failed: string | null;
}

export function messageOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}

/** A part of a store: what a place reads from the server. Of several questions only the latest is heard. */
export function withReading<T>() {
  return signalStoreFeature(
    withState<Reading<T>>({ read: null, failed: null }),
    withMethods((store) => {
      const newest = new Newest();
      return {
        /** The answer, or null where it failed or another question has been asked since. */
        async ask(question: Promise<T>): Promise<T | null> {
          const isNewest = newest.begin();
          try {
            const read = await question;
            if (!isNewest()) return null;
            patchState(store, (state) => ({ ...state, read, failed: null }));
            return read;
          } catch (error) {
            if (isNewest()) patchState(store, (state) => ({ ...state, failed: messageOf(error) }));
            return null;
          }
        },
      };
    }),
  );
}
