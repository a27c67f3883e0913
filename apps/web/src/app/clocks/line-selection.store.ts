import { computed, inject } from '@angular/core';
import { copyLines, type ClockLine } from '@fuller/core';
import { patchState, signalStore, withComputed, withMethods, withState } from '@ngrx/signals';
import { ClockDraft, newLineId } from './clock-draft';

interface SelectionState {
  readonly selected: ReadonlySet<string>;
  /** The line a selection of several began at. */
  readonly anchor: string | null;
}

/** How a line is chosen: alone, with all between, or one more. */
export interface ChoosingKeys {
  readonly shiftKey?: boolean;
  readonly ctrlKey?: boolean;
  readonly metaKey?: boolean;
}

/** The lines of the open clock that are selected, and what is done to them together. */
export const LineSelection = signalStore(
  withState<SelectionState>({ selected: new Set<string>(), anchor: null }),
  withComputed((_, draft = inject(ClockDraft)) => ({
    lines: computed<readonly ClockLine[]>(() => draft.clock()?.lines ?? []),
  })),
  withMethods((store) => {
    const draft = inject(ClockDraft);
    const only = (ids: readonly string[]): void =>
      patchState(store, { selected: new Set(ids), anchor: ids[0] ?? null });
    const placeOf = (id: string | null): number => store.lines().findIndex((line) => line.id === id);
    const first = (): number => store.lines().findIndex((line) => store.selected().has(line.id));
    const last = (): number => store.lines().findLastIndex((line) => store.selected().has(line.id));
    /** New lines go after the selected ones, or to the end. */
    const placeForNew = (): number => (last() < 0 ? store.lines().length : last() + 1);
    return {
      only,
      all(): void {
        patchState(store, { selected: new Set(store.lines().map((line) => line.id)) });
      },
      /** Whether the line is chosen alone, as the address then says. */
      choose(id: string, { shiftKey, ctrlKey, metaKey }: ChoosingKeys = {}): boolean {
        if (shiftKey && store.anchor()) {
          const [from, to] = [placeOf(store.anchor()), placeOf(id)].sort((a, b) => a - b) as [number, number];
          const between = store.lines().slice(from, to + 1);
          patchState(store, { selected: new Set(between.map((line) => line.id)) });
          return false;
        }
        if (ctrlKey || metaKey) {
          const ids = store.selected();
          const selected = ids.has(id) ? [...ids].filter((one) => one !== id) : [...ids, id];
          patchState(store, { selected: new Set(selected), anchor: id });
          return false;
        }
        only([id]);
        return true;
      },
      /** The line a step away: from the anchor, or from the far end of a selection that is being extended. */
      lineAway(step: number, extend: boolean): ClockLine | undefined {
        const lines = store.lines();
        const anchor = placeOf(store.anchor() ?? [...store.selected()][0] ?? null);
        const far = first() === anchor ? last() : first();
        const from = extend ? far : anchor;
        return lines[Math.max(0, Math.min(lines.length - 1, from + step))];
      },
      nudge(step: number): void {
        if (first() < 0) return;
        const before = step < 0 ? Math.max(0, first() - 1) : Math.min(store.lines().length, last() + 2);
        draft.move(store.selected(), before);
      },
      add(line: ClockLine, at = placeForNew()): void {
        const added = draft.like(at, line);
        draft.insert(at, [added], 'Add a line');
        only([added.id]);
      },
      remove(): void {
        const [lines, ids] = [store.lines(), store.selected()];
        if (ids.size === 0) return;
        const next = lines[last() + 1] ?? lines.filter((line) => !ids.has(line.id)).at(-1);
        draft.remove(ids);
        only(next ? [next.id] : []);
      },
      duplicate(): void {
        only(draft.duplicate(store.selected()).map((line) => line.id));
      },
      paste(lines: readonly ClockLine[]): void {
        const copies = copyLines(lines, newLineId);
        draft.insert(placeForNew(), copies, lines.length === 1 ? 'Paste a line' : `Paste ${lines.length} lines`);
        only(copies.map((line) => line.id));
      },
      /** Moves a line to before a place; a selected one takes the others along. */
      drop(from: number, before: number): void {
        const moved = store.lines()[from];
        if (moved) draft.move(store.selected().has(moved.id) ? store.selected() : new Set([moved.id]), before);
      },
    };
  }),
);
