import { inject, Injectable, signal } from '@angular/core';
import type { PoolRow } from '@fuller/contracts';
import type { FilterVocabulary } from '@fuller/core';
import { Api } from '../shared/api/api';

/** What the filters of a station can name, and its pools with their counts. */
@Injectable()
export class LibraryWords {
  private readonly api = inject(Api);
  /** Null until it is known. */
  readonly vocabulary = signal<FilterVocabulary | null>(null);
  readonly pools = signal<readonly PoolRow[]>([]);

  /** Reads both again; what is known stays where the server does not answer. */
  async load(stationId: string): Promise<void> {
    const [vocabulary, pools] = await Promise.allSettled([this.api.filterWords(stationId), this.api.pools(stationId)]);
    if (vocabulary.status === 'fulfilled') this.vocabulary.set(vocabulary.value);
    if (pools.status === 'fulfilled') this.pools.set(pools.value);
  }
}
