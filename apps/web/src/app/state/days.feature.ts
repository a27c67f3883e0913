import type { DaySummary } from '@fuller/contracts';
import { createActionGroup, createFeature, createReducer, emptyProps, on, props } from '@ngrx/store';
import { catalogueActions } from './catalogue.feature';

export const daysActions = createActionGroup({
  source: 'Days',
  events: {
    Reload: emptyProps(),
    Loaded: props<{ days: DaySummary[] }>(),
  },
});

/** The fortnight round today. */
export const daysFeature = createFeature({
  name: 'days',
  reducer: createReducer<{ readonly days: readonly DaySummary[] }>(
    { days: [] },
    on(daysActions.loaded, (_state, { days }) => ({ days })),
    on(catalogueActions.stationOpened, () => ({ days: [] })),
  ),
});
