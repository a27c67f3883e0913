import { inject, Injectable, signal } from '@angular/core';
import type { FamilyRow, PoolRow } from '@fuller/contracts';
import type { FilterVocabulary } from '@fuller/core';
import { Api } from '../shared/api/api';

/** What the filters of a station can name, its pools with their counts, its tag families and its worklist. */
@Injectable()
export class LibraryWords {
  private readonly api = inject(Api);
  /** Null until it is known. */
  readonly vocabulary = signal<FilterVocabulary | null>(null);
  readonly pools = signal<readonly PoolRow[]>([]);
  readonly families = signal<readonly FamilyRow[]>([]);
  /** Ids of the items on the worklist. */
  readonly worklist = signal<readonly string[]>([]);

  /** Reads all again; what is known stays where the server does not answer. */
  async load(stationId: string): Promise<void> {
    const [vocabulary, pools, families, worklist] = await Promise.allSettled([
      this.api.filterWords({ stationId }),
      this.api.pools({ stationId }),
      this.api.families({ stationId }),
      this.api.worklist({ stationId }),
    ]);
    if (families.status === 'fulfilled') this.families.set(families.value);
    if (worklist.status === 'fulfilled') this.worklist.set(worklist.value.itemIds);
    if (vocabulary.status === 'fulfilled') this.vocabulary.set(vocabulary.value);
    if (pools.status === 'fulfilled') this.pools.set(pools.value);
  }
}
