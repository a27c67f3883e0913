import { AsyncLocalStorage } from 'node:async_hooks';

/** Whose request is being answered. */
export interface Asking {
  readonly personId: string | null;
  readonly personName: string | null;
}

const NOBODY: Asking = { personId: null, personName: null };
const asking = new AsyncLocalStorage<Asking>();

/** Runs work for somebody: whatever it writes, however late, is written down under their name. */
export function askedBy<T>(who: Asking, work: () => T): T {
  return asking.run({ personId: who.personId, personName: who.personName }, work);
}

export function whoAsks(): Asking {
  return asking.getStore() ?? NOBODY;
}
