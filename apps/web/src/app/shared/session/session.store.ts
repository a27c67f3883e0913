import { computed, inject } from '@angular/core';
import { mayWith, roleAt, type Right, type Role, type SessionView } from '@fuller/contracts';
import { patchState, signalStore, withComputed, withMethods, withState } from '@ngrx/signals';
import { Api } from '../api/api';

interface SessionState {
  readonly view: SessionView | null;
  /** Why it could not be read. */
  readonly problem: string | null;
}

/** Who works at this browser, and what they may do. */
export const Session = signalStore(
  { providedIn: 'root' },
  withState<SessionState>({ view: null, problem: null }),
  withComputed(({ view }) => ({
    person: computed(() => view()?.person ?? null),
    isOpen: computed(() => view()?.state === 'open'),
    /** Whether the places can be shown. */
    isIn: computed(() => {
      const now = view();
      return now?.state === 'open' || (now?.state === 'signed-in' && now.person?.mustChange === false);
    }),
  })),
  withMethods((store, api = inject(Api)) => {
    const keep = (view: SessionView): SessionView => {
      patchState(store, { view, problem: null });
      return view;
    };
    /** Why something was refused; null when it was done. */
    const attempt = async (
      asking: Promise<SessionView>,
    ): Promise<{ why: string; field?: string | undefined } | null> => {
      try {
        keep(await asking);
        return null;
      } catch (error) {
        const { message, field } = error as { message: string; field?: string };
        return { why: message, field };
      }
    };
    return {
      /** Reads who this is, once. */
      async begin(): Promise<void> {
        if (store.view()) return;
        try {
          keep(await api.session());
        } catch (error) {
          patchState(store, { problem: error instanceof Error ? error.message : String(error) });
        }
      },
      may(right: Right, stationId: string | null): boolean {
        return store.isOpen() || mayWith(store.view()?.roles ?? [], right, stationId);
      },
      roleAt(stationId: string): Role | null {
        return roleAt(store.view()?.roles ?? [], stationId)?.role ?? null;
      },
      showsAt(stationId: string): readonly string[] {
        return roleAt(store.view()?.roles ?? [], stationId)?.showIds ?? [];
      },
      signIn: (name: string, password: string) => attempt(api.signIn({}, { name, password })),
      signInDemo: (role: Role) => attempt(api.signInDemo({}, { role })),
      makeFirst: (name: string, password: string, code: string) => attempt(api.makeFirst({}, { name, password, code })),
      goWithout: () => attempt(api.goWithout()),
      changePassword: (old: string, password: string) => attempt(api.changePassword({}, { old, password })),
      signOut: () => attempt(api.signOut()),
      /** The server does not know this browser any more. */
      lost(): void {
        const view = store.view();
        if (view && view.state === 'signed-in')
          patchState(store, { view: { ...view, state: 'signed-out', person: null } });
      },
    };
  }),
);
export type Session = InstanceType<typeof Session>;
