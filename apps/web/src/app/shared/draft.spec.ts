import { signal } from '@angular/core';
import { describe, expect, it } from '@jest/globals';
import type { Changes } from '../state/changes';
import { Draft } from './draft';

interface Thing {
  readonly id: string;
  readonly revision: number;
  readonly name: string;
}

/** A draft of a thing, with a server that answers when it is told to. */
function draftOf(thing: Thing) {
  const stored = signal<Thing | null>(thing);
  const sent: { revision: number; name: string }[] = [];
  const waiting: ((made: boolean) => void)[] = [];
  const changes = {
    run: (sending: Promise<unknown>) => sending.then((made) => (made ? { activityId: 'a', label: '' } : null)),
  } as unknown as Changes;
  const draft = new Draft<Thing>(stored, changes);
  const rename = (name: string) =>
    draft.save({ name }, (revision) => {
      sent.push({ revision, name });
      return new Promise<never>((resolve) => waiting.push((made) => resolve(made as never)));
    });
  return { stored, draft, sent, rename, answer: (made: boolean) => waiting.shift()?.(made) };
}

describe('a draft', () => {
  it('shows a change at once and sends each with the revision the one before it leaves', () => {
    const { draft, sent, rename } = draftOf({ id: 'a', revision: 4, name: 'Night' });
    void rename('Late night');
    void rename('Small hours');
    expect(draft.value()).toEqual({ id: 'a', revision: 6, name: 'Small hours' });
    expect(sent).toEqual([
      { revision: 4, name: 'Late night' },
      { revision: 5, name: 'Small hours' },
    ]);
  });

  it('sends nothing where nothing changes', async () => {
    const { sent, rename } = draftOf({ id: 'a', revision: 4, name: 'Night' });
    await rename('Night');
    expect(sent).toEqual([]);
  });

  it('keeps what was changed here until the server knows of it', () => {
    const { stored, draft, rename } = draftOf({ id: 'a', revision: 4, name: 'Night' });
    void rename('Late night');
    stored.set({ id: 'a', revision: 4, name: 'Night' });
    expect(draft.value()?.name).toBe('Late night');
    stored.set({ id: 'a', revision: 5, name: 'Late night' });
    stored.set({ id: 'a', revision: 6, name: 'Theirs' });
    expect(draft.value()?.name).toBe('Theirs');
  });

  it('goes back to what the server has where a change is refused', async () => {
    const { draft, rename, answer } = draftOf({ id: 'a', revision: 4, name: 'Night' });
    const saved = rename('Taken name');
    answer(false);
    await saved;
    expect(draft.value()).toEqual({ id: 'a', revision: 4, name: 'Night' });
  });

  it('turns to another thing, whatever its revision, and to none', () => {
    const { stored, draft, rename } = draftOf({ id: 'a', revision: 4, name: 'Night' });
    void rename('Late night');
    stored.set({ id: 'b', revision: 1, name: 'Day' });
    expect(draft.value()?.name).toBe('Day');
    stored.set(null);
    expect(draft.value()).toBeNull();
  });
});
