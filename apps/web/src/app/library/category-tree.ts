import { SharedMark } from '../shared/sharing/shared-mark';
import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import type { CategoryRow, PoolRow } from '@fuller/contracts';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { DragDropModule } from 'primeng/dragdrop';
import { catalogueFeature } from '../state/catalogue.feature';
import { Band } from '../shared/ui/band';
import { Icon } from '../shared/ui/icon';

/** What rows of items are called while they are dragged. */
export const ITEMS_SCOPE = 'fuller-items';

/** The categories in their groups with counts and turnover; items can be dropped on them. */
@Component({
  selector: 'f-category-tree',
  imports: [SharedMark, ButtonDirective, Band, Icon, DragDropModule, RouterLink],
  template: `<nav aria-label="Categories">
    <button
      pButton
      [pButtonUnstyled]="true"
      type="button"
      class="row"
      [class.here]="chosen() === null"
      [attr.aria-pressed]="chosen() === null"
      (click)="choose.emit(null)">
      <span>All items</span><span class="count">{{ number(items()) }}</span>
    </button>
    <button
      pButton
      [pButtonUnstyled]="true"
      type="button"
      class="row"
      [class.here]="chosen() === 'none'"
      [class.over]="over() === 'none'"
      [attr.aria-pressed]="chosen() === 'none'"
      (click)="choose.emit('none')"
      [pDroppable]="scope"
      (onDragEnter)="over.set('none')"
      (onDragLeave)="leave('none')"
      (onDrop)="dropOn('none')">
      <span>Without category</span><span class="count">{{ number(bare()) }}</span>
    </button>
    <button
      pButton
      [pButtonUnstyled]="true"
      type="button"
      class="row"
      [class.here]="chosen() === 'worklist'"
      [class.over]="over() === 'worklist'"
      [attr.aria-pressed]="chosen() === 'worklist'"
      (click)="choose.emit('worklist')"
      [pDroppable]="scope"
      (onDragEnter)="over.set('worklist')"
      (onDragLeave)="leave('worklist')"
      (onDrop)="dropOn('worklist')"
      [pDraggable]="scope"
      [pDraggableDisabled]="collected() === 0"
      (onDragStart)="carryWorklist.emit()">
      <span>Worklist</span><span class="count">{{ collected() > 0 ? number(collected()) : '' }}</span>
    </button>
    <a class="row" routerLink="set-lists"><span>Set lists</span></a>
    <a class="row" routerLink="tags"><span>Tags</span></a>
    <a class="row" routerLink="tidy">
      <span>Tidy</span>
      @if (matters(); as count) {
        <span class="count" [attr.aria-label]="count + ' to review'">{{ number(count) }}</span>
      }
    </a>
    @if (pools().length > 0) {
      <h3 class="label">Pools</h3>
      @for (pool of pools(); track pool.id) {
        <button
          pButton
          [pButtonUnstyled]="true"
          type="button"
          class="row"
          [class.here]="openPool() === pool.id"
          [attr.aria-pressed]="openPool() === pool.id"
          [title]="pool.fault ?? pool.filter"
          (click)="choosePool.emit(pool)">
          <f-icon name="pool" /><span class="name">{{ pool.name }}</span>
          <f-shared-mark compact [scope]="pool.scope" />
          @if (pool.fault || pool.items === 0) {
            <f-icon name="alert" class="alert" [attr.aria-label]="pool.fault ?? 'holds nothing'" role="img" />
          }
          <span class="count">{{ number(pool.items) }}</span>
        </button>
      }
    }
    @for (group of groups(); track group.name) {
      <h3 class="label">{{ group.name }}</h3>
      @for (category of group.categories; track category.id) {
        <button
          pButton
          [pButtonUnstyled]="true"
          type="button"
          class="row"
          [class.here]="chosen() === category.id"
          [class.over]="over() === category.id"
          [attr.aria-pressed]="chosen() === category.id"
          [title]="words(category)"
          (click)="choose.emit(category.id)"
          [pDroppable]="scope"
          (onDragEnter)="over.set(category.id)"
          (onDragLeave)="leave(category.id)"
          (onDrop)="dropOn(category.id)">
          <f-band [colour]="category.colour" [code]="category.code" /><span class="name">{{ category.name }}</span>
          <f-shared-mark compact [scope]="category.scope" /><span class="turn mono">{{ turnover(category) }}</span
          ><span class="count">{{ number(category.items) }}</span>
        </button>
      }
    }
  </nav>`,
  styles: `
    :host {
      display: block;
      overflow: auto;
      border-right: 1px solid var(--line);
      padding: 8px 0 16px;
    }
    h3 {
      margin: 14px 14px 4px;
    }
    .row {
      display: flex;
      align-items: center;
      gap: 8px;
      width: 100%;
      height: 30px;
      padding: 0 12px 0 14px;
      border: 0;
      background: none;
      text-align: left;
      color: inherit;
      text-decoration: none;
      font-size: 14px;
      cursor: pointer;
    }
    .row:hover {
      background: color-mix(in srgb, var(--woad-wash) 60%, transparent);
    }
    .row.here {
      background: var(--woad-wash);
      font-weight: 600;
    }
    .row.over {
      background: var(--moss-wash);
      box-shadow: inset 0 0 0 2px var(--moss);
    }
    .row:focus-visible {
      outline-offset: -2px;
    }
    .name {
      flex: 1;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .row > span:first-child:not(.name) {
      flex: 1;
    }
    f-band {
      width: 34px;
      flex: none;
    }
    f-icon {
      width: 34px;
      flex: none;
      color: var(--quiet);
    }
    .alert {
      width: auto;
      color: var(--madder);
    }
    .count {
      width: 38px;
      flex: none;
      text-align: right;
      font-size: 13px;
    }
    .turn {
      color: var(--quiet);
      font-size: 11.5px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CategoryTree {
  private readonly store = inject(Store);
  readonly chosen = input.required<string | null>();
  readonly choose = output<string | null>();
  readonly pools = input<readonly PoolRow[]>([]);
  readonly matters = input<number | null>(null);
  /** Items on the worklist. */
  readonly collected = input(0);
  readonly openPool = input<string | null>(null);
  readonly choosePool = output<PoolRow>();
  /** The worklist is being dragged as a whole. */
  readonly carryWorklist = output();
  /** Items were dropped on a category, on `none` or on `worklist`. */
  readonly drop = output<string>();
  protected readonly scope = ITEMS_SCOPE;
  protected readonly over = signal<string | null>(null);
  protected readonly items = this.store.selectSignal(catalogueFeature.selectItems);
  protected readonly bare = this.store.selectSignal(catalogueFeature.selectWithoutCategory);
  private readonly categories = this.store.selectSignal(catalogueFeature.selectAllCategories);
  private readonly groupRows = this.store.selectSignal(catalogueFeature.selectGroups);

  protected readonly groups = computed(() => {
    const named = this.groupRows().map((group) => ({
      name: group.name,
      categories: this.categories().filter((category) => category.groupId === group.id),
    }));
    const others = { name: 'Other', categories: this.categories().filter((category) => category.groupId === null) };
    return [...named, others].filter((group) => group.categories.length > 0);
  });

  protected turnover({ turnoverHours }: CategoryRow): string {
    if (turnoverHours === null) return '';
    return turnoverHours < 72 ? `${Math.round(turnoverHours)}h` : `${(turnoverHours / 24).toFixed(1)}d`;
  }

  protected words({ name, items, turnoverHours }: CategoryRow): string {
    const turn =
      turnoverHours === null
        ? 'no slots in the week'
        : `heard through once in ${turnoverHours < 72 ? `${Math.round(turnoverHours)} hours` : `${(turnoverHours / 24).toFixed(1)} days`}`;
    return `${name}: ${items} items, ${turn}`;
  }

  protected number(value: number): string {
    return value.toLocaleString('en-GB');
  }

  protected leave(id: string): void {
    if (this.over() === id) this.over.set(null);
  }

  protected dropOn(id: string): void {
    this.over.set(null);
    this.drop.emit(id);
  }
}
