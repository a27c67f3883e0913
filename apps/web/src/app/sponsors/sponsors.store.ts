import { computed, inject } from '@angular/core';
import type { SponsorPatch, SponsorRow, SponsorSettings, SponsorWeek } from '@fuller/contracts';
import { addDays, weekdayOf } from '@fuller/core';
import { patchState, signalStore, withComputed, withMethods, withProps, withState } from '@ngrx/signals';
import { Store } from '@ngrx/store';
import { Api } from '../shared/api/api';
import { Newest } from '../shared/api/newest';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';

interface SponsorsState {
  readonly date: string | null;
  readonly week: SponsorWeek | null;
  /** The name of the sponsor that is shown, as it has no id before something is agreed. */
  readonly chosen: string | null;
  readonly problem: string | null;
}

/** The sponsors of a station in a week: what was promised, placed and aired. */
export const SponsorsStore = signalStore(
  withState<SponsorsState>({ date: null, week: null, chosen: null, problem: null }),
  withProps((_, store = inject(Store)) => ({
    station: store.selectSignal(catalogueFeature.selectStation),
    dayparts: store.selectSignal(catalogueFeature.selectDayparts),
  })),
  withComputed(({ week, chosen, dayparts }) => ({
    row: computed(() => week()?.sponsors.find(({ name }) => name === chosen()) ?? null),
    daypartName: computed(() => {
      const names = new Map(dayparts().map(({ id, name }) => [id, name]));
      return (id: string): string => names.get(id) ?? 'a deleted daypart';
    }),
  })),
  withMethods((store) => {
    const [api, changes, newest] = [inject(Api), inject(Changes), new Newest()];
    const stationId = (): string => store.station()?.id ?? '';
    const load = async (): Promise<void> => {
      const date = store.date() ?? store.station()?.today;
      if (!date || !stationId()) return;
      const isNewest = newest.begin();
      try {
        const week = await api.sponsorWeek({ stationId: stationId(), date });
        if (isNewest()) patchState(store, { week, problem: null });
      } catch (error) {
        if (isNewest()) patchState(store, { problem: error instanceof Error ? error.message : String(error) });
      }
    };
    return {
      load,
      async step(by: 1 | -1): Promise<void> {
        const from = store.week()?.monday ?? store.station()?.today;
        if (!from) return;
        patchState(store, { date: addDays(addDays(from, -weekdayOf(from)), 7 * by) });
        await load();
      },
      choose(name: string | null): void {
        patchState(store, { chosen: name });
      },
      /** Adds a sponsor; why not, where it cannot be. */
      async add(name: string): Promise<string | null> {
        const refused = await changes.attempt(api.createSponsor({ stationId: stationId() }, { name }));
        if (refused === null) {
          await load();
          patchState(store, { chosen: name.trim() });
        }
        return refused;
      },
      async patch(row: SponsorRow, fields: Omit<SponsorPatch, 'revision'>): Promise<string | null> {
        if (row.id === null) return null;
        const { id, revision } = row;
        const refused = await changes.attempt(
          api.patchSponsor({ stationId: stationId(), id }, { revision, ...fields }),
        );
        if (refused === null && fields.name !== undefined) patchState(store, { chosen: fields.name });
        await load();
        return refused;
      },
      async remove({ id }: SponsorRow): Promise<void> {
        if (id === null) return;
        if (await changes.run(api.deleteSponsor({ stationId: stationId(), id }))) patchState(store, { chosen: null });
        await load();
      },
      async set(fields: Partial<SponsorSettings>): Promise<void> {
        const settings = store.week()?.settings;
        if (!settings) return;
        await changes.run(api.setSponsorSettings({ stationId: stationId() }, { ...settings, ...fields }));
        await load();
      },
    };
  }),
);
