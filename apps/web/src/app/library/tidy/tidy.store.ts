import { computed, inject } from '@angular/core';
import type { TidyView } from '@fuller/contracts';
import { formatDuration } from '@fuller/core';
import { patchState, signalStore, withComputed, withHooks, withMethods, withState } from '@ngrx/signals';
import { Api } from '../../shared/api/api';
import { reloadOn } from '../../shared/api/reload-on';
import { withReading } from '../../shared/reading';
import { Changes } from '../../state/changes';
import { tidyRows, type TidyRow } from './tidy-rows';

const SECTIONS = [
  { kind: 'artists', title: 'Artists that may be one', all: 'Merge all' },
  { kind: 'songs', title: 'Songs that may be one', all: 'Keep the most played of each' },
  { kind: 'albums', title: 'Albums that may be one', all: 'Merge all' },
] as const;

/** What is to become of a finding: the member that is kept, and those that become it. */
interface Settled {
  readonly row: TidyRow;
  readonly keep: string;
  readonly others: string[];
}

function settled(row: TidyRow, keptAt: number): Settled | null {
  const kept = row.members[keptAt];
  return kept ? { row, keep: kept.id, others: row.members.filter((one) => one !== kept).map(({ id }) => id) } : null;
}

/** What in the library is likely double, and what is done about it. */
export const TidyStore = signalStore(
  withReading<TidyView>(),
  withState({ stationId: '', at: 0 }),
  withComputed(({ read }) => ({
    rows: computed<TidyRow[]>(() => {
      const view = read();
      return view ? tidyRows(view, formatDuration) : [];
    }),
  })),
  withComputed(({ rows, at }) => ({
    sections: computed(() =>
      SECTIONS.map((section) => ({ ...section, rows: rows().filter(({ kind }) => kind === section.kind) })),
    ),
    /** The row in hand; where it has gone, the one that has come into its place. */
    active: computed(() => rows()[Math.min(at(), rows().length - 1)] ?? null),
  })),
  withMethods((store) => {
    const [api, changes] = [inject(Api), inject(Changes)];
    const settle = async (all: readonly Settled[]): Promise<void> => {
      const [first] = all;
      const stationId = store.stationId();
      if (!first) return;
      if (first.row.kind === 'artists')
        await changes.run(
          api.mergeArtists({ stationId }, { merges: all.map(({ keep, others }) => ({ keep, others })) }),
        );
      else if (first.row.kind === 'albums')
        await changes.run(
          api.mergeAlbums(
            { stationId },
            {
              merges: all.flatMap(({ row, keep, others }) =>
                row.artistId === undefined ? [] : [{ artistId: row.artistId, keep, others }],
              ),
            },
          ),
        );
      else
        await changes.run(api.place({ stationId }, { itemIds: all.flatMap(({ others }) => others), categoryId: null }));
    };
    return {
      async load(stationId: string = store.stationId()): Promise<void> {
        patchState(store, { stationId });
        await store.ask(api.tidy({ stationId }));
      },
      goTo(row: TidyRow): void {
        patchState(store, { at: store.rows().indexOf(row) });
      },
      move(step: number): void {
        const last = store.rows().length - 1;
        patchState(store, ({ at }) => ({ at: Math.max(0, Math.min(last, Math.min(at, last) + step)) }));
      },
      /** Makes the members one, keeping the one at a place. */
      async accept(row: TidyRow, keptAt: number): Promise<void> {
        const one = settled(row, keptAt);
        if (one) await settle([one]);
      },
      async acceptAll(rows: readonly TidyRow[]): Promise<void> {
        await settle(rows.flatMap((row) => settled(row, 0) ?? []));
      },
      /** Says of findings that they are none. */
      async refuse(rows: readonly TidyRow[]): Promise<void> {
        await changes.run(api.refuseDoubles({ stationId: store.stationId() }, { keys: rows.map((row) => row.key) }));
      },
    };
  }),
  withHooks({ onInit: (store) => reloadOn(['library'], () => store.load()) }),
);
