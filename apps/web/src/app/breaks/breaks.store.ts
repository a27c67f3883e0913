import { computed, inject } from '@angular/core';
import type { Spot } from '@fuller/core';
import type { KeptLayout, TrafficBreak, TrafficDay, TrafficSettings, TrafficSetUp } from '@fuller/contracts';
import { patchState, signalStore, withComputed, withHooks, withMethods, withState } from '@ngrx/signals';
import { Api, ApiError } from '../shared/api/api';
import { Newest } from '../shared/api/newest';
import { reloadOn } from '../shared/api/reload-on';
import { Changes } from '../state/changes';

interface BreaksPlace {
  readonly stationId: string;
  readonly date: string | null;
  readonly day: TrafficDay | null;
  readonly setUp: TrafficSetUp | null;
  readonly problem: { readonly code: string; readonly text: string } | null;
  /** The break the inspector speaks of. */
  readonly breakId: string | null;
  /** The spot that is being moved: a press on a break places it. */
  readonly heldId: string | null;
  readonly isMoving: boolean;
}

/** The breaks of a day, what traffic has booked in them, and the spots that are in none. */
export const BreaksStore = signalStore(
  withState<BreaksPlace>({
    stationId: '',
    date: null,
    day: null,
    setUp: null,
    problem: null,
    breakId: null,
    heldId: null,
    isMoving: false,
  }),
  withComputed(({ day, breakId, heldId }) => ({
    shown: computed(() => day()?.breaks.find(({ entryId }) => entryId === breakId()) ?? null),
    held: computed((): Spot | null => {
      const id = heldId();
      if (id === null) return null;
      const { breaks = [], tray = [] } = day() ?? {};
      return [...tray, ...breaks.flatMap(({ spots }) => spots ?? [])].find((spot) => spot.id === id) ?? null;
    }),
    /** The day in figures. */
    totals: computed(() => {
      const breaks = day()?.breaks ?? [];
      const sum = (of: (one: TrafficBreak) => number): number => breaks.reduce((total, one) => total + of(one), 0);
      return {
        breaks: breaks.length,
        spots: sum(({ spots }) => spots?.length ?? 0),
        bookedMs: sum(({ bookedMs }) => bookedMs),
        plannedMs: sum(({ plannedMs }) => plannedMs),
        marks: sum(({ marks }) => marks.length),
      };
    }),
  })),
  withMethods((store, api = inject(Api), changes = inject(Changes)) => {
    const [newestDay, newestSetUp] = [new Newest(), new Newest()];
    const load = async (): Promise<void> => {
      const isNewest = newestDay.begin();
      const [stationId, date] = [store.stationId(), store.date()];
      if (!date) return;
      try {
        const day = await api.traffic({ stationId, date });
        if (isNewest()) patchState(store, { day, problem: null });
      } catch (error) {
        const known = error instanceof ApiError ? { code: error.code, text: error.message } : null;
        if (isNewest()) patchState(store, { day: null, problem: known ?? { code: 'UNEXPECTED', text: String(error) } });
      }
    };
    const loadSetUp = async (): Promise<void> => {
      const isNewest = newestSetUp.begin();
      const setUp = await api.trafficSetUp({ stationId: store.stationId() }).catch(() => null);
      if (setUp && isNewest()) patchState(store, { setUp });
    };
    return {
      load,
      loadSetUp,
      async openDay(stationId: string, date: string): Promise<void> {
        const isOther = stationId !== store.stationId() || date !== store.date();
        patchState(store, { stationId, date, ...(isOther ? { day: null, breakId: null, heldId: null } : {}) });
        await Promise.all([load(), loadSetUp()]);
      },
      select(breakId: string | null): void {
        patchState(store, { breakId });
      },
      /** Takes a spot to be placed; null lets it go. */
      hold(heldId: string | null): void {
        patchState(store, { heldId });
      },
      /** Moves a spot; to the tray where no break is named. */
      async move(spotId: string, toEntryId: string | null, at?: number): Promise<void> {
        const [stationId, date, day] = [store.stationId(), store.date(), store.day()];
        // One after the other: each move needs the revision the one before has made.
        if (!date || !day || store.isMoving()) return;
        patchState(store, { isMoving: true, heldId: null });
        const place = at === undefined ? {} : { at };
        await changes.run(api.moveSpot({ stationId, date }, { revision: day.revision, spotId, toEntryId, ...place }));
        await load();
        patchState(store, { isMoving: false, ...(toEntryId === null ? {} : { breakId: toEntryId }) });
      },
      async importWaiting(fileName: string): Promise<void> {
        const [stationId, date] = [store.stationId(), store.date()];
        if (date) await changes.run(api.importWaiting({ stationId, date }, { fileName }));
      },
      async set(patch: Partial<TrafficSettings>): Promise<string | null> {
        const setUp = store.setUp();
        if (!setUp) return null;
        const settings = { ...setUp.settings, ...patch };
        const refused = await changes.attempt(api.setTraffic({ stationId: store.stationId() }, settings));
        await loadSetUp();
        return refused;
      },
      async removeLayout({ id }: KeptLayout): Promise<void> {
        await changes.run(api.removeLayout({ stationId: store.stationId(), id }));
        await loadSetUp();
      },
    };
  }),
  withHooks({
    onInit(store) {
      reloadOn(['logs', 'log edits', 'traffic'], () => store.load(), { burstMs: 80 });
      reloadOn(['traffic'], () => store.loadSetUp());
    },
  }),
);
