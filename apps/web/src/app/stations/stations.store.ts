import { computed, inject } from '@angular/core';
import type { CopiedParts, NewStation, Station, StationPatch } from '@fuller/contracts';
import { patchState, signalStore, withComputed, withMethods, withState } from '@ngrx/signals';
import { Store } from '@ngrx/store';
import { Api } from '../shared/api/api';
import { catalogueActions, catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';

/** What another station begins with: nothing, or a station and how much of it. */
export type Beginning = 'empty' | `${CopiedParts}:${string}`;

/** The stations of the group, and the one that is chosen. */
export const StationsStore = signalStore(
  withState<{ chosenId: string | null }>({ chosenId: null }),
  withComputed((store, stations = inject(Store).selectSignal(catalogueFeature.selectStations)) => ({
    stations,
    chosen: computed(() => stations().find(({ id }) => id === store.chosenId()) ?? null),
    active: computed(() => stations().filter(({ archived }) => !archived)),
  })),
  withMethods((store, api = inject(Api), changes = inject(Changes), root = inject(Store)) => {
    const sent = async (sending: Promise<{ activityId: string | null; label: string }>): Promise<string | null> => {
      const refused = await changes.attempt(sending);
      root.dispatch(catalogueActions.loadStations());
      return refused;
    };
    return {
      choose: (chosenId: string | null): void => patchState(store, { chosenId }),
      /** Makes a station; why it was refused, or null, and the new one is chosen then. */
      async make({ name, timeZone }: Pick<NewStation, 'name' | 'timeZone'>, like: Beginning): Promise<string | null> {
        const made = api.createStation({}, { name, timeZone, copyOf: copyOf(like) });
        const refused = await sent(made);
        if (refused === null) patchState(store, { chosenId: (await made).id });
        return refused;
      },
      /** Changes a station; why it was refused, null when it was changed. */
      change({ id, revision }: Station, patch: Omit<StationPatch, 'revision'>): Promise<string | null> {
        return sent(api.updateStation({ id }, { revision, ...patch }));
      },
    };
  }),
);

function copyOf(like: Beginning): NewStation['copyOf'] {
  if (like === 'empty') return null;
  const at = like.indexOf(':');
  return { parts: like.slice(0, at) as CopiedParts, stationId: like.slice(at + 1) };
}
