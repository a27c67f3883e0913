import { inject } from '@angular/core';
import { addDays } from '@fuller/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { catchError, debounceTime, EMPTY, filter, from, map, switchMap, withLatestFrom } from 'rxjs';
import { Api } from '../shared/api/api';
import { changesOf } from '../shared/api/reload-on';
import { ServerEvents } from '../shared/api/server-events';
import { catalogueActions, catalogueFeature } from './catalogue.feature';
import { daysActions } from './days.feature';

/** The fortnight begins so many days before today. */
const DAYS_BEFORE = 4;
const DAYS_SHOWN = 14;

export const loadDays = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(catalogueActions.stationOpened, catalogueActions.stationsLoaded, daysActions.reload),
      withLatestFrom(store.select(catalogueFeature.selectStation)),
      filter(([, station]) => station !== null),
      switchMap(([, station]) =>
        from(api.days({ stationId: station!.id, from: addDays(station!.today, -DAYS_BEFORE), count: DAYS_SHOWN })).pipe(
          map((days) => daysActions.loaded({ days })),
          catchError(() => EMPTY),
        ),
      ),
    ),
  { functional: true },
);

export const followDays = createEffect(
  (events = inject(ServerEvents)) =>
    changesOf(events, ['logs', 'hand-over']).pipe(
      debounceTime(60),
      map(() => daysActions.reload()),
    ),
  { functional: true },
);

/** An edit of a log by hand tells how the day stands now; nothing has to be asked for. */
export const followEdits = createEffect(
  (events = inject(ServerEvents), store = inject(Store)) =>
    events.events.pipe(
      filter((event) => event.type === 'log'),
      withLatestFrom(store.select(catalogueFeature.selectStationId)),
      filter(([event, stationId]) => event.stationId === stationId),
      map(([{ date, open, strains }]) => daysActions.edited({ date, open, strains: strains.length })),
    ),
  { functional: true },
);
