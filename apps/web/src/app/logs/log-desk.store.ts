import { computed, inject } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { AiredPlay, JobView, LogItem, LogRun } from '@fuller/contracts';
import {
  applyEdit,
  byHand,
  expandDay,
  isDate,
  isLimitRule,
  placeBeside,
  type DailyLog,
  type LogPlace,
} from '@fuller/core';
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
import { GenerateRuns, type RunMore } from '../state/generate-runs';
import { jobsFeature } from '../state/jobs.feature';
import { DeskEngine } from './desk-engine';
import { isFiltering, NO_FILTER, shownRows, type DeskFilter } from './desk-filter';
import { categoryEdits, newEntryId, pasteEdits, together, type SingleEdit } from './hand-edits';
import { LogClipboard } from './log-clipboard';
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
  readonly filter: DeskFilter;
  /** Places of the hours whose rows are not shown. */
  readonly collapsed: readonly number[];
  /** Entries that are chosen together; none where the chosen row stands alone. */
  readonly picked: readonly string[];
  /** Where a stretch of chosen entries begins. */
  readonly anchorId: string | null;
  /** Told by the clock on the wall, UTC epoch milliseconds. */
  readonly nowMs: number;
  /** Name of the tag family of the flow line. */
  readonly flowName: string;
  /** What the right-hand side is about. */
  readonly side: DeskSide;
}

/** What the right-hand side of the desk is about: the chosen entry, or something that is done to the log. */
export type DeskSide = 'entry' | 'generate' | 'versions' | 'print' | 'add';

const FLOW_KEPT = 'fuller.flow';

function keptFlow(): string {
  try {
    return localStorage.getItem(FLOW_KEPT) ?? 'tempo';
  } catch {
    return 'tempo';
  }
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
    filter: NO_FILTER,
    collapsed: [],
    picked: [],
    anchorId: null,
    nowMs: Date.now(),
    flowName: keptFlow(),
    side: 'entry',
  }),
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
        return Object.values(words.byId())
          .filter((rule) => rule !== undefined && !rule.resting && (_limits().applies || !isLimitRule(rule.id)))
          .map((rule) => ({ id: rule!.id, words: words.sentence(rule!.id), on: !off.has(rule!.id) }));
      }),
      /** The tag family of the flow line; null where the station does not have it. */
      flowFamily: computed(() => families().find(({ name }) => name === flowName()) ?? null),
      /** With the marks of every rule. */
      _rows: computed<LogRow[]>(() => {
        const shown = view();
        const rules = words.byId();
        return shown
          ? logRows(shown, {
              categories: _categories(),
              rules,
              dayparts: _dayparts(),
              words: words.names(),
              flow: families().find(({ name }) => name === flowName()) ?? null,
            }).rows
          : [];
      }),
    }),
  ),
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
    (
      { rows, allRows, activeId, date, log, outlook, station, _jobs, _stationId, _plan },
      clockNames = inject(ClockNames),
    ) => {
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
        /** What is known of this very log. */
        known: computed(() => (outlook()?.log === log() ? (outlook()?.words ?? null) : null)),
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
    const clipboard = inject(LogClipboard);
    const openHour = (index: number): void =>
      patchState(store, ({ collapsed }) => ({ collapsed: collapsed.filter((one) => one !== index) }));
    /** What an act is done to: the entries chosen together, or else the chosen row. */
    const targets = (): readonly EntryRow[] => {
      const picked = store.pickedRows();
      if (picked.length > 0) return picked;
      const row = store.chosen();
      return row ? [row] : [];
    };
    const editAll = (edits: readonly SingleEdit[]): void => {
      const edit = together(edits);
      if (edit) document.edit(edit);
    };
    /** The item slot that is chosen; null where another row is, or none. */
    const chosenPick = () => {
      const entry = store.chosen()?.entry;
      return entry?.kind === 'pick' ? entry : null;
    };
    return {
      /** Shows a day; false where another was asked for before it was there. */
      async openDay(stationId: string, date: string): Promise<boolean> {
        patchState(store, {
          date,
          aired: [],
          swapId: null,
          picked: [],
          anchorId: null,
          collapsed: [],
          nowMs: Date.now(),
        });
        if (!(await document.open(stationId, date))) return false;
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
      note(note: string, entryId = store.chosen()?.id): void {
        if (entryId !== undefined) document.edit({ type: 'note', entryId, note });
      },
      /** What a key does is done to what is chosen when it is pressed, as it then looks. */
      toggleLock(): void {
        const slots = targets().filter(({ entry }) => entry.kind === 'pick' && entry.itemId !== null);
        const locked = slots.some(({ entry }) => entry.kind === 'pick' && !entry.locked);
        editAll(
          slots
            .filter(({ entry }) => entry.kind === 'pick' && entry.locked !== locked)
            .map(({ id }) => ({ type: 'lock', entryId: id, locked })),
        );
      },
      openSlot(): void {
        editAll(
          targets()
            .filter(({ entry }) => entry.kind === 'pick' && entry.itemId !== null && !entry.locked)
            .map(({ id }) => ({ type: 'open', entryId: id })),
        );
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
      /** Moves what is chosen one place up or down the log; a stretch moves together. */
      move(step: 1 | -1): void {
        const log = store.log();
        const rows = targets();
        if (!log || rows.length === 0) return;
        // From the end it moves towards, so that each finds its place free.
        const ids = (step < 0 ? rows : rows.toReversed()).map(({ id }) => id);
        const edits: SingleEdit[] = [];
        let moved = log;
        for (const entryId of ids) {
          const to = placeBeside(moved, entryId, step);
          if (!to) return;
          const edit = { type: 'move' as const, entryId, to };
          const outcome = applyEdit(moved, byHand(edit));
          if (!outcome.ok) return;
          moved = outcome.log;
          edits.push(edit);
        }
        editAll(edits);
      },
      /** Puts what is chosen before another entry, or at the end of an hour. */
      moveTo(at: LogPlace): void {
        editAll(
          targets()
            .filter(({ id }) => id !== at.beforeId)
            .map(({ id }) => ({ type: 'move', entryId: id, to: at })),
        );
      },
      /** Takes what is chosen out of the log; the entry after it is chosen then. */
      remove(): void {
        const removed = targets().filter(({ entry }) => entry.kind !== 'pick' || !entry.locked);
        if (removed.length === 0) return;
        const ids = new Set(removed.map(({ id }) => id));
        const rows = store.rows();
        const at = store.active();
        const isLeft = (row: LogRow): boolean => row.kind === 'entry' && !ids.has(row.id);
        const next = rows.slice(at + 1).find(isLeft) ?? rows.slice(0, at).findLast(isLeft);
        editAll(removed.map(({ id }) => ({ type: 'remove', entryId: id })));
        patchState(store, { activeId: next?.id ?? null, picked: [], anchorId: null });
      },
      /** Copies what is chosen, to be pasted here or into another day. */
      copy(): number {
        const rows = targets();
        const stationId = store._stationId();
        if (rows.length === 0 || !stationId) return 0;
        const items = rows.flatMap(({ item }) => item ?? []);
        clipboard.held.set({ stationId, entries: rows.map(({ entry }) => entry), items });
        return rows.length;
      },
      /** Puts copies of what is held before the chosen entry. */
      paste(): number {
        const [log, held, row] = [store.log(), clipboard.held(), store.chosen()];
        if (!log || !held || held.stationId !== store._stationId()) return 0;
        const at = row
          ? { hourIndex: row.hourIndex, beforeId: row.id }
          : { hourIndex: Math.max(0, store.currentHour()), beforeId: null };
        const edits = pasteEdits(held.entries, at);
        const edit = together(edits);
        if (edit) document.edit(edit, held.items);
        return edits.length;
      },
      /** Puts an item in before the chosen entry. */
      insert(item: LogItem): void {
        const row = store.chosen();
        const at = row
          ? { hourIndex: row.hourIndex, beforeId: row.id }
          : { hourIndex: Math.max(0, store.currentHour()), beforeId: null };
        const id = newEntryId();
        document.edit({ type: 'insert', at, entry: { id, kind: 'item', itemId: item.id, note: '' } }, [item]);
        patchState(store, { activeId: id, picked: [] });
      },
      insertNote(text: string): void {
        const row = store.chosen();
        if (!row) return;
        const id = newEntryId();
        const at = { hourIndex: row.hourIndex, beforeId: row.id };
        document.edit({ type: 'insert', at, entry: { id, kind: 'note', text, note: '' } });
        patchState(store, { activeId: id, picked: [] });
      },
      /** Draws what is chosen from another category; its slots stand open then. */
      drawFrom(categoryId: string): void {
        const log = store.log();
        if (!log) return;
        editAll(categoryEdits(targets(), categoryId, log));
        patchState(store, { picked: [], anchorId: null });
      },
      /** Gives an entry, the chosen one where none is named, a length of its own, milliseconds; null gives its item's back. */
      fixLength(durationMs: number | null, entryId = store.chosen()?.id): void {
        if (entryId !== undefined) document.edit({ type: 'length', entryId, durationMs });
      },
      /** Swaps the chosen slot with another one. */
      swapWith(withId: string): void {
        const entryId = store.chosen()?.id;
        if (entryId !== undefined) document.edit({ type: 'swap', entryId, withId });
      },
      /** Carries out an edit that was offered. */
      carryOut(
        entryId: string,
        edit:
          { readonly type: 'replace'; readonly itemId: string } | { readonly type: 'swap'; readonly withId: string },
      ): void {
        document.edit({ ...edit, entryId } as SingleEdit);
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
