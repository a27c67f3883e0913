import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { SET_LIST_FORMATS, type SetListItemInfo } from '@fuller/contracts';
import { elementAt, formatDuration, parseDuration, parseFilter, type SetListPick, type SetListRow } from '@fuller/core';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { KeysHelp } from '../../frame/keys-help';
import { Api } from '../../shared/api/api';
import { reloadOn } from '../../shared/api/reload-on';
import { plural } from '../../shared/text/plural';
import { Band } from '../../shared/ui/band';
import { Choice } from '../../shared/ui/choice';
import { DataGrid, type GridColumn, type GridStep } from '../../shared/ui/data-grid';
import { EmptyState } from '../../shared/ui/empty-state';
import { Icon } from '../../shared/ui/icon';
import { InlineEdit } from '../../shared/ui/inline-edit';
import { Inspector } from '../../shared/ui/inspector';
import { NameForm } from '../../shared/ui/name-form';
import { SmallButton } from '../../shared/ui/small-button';
import { catalogueFeature } from '../../state/catalogue.feature';
import { LibraryWords } from '../library-words';
import { AUDIO, filesOf } from '../import/dropped-files';
import { SetListAdder } from './set-list-adder';
import { SetListIntake } from './set-list-intake';
import { SetListsStore } from './set-lists.store';
import { SharedMark } from '../../shared/sharing/shared-mark';
import { SharingPanel } from '../../shared/sharing/sharing-panel';
import { May } from '../../shared/session/may';

const COLUMNS: readonly GridColumn[] = [
  { key: 'place', label: 'No.', width: '64px', right: true },
  { key: 'start', label: 'After', width: '84px', right: true },
  { key: 'title', label: 'Title' },
  { key: 'artist', label: 'Artist', width: '30%' },
  { key: 'length', label: 'Length', width: '76px', right: true },
];
const MOST_UNKNOWN = 8;

/** A row of the list as the grid shows it. */
interface Shown {
  readonly id: string;
  readonly index: number;
  readonly row: SetListRow;
  readonly item: SetListItemInfo | null;
}

/** Set lists: ordered lists made by hand of items and picks. */
@Component({
  selector: 'f-set-lists-page',
  imports: [
    SharingPanel,
    SharedMark,
    May,
    Band,
    ButtonDirective,
    Choice,
    DataGrid,
    EmptyState,
    Icon,
    InlineEdit,
    Inspector,
    NameForm,
    RouterLink,
    SetListAdder,
    SmallButton,
  ],
  providers: [SetListsStore, SetListIntake, LibraryWords],
  templateUrl: './set-lists-page.html',
  styleUrl: './set-lists-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SetListsPage {
  protected readonly store = inject(SetListsStore);
  protected readonly intake = inject(SetListIntake);
  private readonly api = inject(Api);
  private readonly words = inject(LibraryWords);
  private readonly router = inject(Router);
  private readonly categories = inject(Store).selectSignal(catalogueFeature.selectCategoryMap);
  readonly stationId = input.required<string>();
  readonly listId = input<string>();

  protected readonly making = signal(false);
  protected readonly dropping = signal(false);
  protected readonly columns = COLUMNS;
  protected readonly time = formatDuration;

  constructor() {
    inject(KeysHelp).place.set({
      name: 'Set lists',
      keys: [
        { keys: ['Alt', '↑↓'], does: 'move the selected rows' },
        { keys: ['Delete'], does: 'remove the selected rows' },
        { keys: ['Shift', '↑↓'], does: 'select more rows' },
      ],
    });
    effect(() => {
      const stationId = this.stationId();
      untracked(() => {
        void this.store.openStation(stationId);
        void this.words.load(stationId);
      });
    });
    effect(() => {
      const id = this.listId() ?? null;
      untracked(() => {
        this.intake.unknown.set([]);
        void this.store.load(id);
      });
    });
    // Without a list in the address the first one is shown.
    effect(() => {
      const first = this.store.lists()?.[0];
      if (this.listId() === undefined && first)
        void this.router.navigate(['/', this.stationId(), 'library', 'set-lists', first.id], { replaceUrl: true });
    });
    reloadOn(['set-lists', 'library'], () => this.store.refresh(), { burstMs: 400 });
  }

  protected readonly rowAt = computed(() => {
    const [rows, items] = [this.store.rows(), this.store.items()];
    return (index: number): Shown | undefined => {
      const row = rows[index];
      return row && { id: row.id, index, row, item: 'itemId' in row ? (items.get(row.itemId) ?? null) : null };
    };
  });

  protected title({ row, item }: Shown): string {
    if ('itemId' in row) return item?.title ?? 'Deleted item';
    const name = this.categories()[row.categoryId]?.name ?? 'a deleted category';
    return row.filter ? `Pick of ${name}, ${row.filter}` : `Pick of ${name}`;
  }

  protected category({ row }: Shown) {
    return 'categoryId' in row ? this.categories()[row.categoryId] : undefined;
  }

  protected length({ row, item }: Shown): string {
    if ('itemId' in row) return item ? formatDuration(item.durationMs) : '';
    const average = this.categories()[row.categoryId]?.averageMs ?? 0;
    return average ? `~${formatDuration(average)}` : '';
  }

  protected start(index: number): string {
    return formatDuration(elementAt(this.store.starts(), index));
  }

  protected spread(ms: number): string {
    return ms >= 1000 ? ` ± ${formatDuration(ms)}` : '';
  }

  /** How far the list is from the length it is to have. */
  protected readonly wanted = computed(() => {
    const wantedMs = this.store.shown()?.wantedMs;
    if (!wantedMs) return null;
    const offMs = this.store.total().totalMs - wantedMs;
    const near = Math.abs(offMs) <= Math.max(1000, this.store.total().standardDeviationMs);
    const words =
      Math.abs(offMs) < 1000
        ? 'as long as wanted'
        : `${formatDuration(Math.abs(offMs))} ${offMs > 0 ? 'over' : 'under'} ${formatDuration(wantedMs)}`;
    return { words, near };
  });
  protected readonly exports = SET_LIST_FORMATS.map((format) => ({
    value: format,
    label: `as ${format.toUpperCase()}`,
  }));
  protected readonly picks = computed(() => this.store.rows().filter((row) => 'categoryId' in row).length);
  protected readonly unknownWords = computed(() => {
    const unknown = this.intake.unknown();
    const shown = unknown.slice(0, MOST_UNKNOWN);
    return unknown.length > MOST_UNKNOWN ? [...shown, `and ${unknown.length - MOST_UNKNOWN} more`] : shown;
  });

  protected summary(rows: number, totalMs: number): string {
    return `${plural(rows, 'row')}, ${formatDuration(totalMs)}`;
  }

  protected readonly create = async (name: string): Promise<string | null> => {
    const made = await this.store.create(name);
    if (typeof made === 'string') return made;
    this.making.set(false);
    this.openList(made.id);
    return null;
  };

  protected readonly nameFault = (text: string): string | null =>
    text.trim() === '' ? 'A name cannot be empty.' : null;
  protected readonly wantedFault = (text: string): string | null => {
    if (text === '') return null;
    const ms = parseDuration(text);
    return ms === null || ms < 1000 ? 'Write a length like 2:00:00, or nothing.' : null;
  };
  protected readonly saveName = (text: string): Promise<string | null> => this.store.patch({ name: text });
  protected readonly saveWanted = (text: string): Promise<string | null> =>
    this.store.patch({ wantedMs: text === '' ? null : parseDuration(text) });

  /** The pick that is selected alone; null where it is none. */
  protected readonly pick = computed((): SetListPick | null => {
    const [row] = this.store.selectedRows();
    return row && this.store.selected().size === 1 && 'categoryId' in row ? row : null;
  });
  protected readonly filterFault = (text: string): string | null => {
    const vocabulary = this.words.vocabulary();
    const parsed = text === '' || !vocabulary ? null : parseFilter(text, vocabulary);
    return parsed && !parsed.ok ? parsed.fault.why : null;
  };
  protected readonly saveFilter = (text: string): Promise<string | null> => {
    const pick = this.pick();
    if (pick) this.store.narrow(pick, text.trim());
    return Promise.resolve(null);
  };

  protected openList(id: string): void {
    void this.router.navigate(['/', this.stationId(), 'library', 'set-lists', id]);
  }

  protected add({ row, item }: { row: SetListRow; item: SetListItemInfo | null }): void {
    this.store.insert([row], item ? [item] : [], 'Add a row');
  }

  protected go(step: GridStep): void {
    this.store.go(step.index, step);
  }

  /** What is dragged goes with whatever else is selected. */
  protected drag(index: number): void {
    const row = this.store.rows()[index];
    if (row && !this.store.selected().has(row.id)) this.store.go(index, { extend: false, toggle: false });
  }

  protected onKey(event: KeyboardEvent): void {
    if ((event.target as HTMLElement).closest('input, textarea')) return;
    if (event.key === 'Delete') this.store.removeSelected();
    else if (event.altKey && event.key === 'ArrowUp') this.store.shift(-1);
    else if (event.altKey && event.key === 'ArrowDown') this.store.shift(1);
    else if (event.key === 'Escape') this.store.clearSelection();
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  protected exportAs(format: string): void {
    const { id } = this.store.shown()!;
    const url = this.api.urlOf('setListFile', {
      stationId: this.stationId(),
      id,
      format: format as (typeof SET_LIST_FORMATS)[number],
    });
    const link = document.createElement('a');
    link.href = url;
    link.download = '';
    link.click();
  }

  protected choose(field: HTMLInputElement): void {
    const files = [...(field.files ?? [])];
    field.value = '';
    void this.take(files.map((file) => ({ path: file.name, file })));
  }

  protected over(event: DragEvent): void {
    if (!event.dataTransfer?.types.includes('Files') || !this.store.shown()) return;
    event.preventDefault();
    this.dropping.set(true);
  }

  protected async drop(event: DragEvent): Promise<void> {
    this.dropping.set(false);
    if (!event.dataTransfer?.types.includes('Files') || !this.store.shown()) return;
    event.preventDefault();
    const dropped = [...event.dataTransfer.items].flatMap((item) => item.webkitGetAsEntry() ?? []);
    await this.take((await Promise.all(dropped.map(filesOf))).flat());
  }

  private async take(files: readonly { path: string; file: File }[]): Promise<void> {
    const audio = files.filter(({ path }) => AUDIO.test(path));
    if (audio.length > 0) return this.intake.takeAudio(audio);
    const [playlist] = files;
    if (playlist) await this.intake.takePlaylist(playlist.file);
  }

  protected async remove(): Promise<void> {
    if (await this.store.remove()) void this.router.navigate(['/', this.stationId(), 'library', 'set-lists']);
  }
}
