import { computed, inject } from '@angular/core';
import { Router } from '@angular/router';
import type { ShowRow } from '@fuller/contracts';
import { bandColour, NO_FRAMING, type Framing } from '@fuller/core';
import { patchState, signalStore, withComputed, withMethods, withProps, withState } from '@ngrx/signals';
import { Store } from '@ngrx/store';
import { Api } from '../shared/api/api';
import { Draft } from '../shared/draft';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';

/** The shows of a station, the one that is being changed, and what frames all hours and shows. */
export const ShowsStore = signalStore(
  withState<{ showId: string | null }>({ showId: null }),
  withProps(({ showId }, store = inject(Store), changes = inject(Changes)) => {
    const shows = store.selectSignal(catalogueFeature.selectShows);
    const stored = computed(() => shows().find(({ id }) => id === showId()) ?? null);
    return {
      shows,
      clocks: store.selectSignal(catalogueFeature.selectAllClocks),
      week: store.selectSignal(catalogueFeature.selectWeek),
      _draft: new Draft<ShowRow>(stored, changes),
    };
  }),
  withComputed(({ week, _draft }) => ({
    show: computed(() => _draft.value()),
    framing: computed(() => week()?.framing ?? NO_FRAMING),
  })),
  withMethods((store) => {
    const [api, changes, router] = [inject(Api), inject(Changes), inject(Router)];
    const stationId = inject(Store).selectSignal(catalogueFeature.selectStationId);
    const save = (patch: Partial<ShowRow>): void => {
      const [id, station] = [store.show()?.id, stationId()];
      if (id && station)
        void store._draft.save(patch, (revision) => api.patchShow({ stationId: station, id }, { revision, ...patch }));
    };
    const saveClocks = (change: (ids: readonly string[]) => string[]): void => {
      const show = store.show();
      if (show) save({ clockIds: change(show.clockIds) });
    };
    return {
      save,
      async setPassword(password: string): Promise<void> {
        const [show, station] = [store.show(), stationId()];
        if (!show || !station) return;
        await changes.run(api.patchShow({ stationId: station, id: show.id }, { revision: show.revision, password }));
      },
      open(showId: string | null): void {
        patchState(store, { showId });
      },
      setClock(place: number, id: string): void {
        saveClocks((ids) => ids.map((old, n) => (n === place ? id : old)));
      },
      /** One more clock, at first the same as the last. */
      addClock(): void {
        saveClocks((ids) => [...ids, ...ids.slice(-1)]);
      },
      dropClock(place: number): void {
        saveClocks((ids) => ids.filter((_, n) => n !== place));
      },
      async setFrame(field: keyof Framing, clockId: string): Promise<void> {
        const [week, station] = [store.week(), stationId()];
        if (!week || !station) return;
        const framing = { ...week.framing, [field]: clockId || null };
        await changes.run(api.saveWeek({ stationId: station }, { revision: week.revision, framing }));
      },
      /** Why it cannot be made, or null. */
      async create(name: string): Promise<string | null> {
        const [clock] = store.clocks();
        const station = stationId();
        if (!clock || !station) return 'A show needs a clock; make one first.';
        const fields = { name, colour: bandColour(store.shows().length), clockIds: [clock.id], minutes: 60 };
        const made = await changes.made(api.createShow({ stationId: station }, fields));
        if (typeof made === 'string') return made;
        void router.navigate(['/', station, 'week', 'shows', made.id]);
        return null;
      },
      async remove(): Promise<void> {
        const [id, station] = [store.show()?.id, stationId()];
        if (id && station && (await changes.run(api.deleteShow({ stationId: station, id }))))
          void router.navigate(['/', station, 'week', 'shows']);
      },
    };
  }),
);
