import { computed, inject } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { HandOverPreview, HandOverRecord, HandOverSettings } from '@fuller/contracts';
import { patchState, signalStore, withComputed, withHooks, withMethods, withProps, withState } from '@ngrx/signals';
import { debounceTime, Subject } from 'rxjs';
import { Api, ApiError } from '../shared/api/api';
import { Newest } from '../shared/api/newest';
import { reloadOn } from '../shared/api/reload-on';

/** Typing in the pattern is answered when it pauses. */
const PAUSE_MS = 150;
const SHOWN_TITLES = 80;

interface HandOverState {
  readonly stationId: string;
  readonly date: string | null;
  readonly settings: HandOverSettings | null;
  readonly records: readonly HandOverRecord[];
  readonly preview: HandOverPreview | null;
  readonly problem: { readonly code: string; readonly text: string } | null;
  /** The file whose beginning is shown, by its place. */
  readonly shownFile: number;
  readonly writing: boolean;
}

/** The player's files of a day as they would be written now. */
export const HandOverStore = signalStore(
  withState<HandOverState>({
    stationId: '',
    date: null,
    settings: null,
    records: [],
    preview: null,
    problem: null,
    shownFile: 0,
    writing: false,
  }),
  withProps(() => ({ _typed: new Subject<void>() })),
  withComputed(({ stationId, date, settings, preview }, api = inject(Api)) => ({
    url: computed(() => {
      const [output, day] = [settings(), date()];
      return output && day
        ? api.urlOf('downloadHandOver', {
            stationId: stationId(),
            date: day,
            pattern: output.pattern,
            hourly: output.hourly ? 'true' : 'false',
          })
        : '';
    }),
    /** What is left out, by why; of many titles the first are shown. */
    held: computed(() => {
      const byWhy = new Map<string, string[]>();
      for (const { why, title } of preview()?.heldBack ?? []) byWhy.set(why, [...(byWhy.get(why) ?? []), title]);
      return [...byWhy].map(([why, titles]) => ({
        why,
        count: titles.length,
        titles: [...new Set(titles)].slice(0, SHOWN_TITLES),
      }));
    }),
    total: computed(() => preview()?.files.reduce((sum, file) => sum + file.entries, 0) ?? 0),
  })),
  withMethods((store, api = inject(Api)) => {
    const [newestState, newestPreview] = [new Newest(), new Newest()];
    const fail = (error: unknown): null => {
      const known = error instanceof ApiError ? error : null;
      patchState(store, {
        problem: known ? { code: known.code, text: known.message } : { code: 'UNEXPECTED', text: String(error) },
        // A pattern that cannot be is being typed; what was found before stays.
        ...(known?.field === 'pattern' ? {} : { preview: null }),
      });
      return null;
    };
    const look = async (): Promise<void> => {
      const isNewest = newestPreview.begin();
      const [stationId, date, settings] = [store.stationId(), store.date(), store.settings()];
      if (!date || !settings) return;
      const preview = await api.previewHandOver({ stationId }, { date, ...settings }).catch(fail);
      if (!preview || !isNewest()) return;
      patchState(store, ({ shownFile }) => ({
        preview,
        problem: null,
        shownFile: Math.max(0, Math.min(shownFile, preview.files.length - 1)),
      }));
    };
    const change = (settings: HandOverSettings): void => {
      patchState(store, { settings });
      store._typed.next();
    };
    return {
      look,
      async openDay(stationId: string, date: string | null): Promise<void> {
        patchState(store, { stationId, date });
        if (!date) return;
        const isNewest = newestState.begin();
        const state = await api.handOver({ stationId, date }).catch(fail);
        if (!state || !isNewest()) return;
        patchState(store, ({ settings }) => ({ records: state.records, settings: settings ?? state.settings }));
        await look();
      },
      showFile(shownFile: number): void {
        patchState(store, { shownFile });
      },
      setPattern(pattern: string): void {
        const settings = store.settings();
        if (settings) change({ ...settings, pattern });
      },
      setHourly(hourly: boolean): void {
        const pattern = store.settings()?.pattern;
        if (pattern === undefined) return;
        // Hourly files need the hour in their names; a pattern that has it is left as it is.
        const needsHour = hourly && !pattern.includes('{hour}');
        change({ hourly, pattern: needsHour ? pattern.replace(/(\.[^.]*)?$/, '_{hour}$1') : pattern });
      },
      /** What was written; null where it failed. */
      async write(): Promise<HandOverRecord | null> {
        const [stationId, date, settings] = [store.stationId(), store.date(), store.settings()];
        if (!date || !settings) return null;
        patchState(store, { writing: true });
        const record = await api.writeHandOver({ stationId }, { date, ...settings }).catch(fail);
        patchState(store, { writing: false });
        return record;
      },
    };
  }),
  withHooks({
    onInit(store) {
      store._typed.pipe(debounceTime(PAUSE_MS), takeUntilDestroyed()).subscribe(() => void store.look());
      reloadOn(['logs', 'log edits', 'hand-over'], () => store.openDay(store.stationId(), store.date()), {
        burstMs: 80,
      });
    },
  }),
);
