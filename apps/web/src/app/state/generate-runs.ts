import { inject, Injectable } from '@angular/core';
import type { JobView } from '@fuller/contracts';
import { Store } from '@ngrx/store';
import { Api } from '../shared/api/api';
import { catalogueFeature } from './catalogue.feature';
import { Changes } from './changes';
import { JobWatch } from './job-watch';

/** What a run is asked for besides its days. */
export interface RunMore {
  readonly hours: readonly number[];
  readonly categories: readonly string[];
  /** Other stations of the same run. */
  readonly stations: readonly string[];
  readonly seed: number;
  /** Whether the run is only to show what it would change. */
  readonly preview: true;
  readonly answers: Record<string, string>;
  readonly replaceByHand: true;
  /** Separations that ask for fewer seconds in this run. */
  readonly relax: readonly { readonly ruleId: string; readonly seconds: number }[];
  readonly rulesOff: string[];
}

/** Starts generation; its progress is seen among the jobs. */
@Injectable({ providedIn: 'root' })
export class GenerateRuns {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  private readonly jobs = inject(JobWatch);
  private readonly store = inject(Store);
  private readonly stationId = this.store.selectSignal(catalogueFeature.selectStationId);

  async start(from: string, days: number, only: 'all' | 'open', more: Partial<RunMore> = {}): Promise<JobView | null> {
    // What was changed a moment ago counts.
    await this.changes.idle();
    try {
      const seed = Math.floor(Math.random() * 4_294_967_296);
      // A seed that was named comes after this one and takes its place.
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
