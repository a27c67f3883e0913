import { computed, inject, Injectable } from '@angular/core';
import type { LogItem } from '@fuller/contracts';
import type { LogPlace, Spot } from '@fuller/core';
import { Store } from '@ngrx/store';
import { catalogueFeature } from '../state/catalogue.feature';
import { categoryEdits, moveEdits, newEntryId, pasteEdits, together, type SingleEdit } from './hand-edits';
import { LogClipboard } from './log-clipboard';
import { LogDesk } from './log-desk.store';
import { LogDocument } from './log-document';
import type { EntryRow, LogRow } from './log-model';

/** What a person does to the entries that are chosen on the log desk. */
@Injectable()
export class DeskEdits {
  private readonly desk = inject(LogDesk);
  private readonly document = inject(LogDocument);
  private readonly clipboard = inject(LogClipboard);
  private readonly stationId = inject(Store).selectSignal(catalogueFeature.selectStationId);

  /** What stands in the slot that is marked for a swap. */
  readonly swapTitle = computed(() => {
    const id = this.desk.swapId();
    const row = id === null ? null : this.desk.rows().find((one) => one.id === id);
    return row?.kind === 'entry' ? (row.item?.title ?? 'Deleted item') : null;
  });

  /** Puts an item into the chosen slot; null opens it. */
  replace(itemId: string | null): void {
    const entryId = this.desk.chosen()?.id;
    if (entryId !== undefined)
      this.document.edit(itemId === null ? { type: 'open', entryId } : { type: 'replace', entryId, itemId });
  }

  lock(locked: boolean): void {
    const entryId = this.desk.chosen()?.id;
    if (entryId !== undefined) this.document.edit({ type: 'lock', entryId, locked });
  }

  note(note: string, entryId = this.desk.chosen()?.id): void {
    if (entryId !== undefined) this.document.edit({ type: 'note', entryId, note });
  }

  /** Books spots in a break in place of what was booked. */
  book(entryId: string, spots: readonly Spot[]): void {
    this.document.edit({ type: 'spots', entryId, spots: [...spots] });
  }

  /** What a key does is done to what is chosen when it is pressed, as it then looks. */
  toggleLock(): void {
    const slots = this.targets().filter(({ entry }) => entry.kind === 'pick' && entry.itemId !== null);
    const locked = slots.some(({ entry }) => entry.kind === 'pick' && !entry.locked);
    this.editAll(
      slots
        .filter(({ entry }) => entry.kind === 'pick' && entry.locked !== locked)
        .map(({ id }) => ({ type: 'lock', entryId: id, locked })),
    );
  }

  openSlot(): void {
    this.editAll(
      this.targets()
        .filter(({ entry }) => entry.kind === 'pick' && entry.itemId !== null && !entry.locked)
        .map(({ id }) => ({ type: 'open', entryId: id })),
    );
  }

  /** Marks the chosen slot for a swap, or swaps it with the one that is marked. */
  swap(): void {
    const entry = this.chosenPick();
    const marked = this.desk.swapId();
    if (!entry || entry.itemId === null || entry.locked) return;
    if (marked !== null && marked !== entry.id) this.document.edit({ type: 'swap', entryId: marked, withId: entry.id });
    this.desk.mark(marked === null ? entry.id : null);
  }

  dropSwap(): void {
    this.desk.mark(null);
  }

  /** Moves what is chosen one place up or down the log; a stretch moves together. */
  move(step: 1 | -1): void {
    const log = this.desk.log();
    const rows = this.targets();
    if (!log || rows.length === 0) return;
    this.editAll(
      moveEdits(
        log,
        rows.map(({ id }) => id),
        step,
      ),
    );
  }

  /** Puts what is chosen before another entry, or at the end of an hour. */
  moveTo(at: LogPlace): void {
    this.editAll(
      this.targets()
        .filter(({ id }) => id !== at.beforeId)
        .map(({ id }) => ({ type: 'move', entryId: id, to: at })),
    );
  }

  /** Takes what is chosen out of the log; the entry after it is chosen then. */
  remove(): void {
    const removed = this.targets().filter(({ entry }) => entry.kind !== 'pick' || !entry.locked);
    if (removed.length === 0) return;
    const ids = new Set(removed.map(({ id }) => id));
    const rows = this.desk.rows();
    const at = this.desk.active();
    const isLeft = (row: LogRow): boolean => row.kind === 'entry' && !ids.has(row.id);
    const next = rows.slice(at + 1).find(isLeft) ?? rows.slice(0, at).findLast(isLeft);
    this.editAll(removed.map(({ id }) => ({ type: 'remove', entryId: id })));
    this.desk.choose(next?.id ?? null);
  }

  /** Copies what is chosen, to be pasted here or into another day. */
  copy(): number {
    const rows = this.targets();
    const stationId = this.stationId();
    if (rows.length === 0 || !stationId) return 0;
    const items = rows.flatMap(({ item }) => item ?? []);
    this.clipboard.held.set({ stationId, entries: rows.map(({ entry }) => entry), items });
    return rows.length;
  }

  /** Puts copies of what is held before the chosen entry. */
  paste(): number {
    const [log, held] = [this.desk.log(), this.clipboard.held()];
    if (!log || !held || held.stationId !== this.stationId()) return 0;
    const edits = pasteEdits(held.entries, this.placeToInsert());
    const edit = together(edits);
    if (edit) this.document.edit(edit, held.items);
    return edits.length;
  }

  /** Puts an item in before the chosen entry. */
  insert(item: LogItem): void {
    const at = this.placeToInsert();
    const id = newEntryId();
    this.document.edit({ type: 'insert', at, entry: { id, kind: 'item', itemId: item.id, note: '' } }, [item]);
    this.desk.choose(id);
  }

  insertNote(text: string): void {
    const [at, id] = [this.placeToInsert(), newEntryId()];
    this.document.edit({ type: 'insert', at, entry: { id, kind: 'note', text, note: '' } });
    this.desk.choose(id);
  }

  /** Draws what is chosen from another category; its slots stand open then. */
  drawFrom(categoryId: string): void {
    const log = this.desk.log();
    if (!log) return;
    this.editAll(categoryEdits(this.targets(), categoryId, log));
    this.desk.unpick();
  }

  /** Gives an entry, the chosen one where none is named, a length of its own, milliseconds; null gives its item's back. */
  fixLength(durationMs: number | null, entryId = this.desk.chosen()?.id): void {
    if (entryId !== undefined) this.document.edit({ type: 'length', entryId, durationMs });
  }

  /** Swaps the chosen slot with another one. */
  swapWith(withId: string): void {
    const entryId = this.desk.chosen()?.id;
    if (entryId !== undefined) this.document.edit({ type: 'swap', entryId, withId });
  }

  /** Carries out an edit that was offered. */
  carryOut(
    entryId: string,
    edit: { readonly type: 'replace'; readonly itemId: string } | { readonly type: 'swap'; readonly withId: string },
  ): void {
    this.document.edit({ ...edit, entryId } as SingleEdit);
  }

  /** What an act is done to: the entries chosen together, or else the chosen row. */
  private targets(): readonly EntryRow[] {
    const picked = this.desk.pickedRows();
    if (picked.length > 0) return picked;
    const row = this.desk.chosen();
    return row ? [row] : [];
  }

  /** Before the chosen entry, or at the end of its hour. */
  private placeToInsert(): LogPlace {
    const row = this.desk.chosen();
    if (row) return { hourIndex: row.hourIndex, beforeId: row.id };
    return { hourIndex: Math.max(0, this.desk.currentHour()), beforeId: null };
  }

  private editAll(edits: readonly SingleEdit[]): void {
    const edit = together(edits);
    if (edit) this.document.edit(edit);
  }

  /** The item slot that is chosen; null where another row is, or none. */
  private chosenPick() {
    const entry = this.desk.chosen()?.entry;
    return entry?.kind === 'pick' ? entry : null;
  }
}
