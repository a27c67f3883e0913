import { computed, inject } from '@angular/core';
import type { AsRunDay, AsRunDecisions, AsRunLine, AsRunOutcome } from '@fuller/contracts';
import type { TextLayout } from '@fuller/core';
import { patchState, signalStore, withComputed, withHooks, withMethods, withState } from '@ngrx/signals';
import { Api } from '../shared/api/api';
import { Newest } from '../shared/api/newest';
import { reloadOn } from '../shared/api/reload-on';
import { readTextFile } from '../shared/read-text-file';
import { Changes } from '../state/changes';

interface Incoming {
  readonly name: string;
  readonly text: string;
  readonly layout: TextLayout | null;
  /** What the import would do; null while it is worked out. */
  readonly outcome: AsRunOutcome | null;
}

interface AsRunPlace {
  readonly stationId: string;
  readonly date: string | null;
  readonly day: AsRunDay | null;
  readonly problem: string | null;
  readonly incoming: Incoming | null;
  readonly onlyDifferences: boolean;
  readonly isBusy: boolean;
}

const isDifference = ({ is }: AsRunLine): boolean => is !== 'as planned' && is !== 'unknown';

/** The log of a day beside what aired: imported, tried before it is, and decided on. */
export const AsRunStore = signalStore(
  withState<AsRunPlace>({
    stationId: '',
    date: null,
    day: null,
    problem: null,
    incoming: null,
    onlyDifferences: true,
    isBusy: false,
  }),
  withComputed(({ day, incoming, onlyDifferences }) => {
    /** The day as it is, or as an import would leave it. */
    const shown = computed(() => incoming()?.outcome?.day ?? day());
    const differences = computed(() => (shown()?.lines ?? []).filter(isDifference));
    return {
      shown,
      differences,
      open: computed(() => differences().filter(({ decision }) => decision === null).length),
      lines: computed(() => (onlyDifferences() ? differences() : (shown()?.lines ?? []))),
      counts: computed(() => {
        const counts = new Map<AsRunLine['is'], number>();
        for (const { is } of shown()?.lines ?? []) counts.set(is, (counts.get(is) ?? 0) + 1);
        return counts;
      }),
    };
  }),
  withMethods((store, api = inject(Api), changes = inject(Changes)) => {
    const newest = new Newest();
    const load = async (): Promise<void> => {
      const [stationId, date] = [store.stationId(), store.date()];
      if (!date) return;
      const isNewest = newest.begin();
      try {
        const day = await api.asRun({ stationId, date });
        if (isNewest()) patchState(store, { day, problem: null });
      } catch (error) {
        if (isNewest()) patchState(store, { problem: error instanceof Error ? error.message : String(error) });
      }
    };
    /** One decision after the other: each needs the revision the one before has made. */
    const decide = async (asked: Omit<AsRunDecisions, 'revision'>): Promise<void> => {
      const [stationId, date, day] = [store.stationId(), store.date(), store.day()];
      if (!date || !day?.known || store.isBusy()) return;
      patchState(store, { isBusy: true });
      await changes.run(api.decideAsRun({ stationId, date }, { revision: day.revision, ...asked }));
      await load();
      patchState(store, { isBusy: false });
    };
    const outcomeOf = (incoming: Incoming, dryRun: boolean): Promise<AsRunOutcome> => {
      const { text, name: fileName, layout } = incoming;
      const at = { stationId: store.stationId(), date: store.date() ?? '' };
      return api.importAsRun(at, { text, fileName, layout, dryRun });
    };
    const close = (): void => patchState(store, { incoming: null });
    return {
      load,
      close,
      async openDay(stationId: string, date: string): Promise<void> {
        const isOther = stationId !== store.stationId() || date !== store.date();
        patchState(store, { stationId, date, ...(isOther ? { day: null, incoming: null } : {}) });
        await load();
      },
      show(onlyDifferences: boolean): void {
        patchState(store, { onlyDifferences });
      },
      /** Reads a file and tries it; nothing is written. */
      async try(file: File, layout: TextLayout | null): Promise<void> {
        const read = await readTextFile(file, layout?.encoding);
        if (!read.ok) return patchState(store, { problem: read.why });
        const incoming: Incoming = { name: file.name, text: read.text, layout, outcome: null };
        patchState(store, { incoming, problem: null });
        try {
          const outcome = await outcomeOf(incoming, true);
          if (store.incoming() === incoming) patchState(store, { incoming: { ...incoming, outcome } });
        } catch (error) {
          patchState(store, { incoming: null, problem: error instanceof Error ? error.message : String(error) });
        }
      },
      async commit(): Promise<void> {
        const incoming = store.incoming();
        if (!incoming?.outcome) return;
        patchState(store, { isBusy: true });
        const done = await changes.run(outcomeOf(incoming, false));
        patchState(store, { isBusy: false });
        if (!done) return;
        close();
        await load();
      },
      acceptAll: () => decide({ all: 'accepted', single: {} }),
      decide: ({ key, decision }: AsRunLine, to: 'accepted' | 'dismissed') =>
        decide({ single: { [key]: decision === to ? null : to } }),
    };
  }),
  withHooks({
    onInit(store) {
      reloadOn(['logs', 'log edits', 'on-air'], () => store.load(), { burstMs: 400 });
    },
  }),
);
