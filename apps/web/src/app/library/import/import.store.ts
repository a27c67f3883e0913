import { computed, inject } from '@angular/core';
import type {
  FamilyRow,
  ImportOptions,
  ImportSession,
  ImportSettings,
  JobView,
  WatchedFolderView,
} from '@fuller/contracts';
import type { ImportField, TagColumn } from '@fuller/core';
import { patchState, signalStore, withComputed, withMethods, withProps, withState } from '@ngrx/signals';
import { Store } from '@ngrx/store';
import { Api } from '../../shared/api/api';
import { messageOf } from '../../shared/reading';
import { Changes } from '../../state/changes';
import { JobWatch } from '../../state/job-watch';
import { jobsFeature } from '../../state/jobs.feature';
import type { Dropped } from './dropped-files';

/** Which rows of an import are shown. */
export type ImportPart = 'added' | 'changed' | 'rejected';

interface ImportState {
  readonly stationId: string;
  readonly session: ImportSession | null;
  /** Why the last step failed; null where it did not. */
  readonly failure: string | null;
  /** Steps that run or wait for the one before them. */
  readonly steps: number;
  readonly part: ImportPart;
  readonly jobId: string | null;
  readonly families: readonly FamilyRow[];
  readonly watched: WatchedFolderView | null;
  /** Files of a drop that have been sent, of how many. */
  readonly sent: { readonly done: number; readonly of: number } | null;
}

/** An import under way: what it reads, what it would do, and what it is doing. */
export const ImportStore = signalStore(
  withState<ImportState>({
    stationId: '',
    session: null,
    failure: null,
    steps: 0,
    part: 'added',
    jobId: null,
    families: [],
    watched: null,
    sent: null,
  }),
  withProps(() => ({ _jobs: inject(Store).selectSignal(jobsFeature.selectEntities) })),
  withComputed(({ session, steps, jobId, _jobs }) => ({
    busy: computed(() => steps() > 0),
    job: computed<JobView | null>(() => _jobs()[jobId() ?? ''] ?? null),
    titleMapped: computed(() => session()?.settings?.mapping.includes('title') ?? true),
    /** How many items it would write. */
    writes: computed(() => {
      const summary = session()?.summary;
      return summary ? summary.added + summary.changed : 0;
    }),
  })),
  withMethods((store) => {
    const [api, changes, watch] = [inject(Api), inject(Changes), inject(JobWatch)];
    let last: Promise<void> = Promise.resolve();
    /** Runs a step after those before it, so that none works on a session that another is changing; its failure is shown where the step was taken. */
    const attempt = (step: () => Promise<unknown>): Promise<void> => {
      patchState(store, ({ steps }) => ({ failure: null, steps: steps + 1 }));
      last = last.then(async () => {
        try {
          await step();
        } catch (error) {
          patchState(store, { failure: messageOf(error) });
        } finally {
          patchState(store, ({ steps }) => ({ steps: steps - 1 }));
        }
      });
      return last;
    };
    /** Follows a job to its end; throws where it did not come to one that is good. */
    const finish = async (job: JobView, cancelled: string): Promise<void> => {
      patchState(store, { jobId: job.id });
      const ended = await watch.end(job);
      if (ended.state !== 'done') throw new Error(ended.message ?? cancelled);
    };
    const look = async (id: string): Promise<void> => {
      await finish(await api.dryRun({ id }), 'The dry run was cancelled.');
      const session = await api.importSession({ id });
      const part = session.summary?.added ? 'added' : session.summary?.changed ? 'changed' : 'rejected';
      patchState(store, { session, part });
    };
    const begin = async (session: ImportSession): Promise<void> => {
      patchState(store, { session });
      if (session.source !== 'table' || session.settings?.mapping.includes('title')) await look(session.id);
    };
    const send = async (files: readonly Dropped[]): Promise<ImportSession> => {
      const { id } = await api.beginDropped({ stationId: store.stationId() });
      try {
        for (const [done, { path, file }] of files.entries()) {
          patchState(store, { sent: { done, of: files.length } });
          await api.upload('sendFile', { id }, file, { path });
        }
      } catch (error) {
        await api.closeImport({ id }).catch(() => null);
        throw error;
      } finally {
        patchState(store, { sent: null });
      }
      return api.importSession({ id });
    };
    const know = async (): Promise<void> => {
      const stationId = store.stationId();
      const [families, watched] = await Promise.allSettled([
        api.families({ stationId }),
        api.watchedFolder({ stationId }),
      ]);
      if (families.status === 'fulfilled') patchState(store, { families: families.value });
      if (watched.status === 'fulfilled') patchState(store, { watched: watched.value });
    };
    const configure = (change: Partial<ImportSettings>): Promise<void> =>
      attempt(async () => {
        const session = store.session();
        if (!session?.settings) return;
        patchState(store, {
          session: await api.configureImport({ id: session.id }, { ...session.settings, ...change }),
        });
        if (store.titleMapped()) await look(session.id);
      });
    return {
      configure,
      async openStation(stationId: string): Promise<void> {
        patchState(store, { stationId });
        await know();
      },
      /** Takes up the import of an address. */
      async take(id: string | undefined): Promise<void> {
        if (!id) return patchState(store, { session: null });
        if (store.session()?.id !== id)
          await attempt(async () => patchState(store, { session: await api.importSession({ id }) }));
      },
      fail(failure: string): void {
        patchState(store, { failure });
      },
      openTable(file: File): Promise<void> {
        return attempt(async () => begin(await api.upload('uploadTable', { stationId: store.stationId() }, file)));
      },
      openAudio(files: readonly Dropped[]): Promise<void> {
        return attempt(async () => begin(await send(files)));
      },
      /** Takes what was dropped, once its files are known: audio, or one table. */
      openDropped(audio: () => Promise<readonly Dropped[] | File>): Promise<void> {
        return attempt(async () => {
          const found = await audio();
          await begin(
            found instanceof File
              ? await api.upload('uploadTable', { stationId: store.stationId() }, found)
              : await send(found),
          );
        });
      },
      openFolder(folder: string): Promise<void> {
        return attempt(async () => begin(await api.openFolder({ stationId: store.stationId() }, { folder })));
      },
      chooseOptions(options: Partial<ImportOptions>): Promise<void> {
        return attempt(async () => {
          const session = store.session();
          if (!session) return;
          const { id } = session;
          patchState(store, { session: await api.chooseOptions({ id }, { ...session.options, ...options }) });
          await look(id);
        });
      },
      /** Says what a column holds; no two columns hold the same. */
      async map(column: number, field: ImportField | TagColumn | null): Promise<void> {
        const mapping = store.session()?.settings?.mapping;
        if (mapping)
          await configure({
            mapping: mapping.map((old, at) => (at === column ? field : old === field && field !== null ? null : old)),
          });
      },
      dryRun(): Promise<void> {
        return attempt(async () => {
          const id = store.session()?.id;
          if (id) await look(id);
        });
      },
      commit(): Promise<void> {
        return attempt(async () => {
          const id = store.session()?.id;
          if (!id) return;
          await finish(await api.commitImport({ id }, {}), 'The import was cancelled; nothing was written.');
          patchState(store, { session: await api.importSession({ id }) });
        });
      },
      cancelJob(): void {
        const id = store.jobId();
        if (id) void api.cancelJob({ id }).catch((error: unknown) => changes.tell(error));
      },
      /** Forgets the import, here and on the server. */
      async close(): Promise<void> {
        const id = store.session()?.id;
        patchState(store, { session: null, failure: null });
        if (id) await api.closeImport({ id }).catch(() => null);
      },
      show(part: ImportPart): void {
        patchState(store, { part });
      },
      async watchFolder(folder: string, categoryId: string | null): Promise<void> {
        await attempt(async () =>
          changes.remember(await api.watchFolder({ stationId: store.stationId() }, { folder, categoryId })),
        );
        await know();
      },
      async unwatch(): Promise<void> {
        await changes.run(api.unwatchFolder({ stationId: store.stationId() }));
        await know();
      },
    };
  }),
);
