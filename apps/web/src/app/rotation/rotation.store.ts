import { computed, inject } from '@angular/core';
import type { MoveEffect, RotationSheet } from '@fuller/contracts';
import { bandColour, nameKey, type TurnoverWish } from '@fuller/core';
import { patchState, signalStore, withComputed, withHooks, withMethods, withProps, withState } from '@ngrx/signals';
import { Store } from '@ngrx/store';
import { Api } from '../shared/api/api';
import { reloadOn } from '../shared/api/reload-on';
import { withReading } from '../shared/reading';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';
import { sheetView, type SheetView } from './sheet-view';

/** The numbers of a category that can be tried out. */
export type Wished = 'items' | 'slotsPerWeek' | 'playsPerWeek';
const MOST: Readonly<Record<Wished, number>> = { items: 100_000, slotsPerWeek: 20_000, playsPerWeek: 1000 };

interface RotationState {
  readonly stationId: string;
  readonly categoryId: string | null;
  /** Counts how often the sheet was read, so that lists beside it are read again. */
  readonly version: number;
  /** Numbers tried out, by category; nothing is changed by them. */
  readonly wishes: Readonly<Record<string, TurnoverWish>>;
  /** Songs on their way to another category, and the one they are over. */
  readonly carried: readonly string[];
  readonly over: string | null;
  /** What the moves of the next weeks come to, by category. */
  readonly effects: Readonly<Record<string, MoveEffect>>;
}

/** The turnover sheet: what its categories promise and keep, and what would follow from other numbers. */
export const RotationStore = signalStore(
  withReading<RotationSheet>(),
  withState<RotationState>({
    stationId: '',
    categoryId: null,
    version: 0,
    wishes: {},
    carried: [],
    over: null,
    effects: {},
  }),
  withProps((_, store = inject(Store)) => ({
    groupRows: store.selectSignal(catalogueFeature.selectGroups),
    categories: store.selectSignal(catalogueFeature.selectAllCategories),
    _rules: store.selectSignal(catalogueFeature.selectRuleMap),
  })),
  withComputed(({ read, categories, _rules, wishes, carried, over, categoryId }) => {
    const rows = computed(() => new Map(read()?.rows.map((row) => [row.categoryId, row])));
    /** How many songs a category would gain by what is dragged; negative where it would lose some. */
    const shiftOf = (id: string): number => {
      const [target, from, count] = [over(), categoryId(), carried().length];
      if (target === null || target === from) return 0;
      return id === target ? count : id === from ? -count : 0;
    };
    return {
      views: computed(() =>
        categories().map((category): SheetView => {
          const row = rows().get(category.id);
          const shift = shiftOf(category.id);
          const wish = shift !== 0 && row ? { items: Math.max(0, row.canPlay + shift) } : wishes()[category.id];
          return sheetView(category, row, _rules(), wish);
        }),
      ),
    };
  }),
  withComputed(({ views, groupRows, categoryId }) => ({
    groups: computed(() => {
      const of = (groupId: string | null): SheetView[] =>
        views().filter(({ category }) => category.groupId === groupId);
      const groups = groupRows().map(({ id, name }) => ({ id: id as string | null, name, views: of(id) }));
      const others = { id: null, name: groups.length ? 'Other' : 'Categories', views: of(null) };
      return [...groups, others].filter(({ id, views: own }) => id !== null || own.length > 0);
    }),
    chosen: computed(() => views().find(({ category }) => category.id === categoryId()) ?? null),
  })),
  withMethods((store) => {
    const [api, changes] = [inject(Api), inject(Changes)];
    const drop = (id: string): void =>
      patchState(store, ({ wishes }) => ({
        wishes: Object.fromEntries(Object.entries(wishes).filter(([one]) => one !== id)),
      }));
    const refuseName = (name: string): string | null => {
      const holder = store.categories().find((row) => nameKey(row.name) === nameKey(name));
      return holder ? `There is a category ${holder.name} already.` : null;
    };
    const refuseCode = (code: string): string | null => {
      if (!/^[\p{L}\p{N}]{1,4}$/u.test(code)) return 'A code has 1 to 4 letters or digits.';
      const holder = store.categories().find((row) => row.code.toLowerCase() === code.toLowerCase());
      return holder ? `The code belongs to ${holder.name}.` : null;
    };
    return {
      async load(stationId: string = store.stationId()): Promise<void> {
        patchState(store, { stationId });
        if (await store.ask(api.rotation({ stationId })))
          patchState(store, ({ version }) => ({ version: version + 1 }));
        const moves = await api.moves({ stationId }).catch(() => null);
        if (store.stationId() !== stationId) return;
        patchState(store, { effects: Object.fromEntries((moves?.effects ?? []).map((one) => [one.categoryId, one])) });
      },
      choose(categoryId: string | null): void {
        patchState(store, { categoryId });
      },
      /** Tries a number out; false where it is none that can be. */
      wish({ category, row }: SheetView, what: Wished, value: number): boolean {
        const whole = what === 'playsPerWeek' || Number.isInteger(value);
        if (!row || !(value > 0) || value > MOST[what] || !whole) {
          drop(category.id);
          return false;
        }
        const before = store.wishes()[category.id] ?? {};
        // Plays follow from items and slots, and these from plays: the one given last but one is held.
        const kept =
          what === 'playsPerWeek'
            ? before.items === undefined
              ? {}
              : { items: before.items }
            : { ...before, playsPerWeek: undefined };
        patchState(store, ({ wishes }) => ({ wishes: { ...wishes, [category.id]: { ...kept, [what]: value } } }));
        return true;
      },
      drop,
      /** Keeps the numbers tried out as the plan of a category. */
      async keep({ category, items, slotsPerWeek }: SheetView): Promise<void> {
        const address = { stationId: store.stationId(), id: category.id };
        if (await changes.run(api.keepPlan(address, { items, slotsPerWeek }))) drop(category.id);
      },
      async forget({ category }: SheetView): Promise<void> {
        await changes.run(api.dropPlan({ stationId: store.stationId(), id: category.id }));
      },
      carry(carried: readonly string[]): void {
        patchState(store, { carried });
      },
      dragOver(over: string): void {
        patchState(store, { over });
      },
      dragLeave(id: string): void {
        if (store.over() === id) patchState(store, { over: null });
      },
      async dropOn(categoryId: string): Promise<void> {
        const itemIds = [...store.carried()];
        patchState(store, { over: null, carried: [] });
        if (itemIds.length > 0 && categoryId !== store.categoryId())
          await changes.run(api.place({ stationId: store.stationId() }, { itemIds, categoryId }));
      },
      /** Makes a category, of some songs of the chosen one where they are given; its id, or why it cannot be made. */
      async create(name: string, code: string, itemIds: readonly string[] | null): Promise<{ id: string } | string> {
        const why = refuseName(name) ?? refuseCode(code);
        if (why) return why;
        const [stationId, from] = [store.stationId(), store.categoryId()];
        if (itemIds && from)
          return changes.made(api.splitCategory({ stationId, id: from }, { name, code, itemIds: [...itemIds] }));
        const colour = bandColour(store.categories().length);
        const groupId = store.chosen()?.category.groupId ?? store.groupRows()[0]?.id ?? null;
        return changes.made(api.createCategory({ stationId }, { name, code, colour, music: true, groupId }));
      },
      createGroup(name: string): Promise<string | null> {
        return changes.attempt(api.createGroup({ stationId: store.stationId() }, { name }));
      },
      async renameGroup(id: string, name: string): Promise<string | null> {
        if (name === '') return 'A group needs a name.';
        return changes.attempt(api.renameGroup({ stationId: store.stationId(), id }, { name }));
      },
      async removeGroup(id: string): Promise<void> {
        await changes.run(api.deleteGroup({ stationId: store.stationId(), id }));
      },
    };
  }),
  withHooks({ onInit: (store) => reloadOn('anything', () => store.load(), { burstMs: 80 }) }),
);
