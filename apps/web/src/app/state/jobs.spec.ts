import { describe, expect, it } from '@jest/globals';
import { TestBed } from '@angular/core/testing';
import type { JobView } from '@fuller/contracts';
import { firstValueFrom, Subject, take, toArray } from 'rxjs';
import { Api } from '../shared/api/api';
import { ServerEvents } from '../shared/api/server-events';
import { loadJobs } from './jobs.effects';
import { jobsActions, jobsFeature } from './jobs.feature';

const job = (id: string, state: JobView['state']): JobView =>
  ({ id, state, kind: 'import', label: id, stationId: 'vale', progress: 0 }) as JobView;

describe('jobs', () => {
  it('that were begun before are read at the start and after a break; what the stream told meanwhile stays', async () => {
    const resumed = new Subject<void>();
    let jobs = [job('a', 'running')];
    TestBed.configureTestingModule({
      providers: [
        { provide: Api, useValue: { jobs: async () => jobs } },
        { provide: ServerEvents, useValue: { resumed } },
      ],
    });
    const actions = TestBed.runInInjectionContext(() => firstValueFrom(loadJobs().pipe(take(2), toArray())));
    await new Promise((resolve) => setTimeout(resolve));
    jobs = [job('a', 'done'), job('b', 'running')];
    resumed.next();
    let state = jobsFeature.reducer(undefined, jobsActions.changed({ job: job('c', 'running') }));
    for (const action of await actions) state = jobsFeature.reducer(state, action);
    const shown = jobsFeature.selectAllJobs({ jobs: state } as never);
    expect(shown.map(({ id, state: now }) => `${id} ${now}`)).toEqual(['c running', 'a done', 'b running']);
  });
});
