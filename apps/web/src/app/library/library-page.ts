import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { Router, RouterLink } from '@angular/router';
import { ITEM_SORTS, type ItemRow, type PoolRow } from '@fuller/contracts';
import { formatDuration, parseFilter } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Popover } from 'primeng/popover';
import { KeysHelp } from '../frame/keys-help';
import { Api } from '../shared/api/api';
import { MOST_PRINTED, Printing } from '../shared/printing';
import { whenText } from '../shared/text/when';
import { TidyCount } from '../shared/tidy-count';
import { Band } from '../shared/ui/band';
import { CategoryChooser } from '../shared/ui/category-chooser';
import { DataGrid, type GridSort } from '../shared/ui/data-grid';
import { BeginHere } from '../shared/begin-here';
import { EmptyState } from '../shared/ui/empty-state';
import { Icon } from '../shared/ui/icon';
import { catalogueFeature } from '../state/catalogue.feature';
import { ArtistPanel } from './artist-panel';
import { BulkPanel } from './bulk-panel';
import { CategoryTree, ITEMS_SCOPE } from './category-tree';
import { ColumnChooser } from './column-chooser';
import { FilterBuilder } from './filter-builder';
import { FilterField } from './filter-field';
import { CARD_PARTS, ItemCardPanel, type CardPart } from './card/item-card';
import { LibraryColumns } from './library-columns';
import { LibraryStore, type ItemListQuery, type SelectionStep } from './library.store';
import { LibraryWords } from './library-words';
import { PoolBar } from './pool-bar';
import { May } from '../shared/session/may';

/** All songs and other audio: search, sort, put into categories, and look at the card. */
@Component({
  selector: 'f-library-page',
  imports: [
    BeginHere,
    May,
    SmallButton,
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
  providers: [LibraryWords, LibraryColumns, LibraryStore],
  host: { '(document:keydown)': 'onKey($event)' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LibraryPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly store = inject(Store);
  protected readonly list = inject(LibraryStore);
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
  private readonly grid = viewChild<DataGrid<ItemRow>>(DataGrid);
  private readonly find = viewChild(FilterField);

  protected readonly printing = inject(Printing);

  constructor() {
    this.printing.preparedBy(() => this.list.pages.range(0, MOST_PRINTED - 1), inject(DestroyRef));
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
      if (this.readable()) untracked(() => this.list.ask(stationId, query));
    });
    effect(() => void this.words.load(this.stationId()));
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

  protected async goTo(step: SelectionStep): Promise<void> {
    const row = await this.list.goTo(step);
    if (row) this.go({ item: row.id });
  }

  protected openCard(): void {
    document.querySelector<HTMLElement>('f-item-card input')?.focus();
  }

  protected dropOn(place: string): void {
    if (place === 'worklist') void this.collect(true);
    else void this.placeIn(place);
  }

  protected async collect(on: boolean): Promise<void> {
    await this.list.collect(on);
    this.grid()?.focus();
  }

  protected async addToList(listId: string): Promise<void> {
    await this.list.addToList(listId);
    this.grid()?.focus();
  }

  protected async placeIn(categoryId: string): Promise<void> {
    this.choosing.set(false);
    await this.list.place(this.list.selectedIds(), categoryId);
    this.grid()?.focus();
  }

  protected showPart(part: CardPart): void {
    this.go({ part: part === 'facts' ? null : part });
  }

  protected placeOne(categoryId: string): void {
    const id = this.item();
    if (id) void this.list.place([id], categoryId);
  }

  protected onKey(event: KeyboardEvent): void {
    const target = event.target as HTMLElement;
    if (/^(?:input|textarea)$/i.test(target.tagName)) return;
    if ((event.ctrlKey || event.metaKey) && event.key === 'a' && target.closest('f-data-grid')) {
      event.preventDefault();
      this.list.selectAll();
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
    if (!(await this.list.hasSelection())) return;
    this.choosing.set(true);
    setTimeout(() => document.querySelector<HTMLElement>('#place-category')?.click());
  }

  protected toGrid(): void {
    this.grid()?.focus();
    if (this.list.active() < 0 && this.list.pages.total() > 0)
      void this.goTo({ index: 0, extend: false, toggle: false });
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
