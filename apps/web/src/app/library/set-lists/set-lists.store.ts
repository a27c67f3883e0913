import { computed, inject } from '@angular/core';
import type { SetListContent, SetListInfo, SetListItemInfo, SetListPatch } from '@fuller/contracts';
import {
  applySetListEdit,
  doubleRows,
  moveRows,
  removeRows,
  setListTotal,
  type SetListPick,
  type SetListRow,
  type SetListSplice,
} from '@fuller/core';
import { patchState, signalStore, withComputed, withMethods, withProps, withState } from '@ngrx/signals';
import { Store } from '@ngrx/store';
import { Api } from '../../shared/api/api';
import { Newest } from '../../shared/api/newest';
import { catalogueFeature } from '../../state/catalogue.feature';
import { Changes } from '../../state/changes';

interface SetListsState {
  readonly stationId: string;
  readonly lists: readonly SetListInfo[] | null;
  /** The list that is open, as the server has it. */
  readonly shown: SetListContent | null;
  /** Its rows with every edit made so far. */
  readonly rows: readonly SetListRow[];
  readonly items: ReadonlyMap<string, SetListItemInfo>;
  readonly selected: ReadonlySet<string>;
  /** Place of the row the keys go on from. */
  readonly at: number;
  readonly problem: string | null;
}

/** The set lists of a station and the one that is open: edits show at once and are sent one after the other. */
export const SetListsStore = signalStore(
  withState<SetListsState>({
    stationId: '',
    lists: null,
    shown: null,
    rows: [],
    items: new Map<string, SetListItemInfo>(),
    selected: new Set<string>(),
    at: -1,
    problem: null,
  }),
  withProps((_, store = inject(Store)) => ({
    categories: store.selectSignal(catalogueFeature.selectCategoryMap),
    draws: store.selectSignal(catalogueFeature.selectDraws),
  })),
  withComputed(({ rows, items, categories, draws, selected }) => {
    const measured = computed(() => {
      const [known, all, counted] = [items(), categories(), draws()];
      const ofPick = ({ categoryId, filter }: SetListPick) =>
        counted.find((draw) => draw.categoryId === categoryId && draw.filter === filter) ?? all[categoryId];
      return {
        lengthOf: (id: string): number => known.get(id)?.durationMs ?? 0,
        averageOf: (pick: SetListPick): number => ofPick(pick)?.averageMs ?? 0,
        standardDeviationOf: (pick: SetListPick): number => ofPick(pick)?.standardDeviationMs ?? 0,
      };
    });
    return {
      measured,
      total: computed(() => setListTotal(rows(), measured())),
      /** When each row begins after the top of the list, milliseconds. */
      starts: computed(() => {
        const lengths = measured();
        let at = 0;
        return rows().map((row) => {
          const start = at;
          at += 'itemId' in row ? lengths.lengthOf(row.itemId) : lengths.averageOf(row);
          return start;
        });
      }),
      doubles: computed(() => doubleRows(rows())),
      selectedRows: computed(() => {
        const ids = selected();
        return rows().filter(({ id }) => ids.has(id));
      }),
    };
  }),
  withComputed(({ selectedRows, measured }) => ({
    selectedTotal: computed(() => setListTotal(selectedRows(), measured())),
  })),
  withMethods((store) => {
    const [api, changes, newest] = [inject(Api), inject(Changes), new Newest()];
    let sending: Promise<unknown> = Promise.resolve();
    let waiting = 0;
    const stationId = (): string => store.stationId();
    const loadLists = async (): Promise<void> => {
      try {
        patchState(store, { lists: await api.setLists({ stationId: stationId() }), problem: null });
      } catch (error) {
        patchState(store, { problem: error instanceof Error ? error.message : String(error) });
      }
    };
    const load = async (id: string | null): Promise<void> => {
      const isNewest = newest.begin();
      const isOther = store.shown()?.id !== id;
      if (isOther) patchState(store, { shown: null, rows: [], selected: new Set<string>(), at: -1 });
      if (id === null) return;
      try {
        const open = await api.setList({ stationId: stationId(), id });
        if (!isNewest()) return;
        const items = new Map(open.items.map((item) => [item.id, item]));
        const there = new Set(open.content.map((row) => row.id));
        const selected = new Set([...store.selected()].filter((row) => there.has(row)));
        patchState(store, { shown: open, rows: open.content, items, selected, problem: null });
      } catch (error) {
        if (isNewest()) patchState(store, { problem: error instanceof Error ? error.message : String(error) });
      }
    };
    const sendNext = async (id: string, edit: readonly SetListSplice[], label: string): Promise<void> => {
      const revision = store.shown()?.revision;
      if (store.shown()?.id !== id || revision === undefined) return;
      const body = { revision, label, edit: edit.map((one) => ({ ...one, insert: [...one.insert] })) };
      const made = await changes.run(api.editSetList({ stationId: stationId(), id }, body));
      waiting--;
      const open = store.shown();
      if (open?.id !== id) return;
      if (made) patchState(store, { shown: { ...open, revision: revision + 1 } });
      else await load(id);
      if (waiting === 0) void loadLists();
    };
    const edit = (splices: readonly SetListSplice[], label: string, items: readonly SetListItemInfo[] = []): void => {
      const open = store.shown();
      if (!open || splices.length === 0) return;
      const known =
        items.length > 0 ? new Map([...store.items(), ...items.map((item) => [item.id, item] as const)]) : null;
      patchState(store, {
        rows: applySetListEdit(store.rows(), splices),
        ...(known ? { items: known } : {}),
      });
      waiting++;
      sending = changes.follow(sending.then(() => sendNext(open.id, splices, label)));
    };
    return {
      load,
      loadLists,
      async openStation(id: string): Promise<void> {
        patchState(store, { stationId: id });
        await loadLists();
      },
      /** Reads again what others have changed; what is on its way comes first. */
      async refresh(): Promise<void> {
        await sending;
        await loadLists();
        const open = store.shown();
        const now = store.lists()?.find(({ id }) => id === open?.id);
        if (open && (!now || now.revision !== open.revision)) await load(now ? open.id : null);
      },
      edit,
      /** Puts rows before the row in hand, or at the end. */
      insert(rows: readonly SetListRow[], items: readonly SetListItemInfo[], label: string): void {
        const at = store.at() >= 0 && store.selected().size > 0 ? store.at() + 1 : store.rows().length;
        edit([{ at, remove: 0, insert: rows }], label, items);
        patchState(store, { selected: new Set(rows.map(({ id }) => id)), at: at + rows.length - 1 });
      },
      removeSelected(): void {
        const ids = store.selected();
        if (ids.size === 0) return;
        edit(removeRows(store.rows(), ids), ids.size === 1 ? 'Remove a row' : `Remove ${ids.size} rows`);
        const at = Math.min(store.at(), store.rows().length - 1);
        const next = store.rows()[at];
        patchState(store, { selected: new Set(next ? [next.id] : []), at });
      },
      /** Narrows a pick by a search; an empty one lets it draw from all. */
      narrow({ id, categoryId }: SetListPick, filter: string): void {
        const at = store.rows().findIndex((row) => row.id === id);
        if (at < 0) return;
        const row: SetListPick = { id, categoryId, ...(filter ? { filter } : {}) };
        edit([{ at, remove: 1, insert: [row] }], filter ? `Only ${filter}` : 'Draw from all');
      },
      removeDoubles(): void {
        const doubles = store.doubles();
        edit(removeRows(store.rows(), new Set(doubles)), `Remove ${doubles.length} doubles`);
        patchState(store, { selected: new Set<string>(), at: -1 });
      },
      /** Moves the selected rows before a place. */
      move(before: number): void {
        const ids = store.selected();
        edit(moveRows(store.rows(), ids, before), ids.size === 1 ? 'Move a row' : `Move ${ids.size} rows`);
        patchState(store, { at: store.rows().findIndex(({ id }) => ids.has(id)) });
      },
      /** Moves the selected rows up or down by one. */
      shift(by: 1 | -1): void {
        const [ids, rows] = [store.selected(), store.rows()];
        const places = rows.flatMap(({ id }, n) => (ids.has(id) ? [n] : []));
        const [first, last] = [places[0], places.at(-1)];
        if (first === undefined || last === undefined) return;
        const before = by < 0 ? first - 1 : last + 2;
        if (before < 0 || before > rows.length) return;
        this.move(before);
      },
      /** Goes to a row: alone, with all between, or one more or less. */
      go(index: number, { extend, toggle }: { extend: boolean; toggle: boolean }): void {
        const [rows, at] = [store.rows(), store.at()];
        const row = rows[index];
        if (!row) return;
        if (toggle) {
          const selected = new Set(store.selected());
          if (!selected.delete(row.id)) selected.add(row.id);
          return patchState(store, { selected, at: index });
        }
        const [from, to] = extend && at >= 0 ? [Math.min(at, index), Math.max(at, index)] : [index, index];
        const ids = rows.slice(from, to + 1).map(({ id }) => id);
        patchState(store, { selected: new Set(extend ? [...store.selected(), ...ids] : ids), at: index });
      },
      clearSelection(): void {
        patchState(store, { selected: new Set<string>() });
      },
      /** Makes a list; its id, or why it cannot be made. */
      async create(name: string): Promise<{ id: string } | string> {
        const made = await changes.made(api.createSetList({ stationId: stationId() }, { name }));
        if (typeof made !== 'string') await loadLists();
        return made;
      },
      async patch(fields: Omit<SetListPatch, 'revision'>): Promise<string | null> {
        const open = store.shown();
        if (!open) return null;
        await sending;
        const { id } = open;
        const revision = store.shown()?.revision ?? open.revision;
        const refused = await changes.attempt(
          api.patchSetList({ stationId: stationId(), id }, { revision, ...fields }),
        );
        await Promise.all([load(id), loadLists()]);
        return refused;
      },
      async remove(): Promise<boolean> {
        const open = store.shown();
        if (!open) return false;
        const gone = await changes.run(api.deleteSetList({ stationId: stationId(), id: open.id }));
        await loadLists();
        return gone !== null;
      },
    };
  }),
);
