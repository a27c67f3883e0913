import { inject } from '@angular/core';
import type { ForecastChangeAsked } from '@fuller/contracts';
import { patchState, signalStore, withMethods, withState } from '@ngrx/signals';
import { Router } from '@angular/router';

interface ForecastDraftState {
  readonly stationId: string;
  readonly weeks: number;
  /** The first day; null for tomorrow. */
  readonly from: string | null;
  readonly seed: number;
  readonly changes: readonly ForecastChangeAsked[];
}

const EMPTY: Omit<ForecastDraftState, 'stationId'> = { weeks: 4, from: null, seed: 1, changes: [] };
const keyOf = (stationId: string): string => `fuller.forecast.${stationId}`;

/** What the next forecast of a station changes; it outlives a reload of the tab. */
export const ForecastDraft = signalStore(
  { providedIn: 'root' },
  withState<ForecastDraftState>({ stationId: '', ...EMPTY }),
  withMethods((store, router = inject(Router)) => {
    const open = (stationId: string): void => {
      if (store.stationId() !== stationId) patchState(store, { ...EMPTY, ...kept(stationId), stationId });
    };
    const change = (patch: Partial<ForecastDraftState>): void => {
      patchState(store, patch);
      const { stationId, weeks, from, seed, changes } = store;
      keep(stationId(), { weeks: weeks(), from: from(), seed: seed(), changes: changes() });
    };
    return {
      open,
      set: (patch: Partial<Omit<ForecastDraftState, 'stationId' | 'changes'>>): void => change(patch),
      setChanges: (changes: readonly ForecastChangeAsked[]): void => change({ changes }),
      add: (one: ForecastChangeAsked): void => change({ changes: [...store.changes(), one] }),
      replace: (at: number, one: ForecastChangeAsked): void =>
        change({ changes: store.changes().map((other, n) => (n === at ? one : other)) }),
      remove: (at: number): void => change({ changes: store.changes().filter((_, n) => n !== at) }),
      /** Forecasts with one more change: a place hands over what somebody has in mind there. */
      forecastThis(stationId: string, one: ForecastChangeAsked): Promise<boolean> {
        open(stationId);
        change({ changes: [...store.changes(), one] });
        return router.navigate(['/', stationId, 'insight', 'forecast']);
      },
    };
  }),
);

function kept(stationId: string): Partial<ForecastDraftState> {
  try {
    return JSON.parse(sessionStorage.getItem(keyOf(stationId)) ?? '{}') as Partial<ForecastDraftState>;
  } catch {
    return {};
  }
}

function keep(stationId: string, draft: Omit<ForecastDraftState, 'stationId'>): void {
  try {
    sessionStorage.setItem(keyOf(stationId), JSON.stringify(draft));
  } catch {
    // A tab without storage, or one that is full, still has its draft until it is closed.
  }
}
