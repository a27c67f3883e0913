import { inject } from '@angular/core';
import type { FamilyRow } from '@fuller/contracts';
import { patchState, signalStore, withHooks, withMethods, withState } from '@ngrx/signals';
import { Api } from '../../shared/api/api';
import { reloadOn } from '../../shared/api/reload-on';
import { withReading } from '../../shared/reading';
import { Changes } from '../../state/changes';

/** The tag families of the library. */
export const TagsStore = signalStore(
  withReading<readonly FamilyRow[]>(),
  withState({ stationId: '' }),
  withMethods((store, api = inject(Api), changes = inject(Changes)) => ({
    async load(stationId: string = store.stationId()): Promise<void> {
      patchState(store, { stationId });
      await store.ask(api.families({ stationId }));
    },
    /** True when it was made. */
    async create(name: string): Promise<boolean> {
      return (await changes.run(api.createFamily({ stationId: store.stationId() }, { name }))) !== null;
    },
  })),
  withHooks({ onInit: (store) => reloadOn(['library'], () => store.load()) }),
);
