import { computed, inject } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { HandOverChanges, HandOverPreview, HandOverRecord, HandOverSettings, Output } from '@fuller/contracts';
import { encodingsOf, FORMAT_ENDINGS, type OutputFormat } from '@fuller/core';
import { patchState, signalStore, withComputed, withHooks, withMethods, withProps, withState } from '@ngrx/signals';
import { debounceTime, Subject } from 'rxjs';
import { Api, ApiError } from '../shared/api/api';
import { Newest } from '../shared/api/newest';
import { reloadOn } from '../shared/api/reload-on';
import { Changes } from '../state/changes';

/** Typing in a field is answered when it pauses. */
const PAUSE_MS = 150;
const SHOWN_TITLES = 80;

/** What is wrong, and with which field of the output. */
interface Problem {
  readonly code: string;
  readonly text: string;
  readonly field: string | null;
}

interface HandOverPlace {
  readonly stationId: string;
  readonly date: string | null;
  readonly outputs: readonly Output[];
  /** The output that is shown, as it is being changed. */
  readonly draft: Output | null;
  /** Whether it has been typed in and not been saved. */
  readonly isTyped: boolean;
  readonly records: readonly HandOverRecord[];
  /** The station's own folder. */
  readonly folder: string;
  readonly preview: HandOverPreview | null;
  readonly problem: Problem | null;
  /** Why the output could not be saved. */
  readonly refused: Problem | null;
  /** The file whose beginning is shown, by its place. */
  readonly shownFile: number;
  /** The job that writes or sends. */
  readonly jobId: string | null;
  /** What has changed since the last hand-over by the output. */
  readonly changed: HandOverChanges | null;
}

/** What of an output can be set. */
export type OutputPatch = Partial<Pick<Output, 'name' | 'target' | 'nightly'>> & {
  readonly files?: Partial<HandOverSettings>;
  readonly password?: string;
};

/** The outputs of a station, and the files of a day as one of them would write them now. */
export const HandOverStore = signalStore(
  withState<HandOverPlace>({
    stationId: '',
    date: null,
    outputs: [],
    draft: null,
    isTyped: false,
    records: [],
    folder: '',
    preview: null,
    problem: null,
    refused: null,
    shownFile: 0,
    jobId: null,
    changed: null,
  }),
  withProps(() => ({ _typed: new Subject<void>() })),
  withComputed(({ stationId, date, draft, preview, records }, api = inject(Api)) => ({
    url: computed(() => {
      const [output, day] = [draft(), date()];
      return output && day ? api.urlOf('downloadHandOver', { stationId: stationId(), date: day, id: output.id }) : '';
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
    /** The last hand-over by the output that is shown. */
    last: computed(() => records().find(({ outputId }) => outputId === draft()?.id) ?? null),
  })),
  withMethods((store, api = inject(Api), changes = inject(Changes)) => {
    const [newestState, newestPreview, newestChanges] = [new Newest(), new Newest(), new Newest()];
    const problemOf = (error: unknown): Problem => {
      const known = error instanceof ApiError ? error : null;
      return known
        ? { code: known.code, text: known.message, field: known.field ?? null }
        : { code: 'UNEXPECTED', text: String(error), field: null };
    };
    const fail = (error: unknown): null => {
      const problem = problemOf(error);
      // What cannot be is being typed; what was found before stays.
      patchState(store, { problem, ...(problem.field === null ? { preview: null } : {}) });
      return null;
    };
    const look = async (): Promise<void> => {
      const isNewest = newestPreview.begin();
      const [stationId, date, files] = [store.stationId(), store.date(), store.draft()?.files];
      if (!date || !files) return;
      try {
        const preview = await api.previewHandOver({ stationId }, { date, ...files });
        if (!isNewest()) return;
        patchState(store, ({ shownFile }) => ({
          preview,
          problem: null,
          shownFile: Math.max(0, Math.min(shownFile, preview.files.length - 1)),
        }));
      } catch (error) {
        if (isNewest()) fail(error);
      }
    };
    const lookForChanges = async (): Promise<void> => {
      const isNewest = newestChanges.begin();
      const [stationId, date, last] = [store.stationId(), store.date(), store.last()];
      const changed =
        date && last?.stale ? await api.handOverChanges({ stationId, date, id: last.id }).catch(() => null) : null;
      if (isNewest()) patchState(store, { changed });
    };
    const show = async (output: Output | null): Promise<void> => {
      patchState(store, { draft: output, isTyped: false, refused: null });
      await Promise.all([look(), lookForChanges()]);
    };
    /** An output with a change in it. */
    const patched = (output: Output, { files, password: _password, ...patch }: OutputPatch): Output => {
      return { ...output, ...patch, files: { ...output.files, ...files } };
    };
    const send = (output: Output, password?: string): ReturnType<Api['saveOutput']> => {
      const { id, hasPassword: _known, ...form } = output;
      const body = password === undefined ? form : { ...form, password };
      return api.saveOutput({ stationId: store.stationId(), id }, body);
    };
    return {
      look,
      async openDay(stationId: string, date: string | null): Promise<void> {
        const isOther = stationId !== store.stationId();
        patchState(store, { stationId, date, ...(isOther ? { draft: null } : {}) });
        if (!date) return;
        const isNewest = newestState.begin();
        const state = await api.handOver({ stationId, date }).catch(fail);
        if (!state || !isNewest()) return;
        patchState(store, { outputs: state.outputs, records: state.records, folder: state.folder });
        const shown = store.draft();
        const same = state.outputs.find(({ id }) => id === shown?.id);
        // What is being typed is not taken away.
        if (shown && same && (store.isTyped() || same.revision < shown.revision))
          await Promise.all([look(), lookForChanges()]);
        else {
          // What the day was last handed over by is what a person comes for.
          const used = state.outputs.find(({ id }) => id === state.records[0]?.outputId);
          await show(same ?? used ?? state.outputs[0] ?? null);
        }
      },
      showOutput(id: string): Promise<void> {
        return show(store.outputs().find((output) => output.id === id) ?? null);
      },
      showFile(shownFile: number): void {
        patchState(store, { shownFile });
      },
      /** Shows what a change would write, before it is saved. */
      type(patch: OutputPatch): void {
        const draft = store.draft();
        if (!draft) return;
        patchState(store, { draft: patched(draft, patch), isTyped: true });
        store._typed.next();
      },
      /** Saves a change, and whatever was typed before. */
      async save(patch: OutputPatch): Promise<void> {
        const before = store.draft();
        if (!before) return;
        const after = patched(before, patch);
        patchState(store, { draft: after, isTyped: true });
        void look();
        try {
          const { password } = patch;
          const answer = await changes.follow(send(after, password));
          changes.remember(answer);
          patchState(store, ({ draft }) => ({
            isTyped: false,
            refused: null,
            // The server counts a revision for a change, and none where nothing has changed; others may be on their way.
            draft: draft && {
              ...draft,
              revision: answer.activityId === null ? draft.revision : Math.max(draft.revision, before.revision) + 1,
              hasPassword: password === undefined ? draft.hasPassword : password !== '',
            },
          }));
        } catch (error) {
          patchState(store, { refused: problemOf(error) });
        }
      },
      /** A format brings its own ending of names; an encoding it cannot have is not kept. */
      formatPatch(format: OutputFormat): OutputPatch {
        const files = store.draft()?.files;
        const { pattern = '', encoding = null } = files ?? {};
        const ending = files ? FORMAT_ENDINGS[files.format] : '';
        return {
          files: {
            format,
            pattern: pattern.endsWith(ending)
              ? pattern.slice(0, pattern.length - ending.length) + FORMAT_ENDINGS[format]
              : pattern,
            encoding: encoding !== null && encodingsOf(format).includes(encoding) ? encoding : null,
          },
        };
      },
      /** Hourly files need the hour in their names; a pattern that has it is left as it is. */
      hourlyPatch(hourly: boolean): OutputPatch {
        const pattern = store.draft()?.files.pattern ?? '';
        const needsHour = hourly && !/\{(?:hour|HH?|kk|hh?)(?::\w+)?\}/.test(pattern);
        return { files: { hourly, pattern: needsHour ? pattern.replace(/(\.[^.]*)?$/, '_{HH}$1') : pattern } };
      },
      async add(id: string): Promise<void> {
        const outputs = store.outputs();
        const base = store.draft() ?? outputs[0];
        if (!base) return;
        const names = new Set(outputs.map(({ name }) => name));
        let n = outputs.length + 1;
        while (names.has(`Output ${n}`)) n++;
        const made: Output = {
          ...base,
          id,
          revision: 0,
          name: `Output ${n}`,
          files: { ...base.files, pattern: `{station}_{date}_${n}${FORMAT_ENDINGS[base.files.format]}`, hourly: false },
          target: { kind: 'folder', folder: null },
          nightly: null,
          hasPassword: false,
        };
        // Whoever adds one to the standard output wants to keep that too.
        if (base.revision === 0 && !(await changes.run(send(base)))) return;
        if (!(await changes.run(send(made)))) return;
        patchState(store, { draft: { ...made, revision: 1 }, isTyped: false });
        await look();
      },
      async remove(): Promise<void> {
        const draft = store.draft();
        if (draft) await changes.run(api.removeOutput({ stationId: store.stationId(), id: draft.id }));
      },
      /** Begins to write or send; the job tells how it goes. */
      async write(): Promise<void> {
        // What was just typed is part of it.
        await changes.idle();
        if (store.refused()) return;
        const [stationId, date, draft] = [store.stationId(), store.date(), store.draft()];
        if (!date || !draft) return;
        const job = await api.writeOutput({ stationId, date, id: draft.id }).catch(fail);
        if (job) patchState(store, { jobId: job.id });
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
