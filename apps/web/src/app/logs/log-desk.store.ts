import { computed, inject } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { JobView, LogView } from '@fuller/contracts';
import { expandDay, isDate, isLimitRule, looksAcross, type DailyLog } from '@fuller/core';
import { patchState, signalStore, withComputed, withHooks, withMethods, withProps, withState } from '@ngrx/signals';
import { Store } from '@ngrx/store';
import { debounceTime, filter } from 'rxjs';
import { ClockNames } from '../clocks/clock-names';
import { RuleNamesOfStation } from '../rules/rule-names';
import { Api } from '../shared/api/api';
import { changesOf, reloadOn } from '../shared/api/reload-on';
import { ServerEvents } from '../shared/api/server-events';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';
import { GenerateRuns, type RunMore } from '../state/generate-runs';
import { jobsFeature } from '../state/jobs.feature';
import { DeskEngine } from './desk-engine';
import { isFiltering, shownRows, type DeskFilter } from './desk-filter';
import { beginning, FLOW_KEPT, withoutRules, type DeskSide, type DeskState } from './desk-state';
import { LogDocument } from './log-document';
import { isMatter, isOpen, isStrained, logRows, type EntryRow, type LogRow } from './log-model';

/** Edits elsewhere that come in a burst are answered with one reload. */
const SISTER_BURST_MS = 1000;

/** The log desk: a day as rows, the entry that is chosen, and what is done to it. */
export const LogDesk = signalStore(
  withState<DeskState>(beginning),
  withProps((_, store = inject(Store), document = inject(LogDocument)) => ({
    view: document.view,
    /** Whether the log of the day is loading, there is none, it is ready, or cannot be shown. */
    status: document.state,
    message: document.message,
    station: store.selectSignal(catalogueFeature.selectStation),
    _dayparts: store.selectSignal(catalogueFeature.selectDayparts),
    _limits: store.selectSignal(catalogueFeature.selectLimits),
    families: store.selectSignal(catalogueFeature.selectFamilies),
    _stationId: store.selectSignal(catalogueFeature.selectStationId),
    _categories: store.selectSignal(catalogueFeature.selectCategoryMap),
    _plan: store.selectSignal(catalogueFeature.selectAirPlan),
    _jobs: store.selectSignal(jobsFeature.selectAllJobs),
  })),
  withComputed(
    ({ view, rulesOff, _categories, _dayparts, _limits, families, flowName }, words = inject(RuleNamesOfStation)) => ({
      rules: words.byId,
      log: computed(() => (view()?.log ?? null) as DailyLog | null),
      /** Every rule that applies, with whether it is looked at here. */
      ruleChoices: computed(() => {
        const off = new Set(rulesOff());
        return Object.values(words.byId()).flatMap((rule) =>
          rule && !rule.resting && (_limits().applies || !isLimitRule(rule.id))
            ? [{ id: rule.id, words: words.sentence(rule.id), on: !off.has(rule.id) }]
            : [],
        );
      }),
      /** What the rows of a log are called and coloured by. */
      names: computed(() => ({
        categories: _categories(),
        rules: words.byId(),
        dayparts: _dayparts(),
        words: words.names(),
        /** The tag family of the flow line; null where the station does not have it. */
        flow: families().find(({ name }) => name === flowName()) ?? null,
      })),
    }),
  ),
  withComputed(({ view, names }) => ({
    /** With the marks of every rule. */
    _rows: computed<LogRow[]>(() => {
      const shown = view();
      return shown ? logRows(shown, names()).rows : [];
    }),
  })),
  withComputed(({ _rows, rulesOff }) => ({
    /** Every row, whatever is shown of them. */
    allRows: computed(() => withoutRules(_rows(), new Set(rulesOff()))),
  })),
  withComputed(({ allRows, filter, collapsed, activeId, nowMs, picked }) => ({
    rows: computed(() => shownRows(allRows(), filter(), new Set(collapsed()), { nowMs: nowMs(), always: activeId() })),
    isFiltering: computed(() => isFiltering(filter())),
    /** The entries that are chosen together, in the order of the log. */
    pickedRows: computed(() => {
      const ids = new Set(picked());
      return ids.size === 0 ? [] : allRows().filter((row): row is EntryRow => row.kind === 'entry' && ids.has(row.id));
    }),
  })),
  withComputed(
    ({ rows, allRows, activeId, date, station, _jobs, _stationId, _plan }, clockNames = inject(ClockNames)) => {
      const active = computed(() => rows().findIndex((row) => row.id === activeId()));
      return {
        /** The place of the chosen row; -1 where none is. */
        active,
        chosen: computed<EntryRow | null>(() => {
          const row = rows()[active()];
          return row?.kind === 'entry' ? row : null;
        }),
        /** The hour of the day the chosen row stands in; -1 where none is chosen. */
        currentHour: computed(() => {
          const row = rows()[active()];
          return row?.kind === 'hour' ? row.hour.index : (row?.hourIndex ?? -1);
        }),
        tally: computed(() => {
          const entries = allRows().filter((row): row is EntryRow => row.kind === 'entry');
          return {
            slots: entries.filter((row) => row.entry.kind === 'pick' && !row.entry.out).length,
            open: entries.filter((row) => isOpen(row.entry)).length,
            strained: entries.filter(isStrained).length,
            wishes: entries.filter((row) => row.strains.length > 0 && !isStrained(row)).length,
            silences: allRows().filter((row) => row.kind === 'silence').length,
          };
        }),
        /** The run that generates logs of the station at the moment. */
        running: computed(
          () =>
            _jobs().find(
              (job) => job.kind === 'generate' && job.state === 'running' && job.stationId === _stationId(),
            ) ?? null,
        ),
        past: computed(() => (date() ?? '') < (station()?.today ?? '')),
        today: computed(() => date() !== null && date() === station()?.today),
        /** What the lines of this day's clocks ask before it is generated. */
        questions: computed(() => {
          const [plan, day, { timeZone } = { timeZone: '' }] = [_plan(), date(), station() ?? undefined];
          if (!plan || !day || !isDate(day) || !timeZone) return [];
          const asking = plan.clocks.some(({ lines }) => lines.some((line) => line.kind === 'pick' && line.ask));
          if (!asking) return [];
          const lines = expandDay(day, timeZone, plan, clockNames.lengths()).flatMap((hour) => hour.lines);
          return [...new Set(lines.flatMap(({ line }) => (line.kind === 'pick' && line.ask ? [line.ask] : [])))];
        }),
      };
    },
  ),
  withMethods((store) => {
    const document = inject(LogDocument);
    const [api, changes, runs, engine] = [inject(Api), inject(Changes), inject(GenerateRuns), inject(DeskEngine)];
    const openHour = (index: number): void =>
      patchState(store, ({ collapsed }) => ({ collapsed: collapsed.filter((one) => one !== index) }));
    return {
      /** Shows a day, at once as far as its log is known; false where another was asked for before it was there. */
      async openDay(stationId: string, date: string, known: LogView | null = null): Promise<boolean> {
        patchState(store, {
          date,
          aired: [],
          swapId: null,
          picked: [],
          anchorId: null,
          collapsed: [],
          nowMs: Date.now(),
        });
        if (!(await document.open(stationId, date, known))) return false;
        if (document.state() === 'none' && date <= (store.station()?.today ?? '')) {
          const aired = await api.aired({ stationId, date }).catch(() => []);
          if (store.date() === date) patchState(store, { aired });
        }
        return true;
      },
      choose(activeId: string | null): void {
        patchState(store, { activeId, picked: [], anchorId: null });
      },
      /** What is on the air at an instant, UTC epoch milliseconds; null where nothing is. */
      entryAt(nowMs: number): EntryRow | null {
        const row = store.rows().findLast((one) => one.kind === 'entry' && one.startMs <= nowMs && one.durationMs > 0);
        return row?.kind === 'entry' ? row : null;
      },
      /** The entry so many rows away, past heads of hours and silences; the last that way where there are no more. */
      entryAway(step: number): EntryRow | null {
        const rows = store.rows();
        const target = Math.max(0, Math.min(rows.length - 1, store.active() + step));
        const isEntry = (row: LogRow): row is EntryRow => row.kind === 'entry';
        const before = rows.slice(0, target + 1).filter(isEntry);
        const after = rows.slice(target).filter(isEntry);
        return (step > 0 ? (after[0] ?? before.at(-1)) : (before.at(-1) ?? after[0])) ?? null;
      },
      /** The next entry to review after the chosen one, from the top again behind the last; its hour is opened. */
      nextMatter(): LogRow | null {
        const rows = store.allRows();
        const at = rows.findIndex(({ id }) => id === store.activeId());
        const matters = rows.flatMap((row, index) => (isMatter(row) ? [{ row, index }] : []));
        const next = (matters.find(({ index }) => index > at) ?? matters[0])?.row ?? null;
        if (next) openHour(next.hourIndex);
        return next;
      },
      /** Shows or hides the rows of an hour. */
      turnHour(index: number): void {
        patchState(store, ({ collapsed }) => ({
          collapsed: collapsed.includes(index) ? collapsed.filter((one) => one !== index) : [...collapsed, index],
        }));
      },
      /** Hides the rows of every hour, or shows them all again. */
      turnAllHours(): void {
        const every = store.log()?.hours.map((_, index) => index) ?? [];
        patchState(store, ({ collapsed }) => ({ collapsed: collapsed.length === every.length ? [] : every }));
      },
      openHour,
      setFilter(change: Partial<DeskFilter>): void {
        patchState(store, ({ filter }) => ({ filter: { ...filter, ...change } }));
      },
      chooseFlow(flowName: string): void {
        patchState(store, { flowName });
        try {
          localStorage.setItem(FLOW_KEPT, flowName);
        } catch {
          // A browser that keeps nothing forgets it when it is closed.
        }
      },
      show(side: DeskSide): void {
        patchState(store, (state) => ({ side: state.side === side ? 'entry' : side }));
      },
      tick(): void {
        patchState(store, { nowMs: Date.now() });
      },
      /** Chooses one entry more, or one less. */
      pickAlso(id: string): void {
        patchState(store, ({ picked, activeId }) => {
          const held = picked.length > 0 ? picked : activeId === null ? [] : [activeId];
          const next = held.includes(id) ? held.filter((one) => one !== id) : [...held, id];
          return { picked: next.length > 1 ? next : [], activeId: id, anchorId: id };
        });
      },
      /** Chooses every entry from where the stretch began to this one. */
      pickTo(id: string): void {
        const rows = store.rows();
        const from = rows.findIndex((row) => row.id === (store.anchorId() ?? store.activeId()));
        const to = rows.findIndex((row) => row.id === id);
        if (from < 0 || to < 0) return;
        const stretch = rows.slice(Math.min(from, to), Math.max(from, to) + 1);
        const picked = stretch.flatMap((row) => (row.kind === 'entry' ? [row.id] : []));
        const anchorId = store.anchorId() ?? store.activeId();
        patchState(store, { picked: picked.length > 1 ? picked : [], activeId: id, anchorId });
      },
      unpick(): void {
        patchState(store, { picked: [], anchorId: null });
      },
      /** Marks a slot for a swap; null takes the mark away. */
      mark(swapId: string | null): void {
        patchState(store, { swapId });
      },
      /** Starts a run over the day that is open, or from it on; its job, null where it was refused, which has been told. */
      generate({
        days = 1,
        only,
        ...more
      }: { readonly days?: number; readonly only: 'all' | 'open' } & Partial<RunMore>): Promise<JobView | null> {
        const date = store.date();
        if (!date) return Promise.resolve(null);
        return runs.start(date, days, only, { ...more, rulesOff: [...store.rulesOff()] });
      },
      /** Looks at a rule or not: marks change at once, and a run that is started here leaves out what is off. */
      turnRule(id: string, on: boolean): void {
        patchState(store, ({ rulesOff }) => ({
          rulesOff: on ? rulesOff.filter((one) => one !== id) : [...rulesOff, id],
        }));
        void engine.turnOff(store.rulesOff());
      },
      async readRuns(): Promise<void> {
        const [stationId, date] = [store._stationId(), store.date()];
        if (!stationId || !date) return;
        const runs = await api.logRuns({ stationId, date }).catch(() => []);
        if (store.date() === date) patchState(store, { runs });
      },
      cancelRun(): void {
        const job = store.running();
        if (job) void api.cancelJob({ id: job.id }).catch((error: unknown) => changes.tell(error));
      },
    };
  }),
  withHooks({
    onInit(
      store,
      document = inject(LogDocument),
      engine = inject(DeskEngine),
      events = inject(ServerEvents),
      root = inject(Store),
    ) {
      events.events
        .pipe(
          filter((event) => event.type === 'log'),
          takeUntilDestroyed(),
        )
        .subscribe((event) => document.take(event));
      // An edit of another station's log can break, or mend, a rule across stations here.
      const rules = root.selectSignal(catalogueFeature.selectAllRules);
      events.events
        .pipe(
          filter((event) => event.type === 'log' && event.stationId !== store._stationId() && looksAcross(rules())),
          debounceTime(SISTER_BURST_MS),
          takeUntilDestroyed(),
        )
        .subscribe(() => {
          engine.forget();
          void document.reload();
        });
      changesOf(events, ['logs', 'library'])
        .pipe(takeUntilDestroyed())
        .subscribe(() => engine.forget());
      reloadOn(['logs', 'library'], () => document.reload());
    },
  }),
);
