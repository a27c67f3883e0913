import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { catchError, debounceTime, filter, from, map, of, switchMap, withLatestFrom } from 'rxjs';
import { Api } from '../shared/api/api';
import { changesOf } from '../shared/api/reload-on';
import { ServerEvents } from '../shared/api/server-events';
import { catalogueActions, catalogueFeature } from './catalogue.feature';

/** Changes that come in a burst are answered with one reload. */
const BURST_MS = 60;

export const loadStations = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(catalogueActions.loadStations),
      switchMap(() =>
        from(api.stations()).pipe(
          map((stations) => catalogueActions.stationsLoaded({ stations })),
          catchError((error: Error) => of(catalogueActions.failed({ message: error.message }))),
        ),
      ),
    ),
  { functional: true },
);

export const loadCatalogue = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(catalogueActions.stationOpened, catalogueActions.reload),
      withLatestFrom(store.select(catalogueFeature.selectStationId)),
      filter(([, stationId]) => stationId !== null),
      switchMap(([, stationId]) =>
        from(api.catalogue({ stationId: stationId! })).pipe(
          map((catalogue) => catalogueActions.loaded({ catalogue })),
          catchError((error: Error) => of(catalogueActions.failed({ message: error.message }))),
        ),
      ),
    ),
  { functional: true },
);

/** Stations that are made, renamed or archived. */
export const followStations = createEffect(
  (events = inject(ServerEvents)) =>
    changesOf(events, ['stations']).pipe(
      debounceTime(BURST_MS),
      map(() => catalogueActions.loadStations()),
    ),
  { functional: true },
);

/** What changed on the server, by this tab or another, is read again. */
export const followServer = createEffect(
  (events = inject(ServerEvents)) =>
    changesOf(events, ['catalogue']).pipe(
      debounceTime(BURST_MS),
      map(() => catalogueActions.reload()),
    ),
  { functional: true },
);
