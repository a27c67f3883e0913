import { describe, expect, it } from '@jest/globals';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { Backups } from '@fuller/contracts';
import { Api } from '../shared/api/api';
import { Notices } from '../shared/notices';
import { BackupsStore } from './backups.store';

const LIST: Backups = {
  madeHere: true,
  folder: '/data/backups',
  settings: { nightlyAt: '04:00', kept: 7, folder: '' },
  backups: [{ name: 'hand-1', atMs: 0, bytes: 1_000_000, made: 'by hand' }],
  problem: null,
};

function setUp(answers: Record<string, (...asked: never[]) => Promise<unknown>>) {
  const told: string[] = [];
  TestBed.configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      BackupsStore,
      { provide: Api, useValue: { backups: async () => LIST, ...answers } },
      {
        provide: Notices,
        useValue: { say: (text: string) => told.push(text), fail: (text: string) => told.push(`! ${text}`) },
      },
    ],
  });
  return { store: TestBed.inject(BackupsStore), told };
}

describe('backups', () => {
  it('are made one at a time, and listed then', async () => {
    let [made, release] = [0, () => {}];
    const { store, told } = setUp({
      makeBackup: async () => {
        made++;
        await new Promise<void>((resolve) => (release = resolve));
        return { name: 'hand-2' };
      },
    });
    const first = store.make();
    expect([await store.make(), store.doing()]).toEqual([false, 'Backing up']);
    release();
    expect([await first, made, store.doing(), store.list()?.backups.length]).toEqual([true, 1, null, 1]);
    expect(told).toEqual(['Backed up as hand-2.']);
  });

  it('tell why they could not be made or restored, and go on', async () => {
    const full = async (): Promise<never> => {
      throw new Error('The disk is full; nothing of this was saved.');
    };
    const { store, told } = setUp({ makeBackup: full, restoreBackup: async () => ({ before: 'b', restarts: false }) });
    expect([await store.make(), store.doing()]).toEqual([false, null]);
    expect(await store.restore('hand-1')).toBe(true);
    expect(told).toEqual([
      '! The disk is full; nothing of this was saved.',
      'It is restored when Fuller starts the next time.',
    ]);
  });

  it('show what the one chosen last holds, however late the answer for another comes', async () => {
    const waiting = new Map<string, (facts: unknown) => void>();
    const { store } = setUp({
      checkBackup: (({ id }: { id: string }) => new Promise((resolve) => waiting.set(id, resolve))) as never,
    });
    const [one, two] = [store.choose('one'), store.choose('two')];
    waiting.get('two')!({ name: 'two' });
    await two;
    waiting.get('one')!({ name: 'one' });
    await one;
    expect(store.facts()).toEqual({ name: 'two' });
  });

  it('keep what is not changed of when they are made', async () => {
    const sent: unknown[] = [];
    const { store } = setUp({ setBackups: (async (_at: object, body: unknown) => sent.push(body)) as never });
    await store.load();
    await store.set({ nightlyAt: null });
    expect(sent).toEqual([{ nightlyAt: null, kept: 7, folder: '' }]);
  });
});
