import { inject } from '@angular/core';
import type { BackupFacts, Backups, BackupSettings, CareFinding } from '@fuller/contracts';
import { patchState, signalStore, withMethods, withState } from '@ngrx/signals';
import { Api } from '../shared/api/api';
import { Notices } from '../shared/notices';

interface BackupsState {
  readonly list: Backups | null;
  /** What the chosen backup holds; null while it is read. */
  readonly facts: BackupFacts | null;
  readonly chosen: string | null;
  readonly findings: readonly CareFinding[] | null;
  readonly problem: string | null;
  /** What goes on, as it is told; null where nothing does. */
  readonly doing: string | null;
}

/** Backups of everything, and whether the data adds up. */
export const BackupsStore = signalStore(
  withState<BackupsState>({ list: null, facts: null, chosen: null, findings: null, problem: null, doing: null }),
  withMethods((store, api = inject(Api), notices = inject(Notices)) => {
    const load = async (): Promise<void> => {
      try {
        patchState(store, { list: await api.backups(), problem: null });
      } catch (error) {
        patchState(store, { problem: error instanceof Error ? error.message : String(error) });
      }
    };
    /** Does something and tells why it could not be done; whether it was. */
    const run = async (doing: string, work: () => Promise<void>): Promise<boolean> => {
      if (store.doing() !== null) return false;
      patchState(store, { doing });
      try {
        await work();
        return true;
      } catch (error) {
        notices.fail(error instanceof Error ? error.message : String(error));
        return false;
      } finally {
        patchState(store, { doing: null });
      }
    };
    return {
      load,
      make: () =>
        run('Backing up', async () => {
          const { name } = await api.makeBackup();
          notices.say(`Backed up as ${name}.`);
          await load();
        }),
      async choose(chosen: string): Promise<void> {
        patchState(store, { chosen, facts: null });
        try {
          const facts = await api.checkBackup({ id: chosen });
          if (store.chosen() === chosen) patchState(store, { facts });
        } catch (error) {
          notices.fail(error instanceof Error ? error.message : String(error));
        }
      },
      /** Puts a backup in place of the data; whether the server begins again with it. */
      restore: (name: string) =>
        run('Restoring', async () => {
          const { restarts } = await api.restoreBackup({ id: name });
          notices.say(restarts ? 'Restored; Fuller begins again.' : 'It is restored when Fuller starts the next time.');
        }),
      set: (fields: Partial<BackupSettings>) =>
        run('Saving', async () => {
          const settings = store.list()?.settings;
          if (!settings) return;
          await api.setBackups({}, { ...settings, ...fields });
          await load();
        }),
      check: () => run('Checking', async () => patchState(store, { findings: await api.checkData() })),
      mend: () => run('Mending', async () => patchState(store, { findings: await api.mendData() })),
    };
  }),
);
