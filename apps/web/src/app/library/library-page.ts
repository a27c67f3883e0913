import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import { ITEM_SORTS, type ItemRow, type PoolRow } from '@fuller/contracts';
import { formatDuration, parseFilter } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Popover } from 'primeng/popover';
import { debounceTime, filter, merge } from 'rxjs';
import { KeysHelp } from '../frame/keys-help';
import { Api, type Address } from '../shared/api/api';
import { ServerEvents } from '../shared/api/server-events';
import { plural } from '../shared/text/plural';
import { whenText } from '../shared/text/when';
import { TidyCount } from '../shared/tidy-count';
import { Band } from '../shared/ui/band';
import { CategoryChooser } from '../shared/ui/category-chooser';
import { DataGrid, type GridSort } from '../shared/ui/data-grid';
import { EmptyState } from '../shared/ui/empty-state';
import { Icon } from '../shared/ui/icon';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';
import { ArtistPanel } from './artist-panel';
import { BulkPanel } from './bulk-panel';
import { CategoryTree, ITEMS_SCOPE } from './category-tree';
import { ColumnChooser } from './column-chooser';
import { FilterBuilder } from './filter-builder';
import { FilterField } from './filter-field';
import { CARD_PARTS, ItemCardPanel, type CardPart } from './card/item-card';
import { ItemPages } from './item-pages';
import { LibraryColumns } from './library-columns';
import { LibraryWords } from './library-words';
import { PoolBar } from './pool-bar';

/** As many as the server changes at once. */
const MOST_SELECTED = 5000;

/** What is asked of the library, as the address of the page has it. */
type ItemListQuery = Pick<Address<'items'>, 'category' | 'artist' | 'sort' | 'dir'> & { readonly q: string };

/** All songs and other audio: search, sort, put into categories, and look at the card. */
@Component({
  selector: 'f-library-page',
  imports: [
    ButtonDirective,
    ArtistPanel,
    BulkPanel,
    CategoryTree,
    ColumnChooser,
    Popover,
    FilterField,
    FilterBuilder,
    PoolBar,
    DataGrid,
    ItemCardPanel,
    Band,
    Icon,
    EmptyState,
    CategoryChooser,
    RouterLink,
  ],
  templateUrl: './library-page.html',
  styleUrl: './library-page.scss',
  providers: [LibraryWords, LibraryColumns],
  host: { '(document:keydown)': 'onKey($event)' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LibraryPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly changes = inject(Changes);
  private readonly store = inject(Store);
  protected readonly words = inject(LibraryWords);
  protected readonly matters = inject(TidyCount).matters;
  readonly stationId = input.required<string>();
  // From the address.
  readonly q = input<string>();
  readonly category = input<string>();
  readonly artist = input<string>();
  readonly artistName = input<string>();
  readonly sort = input<string>();
  readonly dir = input<string>();
  readonly item = input<string>();
  readonly pool = input<string>();
  readonly part = input<string>();

  protected readonly columns = inject(LibraryColumns).shown;
  protected readonly scope = ITEMS_SCOPE;
  protected readonly categories = this.store.selectSignal(catalogueFeature.selectCategoryMap);
  private readonly station = this.store.selectSignal(catalogueFeature.selectStation);
  protected readonly pages = new ItemPages();
  protected readonly active = signal(-1);
  private anchor = -1;
  protected readonly selected = signal<ReadonlySet<string>>(new Set());
  /** The last change of the selection; a key pressed right after it waits until its rows are there. */
  private selecting: Promise<void> = Promise.resolve();
  protected readonly selectedIds = computed(() => [...this.selected()]);
  protected readonly version = signal(0);
  protected readonly choosing = signal(false);
  protected readonly typedText = linkedSignal(() => this.q() ?? '');
  protected readonly building = signal(false);
  /** The inspector speaks about the artist whose songs are listed. */
  protected readonly aboutArtist = linkedSignal<string | undefined, boolean>({
    source: this.artist,
    computation: () => false,
  });
  /** What of the filter cannot be read. */
  protected readonly fault = computed(() => {
    const vocabulary = this.words.vocabulary();
    const parsed = vocabulary && parseFilter(this.typedText(), vocabulary);
    return parsed && !parsed.ok ? parsed.fault.why : null;
  });
  /** Fields can only be read once it is known what they name; a fault leaves what was found before. */
  private readonly readable = computed(
    () => !this.query().q.includes(':') || (this.words.vocabulary() !== null && this.fault() === null),
  );
  protected readonly families = computed(() => Object.keys(this.words.vocabulary()?.families ?? {}));
  protected readonly cardPart = computed(() => CARD_PARTS.find((part) => part === this.part()) ?? 'facts');
  protected readonly poolOpen = computed(() => this.words.pools().find((pool) => pool.id === this.pool()) ?? null);
  protected readonly gridSort = computed<GridSort>(() => ({
    key: this.sort() ?? 'title',
    dir: this.dir() === 'desc' ? 'desc' : 'asc',
  }));
  protected readonly query = computed<ItemListQuery>(() => ({
    q: this.q() ?? '',
    category: this.category() ?? undefined,
    artist: this.artist() ?? undefined,
    sort: ITEM_SORTS.find((sort) => sort === this.gridSort().key) ?? 'title',
    dir: this.gridSort().dir,
  }));
  protected readonly heading = computed(() => {
    const category = this.category();
    const pool = this.poolOpen();
    if (pool) return pool.name;
    if (this.artist()) return `Songs of ${this.artistName() ?? 'an artist'}`;
    if (category === 'none') return 'Without category';
    if (category === 'worklist') return 'Worklist';
    return category ? (this.categories()[category]?.name ?? 'Category') : 'All items';
  });
  protected readonly counted = computed(() => plural(this.pages.total(), 'item'));
  private readonly grid = viewChild<DataGrid<ItemRow>>(DataGrid);
  private readonly find = viewChild(FilterField);

  constructor() {
    inject(KeysHelp).place.set({
      name: 'Library',
      keys: [
        { keys: ['/'], does: 'find' },
        { keys: ['↑', '↓'], does: 'move; with Shift select' },
        { keys: ['PgUp', 'PgDn', 'Home', 'End'], does: 'move by a page, to the first, to the last' },
        { keys: ['Space'], does: 'select or deselect' },
        { keys: ['Ctrl', 'a'], does: 'select everything found' },
        { keys: ['c'], does: 'put the selected items into a category' },
        { keys: ['w'], does: 'put them on the worklist, or take them off it' },
        { keys: ['Enter'], does: 'go to the card' },
      ],
    });
    effect(() => {
      const [stationId, query] = [this.stationId(), this.query()];
      if (this.readable()) untracked(() => this.ask(stationId, query));
    });
    effect(() => void this.words.load(this.stationId()));
    const events = inject(ServerEvents);
    merge(
      events.resumed,
      events.events.pipe(filter((event) => event.type === 'changed' && event.what.includes('library'))),
    )
      .pipe(debounceTime(60), takeUntilDestroyed())
      .subscribe(() => {
        this.version.update((version) => version + 1);
        void this.words.load(this.stationId());
        void this.pages.ask((offset, limit) =>
          this.api.items({ stationId: this.stationId(), ...this.query(), offset, limit }),
        );
      });
  }

  private ask(stationId: string, query: ItemListQuery): void {
    this.active.set(-1);
    this.selected.set(new Set());
    void this.pages.ask((offset, limit) => this.api.items({ stationId, ...query, offset, limit }));
  }

  /** Changes the address, which is where the question lives. */
  private go(params: Record<string, string | null>): void {
    void this.router.navigate([], {
      queryParams: params,
      queryParamsHandling: 'merge',
      replaceUrl: 'item' in params || 'q' in params || 'part' in params,
    });
  }

  protected search(text: string): void {
    this.typedText.set(text);
    this.go({ q: text || null });
  }

  protected chooseCategory(id: string | null): void {
    this.go({
      category: id,
      artist: null,
      artistName: null,
      item: null,
      ...(this.pool() ? { pool: null, q: null } : {}),
    });
  }

  protected choosePool({ id, filter: text }: PoolRow): void {
    void this.router.navigate([], { queryParams: { pool: id, q: text } });
  }

  /** A filter that has just become a pool. */
  protected openMade(id: string): void {
    void this.words
      .load(this.stationId())
      .then(() => this.go({ pool: id, category: null, artist: null, artistName: null }));
  }

  protected sortBy({ key, dir }: GridSort): void {
    this.go({ sort: key, dir });
  }

  protected showArtist({ id, name }: { id: string; name: string }): void {
    this.go({ artist: id, artistName: name, category: null, q: null });
  }

  protected goTo(step: { index: number; extend: boolean; toggle: boolean }): Promise<void> {
    return (this.selecting = this.select(step));
  }

  private async select({ index, extend, toggle }: { index: number; extend: boolean; toggle: boolean }): Promise<void> {
    this.active.set(index);
    if (extend && this.anchor >= 0) {
      const rows = await this.pages.range(Math.min(this.anchor, index), Math.max(this.anchor, index));
      this.selected.set(new Set(rows.map((row) => row.id)));
    } else {
      this.anchor = index;
      const row = (await this.pages.range(index, index))[0];
      if (!row || this.active() !== index) return;
      if (toggle)
        this.selected.update((ids) =>
          ids.has(row.id) ? new Set([...ids].filter((id) => id !== row.id)) : new Set([...ids, row.id]),
        );
      else this.selected.set(new Set([row.id]));
    }
    const row = this.pages.rowAt(index);
    if (row) this.go({ item: row.id });
  }

  protected openCard(): void {
    document.querySelector<HTMLElement>('f-item-card input')?.focus();
  }

  /** A dragged row that is not selected is dragged alone. */
  protected dragBegins(index: number): void {
    const row = this.pages.rowAt(index);
    if (row && !this.selected().has(row.id)) this.selected.set(new Set([row.id]));
  }

  /** The worklist dragged onto a category takes all that is on it along. */
  protected carryWorklist(): void {
    this.selected.set(new Set(this.words.worklist()));
  }

  protected dropOn(place: string): void {
    if (place === 'worklist') void this.collect(true);
    else void this.placeIn(place);
  }

  /** Puts the selected items on the worklist, or takes them off it. */
  protected async collect(on: boolean): Promise<void> {
    await this.selecting;
    const ids = [...this.selected()];
    if (ids.length === 0) return;
    await this.changes.run(
      this.api.changeWorklist({ stationId: this.stationId() }, on ? { add: ids } : { remove: ids }),
    );
    this.grid()?.focus();
  }

  private async selectAll(): Promise<void> {
    const count = Math.min(this.pages.total(), MOST_SELECTED);
    const rows = count > 0 ? await this.pages.range(0, count - 1) : [];
    this.selected.set(new Set(rows.map((row) => row.id)));
    if (this.pages.total() > count)
      this.changes.tell(
        new Error(`The first ${count.toLocaleString('en-GB')} are selected; more cannot be changed at once.`),
      );
  }

  protected async placeIn(categoryId: string): Promise<void> {
    const ids = [...this.selected()];
    this.choosing.set(false);
    if (ids.length)
      await this.changes.run(
        this.api.place(
          { stationId: this.stationId() },
          { itemIds: ids, categoryId: categoryId === 'none' ? null : categoryId },
        ),
      );
    this.grid()?.focus();
  }

  protected showPart(part: CardPart): void {
    this.go({ part: part === 'facts' ? null : part });
  }

  protected async placeOne(categoryId: string): Promise<void> {
    const id = this.item();
    if (id) await this.changes.run(this.api.place({ stationId: this.stationId() }, { itemIds: [id], categoryId }));
  }

  protected onKey(event: KeyboardEvent): void {
    const target = event.target as HTMLElement;
    if (/^(?:input|textarea)$/i.test(target.tagName)) return;
    if ((event.ctrlKey || event.metaKey) && event.key === 'a' && target.closest('f-data-grid')) {
      event.preventDefault();
      this.selecting = this.selectAll();
    }
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === '/') {
      event.preventDefault();
      this.find()?.focus();
    } else if (event.key === 'w') {
      void this.collect(this.category() !== 'worklist');
    } else if (event.key === 'c') {
      event.preventDefault();
      void this.choosePlace();
    }
  }

  private async choosePlace(): Promise<void> {
    await this.selecting;
    if (this.selected().size === 0) return;
    this.choosing.set(true);
    setTimeout(() => document.querySelector<HTMLElement>('#place-category')?.click());
  }

  protected toGrid(): void {
    this.grid()?.focus();
    if (this.active() < 0 && this.pages.total() > 0) void this.goTo({ index: 0, extend: false, toggle: false });
  }

  /** The items in hand as a table for a spreadsheet. */
  protected readonly csvUrl = computed(() =>
    this.api.urlOf('itemsCsv', { stationId: this.stationId(), ...this.query() }),
  );

  protected intro(row: ItemRow): string {
    return row.introMs === null ? '' : formatDuration(row.introMs);
  }

  protected length(row: ItemRow): string {
    return formatDuration(row.durationMs);
  }

  protected lastPlayed(row: ItemRow): string {
    const station = this.station();
    return station ? whenText(row.lastPlayedMs, station.timeZone, station.today) : '';
  }
}
