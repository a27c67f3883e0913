import { computed, inject } from '@angular/core';
import type { MoveRow, Moves } from '@fuller/contracts';
import { addDays } from '@fuller/core';
import { patchState, signalStore, withComputed, withMethods, withProps, withState } from '@ngrx/signals';
import { Store } from '@ngrx/store';
import { Api } from '../shared/api/api';
import { withReading } from '../shared/reading';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';
import { catalogueActions } from '../state/catalogue.feature';

interface MovesState {
  readonly stationId: string;
  readonly weeks: number;
}

/** The songs that are due to move on, those to come, and what that does to both turnovers. */
export const MovesStore = signalStore(
  withReading<Moves>(),
  withState<MovesState>({ stationId: '', weeks: 4 }),
  withProps((_, store = inject(Store)) => ({
    categories: store.selectSignal(catalogueFeature.selectCategoryMap),
    station: store.selectSignal(catalogueFeature.selectStation),
  })),
  withComputed(({ read }) => ({
    due: computed(() => (read()?.moves ?? []).filter(({ date }) => date <= (read()?.today ?? ''))),
    later: computed(() => (read()?.moves ?? []).filter(({ date }) => date > (read()?.today ?? ''))),
  })),
  withMethods((store) => {
    const [api, changes, root] = [inject(Api), inject(Changes), inject(Store)];
    const load = async (): Promise<void> => {
      const today = store.station()?.today;
      const until = today ? { until: addDays(today, 7 * store.weeks()) } : {};
      await store.ask(api.moves({ stationId: store.stationId(), ...until }));
    };
    const at = (): { stationId: string } => ({ stationId: store.stationId() });
    return {
      load,
      async open(stationId: string): Promise<void> {
        patchState(store, { stationId });
        await load();
      },
      async lookAhead(weeks: number): Promise<void> {
        patchState(store, { weeks });
        await load();
      },
      /** Moves the songs that are due, or one whenever it is due. */
      async carryOut(one?: MoveRow): Promise<void> {
        await changes.run(api.carryOutMoves(at(), one ? { itemIds: [one.itemId] } : {}));
        await load();
      },
      /** A song stays where it is, whatever its category says. */
      async stay({ itemId }: MoveRow): Promise<void> {
        await changes.run(api.planMove({ ...at(), id: itemId }, { planned: { kind: 'stays' } }));
        await load();
      },
      /** Whether what is due is moved each night without anybody. */
      async setByItself(movesByItself: boolean): Promise<void> {
        const station = store.station();
        if (!station) return;
        await changes.run(api.updateStation({ id: station.id }, { revision: station.revision, movesByItself }));
        root.dispatch(catalogueActions.reload());
      },
    };
  }),
);
