import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
} from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import type { TidyView } from '@fuller/contracts';
import { formatDuration } from '@fuller/core';
import { Store } from '@ngrx/store';
import { debounceTime, filter, merge } from 'rxjs';
import { KeysHelp } from '../../frame/keys-help';
import { Api } from '../../shared/api/api';
import { Newest } from '../../shared/api/newest';
import { ServerEvents } from '../../shared/api/server-events';
import { Band } from '../../shared/ui/band';
import { EmptyState } from '../../shared/ui/empty-state';
import { Icon } from '../../shared/ui/icon';
import { catalogueFeature } from '../../state/catalogue.feature';
import { Changes } from '../../state/changes';
import { tidyRows, type TidyRow } from './tidy-rows';

/** What in the library is likely double, or cannot be right; each is settled with one key. */
@Component({
  selector: 'f-tidy-page',
  imports: [ButtonDirective, Band, EmptyState, Icon, RouterLink],
  templateUrl: './tidy-page.html',
  styleUrl: './tidy-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TidyPage {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly stationId = input.required<string>();

  protected readonly categories = inject(Store).selectSignal(catalogueFeature.selectCategoryMap);
  protected readonly view = signal<TidyView | null>(null);
  protected readonly failed = signal<string | null>(null);
  private readonly rows = computed<TidyRow[]>(() => {
    const view = this.view();
    return view ? tidyRows(view, formatDuration) : [];
  });
  protected readonly sections = computed(() => [
    {
      kind: 'artists' as const,
      title: 'Artists that may be one',
      all: 'Merge all',
      rows: this.rows().filter((row) => row.kind === 'artists'),
    },
    {
      kind: 'songs' as const,
      title: 'Songs that may be one',
      all: 'Keep the most played of each',
      rows: this.rows().filter((row) => row.kind === 'songs'),
    },
    {
      kind: 'albums' as const,
      title: 'Albums that may be one',
      all: 'Merge all',
      rows: this.rows().filter((row) => row.kind === 'albums'),
    },
  ]);
  protected readonly open = computed(() => this.rows().length);
  /** The row in hand; where it has gone, the one that has come into its place. */
  protected readonly activeIndex = linkedSignal<TidyRow[], number>({
    source: this.rows,
    computation: (rows, before) => Math.min(before?.value ?? 0, Math.max(0, rows.length - 1)),
  });
  protected readonly activeKey = computed(() => this.rows()[this.activeIndex()]?.key ?? null);

  constructor() {
    inject(KeysHelp).place.set({
      name: 'Tidy',
      keys: [
        { keys: ['↑', '↓'], does: 'move between findings' },
        { keys: ['Enter'], does: 'merge, keeping the first' },
        { keys: ['2', '…', '9'], does: 'merge, keeping that one' },
        { keys: ['x'], does: 'mark as different' },
      ],
    });
    effect(() => {
      const stationId = this.stationId();
      untracked(() => void this.load(stationId));
    });
    // After a row has been settled the next one has the keys.
    effect(() => {
      if (this.activeKey() !== null && this.keyed) setTimeout(() => this.focusRow());
    });
    const events = inject(ServerEvents);
    merge(
      events.resumed,
      events.events.pipe(filter((event) => event.type === 'changed' && event.what.includes('library'))),
    )
      .pipe(debounceTime(60), takeUntilDestroyed())
      .subscribe(() => void this.load(this.stationId()));
  }

  private keyed = false;

  private readonly newest = new Newest();

  private async load(stationId: string): Promise<void> {
    const isNewest = this.newest.begin();
    try {
      const view = await this.api.tidy({ stationId });
      if (!isNewest()) return;
      this.view.set(view);
      this.failed.set(null);
    } catch (error) {
      if (isNewest()) this.failed.set(error instanceof Error ? error.message : String(error));
    }
  }

  private focusRow(): void {
    this.host.nativeElement.querySelector<HTMLElement>('.matter.active')?.focus();
  }

  protected goTo(row: TidyRow): void {
    this.activeIndex.set(this.rows().indexOf(row));
  }

  protected key(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const row = this.rows()[this.activeIndex()];
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (!row) return;
    this.keyed = true;
    if (step !== undefined) {
      event.preventDefault();
      this.activeIndex.update((at) => Math.max(0, Math.min(this.rows().length - 1, at + step)));
    } else if (event.key === 'x') void this.refuse([row]);
    else if (event.key === 'Enter' && event.target instanceof HTMLLIElement) void this.accept(row, 0);
    else if (/^[1-9]$/.test(event.key) && row.members[Number(event.key) - 1])
      void this.accept(row, Number(event.key) - 1);
  }

  /** Makes the members one, keeping the one at a place. */
  protected async accept(row: TidyRow, kept: number): Promise<void> {
    const others = row.members.filter((_, at) => at !== kept).map(({ id }) => id);
    await this.settle(row.kind, [{ row, kept: row.members[kept]!.id, others }]);
  }

  private async settle(
    kind: TidyRow['kind'],
    settled: readonly { row: TidyRow; kept: string; others: string[] }[],
  ): Promise<void> {
    const station = this.stationId();
    if (kind === 'artists')
      await this.changes.run(
        this.api.mergeArtists(
          { stationId: station },
          { merges: settled.map(({ kept, others }) => ({ keep: kept, others })) },
        ),
      );
    else if (kind === 'albums')
      await this.changes.run(
        this.api.mergeAlbums(
          { stationId: station },
          { merges: settled.map(({ row, kept, others }) => ({ artistId: row.artistId!, keep: kept, others })) },
        ),
      );
    else
      await this.changes.run(
        this.api.place({ stationId: station }, { itemIds: settled.flatMap(({ others }) => others), categoryId: null }),
      );
  }

  protected async refuse(rows: readonly TidyRow[]): Promise<void> {
    await this.changes.run(
      this.api.refuseDoubles({ stationId: this.stationId() }, { keys: rows.map((row) => row.key) }),
    );
  }

  protected sure(rows: readonly TidyRow[]): TidyRow[] {
    return rows.filter((row) => row.sure);
  }

  protected async acceptAll(rows: readonly TidyRow[]): Promise<void> {
    const settled = rows.map((row) => ({
      row,
      kept: row.members[0]!.id,
      others: row.members.slice(1).map(({ id }) => id),
    }));
    if (rows[0]) await this.settle(rows[0].kind, settled);
  }
}
