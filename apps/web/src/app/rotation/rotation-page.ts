import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import type { CategoryRow } from '@fuller/contracts';
import { BAND_COLOURS, formatDuration, nameKey } from '@fuller/core';
import { Store } from '@ngrx/store';
import { KeysHelp } from '../frame/keys-help';
import { Api } from '../shared/api/api';
import { plural } from '../shared/text/plural';
import { Band } from '../shared/ui/band';
import { ColourPicker } from '../shared/ui/colour-picker';
import { EmptyState } from '../shared/ui/empty-state';
import { Icon } from '../shared/ui/icon';
import { InlineEdit } from '../shared/ui/inline-edit';
import { Inspector } from '../shared/ui/inspector';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';

/** The categories: what each holds, what the week asks of it, and how long it takes to turn over. */
@Component({
  selector: 'f-rotation-page',
  imports: [Band, Icon, Inspector, InlineEdit, ColourPicker, EmptyState, RouterLink],
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

  private readonly categories = this.store.selectSignal(catalogueFeature.selectAllCategories);
  private readonly groupRows = this.store.selectSignal(catalogueFeature.selectGroups);
  private readonly map = this.store.selectSignal(catalogueFeature.selectCategoryMap);
  protected readonly chosen = computed(() => this.map()[this.category() ?? ''] ?? null);
  protected readonly making = signal(false);
  protected readonly refused = signal<string | null>(null);
  protected readonly groups = computed(() => {
    const groups = this.groupRows().map((group) => ({
      name: group.name,
      rows: this.categories().filter((row) => row.groupId === group.id),
    }));
    const others = this.categories().filter((row) => row.groupId === null);
    return [...groups, { name: groups.length ? 'Other' : 'Categories', rows: others }].filter((group) => group.rows.length > 0);
  });
  protected readonly count = computed(() => this.categories().length);
  private readonly flat = computed(() => this.groups().flatMap((group) => group.rows));

  constructor() {
    inject(KeysHelp).place.set({
      name: 'Rotation',
      keys: [
        { keys: ['↑', '↓'], does: 'move between categories' },
        { keys: ['Enter'], does: 'go to the category’s name' },
      ],
    });
  }

  protected choose(id: string): void {
    void this.router.navigate([], { queryParams: { category: id }, replaceUrl: true });
  }

  protected onKey(event: KeyboardEvent): void {
    const rows = this.flat();
    const at = rows.findIndex((row) => row.id === this.category());
    const next = { ArrowDown: at + 1, ArrowUp: at - 1, Home: 0, End: rows.length - 1 }[event.key];
    if (next !== undefined && rows[next]) {
      event.preventDefault();
      this.choose(rows[next].id);
      document.getElementById(`category-${rows[next].id}`)?.scrollIntoView({ block: 'nearest' });
    } else if (event.key === 'Enter' && at >= 0) {
      document.querySelector<HTMLElement>('f-inspector input')?.focus();
    }
  }

  protected async create(name: string, code: string): Promise<void> {
    const why = name.trim() === '' ? 'A category needs a name.' : (this.nameFault(name) ?? this.codeFault(code));
    this.refused.set(why);
    if (why) return;
    const colour = BAND_COLOURS[this.count() % BAND_COLOURS.length]!;
    const created = await this.changes.run(
      this.api.createCategory(this.stationId(), {
        name,
        code,
        colour,
        music: true,
        groupId: this.chosen()?.groupId ?? this.groupRows()[0]?.id ?? null,
      }),
    );
    if (!created) return;
    this.making.set(false);
    this.choose(created.id);
  }

  protected save(row: CategoryRow, patch: Partial<CategoryRow>): void {
    void this.changes.run(this.api.patchCategory(this.stationId(), row.id, { revision: row.revision, ...patch }));
  }

  protected async remove(row: CategoryRow): Promise<void> {
    if (await this.changes.run(this.api.deleteCategory(this.stationId(), row.id))) {
      void this.router.navigate([], { queryParams: {} });
    }
  }

  protected readonly nameFault = (name: string): string | null => {
    if (name.trim() === '') return 'A category needs a name.';
    const holder = this.categories().find((row) => row.id !== this.chosen()?.id && nameKey(row.name) === nameKey(name));
    return holder ? `There is a category ${holder.name} already.` : null;
  };

  protected readonly codeFault = (code: string): string | null => {
    if (!/^[\p{L}\p{N}]{1,4}$/u.test(code.trim())) return 'A code has 1 to 4 letters or digits.';
    const holder = this.categories().find((row) => row.id !== this.chosen()?.id && row.code.toLowerCase() === code.trim().toLowerCase());
    return holder ? `The code belongs to ${holder.name}.` : null;
  };

  protected length(ms: number): string {
    return ms ? formatDuration(ms) : '';
  }

  protected turnover({ turnoverHours, items }: CategoryRow): string {
    if (turnoverHours === null || items === 0) return '';
    return turnoverHours < 72 ? `${turnoverHours.toFixed(1)} h` : `${(turnoverHours / 24).toFixed(1)} days`;
  }

  /** Plays of one item in a week, when every item gets as many. */
  protected plays({ items, slotsPerWeek }: CategoryRow): string {
    return items && slotsPerWeek ? (slotsPerWeek / items).toFixed(1) : '';
  }

  /** Share of the widest turnover on a scale of roots, so that short ones are still seen. */
  protected share(row: CategoryRow): number {
    const longest = Math.max(...this.categories().map((other) => other.turnoverHours ?? 0), 1);
    return row.turnoverHours === null ? 0 : Math.sqrt(row.turnoverHours / longest) * 100;
  }

  protected number(value: number): string {
    return value.toLocaleString('en-GB');
  }

  protected items(count: number): string {
    return plural(count, 'item');
  }
}
