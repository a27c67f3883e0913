import { computed, inject } from '@angular/core';
import type { PersonRow, Role, RoleAt, SessionRow, ShowRow } from '@fuller/contracts';
import { patchState, signalStore, withComputed, withMethods, withProps, withState } from '@ngrx/signals';
import { Store } from '@ngrx/store';
import { Api } from '../shared/api/api';
import { Newest } from '../shared/api/newest';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';

interface PeopleState {
  readonly people: readonly PersonRow[] | null;
  readonly chosenId: string | null;
  readonly sessions: readonly SessionRow[];
  /** Shows of each station, for those who present them. */
  readonly shows: Readonly<Record<string, readonly Pick<ShowRow, 'id' | 'name'>[]>>;
  readonly problem: string | null;
}

/** Everybody with an account, and what they may do. */
export const PeopleStore = signalStore(
  withState<PeopleState>({ people: null, chosenId: null, sessions: [], shows: {}, problem: null }),
  withProps((_, store = inject(Store)) => ({ stations: store.selectSignal(catalogueFeature.selectStations) })),
  withComputed(({ people, chosenId, stations }) => ({
    chosen: computed(() => people()?.find(({ id }) => id === chosenId()) ?? null),
    stationName: computed(() => {
      const names = new Map(stations().map(({ id, name }) => [id, name]));
      return (id: string): string => names.get(id) ?? 'a station that is gone';
    }),
  })),
  withMethods((store) => {
    const [api, changes, newest] = [inject(Api), inject(Changes), new Newest()];
    const readSessions = async (): Promise<void> => {
      const id = store.chosenId();
      if (!id) return;
      const sessions = await api.personSessions({ id }).catch(() => []);
      if (store.chosenId() === id) patchState(store, { sessions });
    };
    const load = async (): Promise<void> => {
      const isNewest = newest.begin();
      try {
        const people = await api.people();
        if (isNewest()) patchState(store, { people, problem: null });
      } catch (error) {
        if (isNewest()) patchState(store, { problem: error instanceof Error ? error.message : String(error) });
      }
    };
    /** Done without an undo; why not, where it cannot be. */
    const attempt = async (asking: Promise<unknown>): Promise<string | null> => {
      try {
        await asking;
        return null;
      } catch (error) {
        return error instanceof Error ? error.message : String(error);
      } finally {
        await Promise.all([load(), readSessions()]);
      }
    };
    return {
      load,
      async choose(chosenId: string | null): Promise<void> {
        patchState(store, { chosenId, sessions: [] });
        await readSessions();
      },
      /** Reads the shows of a station once. */
      async readShows(stationId: string): Promise<void> {
        if (store.shows()[stationId]) return;
        const { shows } = await api.catalogue({ stationId }).catch(() => ({ shows: [] }));
        patchState(store, { shows: { ...store.shows(), [stationId]: shows.map(({ id, name }) => ({ id, name })) } });
      },
      async add(name: string, password: string, role: Role): Promise<string | null> {
        const roles: RoleAt[] = [{ stationId: null, role, showIds: [] }];
        const made = await changes.made(api.createPerson({}, { name, password, roles }));
        if (typeof made === 'string') return made;
        await load();
        patchState(store, { chosenId: made.id, sessions: [] });
        return null;
      },
      async patch({ id, revision }: PersonRow, fields: { name?: string; roles?: RoleAt[] }): Promise<string | null> {
        const refused = await changes.attempt(api.patchPerson({ id }, { revision, ...fields }));
        await load();
        return refused;
      },
      async remove({ id }: PersonRow): Promise<string | null> {
        const refused = await changes.attempt(api.removePerson({ id }));
        if (refused === null) patchState(store, { chosenId: null });
        await load();
        return refused;
      },
      resetPassword: ({ id }: PersonRow, password: string) => attempt(api.resetPassword({ id }, { password })),
      endSessions: ({ id }: PersonRow) => attempt(api.endSessions({ id })),
    };
  }),
);

/** Roles with one of them set, for a station or for every one; without a role it is taken out. */
export function withRole(roles: readonly RoleAt[], stationId: string | null, role: Role | null): RoleAt[] {
  const others = roles.filter((one) => one.stationId !== stationId);
  const before = roles.find((one) => one.stationId === stationId);
  if (role === null) return others;
  const showIds = role === 'presenter' ? (before?.showIds ?? []) : [];
  const all = [...others, { stationId, role, showIds }];
  // What holds everywhere stands first.
  return all.sort((a, b) => Number(a.stationId !== null) - Number(b.stationId !== null));
}
