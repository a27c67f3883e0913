import { inject, Injectable, signal } from '@angular/core';
import type { PoolRow } from '@fuller/contracts';
import type { FilterVocabulary } from '@fuller/core';
import { Api } from '../shared/api/api';

/** What the filters of a station can name, its pools with their counts, and how much there is to tidy. */
@Injectable()
export class LibraryWords {
  private readonly api = inject(Api);
  /** Null until it is known. */
  readonly vocabulary = signal<FilterVocabulary | null>(null);
  readonly pools = signal<readonly PoolRow[]>([]);
  /** Matters that Tidy has to settle; null until it is known. */
  readonly matters = signal<number | null>(null);

  /** Reads all again; what is known stays where the server does not answer. */
  async load(stationId: string): Promise<void> {
    const [vocabulary, pools, tidy] = await Promise.allSettled([
      this.api.filterWords(stationId),
      this.api.pools(stationId),
      this.api.tidy(stationId),
    ]);
    if (tidy.status === 'fulfilled') this.matters.set(tidy.value.artists.length + tidy.value.songs.length);
    if (vocabulary.status === 'fulfilled') this.vocabulary.set(vocabulary.value);
    if (pools.status === 'fulfilled') this.pools.set(pools.value);
  }
}
