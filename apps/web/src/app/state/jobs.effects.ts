import { inject } from '@angular/core';
import { createEffect } from '@ngrx/effects';
import { catchError, from, map, of, startWith, switchMap } from 'rxjs';
import { Api } from '../shared/api/api';
import { ServerEvents } from '../shared/api/server-events';
import { jobsActions } from './jobs.feature';

/** Jobs that were begun before this tab was opened, or while it was away. */
export const loadJobs = createEffect(
  (api = inject(Api), { resumed } = inject(ServerEvents)) =>
    resumed.pipe(
      startWith(undefined),
      // Without them the jobs that begin from now on are still told.
      switchMap(() => from(api.jobs()).pipe(catchError(() => of([])))),
      map((jobs) => jobsActions.loaded({ jobs })),
    ),
  { functional: true },
);
