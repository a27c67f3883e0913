import { NgTemplateOutlet } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  contentChild,
  ElementRef,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  type TemplateRef,
  viewChild,
} from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { type Table, TableModule } from 'primeng/table';
import { DragDropModule } from 'primeng/dragdrop';
import { Looks } from '../looks';
import { MOST_PRINTED, Printing } from '../printing';

export interface GridColumn {
  readonly key: string;
  readonly label: string;
  /** CSS width; a column without one shares what is left. */
  readonly width?: string;
  readonly right?: boolean;
  readonly sortable?: boolean;
}

/** A row was gone to; `extend` adds everything between, `toggle` adds or takes away that one. */
export interface GridStep {
  readonly index: number;
  readonly extend: boolean;
  readonly toggle: boolean;
}

export interface GridSort {
  readonly key: string;
  readonly dir: 'asc' | 'desc';
}

const ROW_PX = { comfortable: 32, dense: 26 };
const PAGE = 15;

/**
 * A long list that draws only what is seen. Rows are known by their place; what a place holds is
 * asked of the parent, which may still be fetching it.
 */
@Component({
  selector: 'f-data-grid',
  imports: [ButtonDirective, TableModule, NgTemplateOutlet, DragDropModule],
  templateUrl: './data-grid.html',
  styleUrl: './data-grid.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DataGrid<T extends { id: string }> {
  private readonly looks = inject(Looks);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly printing = inject(Printing);

  readonly label = input.required<string>();
  readonly columns = input.required<readonly GridColumn[]>();
  readonly total = input.required<number>();
  readonly rowAt = input.required<(index: number) => T | undefined>();
  readonly sort = input<GridSort | null>(null);
  readonly active = input(-1);
  readonly selected = input<ReadonlySet<string>>(new Set());
  /** What dragged rows are called where they may be dropped; empty when rows cannot be dragged. */
  readonly dragScope = input('');
  /** Whether dragged rows may be dropped on rows, to stand before them. */
  readonly dropsOnRows = input(false);

  readonly sortChange = output<GridSort>();
  readonly go = output<GridStep>();
  readonly open = output<number>();
  readonly dragged = output<number>();
  /** The place before which what is dragged is to stand. */
  readonly dropped = output<number>();
  /** The row something is dragged over; -1 for none. */
  protected readonly over = signal(-1);

  readonly cell = contentChild.required<TemplateRef<{ $implicit: T; column: GridColumn }>>('cell');
  private readonly table = viewChild.required<Table>('table');
  /** Wrapped, since the table draws no row for a value of 0. */
  protected readonly places = computed(() => {
    const length = this.printing.on() ? Math.min(this.total(), MOST_PRINTED) : this.total();
    return Array.from({ length }, (_, index) => ({ index }));
  });
  protected readonly rowPx = computed(() => ROW_PX[this.looks.density()]);

  focus(): void {
    this.host.nativeElement.querySelector<HTMLElement>('.grid')?.focus();
  }

  protected ariaSort(column: GridColumn): 'ascending' | 'descending' | 'none' | null {
    if (!column.sortable) return null;
    const sort = this.sort();
    if (sort?.key !== column.key) return 'none';
    return sort.dir === 'asc' ? 'ascending' : 'descending';
  }

  protected sortBy(column: GridColumn): void {
    const sort = this.sort();
    this.sortChange.emit({ key: column.key, dir: sort?.key === column.key && sort.dir === 'asc' ? 'desc' : 'asc' });
  }

  /** Where keys go on from; the next key may come before the parent's answer to the last one is drawn. */
  private readonly at = linkedSignal(() => this.active());

  protected goTo(step: GridStep): void {
    this.at.set(step.index);
    this.go.emit(step);
  }

  protected onKey(event: KeyboardEvent): void {
    // With Alt they move rows, which is up to the place.
    if (event.altKey) return;
    const last = this.total() - 1;
    const at = this.at();
    const target = this.keyTarget(event.key, at, last);
    if (target !== null) {
      event.preventDefault();
      const index = Math.max(0, Math.min(last, target));
      this.goTo({ index, extend: event.shiftKey, toggle: false });
      this.show(index);
    } else if (event.key === ' ' && at >= 0) {
      event.preventDefault();
      this.goTo({ index: at, extend: false, toggle: true });
    } else if (event.key === 'Enter' && at >= 0) {
      this.open.emit(at);
    }
  }

  private keyTarget(key: string, at: number, last: number): number | null {
    switch (key) {
      case 'ArrowDown':
        return at + 1;
      case 'ArrowUp':
        return at - 1;
      case 'PageDown':
        return at + PAGE;
      case 'PageUp':
        return at - PAGE;
      case 'Home':
        return 0;
      case 'End':
        return last;
      default:
        return null;
    }
  }

  /** Scrolls just as far as needed for a row to be seen. */
  private show(index: number): void {
    const body = this.host.nativeElement.querySelector<HTMLElement>('.p-virtualscroller');
    if (!body) return;
    const head = this.rowPx();
    const top = index * this.rowPx();
    const bottom = top + this.rowPx();
    const seen = body.clientHeight - head;
    if (top < body.scrollTop) this.table().scrollTo({ top });
    else if (bottom > body.scrollTop + seen) this.table().scrollTo({ top: bottom - seen });
  }
}
