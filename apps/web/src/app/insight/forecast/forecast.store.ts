import { computed, inject } from '@angular/core';
import type { ForecastBrief, ForecastView, JobView } from '@fuller/contracts';
import { patchState, signalStore, withComputed, withMethods, withProps, withState } from '@ngrx/signals';
import { Store } from '@ngrx/store';
import { Api } from '../../shared/api/api';
import { Newest } from '../../shared/api/newest';
import { Changes } from '../../state/changes';
import { ForecastDraft } from '../../state/forecast-draft';
import { jobsFeature } from '../../state/jobs.feature';
import { JobWatch } from '../../state/job-watch';

interface ForecastState {
  readonly stationId: string;
  readonly shown: ForecastView | null;
  readonly made: readonly ForecastBrief[];
  readonly problem: string | null;
  /** Being read. */
  readonly reading: boolean;
}

/** The forecasts of a station: the one that is shown, those made before, and the one that is being made. */
export const ForecastStore = signalStore(
  withState<ForecastState>({ stationId: '', shown: null, made: [], problem: null, reading: false }),
  withProps((_, store = inject(Store)) => ({ jobs: store.selectSignal(jobsFeature.selectAllJobs) })),
  withComputed(({ jobs, stationId }) => ({
    /** The forecast that is being made, whoever began it. */
    running: computed<JobView | null>(
      () =>
        jobs().find((job) => job.kind === 'forecast' && job.state === 'running' && job.stationId === stationId()) ??
        null,
    ),
  })),
  withMethods((store) => {
    const [api, changes, watch, draft, newest] = [
      inject(Api),
      inject(Changes),
      inject(JobWatch),
      inject(ForecastDraft),
      new Newest(),
    ];
    const at = (): { stationId: string } => ({ stationId: store.stationId() });
    const fail = (error: unknown): void =>
      patchState(store, { problem: error instanceof Error ? error.message : String(error), reading: false });
    const loadMade = async (): Promise<void> => {
      const made = await api.forecasts(at()).catch(() => store.made());
      patchState(store, { made });
    };
    return {
      loadMade,
      async open(stationId: string): Promise<void> {
        patchState(store, { stationId, shown: null, made: [], problem: null });
        draft.open(stationId);
        await loadMade();
      },
      /** Shows a forecast; null for none. */
      async show(id: string | null): Promise<void> {
        if (id !== null && id === store.shown()?.id) return;
        const isNewest = newest.begin();
        patchState(store, { shown: null, problem: null, reading: id !== null });
        if (id === null) return;
        try {
          const shown = await api.forecast({ ...at(), id });
          if (isNewest()) patchState(store, { shown, reading: false });
        } catch (error) {
          if (isNewest()) fail(error);
        }
      },
      /** Makes a forecast of the draft; its id, or null where it was refused or cancelled. */
      async make(): Promise<string | null> {
        patchState(store, { problem: null });
        await changes.idle();
        try {
          const { weeks, from, seed } = draft;
          const body = { weeks: weeks(), seed: seed(), changes: [...draft.changes()] };
          const job = await api.startForecast(at(), { ...body, ...(from() === null ? {} : { from: from()! }) });
          const ended = await watch.end(job);
          if (ended.state === 'failed') patchState(store, { problem: ended.message });
          const { result } = ended;
          await loadMade();
          return result !== null && 'forecastId' in result ? result.forecastId : null;
        } catch (error) {
          fail(error);
          return null;
        }
      },
      async cancel(): Promise<void> {
        const job = store.running();
        if (job) await api.cancelJob({ id: job.id }).catch((error: unknown) => changes.tell(error));
      },
      /** Makes what is shown so; true once it is. */
      async keep(): Promise<boolean> {
        const shown = store.shown();
        if (!shown) return false;
        const refused = await changes.attempt(api.keepForecast({ ...at(), id: shown.id }));
        patchState(store, { problem: refused });
        if (refused === null) draft.setChanges([]);
        return refused === null;
      },
      async drop(): Promise<void> {
        const shown = store.shown();
        if (!shown) return;
        await api.dropForecast({ ...at(), id: shown.id }).catch(() => null);
        draft.setChanges([]);
        patchState(store, { shown: null });
        await loadMade();
      },
    };
  }),
);
