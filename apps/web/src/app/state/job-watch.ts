import { inject, Injectable } from '@angular/core';
import type { JobView } from '@fuller/contracts';
import { Store } from '@ngrx/store';
import { filter, firstValueFrom, map } from 'rxjs';
import { jobsActions, jobsFeature } from './jobs.feature';

/** Waits for the end of jobs. */
@Injectable({ providedIn: 'root' })
export class JobWatch {
  private readonly store = inject(Store);

  /** The job as it ended. */
  async end(job: JobView): Promise<JobView> {
    // The stream may have told of the end before the answer to the start was read.
    const known = this.store.selectSignal(jobsFeature.selectEntities)()[job.id];
    if (!known) this.store.dispatch(jobsActions.changed({ job }));
    return firstValueFrom(
      this.store.select(jobsFeature.selectEntities).pipe(
        map((jobs) => jobs[job.id]),
        filter((now) => now !== undefined && now.state !== 'running'),
        map((now) => now!),
      ),
    );
  }
}
