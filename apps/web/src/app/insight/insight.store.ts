import { computed, inject } from '@angular/core';
import { reportAddress, type AskedReport, type KeptReport, type ReportAnswer } from '@fuller/contracts';
import type { ReportKind } from '@fuller/core';
import { patchState, signalStore, withComputed, withMethods, withProps, withState } from '@ngrx/signals';
import { Store } from '@ngrx/store';
import { Api } from '../shared/api/api';
import { Newest } from '../shared/api/newest';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';
import { compareCells } from '../shared/compare-cells';

/** What the page asks: a report of a station. */
export interface Question {
  readonly stationId: string;
  readonly kind: ReportKind;
  readonly asked: AskedReport;
}

export interface SortedBy {
  readonly column: number;
  readonly dir: 'asc' | 'desc';
}

interface InsightState {
  readonly question: Question | null;
  readonly answer: ReportAnswer | null;
  readonly problem: string | null;
  readonly reading: boolean;
  readonly sort: SortedBy | null;
  readonly kept: readonly KeptReport[];
}

/** The report that is shown, and those that are kept. */
export const InsightStore = signalStore(
  withState<InsightState>({ question: null, answer: null, problem: null, reading: false, sort: null, kept: [] }),
  withProps((_, store = inject(Store)) => ({
    station: store.selectSignal(catalogueFeature.selectStation),
    stations: store.selectSignal(catalogueFeature.selectStations),
    dayparts: store.selectSignal(catalogueFeature.selectDayparts),
    categories: store.selectSignal(catalogueFeature.selectAllCategories),
    families: store.selectSignal(catalogueFeature.selectFamilies),
  })),
  withComputed(({ answer, sort, question, kept }) => ({
    /** The rows in the order asked for, each with its place in the answer. */
    rows: computed(() => {
      const rows = (answer()?.rows ?? []).map((row, n) => ({ ...row, id: String(n) }));
      const by = sort();
      if (!by) return rows;
      const sign = by.dir === 'asc' ? 1 : -1;
      return rows.sort((a, b) => sign * compareCells(a.cells[by.column] ?? null, b.cells[by.column] ?? null));
    }),
    /** The kept report that is shown, where what is asked is what it asks. */
    shownKept: computed(() => {
      const now = question();
      return kept().find((one) => now && one.report === now.kind && isSame(one.asked, now.asked)) ?? null;
    }),
  })),
  withMethods((store) => {
    const [api, changes, newest] = [inject(Api), inject(Changes), new Newest()];
    const load = async (): Promise<void> => {
      const question = store.question();
      if (!question) return;
      const isNewest = newest.begin();
      patchState(store, { reading: true });
      try {
        const answer = await api.report({
          stationId: question.stationId,
          report: question.kind,
          ...reportAddress(question.asked),
        });
        if (isNewest()) patchState(store, { answer, problem: null, reading: false });
      } catch (error) {
        const problem = error instanceof Error ? error.message : String(error);
        if (isNewest()) patchState(store, { answer: null, problem, reading: false });
      }
    };
    const loadKept = async (): Promise<void> => {
      const stationId = store.question()?.stationId ?? store.station()?.id;
      if (stationId) patchState(store, { kept: await api.keptReports({ stationId }).catch(() => store.kept()) });
    };
    const at = (): { stationId: string } => ({ stationId: store.question()?.stationId ?? '' });
    return {
      load,
      loadKept,
      async ask(question: Question): Promise<void> {
        const other = question.kind !== store.question()?.kind;
        patchState(store, { question, ...(other ? { answer: null, sort: null } : {}) });
        await load();
      },
      sortBy(column: number): void {
        const now = store.sort();
        const dir = now?.column === column && now.dir === 'desc' ? 'asc' : 'desc';
        patchState(store, { sort: { column, dir } });
      },
      /** Keeps what is shown under a name; why not, where it cannot be. */
      async keep(name: string): Promise<string | null> {
        const question = store.question();
        if (!question) return null;
        const body = { name, report: question.kind, asked: question.asked };
        const refused = await changes.attempt(api.createKeptReport(at(), body));
        await loadKept();
        return refused;
      },
      async rename({ id, revision }: KeptReport, name: string): Promise<string | null> {
        const refused = await changes.attempt(api.patchKeptReport({ ...at(), id }, { revision, name }));
        await loadKept();
        return refused;
      },
      async drop({ id }: KeptReport): Promise<void> {
        await changes.run(api.deleteKeptReport({ ...at(), id }));
        await loadKept();
      },
    };
  }),
);

function isSame(one: AskedReport, other: AskedReport): boolean {
  return JSON.stringify(reportAddress(one)) === JSON.stringify(reportAddress(other));
}
