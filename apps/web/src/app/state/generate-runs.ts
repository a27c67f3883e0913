import { inject, Injectable } from '@angular/core';
import type { JobView } from '@fuller/contracts';
import { Store } from '@ngrx/store';
import { Api } from '../shared/api/api';
import { catalogueFeature } from './catalogue.feature';
import { Changes } from './changes';
import { JobWatch } from './job-watch';

/** Starts generation; its progress is seen among the jobs. */
@Injectable({ providedIn: 'root' })
export class GenerateRuns {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  private readonly jobs = inject(JobWatch);
  private readonly store = inject(Store);
  private readonly stationId = this.store.selectSignal(catalogueFeature.selectStationId);

  async start(
    from: string,
    days: number,
    only: 'all' | 'open',
    more: {
      readonly hours?: readonly number[];
      readonly answers?: Record<string, string>;
      readonly replaceByHand?: true;
      readonly rulesOff?: string[];
    } = {},
  ): Promise<JobView | null> {
    // What was changed a moment ago counts.
    await this.changes.idle();
    try {
      const seed = Math.floor(Math.random() * 4_294_967_296);
      return await this.api.generate({ stationId: this.stationId()! }, { from, days, only, seed, ...more });
    } catch (error) {
      this.changes.tell(error);
      return null;
    }
  }

  /** Regenerates some hours of a day; true once they are written. */
  async finish(date: string, hours: readonly number[]): Promise<boolean> {
    const job = await this.start(date, 1, 'all', { hours });
    return job !== null && (await this.jobs.end(job)).state === 'done';
  }
}
