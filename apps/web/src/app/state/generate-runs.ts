import { inject, Injectable } from '@angular/core';
import type { JobView } from '@fuller/contracts';
import { Store } from '@ngrx/store';
import { Api } from '../shared/api/api';
import { catalogueFeature } from './catalogue.feature';
import { Changes } from './changes';

/** Starts generation; its progress is seen among the jobs. */
@Injectable({ providedIn: 'root' })
export class GenerateRuns {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  private readonly store = inject(Store);
  private readonly stationId = this.store.selectSignal(catalogueFeature.selectStationId);

  async start(from: string, days: number, only: 'all' | 'open'): Promise<JobView | null> {
    try {
      return await this.api.generate(this.stationId()!, {
        from,
        days,
        only,
        seed: Math.floor(Math.random() * 4_294_967_296),
      });
    } catch (error) {
      this.changes.tell(error);
      return null;
    }
  }
}
