import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import type { RotationRow } from '@fuller/contracts';
import { BAND_COLOURS, nameKey, type TurnoverWish } from '@fuller/core';
import { Store } from '@ngrx/store';
import { DragDropModule } from 'primeng/dragdrop';
import { InputText } from 'primeng/inputtext';
import { debounceTime, filter, merge } from 'rxjs';
import { KeysHelp } from '../frame/keys-help';
import { ITEMS_SCOPE } from '../library/category-tree';
import { Api } from '../shared/api/api';
import { Newest } from '../shared/api/newest';
import { ServerEvents } from '../shared/api/server-events';
import { Band } from '../shared/ui/band';
import { EmptyState } from '../shared/ui/empty-state';
import { Icon } from '../shared/ui/icon';
import { KeepOrCancel, type KeepText } from '../shared/ui/keep-or-cancel';
import { NameForm } from '../shared/ui/name-form';
import { Inspector } from '../shared/ui/inspector';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';
import { CategoryPanel } from './category-panel';
import { RestBars } from './rest-bars';
import { RestList } from './rest-list';
import { restWords, sheetView, type SheetView } from './sheet-view';

type Wished = 'items' | 'slotsPerWeek' | 'playsPerWeek';
const MOST: Readonly<Record<Wished, number>> = { items: 100_000, slotsPerWeek: 20_000, playsPerWeek: 1000 };

/** The turnover sheet: what each category promises, how it keeps it, and what would follow from another number. */
@Component({
  selector: 'f-rotation-page',
  imports: [
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
    KeepOrCancel,
  ],
  templateUrl: './rotation-page.html',
  styleUrl: './rotation-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RotationPage {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  private readonly router = inject(Router);
  private readonly store = inject(Store);
  readonly stationId = input.required<string>();
  readonly category = input<string>();

  protected readonly scope = ITEMS_SCOPE;
  private readonly categories = this.store.selectSignal(catalogueFeature.selectAllCategories);
  protected readonly groupRows = this.store.selectSignal(catalogueFeature.selectGroups);
  private readonly rules = this.store.selectSignal(catalogueFeature.selectRuleMap);
  private readonly rows = signal<ReadonlyMap<string, RotationRow>>(new Map());
  protected readonly failed = signal<string | null>(null);
  protected readonly version = signal(0);
  /** Numbers tried out, by category; nothing is changed by them. */
  private readonly wishes = signal<Readonly<Record<string, TurnoverWish>>>({});
  /** Songs under way to another category, and the one they are over. */
  protected readonly carried = signal<readonly string[]>([]);
  protected readonly over = signal<string | null>(null);
  /** Asked for by name: begins a new one. */
  readonly new = input<string>();
  protected readonly making = signal<'category' | 'group' | null>(null);
  /** Songs that are to make a category of their own. */
  protected readonly splitting = signal<readonly string[] | null>(null);
  private readonly views = computed(() => {
    const [rows, rules, over, carried, from] = [
      this.rows(),
      this.rules(),
      this.over(),
      this.carried().length,
      this.category(),
    ];
    return this.categories().map((category) => {
      const row = rows.get(category.id);
      const shift =
        over === null || over === from ? 0 : category.id === over ? carried : category.id === from ? -carried : 0;
      const wish = shift !== 0 && row ? { items: Math.max(0, row.canPlay + shift) } : this.wishes()[category.id];
      return sheetView(category, row, rules, wish);
    });
  });
  protected readonly groups = computed(() => {
    const of = (groupId: string | null): SheetView[] =>
      this.views().filter(({ category }) => category.groupId === groupId);
    const groups = this.groupRows().map((group) => ({
      id: group.id as string | null,
      name: group.name,
      views: of(group.id),
    }));
    const others = { id: null, name: groups.length ? 'Other' : 'Categories', views: of(null) };
    return [...groups, others].filter(({ id, views }) => id !== null || views.length > 0);
  });
  protected readonly chosen = computed(
    () => this.views().find(({ category }) => category.id === this.category()) ?? null,
  );
  protected readonly count = computed(() => this.categories().length);
  private readonly flat = computed(() => this.groups().flatMap(({ views }) => views));

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
      untracked(() => void this.load(stationId));
    });
    const events = inject(ServerEvents);
    merge(events.resumed, events.events.pipe(filter((event) => event.type === 'changed')))
      .pipe(debounceTime(80), takeUntilDestroyed())
      .subscribe(() => void this.load(this.stationId()));
  }

  private readonly newest = new Newest();

  private async load(stationId: string): Promise<void> {
    const isNewest = this.newest.begin();
    try {
      const { rows } = await this.api.rotation({ stationId });
      if (!isNewest()) return;
      this.rows.set(new Map(rows.map((row) => [row.categoryId, row])));
      this.failed.set(null);
      this.version.update((version) => version + 1);
    } catch (error) {
      if (isNewest()) this.failed.set(error instanceof Error ? error.message : String(error));
    }
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
  protected wish({ category, row }: SheetView, what: Wished, field: HTMLInputElement): void {
    const value = Number(field.value.replace(',', '.'));
    const whole = what === 'playsPerWeek' || Number.isInteger(value);
    if (!row || !(value > 0) || value > MOST[what] || !whole) {
      this.drop(category.id);
      field.value = field.defaultValue;
      return;
    }
    const before = this.wishes()[category.id] ?? {};
    // Plays follow from items and slots, and these from plays: the one given last but one is held.
    const kept =
      what === 'playsPerWeek'
        ? before.items === undefined
          ? {}
          : { items: before.items }
        : { ...before, playsPerWeek: undefined };
    const wish = { ...kept, [what]: value };
    this.wishes.update((wishes) => ({ ...wishes, [category.id]: wish }));
  }

  protected drop(id: string): void {
    this.wishes.update(({ [id]: gone, ...others }) => {
      void gone;
      return others;
    });
  }

  protected async keep({ category, items, slotsPerWeek }: SheetView): Promise<void> {
    if (
      await this.changes.run(
        this.api.keepPlan({ stationId: this.stationId(), id: category.id }, { items, slotsPerWeek }),
      )
    )
      this.drop(category.id);
  }

  protected async forget({ category }: SheetView): Promise<void> {
    await this.changes.run(this.api.dropPlan({ stationId: this.stationId(), id: category.id }));
  }

  protected async dropOn(categoryId: string): Promise<void> {
    const ids = [...this.carried()];
    this.over.set(null);
    this.carried.set([]);
    if (ids.length > 0 && categoryId !== this.category())
      await this.changes.run(this.api.place({ stationId: this.stationId() }, { itemIds: ids, categoryId }));
  }

  protected leave(id: string): void {
    if (this.over() === id) this.over.set(null);
  }

  /** The code of a new category. */
  protected readonly newCode = signal('');

  protected readonly create = async (name: string): Promise<string | null> => {
    const code = this.newCode().trim();
    const why = this.nameFault(name) ?? this.codeFault(code);
    if (why) return why;
    const split = this.splitting();
    const from = this.category();
    const created = await this.changes.made(
      split && from
        ? this.api.splitCategory({ stationId: this.stationId(), id: from }, { name, code, itemIds: split })
        : this.api.createCategory(
            { stationId: this.stationId() },
            {
              name,
              code,
              colour: BAND_COLOURS[this.count() % BAND_COLOURS.length]!,
              music: true,
              groupId: this.chosen()?.category.groupId ?? this.groupRows()[0]?.id ?? null,
            },
          ),
    );
    if (typeof created === 'string') return created;
    this.stop();
    this.choose(created.id);
    return null;
  };

  protected readonly createGroup = async (name: string): Promise<string | null> => {
    const why = await this.changes.attempt(this.api.createGroup({ stationId: this.stationId() }, { name }));
    if (why === null) this.stop();
    return why;
  };

  private readonly groupKeepers = new Map<string, KeepText>();

  /** What keeps the name of a group. */
  protected groupKeeper(id: string): KeepText {
    let keeper = this.groupKeepers.get(id);
    if (!keeper) {
      keeper = async (name) =>
        name === ''
          ? 'A group needs a name.'
          : this.changes.attempt(this.api.renameGroup({ stationId: this.stationId(), id }, { name }));
      this.groupKeepers.set(id, keeper);
    }
    return keeper;
  }

  protected async removeGroup(id: string): Promise<void> {
    await this.changes.run(this.api.deleteGroup({ stationId: this.stationId(), id }));
  }

  protected stop(): void {
    this.making.set(null);
    this.splitting.set(null);
    this.newCode.set('');
  }

  private nameFault(name: string): string | null {
    const holder = this.categories().find((row) => nameKey(row.name) === nameKey(name));
    return holder ? `There is a category ${holder.name} already.` : null;
  }

  private codeFault(code: string): string | null {
    if (!/^[\p{L}\p{N}]{1,4}$/u.test(code.trim())) return 'A code has 1 to 4 letters or digits.';
    const holder = this.categories().find((row) => row.code.toLowerCase() === code.trim().toLowerCase());
    return holder ? `The code belongs to ${holder.name}.` : null;
  }

  protected rest(seconds: number): string {
    return restWords(seconds);
  }

  /** `22`, or `20 of 22` where some cannot play. */
  protected barredWords({ row }: SheetView): string {
    if (!row || row.canPlay === row.items) return '';
    return `${row.items - row.canPlay} of ${row.items} cannot play`;
  }
}
