import { elementAt } from '@fuller/core';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  viewChildren,
} from '@angular/core';
import { DOCUMENT } from '@angular/common';

const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'] as const;
const HOURS = Array.from({ length: 24 }, (_, hour) => hour);
const STEPS: Readonly<Record<string, number>> = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -24, ArrowDown: 24 };

interface Cell {
  readonly index: number;
  readonly share: number;
  readonly words: string;
}

/** The 168 hours of a week as days by hours: a picture of numbers, or marks to be painted by mouse or key. */
@Component({
  selector: 'f-week-grid',
  template: `<table
    [attr.aria-label]="label()"
    [attr.role]="paintable() ? 'grid' : null"
    [class.paintable]="paintable()">
    <thead>
      <tr>
        <td></td>
        @for (hour of hours; track hour) {
          <th scope="col">
            <span [class.visually-hidden]="hour % 6 !== 0">{{ hour }}</span>
          </th>
        }
      </tr>
    </thead>
    <tbody>
      @for (day of rows(); track day.name) {
        <tr>
          <th scope="row">
            <abbr [title]="day.name">{{ day.name.slice(0, 3) }}</abbr>
          </th>
          @for (cell of day.cells; track cell.index) {
            <td
              #cellElement
              [style.--share]="cell.share"
              [class.some]="cell.share > 0"
              [title]="cell.words"
              [attr.role]="paintable() ? 'gridcell' : null"
              [attr.aria-selected]="paintable() ? cell.share > 0 : null"
              [attr.aria-label]="paintable() ? cell.words : null"
              [attr.tabindex]="paintable() ? (cell.index === at() ? 0 : -1) : null"
              (pointerdown)="begin($event, cell.index)"
              (pointerenter)="drag(cell.index)"
              (keydown)="onKey($event, cell.index)"
              (focus)="at.set(cell.index)">
              @if (!paintable()) {
                <span class="visually-hidden">{{ values()[cell.index] }}</span>
              }
            </td>
          }
        </tr>
      }
    </tbody>
  </table>`,
  styles: `
    table {
      width: 100%;
      table-layout: fixed;
      border-collapse: separate;
      border-spacing: 1px;
      font-size: 11px;
      line-height: 14px;
      user-select: none;
    }
    th {
      font-weight: 500;
      color: var(--quiet);
      text-align: left;
      padding: 0;
      overflow: visible;
      white-space: nowrap;
    }
    tbody th,
    thead td {
      width: 30px;
      padding: 0;
    }
    abbr {
      text-decoration: none;
    }
    tbody td {
      height: 14px;
      padding: 0;
      border-radius: 1px;
      background: var(--line);
      position: relative;
    }
    tbody td.some {
      background: color-mix(in srgb, var(--woad) calc(25% + 75% * var(--share)), var(--paper));
    }
    .paintable tbody td {
      cursor: pointer;
      touch-action: none;
    }
    .paintable tbody td.some {
      background: var(--moss);
    }
    td:focus-visible {
      outline-offset: 0;
      z-index: 1;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WeekGrid {
  readonly label = input.required<string>();
  /** 168 numbers, Monday 00:00 first. */
  readonly values = input.required<readonly number[]>();
  /** What is said of a cell after its day and hour. */
  readonly says = input<(value: number) => string>(String);
  readonly paintable = input(false);
  /** Cells that were painted, and whether on or off. */
  readonly painted = output<{ cells: readonly number[]; on: boolean }>();

  protected readonly hours = HOURS;
  protected readonly at = signal(0);
  private readonly elements = viewChildren<ElementRef<HTMLElement>>('cellElement');
  private readonly document = inject(DOCUMENT);
  /** Cells under way of being painted. */
  private readonly touched = signal<{ from: number; to: number; on: boolean } | null>(null);
  protected readonly rows = computed(() => {
    const values = this.values();
    const most = Math.max(1, ...values);
    const painting = this.touched();
    const under = new Set(painting ? cellsBetween(painting.from, painting.to) : []);
    return DAYS.map((name, day) => ({
      name,
      cells: HOURS.map((hour): Cell => {
        const index = day * 24 + hour;
        const value = painting && under.has(index) ? Number(painting.on) : elementAt(values, index);
        return {
          index,
          share: value / most,
          words: `${name} ${String(hour).padStart(2, '0')}:00, ${this.says()(value)}`,
        };
      }),
    }));
  });

  protected begin(event: PointerEvent, cell: number): void {
    if (!this.paintable() || event.button !== 0) return;
    this.touched.set({ from: cell, to: cell, on: this.values()[cell] === 0 });
    this.document.addEventListener('pointerup', () => this.end(), { once: true });
  }

  protected drag(cell: number): void {
    this.touched.update((painting) => painting && { ...painting, to: cell });
  }

  private end(): void {
    const painting = this.touched();
    this.touched.set(null);
    if (painting) this.painted.emit({ cells: cellsBetween(painting.from, painting.to), on: painting.on });
  }

  /** The cell a key painted last, until the values show it: the next key may come before. */
  private readonly fresh = linkedSignal<readonly number[], { cell: number; on: boolean } | null>({
    source: () => this.values(),
    computation: () => null,
  });

  private isOn(cell: number): boolean {
    const fresh = this.fresh();
    return fresh?.cell === cell ? fresh.on : this.values()[cell] !== 0;
  }

  private paintCell(cell: number, on: boolean): void {
    this.fresh.set({ cell, on });
    this.painted.emit({ cells: [cell], on });
  }

  /** Arrows move; with Shift they paint like the cell they leave; Space turns one. */
  protected onKey(event: KeyboardEvent, cell: number): void {
    if (!this.paintable()) return;
    if (event.key === ' ' || event.key === 'Enter') {
      event.preventDefault();
      this.paintCell(cell, !this.isOn(cell));
    }
    const step = STEPS[event.key];
    if (step === undefined) return;
    event.preventDefault();
    const to = cell + step;
    const leavesRow = Math.abs(step) === 1 && Math.floor(to / 24) !== Math.floor(cell / 24);
    if (to < 0 || to >= 168 || leavesRow) return;
    if (event.shiftKey) this.paintCell(to, this.isOn(cell));
    this.at.set(to);
    this.elements()[to]?.nativeElement.focus();
  }
}

/** The cells of the rectangle between two. */
function cellsBetween(from: number, to: number): number[] {
  const days = [Math.floor(from / 24), Math.floor(to / 24)].sort((a, b) => a - b);
  const hours = [from % 24, to % 24].sort((a, b) => a - b);
  const cells: number[] = [];
  for (let day = elementAt(days, 0); day <= elementAt(days, 1); day++)
    for (let hour = elementAt(hours, 0); hour <= elementAt(hours, 1); hour++) cells.push(day * 24 + hour);
  return cells;
}
