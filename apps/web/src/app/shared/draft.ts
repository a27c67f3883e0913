import { linkedSignal, type Signal } from '@angular/core';
import type { Change } from '@fuller/contracts';
import type { Changes } from '../state/changes';

interface Revised {
  readonly id?: string;
  readonly revision: number;
}

/**
 * Something with a revision while it is being changed: shown as changed at once, and saved. What the server tells takes
 * its place, unless it was asked for before our last change and so knows less than we do.
 */
export class Draft<T extends Revised> {
  private readonly held = linkedSignal<T | null, T | null>({
    source: () => this.stored(),
    computation: (stored, before) => newerOf(stored, before?.value ?? null),
  });
  readonly value: Signal<T | null> = this.held;

  constructor(
    private readonly stored: Signal<T | null>,
    private readonly changes: Changes,
  ) {}

  /** Changes it here and sends that with the revision it was made from; a change that is refused is taken back. */
  async save(patch: Partial<T>, send: (revision: number, after: T) => Promise<Change>): Promise<void> {
    const before = this.held();
    if (!before) return;
    const after = { ...before, ...patch };
    if (JSON.stringify(after) === JSON.stringify(before)) return;
    // The server counts a revision for every change, so the next one can be sent without asking.
    this.held.set({ ...after, revision: before.revision + 1 });
    if (!(await this.changes.run(send(before.revision, after)))) this.held.set(this.stored());
  }
}

function newerOf<T extends Revised>(stored: T | null, held: T | null): T | null {
  return stored && held && stored.id === held.id && stored.revision < held.revision ? held : stored;
}
