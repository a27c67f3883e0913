import { computed, DestroyRef, inject } from '@angular/core';
import type {
  OnAir,
  OnAirSettingsForm,
  PlayerCommand,
  QueueEdit,
  Rolling,
  RollingSettingsForm,
} from '@fuller/contracts';
import { patchState, signalStore, withComputed, withHooks, withMethods, withState } from '@ngrx/signals';
import { Api } from '../shared/api/api';
import { Newest } from '../shared/api/newest';
import { reloadOn } from '../shared/api/reload-on';
import { Notices } from '../shared/notices';
import { Changes } from '../state/changes';

/** How often the player's state is read, ms. */
const READ_EVERY_MS = 1000;
/** Between two answers the shown clock goes on this often, ms. */
const TICK_MS = 250;

interface OnAirPlace {
  readonly stationId: string;
  readonly onAir: OnAir | null;
  readonly rolling: Rolling | null;
  /** When it was read, and the time now, both by this machine's clock. */
  readonly readMs: number;
  readonly nowMs: number;
  readonly problem: string | null;
  readonly isBusy: boolean;
}

/** What is on the air of a station, read again every second while it is looked at. */
export const OnAirStore = signalStore(
  withState<OnAirPlace>({
    stationId: '',
    onAir: null,
    rolling: null,
    readMs: 0,
    nowMs: 0,
    problem: null,
    isBusy: false,
  }),
  withComputed(({ onAir, readMs, nowMs }) => ({
    player: computed(() => onAir()?.player ?? null),
    view: computed(() => onAir()?.player.view ?? null),
    settings: computed(() => onAir()?.settings ?? null),
    /** The player's clock now: it goes on between two answers. UTC epoch ms. */
    clockMs: computed(() => {
      const view = onAir()?.player.view;
      return view ? view.nowMs + Math.max(0, Math.min(nowMs() - readMs(), 3000)) * view.rate : 0;
    }),
  })),
  withMethods((store, api = inject(Api), changes = inject(Changes), notices = inject(Notices)) => {
    const [newest, newestRolling] = [new Newest(), new Newest()];
    const loadRolling = async (): Promise<void> => {
      const stationId = store.stationId();
      if (!stationId) return;
      const isNewest = newestRolling.begin();
      const rolling = await api.rolling({ stationId }).catch(() => null);
      if (rolling && isNewest()) patchState(store, { rolling });
    };
    const take = (onAir: OnAir): void => patchState(store, { onAir, readMs: Date.now(), problem: null });
    const load = async (): Promise<void> => {
      const stationId = store.stationId();
      if (!stationId) return;
      const isNewest = newest.begin();
      try {
        const onAir = await api.onAir({ stationId });
        if (isNewest()) take(onAir);
      } catch (error) {
        if (isNewest()) patchState(store, { problem: error instanceof Error ? error.message : String(error) });
      }
    };
    const tell = async (sending: Promise<OnAir>): Promise<boolean> => {
      patchState(store, { isBusy: true });
      try {
        const isNewest = newest.begin();
        const onAir = await sending;
        if (isNewest()) take(onAir);
        return true;
      } catch (error) {
        notices.fail(error instanceof Error ? error.message : String(error));
        return false;
      } finally {
        patchState(store, { isBusy: false });
      }
    };
    return {
      load,
      tick(): void {
        patchState(store, { nowMs: Date.now() });
      },
      open(stationId: string): void {
        if (stationId !== store.stationId()) patchState(store, { stationId, onAir: null, rolling: null });
        void load();
        void loadRolling();
      },
      command(command: PlayerCommand): Promise<boolean> {
        return tell(api.commandPlayer({ stationId: store.stationId() }, command));
      },
      takeAir(name: string, password: string): Promise<boolean> {
        return tell(api.takeAir({ stationId: store.stationId() }, { name, password }));
      },
      loadRolling,
      /** Why it was refused, or null. */
      async setRolling(patch: Partial<Omit<RollingSettingsForm, 'revision'>>): Promise<string | null> {
        const settings = store.rolling()?.settings;
        if (!settings) return null;
        const refused = await changes.attempt(
          api.setRolling({ stationId: store.stationId() }, { ...settings, ...patch }),
        );
        await loadRolling();
        return refused;
      },
      async editQueue(edit: QueueEdit): Promise<void> {
        patchState(store, { isBusy: true });
        const isNewest = newestRolling.begin();
        try {
          const rolling = await api.editQueue({ stationId: store.stationId() }, edit);
          if (isNewest()) patchState(store, { rolling });
        } catch (error) {
          notices.fail(error instanceof Error ? error.message : String(error));
        }
        patchState(store, { isBusy: false });
      },
      /** Why it was refused, or null. */
      async set(patch: Partial<Omit<OnAirSettingsForm, 'revision'>>): Promise<string | null> {
        const settings = store.settings();
        if (!settings) return null;
        const { revision, playerUrl, lateMs, acceptAll } = settings;
        const form = { revision, playerUrl, lateMs, acceptAll, ...patch };
        const refused = await changes.attempt(api.setOnAir({ stationId: store.stationId() }, form));
        await load();
        return refused;
      },
    };
  }),
  withHooks({
    onInit(store) {
      reloadOn(['rolling', 'on-air'], () => store.loadRolling(), { burstMs: 300 });
      const reading = setInterval(() => {
        if (!document.hidden) void store.load();
      }, READ_EVERY_MS);
      const ticking = setInterval(() => {
        if (!document.hidden) store.tick();
      }, TICK_MS);
      inject(DestroyRef).onDestroy(() => {
        clearInterval(reading);
        clearInterval(ticking);
      });
    },
  }),
);
