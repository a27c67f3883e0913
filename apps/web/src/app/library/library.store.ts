import { computed, inject } from '@angular/core';
import type { ItemRow } from '@fuller/contracts';
import { patchState, signalStore, withComputed, withHooks, withMethods, withProps, withState } from '@ngrx/signals';
import { newRowId } from './set-lists/row-id';
import { Api, type Address } from '../shared/api/api';
import { reloadOn } from '../shared/api/reload-on';
import { plural } from '../shared/text/plural';
import { Changes } from '../state/changes';
import { ItemPages } from './item-pages';
import { LibraryWords } from './library-words';

/** As many as the server changes at once. */
const MOST_SELECTED = 5000;

/** What is asked of the library, as the address of the page has it. */
export type ItemListQuery = Pick<Address<'items'>, 'category' | 'artist' | 'sort' | 'dir'> & { readonly q: string };

/** A move in the list: to a row, selecting it, what lies between, or one more. */
export interface SelectionStep {
  readonly index: number;
  readonly extend: boolean;
  readonly toggle: boolean;
}

interface LibraryState {
  readonly stationId: string;
  readonly query: ItemListQuery | null;
  /** The place of the row the keys are at; -1 where there is none. */
  readonly active: number;
  /** Where a selection of several began. */
  readonly anchor: number;
  readonly selected: ReadonlySet<string>;
  /** Counts changes on the server, so that cards are read again. */
  readonly version: number;
}

const NOTHING: ReadonlySet<string> = new Set();

/** The list of the library that is asked for, and what of it is selected. */
export const LibraryStore = signalStore(
  withState<LibraryState>({ stationId: '', query: null, active: -1, anchor: -1, selected: NOTHING, version: 0 }),
  withProps(() => ({ pages: new ItemPages(), words: inject(LibraryWords) })),
  withComputed(({ pages, selected }) => ({
    counted: computed(() => plural(pages.total(), 'item')),
    selectedIds: computed(() => [...selected()]),
  })),
  withMethods((store) => {
    const [api, changes] = [inject(Api), inject(Changes)];
    /** The last change of the selection; a key pressed right after it waits until its rows are there. */
    let selecting: Promise<unknown> = Promise.resolve();

    const select = async ({ index, extend, toggle }: SelectionStep): Promise<ItemRow | null> => {
      patchState(store, { active: index });
      if (extend && store.anchor() >= 0) {
        const [from, to] = [Math.min(store.anchor(), index), Math.max(store.anchor(), index)];
        const rows = await store.pages.range(from, to);
        patchState(store, { selected: new Set(rows.map((row) => row.id)) });
      } else {
        patchState(store, { anchor: index });
        const [row] = await store.pages.range(index, index);
        if (!row || store.active() !== index) return null;
        patchState(store, { selected: toggle ? toggled(store.selected(), row.id) : new Set([row.id]) });
      }
      return store.pages.rowAt(index) ?? null;
    };
    const selectEverything = async (): Promise<void> => {
      const count = Math.min(store.pages.total(), MOST_SELECTED);
      const rows = count > 0 ? await store.pages.range(0, count - 1) : [];
      patchState(store, { selected: new Set(rows.map((row) => row.id)) });
      if (store.pages.total() > count)
        changes.tell(
          new Error(`The first ${count.toLocaleString('en-GB')} are selected; more cannot be changed at once.`),
        );
    };
    const read = (): void => {
      const [stationId, query] = [store.stationId(), store.query()];
      if (query) void store.pages.ask((offset, limit) => api.items({ stationId, ...query, offset, limit }));
    };

    return {
      /** Asks another question; nothing of its answer is selected. */
      ask(stationId: string, query: ItemListQuery): void {
        patchState(store, { stationId, query, active: -1, selected: NOTHING });
        read();
      },
      /** Reads everything again, as it may have changed; the selection stays. */
      reload(): void {
        patchState(store, ({ version }) => ({ version: version + 1 }));
        void store.words.load(store.stationId());
        read();
      },
      /** The row that was moved to, once it is there; null where another move came first. */
      goTo(step: SelectionStep): Promise<ItemRow | null> {
        const moved = select(step);
        selecting = moved;
        return moved;
      },
      selectAll(): void {
        selecting = selectEverything();
      },
      /** Waits for the rows of the last selection; whether any are selected. */
      async hasSelection(): Promise<boolean> {
        await selecting;
        return store.selected().size > 0;
      },
      /** A dragged row that is not selected is dragged alone. */
      dragFrom(index: number): void {
        const row = store.pages.rowAt(index);
        if (row && !store.selected().has(row.id)) patchState(store, { selected: new Set([row.id]) });
      },
      /** The worklist dragged onto a category takes all that is on it along. */
      selectWorklist(): void {
        patchState(store, { selected: new Set(store.words.worklist()) });
      },
      /** Puts the selected items on the worklist, or takes them off it. */
      async collect(on: boolean): Promise<void> {
        await selecting;
        const ids = [...store.selected()];
        if (ids.length > 0)
          await changes.run(api.changeWorklist({ stationId: store.stationId() }, on ? { add: ids } : { remove: ids }));
      },
      /** Puts the selected items at the end of a set list. */
      async addToList(listId: string): Promise<void> {
        await selecting;
        const [stationId, ids] = [store.stationId(), [...store.selected()]];
        const list = (await api.setLists({ stationId })).find(({ id }) => id === listId);
        if (!list || ids.length === 0) return;
        const insert = ids.map((itemId) => ({ id: newRowId(), itemId }));
        const label = `Add ${ids.length === 1 ? 'an item' : `${ids.length} items`} to ${list.name}`;
        const body = { revision: list.revision, label, edit: [{ at: list.rows, remove: 0, insert }] };
        await changes.run(api.editSetList({ stationId, id: listId }, body));
      },
      /** Puts items into a category; `none` takes them out of theirs. */
      async place(itemIds: readonly string[], categoryId: string): Promise<void> {
        if (itemIds.length > 0)
          await changes.run(
            api.place(
              { stationId: store.stationId() },
              { itemIds: [...itemIds], categoryId: categoryId === 'none' ? null : categoryId },
            ),
          );
      },
    };
  }),
  withHooks({ onInit: (store) => reloadOn(['library'], () => store.reload()) }),
);

function toggled(ids: ReadonlySet<string>, id: string): ReadonlySet<string> {
  return ids.has(id) ? new Set([...ids].filter((one) => one !== id)) : new Set([...ids, id]);
}
