import { signal } from '@angular/core';
import type { ItemPage, ItemRow } from '@fuller/contracts';

const PAGE_ROWS = 100;

type Fetch = (offset: number, limit: number) => Promise<ItemPage>;

/** A long list of items of which only the pages that are looked at are fetched. */
export class ItemPages {
  private readonly pages = signal<ReadonlyMap<number, readonly ItemRow[]>>(new Map());
  /** Pages under way or there; settled when they are. */
  private readonly asked = new Map<number, Promise<void>>();
  private fetch: Fetch = () => Promise.resolve({ total: 0, offset: 0, rows: [] });
  private generation = 0;
  readonly total = signal(0);
  readonly loaded = signal(false);
  readonly failed = signal<string | null>(null);

  /** Begins anew with another question; what is shown stays until the first page is there. */
  async ask(fetch: Fetch): Promise<void> {
    const generation = ++this.generation;
    this.fetch = fetch;
    this.asked.clear();
    const first = fetch(0, PAGE_ROWS);
    this.asked.set(
      0,
      first.then(
        () => undefined,
        () => undefined,
      ),
    );
    try {
      const page = await first;
      if (generation !== this.generation) return;
      this.pages.set(new Map([[0, page.rows]]));
      this.total.set(page.total);
      this.failed.set(null);
      this.loaded.set(true);
    } catch (error) {
      if (generation === this.generation) this.failed.set(error instanceof Error ? error.message : String(error));
    }
  }

  readonly rowAt = (index: number): ItemRow | undefined => {
    const page = Math.floor(index / PAGE_ROWS);
    const rows = this.pages().get(page);
    // Drawing must not change what is drawn, so the asking is put off.
    if (!rows && !this.asked.has(page)) queueMicrotask(() => void this.load(page));
    return rows?.[index % PAGE_ROWS];
  };

  /** The rows from one place to another, both included, fetched where needed. */
  async range(from: number, to: number): Promise<ItemRow[]> {
    const pages = [];
    for (let page = Math.floor(from / PAGE_ROWS); page <= Math.floor(to / PAGE_ROWS); page++)
      pages.push(this.load(page));
    await Promise.all(pages);
    const rows = [];
    for (let index = from; index <= to; index++) {
      const row = this.pages().get(Math.floor(index / PAGE_ROWS))?.[index % PAGE_ROWS];
      if (row) rows.push(row);
    }
    return rows;
  }

  private load(page: number): Promise<void> {
    const under = this.asked.get(page);
    if (under) return under;
    const loading = this.fetchPage(page);
    this.asked.set(page, loading);
    return loading;
  }

  private async fetchPage(page: number): Promise<void> {
    const generation = this.generation;
    try {
      const { rows } = await this.fetch(page * PAGE_ROWS, PAGE_ROWS);
      if (generation === this.generation) this.pages.update((pages) => new Map(pages).set(page, rows));
    } catch (error) {
      this.asked.delete(page);
      if (generation === this.generation) this.failed.set(error instanceof Error ? error.message : String(error));
    }
  }
}
