import type { DaySummary } from '@fuller/contracts';
import { createActionGroup, createFeature, createReducer, emptyProps, on, props } from '@ngrx/store';
import { catalogueActions } from './catalogue.feature';

export const daysActions = createActionGroup({
  source: 'Days',
  events: {
    Reload: emptyProps(),
    Loaded: props<{ days: DaySummary[] }>(),
    /** A log was edited by hand; what was handed over is not what it is any more. */
    Edited: props<{ date: string; open: number; strains: number }>(),
  },
});

/** The fortnight round today. */
export const daysFeature = createFeature({
  name: 'days',
  reducer: createReducer<{ readonly days: readonly DaySummary[] }>(
    { days: [] },
    on(daysActions.loaded, (_state, { days }) => ({ days })),
    on(daysActions.edited, ({ days }, { date, open, strains }) => ({
      days: days.map((day) => {
        if (day.date !== date) return day;
        const state = day.state === 'aired' ? day.state : open > 0 ? ('open' as const) : ('complete' as const);
        return { ...day, open, strains, state };
      }),
    })),
    on(catalogueActions.stationOpened, () => ({ days: [] })),
  ),
});
