import type { ForecastChangeAsked, MoveEffect } from '@fuller/contracts';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { KeptRows } from '../shared/ui/kept-rows';
import { SmallButton } from '../shared/ui/small-button';
import { ButtonDirective } from 'primeng/button';
import { Router, RouterLink } from '@angular/router';
import { DragDropModule } from 'primeng/dragdrop';
import { InputText } from 'primeng/inputtext';
import { TableModule } from 'primeng/table';
import { KeysHelp } from '../frame/keys-help';
import { ITEMS_SCOPE } from '../library/category-tree';
import { Band } from '../shared/ui/band';
import { BeginHere } from '../shared/begin-here';
import { EmptyState } from '../shared/ui/empty-state';
import { Icon } from '../shared/ui/icon';
import { Inspector } from '../shared/ui/inspector';
import { KeepOrCancel, type KeepText } from '../shared/ui/keep-or-cancel';
import { NameForm } from '../shared/ui/name-form';
import { CategoryPanel } from './category-panel';
import { RestBars } from './rest-bars';
import { RestList } from './rest-list';
import { RotationTabs } from './rotation-tabs';
import { RotationStore, type Wished } from './rotation.store';
import { restWords, type SheetView } from './sheet-view';
import { SharedMark } from '../shared/sharing/shared-mark';
import { ForecastThis } from '../shared/forecast-this';
import { May } from '../shared/session/may';

type Group = ReturnType<InstanceType<typeof RotationStore>['groups']>[number];

/** A row of the sheet: the head of a group, or a category. */
interface SheetRow {
  readonly key: string;
  readonly group: Group | null;
  readonly view: SheetView | null;
}

/** The turnover sheet: what each category promises, how it keeps it, and what would follow from another number. */
@Component({
  selector: 'f-rotation-page',
  imports: [
    BeginHere,
    ForecastThis,
    RotationTabs,
    RouterLink,
    SharedMark,
    May,
    SmallButton,
    ButtonDirective,
    NameForm,
    InputText,
    Band,
    Icon,
    Inspector,
    EmptyState,
    CategoryPanel,
    RestBars,
    RestList,
    DragDropModule,
    KeptRows,
    TableModule,
    KeepOrCancel,
  ],
  templateUrl: './rotation-page.html',
  styleUrl: './rotation-page.scss',
  providers: [RotationStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RotationPage {
  protected readonly sheet = inject(RotationStore);
  private readonly router = inject(Router);
  readonly stationId = input.required<string>();
  readonly category = input<string>();
  protected readonly scope = ITEMS_SCOPE;
  /** Asked for by name: begins a new one. */
  readonly new = input<string>();
  protected readonly making = signal<'category' | 'group' | null>(null);
  /** Songs that are to make a category of their own. */
  protected readonly splitting = signal<readonly string[] | null>(null);
  /** Rows of the sheet: each group, and the categories in it. */
  protected readonly rows = computed<SheetRow[]>(() =>
    this.sheet
      .groups()
      .flatMap((group) => [
        { key: `group ${group.id}`, group, view: null },
        ...group.views.map((view) => ({ key: view.category.id, group: null, view })),
      ]),
  );
  private readonly flat = computed(() => this.sheet.groups().flatMap(({ views }) => views));

  constructor() {
    effect(() => {
      if (this.new()) untracked(() => this.making.set('category'));
    });
    inject(KeysHelp).place.set({
      name: 'Rotation',
      keys: [
        { keys: ['↑', '↓'], does: 'move between categories, or between songs' },
        { keys: ['Enter'], does: 'go to the category’s name' },
        { keys: ['Space'], does: 'select or deselect a song; with Shift and ↑ ↓ several' },
        { keys: ['p'], does: 'pause the selected songs for a week' },
        { keys: ['w'], does: 'put them on the worklist' },
      ],
    });
    effect(() => {
      const stationId = this.stationId();
      untracked(() => void this.sheet.load(stationId));
    });
    effect(() => this.sheet.choose(this.category() ?? null));
  }

  protected choose(id: string | null): void {
    void this.router.navigate([], { queryParams: { category: id }, replaceUrl: true });
  }

  protected onKey(event: KeyboardEvent): void {
    if ((event.target as HTMLElement).tagName === 'INPUT') return;
    const views = this.flat();
    const at = views.findIndex(({ category }) => category.id === this.category());
    const next = { ArrowDown: at + 1, ArrowUp: at - 1, Home: 0, End: views.length - 1 }[event.key];
    if (next !== undefined && views[next]) {
      event.preventDefault();
      const { id } = views[next].category;
      this.choose(id);
      document.getElementById(`category-${id}`)?.scrollIntoView({ block: 'nearest' });
    } else if (event.key === 'Enter' && at >= 0) {
      document.querySelector<HTMLElement>('f-inspector input')?.focus();
    }
  }

  /** Tries a number out; one that is as it is ends the trial. */
  protected wish(view: SheetView, what: Wished, field: HTMLInputElement, shown: string | number): void {
    if (!this.sheet.wish(view, what, Number(field.value.replace(',', '.')))) field.value = String(shown);
  }

  /** The code of a new category. */
  protected readonly newCode = signal('');

  protected readonly create = async (name: string): Promise<string | null> => {
    const created = await this.sheet.create(name, this.newCode().trim(), this.splitting());
    if (typeof created === 'string') return created;
    this.stop();
    this.choose(created.id);
    return null;
  };

  protected readonly createGroup = async (name: string): Promise<string | null> => {
    const why = await this.sheet.createGroup(name);
    if (why === null) this.stop();
    return why;
  };

  private readonly groupKeepers = new Map<string, KeepText>();

  /** What keeps the name of a group. */
  protected groupKeeper(id: string): KeepText {
    let keeper = this.groupKeepers.get(id);
    if (!keeper) {
      keeper = (name) => this.sheet.renameGroup(id, name);
      this.groupKeepers.set(id, keeper);
    }
    return keeper;
  }

  protected stop(): void {
    this.making.set(null);
    this.splitting.set(null);
    this.newCode.set('');
  }

  protected rest(seconds: number): string {
    return restWords(seconds);
  }

  /** `22`, or `20 of 22` where some cannot play. */
  /** What leaves and comes in the weeks ahead, and the turnover then. */
  protected effectWords({ leave, come, songs, turnoverHours }: MoveEffect): string {
    const parts = [...(leave ? [`${leave} leave`] : []), ...(come ? [`${come} come`] : [])].join(', ');
    const then = turnoverHours.then === null ? '' : `, a turn every ${restWords(turnoverHours.then * 3600)}`;
    return `In four weeks: ${parts}; then ${songs.then} songs${then}.`;
  }

  /** How many songs more or fewer somebody tries out. */
  protected sizeChange({ category, row, items }: SheetView): ForecastChangeAsked | null {
    const more = items - (row?.canPlay ?? 0);
    if (more === 0) return null;
    return { kind: more > 0 ? 'add' : 'fewer', category: category.id, songs: Math.min(2000, Math.abs(more)) };
  }

  protected barredWords({ row }: SheetView): string {
    if (!row || row.canPlay === row.items) return '';
    return `${row.items - row.canPlay} of ${row.items} cannot play`;
  }
}
