import type { JobView } from '@fuller/contracts';
import { createEntityAdapter } from '@ngrx/entity';
import { createActionGroup, createFeature, createReducer, createSelector, on, props } from '@ngrx/store';

export const jobsActions = createActionGroup({
  source: 'Jobs',
  events: { Changed: props<{ job: JobView }>(), Loaded: props<{ jobs: readonly JobView[] }>() },
});

const adapter = createEntityAdapter<JobView>();

export const jobsFeature = createFeature({
  name: 'jobs',
  reducer: createReducer(
    adapter.getInitialState(),
    on(jobsActions.changed, (state, { job }) => adapter.upsertOne(job, state)),
    on(jobsActions.loaded, (state, { jobs }) => adapter.upsertMany([...jobs], state)),
  ),
  extraSelectors: ({ selectJobsState }) => ({
    selectAllJobs: createSelector(selectJobsState, adapter.getSelectors().selectAll),
  }),
});
