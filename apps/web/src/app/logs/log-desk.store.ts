import { computed, inject } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { AiredPlay, LogRun } from '@fuller/contracts';
import { expandDay, isDate, isLimitRule, placeBeside, type DailyLog } from '@fuller/core';
import { patchState, signalStore, withComputed, withHooks, withMethods, withProps, withState } from '@ngrx/signals';
import { Store } from '@ngrx/store';
import { filter } from 'rxjs';
import { ClockNames } from '../clocks/clock-names';
import { RuleNamesOfStation } from '../rules/rule-names';
import { Api } from '../shared/api/api';
import { changesOf, reloadOn } from '../shared/api/reload-on';
import { ServerEvents } from '../shared/api/server-events';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';
import { GenerateRuns } from '../state/generate-runs';
import { jobsFeature } from '../state/jobs.feature';
import { DeskEngine } from './desk-engine';
import { LogDocument } from './log-document';
import { outlookWords, type OutlookWords } from './outlook-words';
import { isMatter, isOpen, isStrained, logRows, type EntryRow, type LogRow } from './log-model';

interface DeskState {
  readonly date: string | null;
  /** The row that is chosen, by its id. */
  readonly activeId: string | null;
  /** What a day without a log has played. */
  readonly aired: readonly AiredPlay[];
  /** Rules that are not looked at here, and not kept in a run that is started here. */
  readonly rulesOff: readonly string[];
  /** What runs over the day were asked for, the latest first. */
  readonly runs: readonly LogRun[];
  /** The slot whose item is to change places with another. */
  readonly swapId: string | null;
  /** What came of looking for a better log, and the log it was said of. */
  readonly outlook: { readonly log: DailyLog; readonly words: OutlookWords } | null;
  readonly looking: boolean;
}

/** Rows without the marks of some rules; a row that has none of these stays the very same. */
function withoutRules(rows: LogRow[], off: ReadonlySet<string>): LogRow[] {
  if (off.size === 0) return rows;
  return rows.map((row) =>
    row.kind === 'entry' && row.strains.some(({ ruleId }) => off.has(ruleId))
      ? { ...row, strains: row.strains.filter(({ ruleId }) => !off.has(ruleId)) }
      : row,
  );
}

/** The log desk: a day as rows, the entry that is chosen, and what is done to it. */
export const LogDesk = signalStore(
  withState<DeskState>({
    date: null,
    activeId: null,
    aired: [],
    rulesOff: [],
    runs: [],
    outlook: null,
    looking: false,
    swapId: null,
  }),
  withProps((_, store = inject(Store), document = inject(LogDocument)) => ({
    view: document.view,
    /** Whether the log of the day is loading, there is none, it is ready, or cannot be shown. */
    status: document.state,
    message: document.message,
    station: store.selectSignal(catalogueFeature.selectStation),
    _dayparts: store.selectSignal(catalogueFeature.selectDayparts),
    _limits: store.selectSignal(catalogueFeature.selectLimits),
    _stationId: store.selectSignal(catalogueFeature.selectStationId),
    _categories: store.selectSignal(catalogueFeature.selectCategoryMap),
    _plan: store.selectSignal(catalogueFeature.selectAirPlan),
    _jobs: store.selectSignal(jobsFeature.selectAllJobs),
  })),
  withComputed(({ view, rulesOff, _categories, _dayparts, _limits }, words = inject(RuleNamesOfStation)) => ({
    rules: words.byId,
    log: computed(() => (view()?.log ?? null) as DailyLog | null),
    /** Every rule that applies, with whether it is looked at here. */
    ruleChoices: computed(() => {
      const off = new Set(rulesOff());
      return Object.values(words.byId())
        .filter((rule) => rule !== undefined && !rule.resting && (_limits().applies || !isLimitRule(rule.id)))
        .map((rule) => ({ id: rule!.id, words: words.sentence(rule!.id), on: !off.has(rule!.id) }));
    }),
    /** With the marks of every rule. */
    _rows: computed<LogRow[]>(() => {
      const shown = view();
      const rules = words.byId();
      return shown
        ? logRows(shown, { categories: _categories(), rules, dayparts: _dayparts(), words: words.names() }).rows
        : [];
    }),
  })),
  withComputed(({ _rows, rulesOff }) => ({
    rows: computed(() => withoutRules(_rows(), new Set(rulesOff()))),
  })),
  withComputed(
    ({ rows, activeId, date, log, outlook, station, _jobs, _stationId, _plan }, clockNames = inject(ClockNames)) => {
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
          const entries = rows().filter((row): row is EntryRow => row.kind === 'entry');
          return {
            slots: entries.filter((row) => row.entry.kind === 'pick' && !row.entry.out).length,
            open: entries.filter((row) => isOpen(row.entry)).length,
            strained: entries.filter(isStrained).length,
            wishes: entries.filter((row) => row.strains.length > 0 && !isStrained(row)).length,
            silences: rows().filter((row) => row.kind === 'silence').length,
          };
        }),
        /** The run that generates logs of the station at the moment. */
        running: computed(
          () =>
            _jobs().find(
              (job) => job.kind === 'generate' && job.state === 'running' && job.stationId === _stationId(),
            ) ?? null,
        ),
        /** What is known of this very log. */
        known: computed(() => (outlook()?.log === log() ? (outlook()?.words ?? null) : null)),
        past: computed(() => (date() ?? '') < (station()?.today ?? '')),
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
    /** The item slot that is chosen; null where another row is, or none. */
    const chosenPick = () => {
      const entry = store.chosen()?.entry;
      return entry?.kind === 'pick' ? entry : null;
    };
    return {
      /** Shows a day; false where another was asked for before it was there. */
      async openDay(stationId: string, date: string): Promise<boolean> {
        patchState(store, { date, aired: [], swapId: null });
        if (!(await document.open(stationId, date))) return false;
        if (document.state() === 'none' && date <= (store.station()?.today ?? '')) {
          const aired = await api.aired({ stationId, date }).catch(() => []);
          if (store.date() === date) patchState(store, { aired });
        }
        return true;
      },
      choose(activeId: string | null): void {
        patchState(store, { activeId });
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
      /** The next entry to review after the chosen one, from the top again behind the last. */
      nextMatter(): LogRow | null {
        const rows = store.rows();
        return rows.find((row, index) => index > store.active() && isMatter(row)) ?? rows.find(isMatter) ?? null;
      },
      /** Puts an item into the chosen slot; null opens it. */
      replace(itemId: string | null): void {
        const entryId = store.chosen()?.id;
        if (entryId !== undefined)
          document.edit(itemId === null ? { type: 'open', entryId } : { type: 'replace', entryId, itemId });
      },
      lock(locked: boolean): void {
        const entryId = store.chosen()?.id;
        if (entryId !== undefined) document.edit({ type: 'lock', entryId, locked });
      },
      note(note: string): void {
        const entryId = store.chosen()?.id;
        if (entryId !== undefined) document.edit({ type: 'note', entryId, note });
      },
      /** What a key does is done to the entry that is chosen when it is pressed, as it then looks. */
      toggleLock(): void {
        const entry = chosenPick();
        if (entry && entry.itemId !== null) document.edit({ type: 'lock', entryId: entry.id, locked: !entry.locked });
      },
      openSlot(): void {
        const entry = chosenPick();
        if (entry && entry.itemId !== null && !entry.locked) document.edit({ type: 'open', entryId: entry.id });
      },
      /** Marks the chosen slot for a swap, or swaps it with the one that is marked. */
      swap(): void {
        const entry = chosenPick();
        const marked = store.swapId();
        if (!entry || entry.itemId === null || entry.locked) return;
        if (marked !== null && marked !== entry.id) document.edit({ type: 'swap', entryId: marked, withId: entry.id });
        patchState(store, { swapId: marked === null ? entry.id : null });
      },
      dropSwap(): void {
        patchState(store, { swapId: null });
      },
      /** Moves the chosen entry one place up or down the log. */
      move(step: 1 | -1): void {
        const [log, entryId] = [store.log(), store.chosen()?.id];
        const to = log && entryId !== undefined ? placeBeside(log, entryId, step) : null;
        if (to && entryId !== undefined) document.edit({ type: 'move', entryId, to });
      },
      /** Takes the chosen entry out of the log; the one after it is chosen then. */
      remove(): void {
        const row = store.chosen();
        if (!row || (row.entry.kind === 'pick' && row.entry.locked)) return;
        const rows = store.rows();
        const at = store.active();
        const next =
          rows.slice(at + 1).find(({ kind }) => kind === 'entry') ??
          rows.slice(0, at).findLast(({ kind }) => kind === 'entry');
        document.edit({ type: 'remove', entryId: row.id });
        patchState(store, { activeId: next?.id ?? null });
      },
      generate(
        days: number,
        only: 'all' | 'open',
        more: { answers?: Record<string, string>; replaceByHand?: true } = {},
      ): void {
        const date = store.date();
        if (date) void runs.start(date, days, only, { ...more, rulesOff: [...store.rulesOff()] });
      },
      /** Looks at a rule or not: marks change at once, and a run that is started here leaves out what is off. */
      turnRule(id: string, on: boolean): void {
        patchState(store, ({ rulesOff }) => ({
          rulesOff: on ? rulesOff.filter((one) => one !== id) : [...rulesOff, id],
        }));
        void engine.turnOff(store.rulesOff());
      },
      /** Looks for a better log of the day under the rules that are looked at, or for the proof that there is none. */
      async lookForBetter(): Promise<void> {
        const [stationId, log] = [store._stationId(), store.log()];
        if (!stationId || !log || store.looking()) return;
        patchState(store, { looking: true, outlook: null });
        try {
          const words = outlookWords(await engine.outlook(stationId, log));
          patchState(store, { outlook: { log, words } });
        } catch (error) {
          changes.tell(error);
        } finally {
          patchState(store, { looking: false });
        }
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
    onInit(_store, document = inject(LogDocument), engine = inject(DeskEngine), events = inject(ServerEvents)) {
      events.events
        .pipe(
          filter((event) => event.type === 'log'),
          takeUntilDestroyed(),
        )
        .subscribe((event) => document.take(event));
      changesOf(events, ['logs', 'library'])
        .pipe(takeUntilDestroyed())
        .subscribe(() => engine.forget());
      reloadOn(['logs', 'library'], () => document.reload());
    },
  }),
);
