import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { elementAt, DAY_MINUTES, type PlanBlock } from '@fuller/core';
import { minuteText } from '../clocks/line-words';

/** Something on the air in a column; minutes of its day. */
export interface GridStretch {
  readonly from: number;
  readonly to: number;
  readonly label: string;
  readonly colour: string;
  /** A block of the plan, the default where none stands, what lies under the plan, or silence. */
  readonly kind: 'block' | 'default' | 'under' | 'silent';
  readonly show: boolean;
  /** The block it is a part of, as the plan has it. */
  readonly block: PlanBlock | null;
}

export interface GridColumn {
  readonly label: string;
  readonly strong: boolean;
  readonly stretches: readonly GridStretch[];
}

/** A stretch of minutes; columns follow each other, a day each. */
export interface Stroke {
  readonly at: number;
  readonly minutes: number;
}

type Drag =
  | { readonly does: 'paint'; readonly from: number; to: number }
  | { readonly does: 'move' | 'top' | 'bottom'; readonly block: PlanBlock; readonly from: number; to: number };

/** Days side by side with what runs in them, to be painted, dragged and stretched. */
@Component({
  selector: 'f-plan-grid',
  templateUrl: './plan-grid.html',
  styleUrl: './plan-grid.scss',
  host: { '(document:pointermove)': 'dragOn($event)', '(document:pointerup)': 'dragEnds()' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlanGrid {
  readonly columns = input.required<readonly GridColumn[]>();
  readonly label = input.required<string>();
  /** Minutes that a stroke or a key moves by. */
  readonly step = input(60);
  readonly hourPx = input(23);
  /** What is painted with, as it is shown while painting. */
  readonly brush = input<{ readonly label: string; readonly colour: string } | null>(null);
  readonly painted = output<readonly Stroke[]>();
  readonly cleared = output<readonly Stroke[]>();
  readonly reshaped = output<{ readonly block: PlanBlock; readonly at: number; readonly minutes: number }>();
  /** Where the cursor is, in minutes. */
  readonly moved = output<number>();
  readonly taken = output<GridStretch>();
  readonly copied = output<number>();
  readonly pasted = output<readonly number[]>();

  private readonly days = viewChild.required<ElementRef<HTMLElement>>('days');
  protected readonly hours = Array.from({ length: 24 }, (_, hour) => hour);
  protected readonly cursor = signal(0);
  private readonly anchor = signal<number | null>(null);
  private readonly drag = signal<Drag | null>(null);
  protected readonly dayPx = computed(() => this.hourPx() * 24);

  /** The strokes of the selection: the same minutes in every column between anchor and cursor. */
  private readonly selection = computed(() =>
    strokesBetween(this.anchor() ?? this.cursor(), this.cursor(), this.step()),
  );
  /** What is drawn over the days: the cursor's place, or what dragging would make. */
  protected readonly overlay = computed<{
    readonly strokes: readonly Stroke[];
    readonly kind: 'cursor' | 'paint' | 'shape';
  }>(() => {
    const drag = this.drag();
    if (!drag) return { strokes: this.selection(), kind: 'cursor' };
    if (drag.does === 'paint') return { strokes: strokesBetween(drag.from, drag.to, this.step()), kind: 'paint' };
    return { strokes: [shapeOf(drag, this.step())], kind: 'shape' };
  });
  protected readonly says = computed(() => {
    const [day, minute] = [Math.floor(this.cursor() / DAY_MINUTES), this.cursor() % DAY_MINUTES];
    const column = this.columns()[day];
    const stretch = column?.stretches.find(({ from, to }) => minute >= from && minute < to);
    if (!column) return '';
    return `${column.label} ${minuteText(minute)}, ${stretch ? `${stretch.label} until ${minuteText(stretch.to)}` : 'nothing'}`;
  });

  protected px(minutes: number): number {
    return (minutes / 60) * this.hourPx();
  }

  /** The part of a stroke that lies in a column. */
  protected partIn(stroke: Stroke, column: number): { top: number; height: number } | null {
    const from = Math.max(stroke.at, column * DAY_MINUTES);
    const to = Math.min(stroke.at + stroke.minutes, (column + 1) * DAY_MINUTES);
    return to <= from ? null : { top: this.px(from - column * DAY_MINUTES), height: this.px(to - from) };
  }

  protected time(minute: number): string {
    return minuteText(minute);
  }

  protected wordsOf(stretch: GridStretch, column: GridColumn): string {
    const kind = { block: '', default: ' by default', under: ' from the week', silent: '' }[stretch.kind];
    return `${column.label} ${minuteText(stretch.from)} to ${minuteText(stretch.to)}, ${stretch.label}${kind}`;
  }

  private minuteAt(event: PointerEvent): number {
    const columns = [...this.days().nativeElement.children] as HTMLElement[];
    const boxes = columns.map((column) => column.getBoundingClientRect());
    const found = boxes.findIndex((box) => event.clientX < box.right);
    const column = found < 0 ? boxes.length - 1 : found;
    const step = this.step();
    const minute = Math.floor((((event.clientY - elementAt(boxes, column).top) / this.hourPx()) * 60) / step) * step;
    return column * DAY_MINUTES + Math.max(0, Math.min(DAY_MINUTES - step, minute));
  }

  protected dragBegins(event: PointerEvent, stretch?: GridStretch, does: Drag['does'] = 'paint'): void {
    if (event.button !== 0) return;
    event.preventDefault();
    event.stopPropagation();
    (event.currentTarget as HTMLElement).closest<HTMLElement>('.grid')?.focus();
    const at = this.minuteAt(event);
    this.place(at);
    this.anchor.set(null);
    if (does === 'paint') this.drag.set({ does, from: at, to: at });
    else if (stretch?.block) this.drag.set({ does, block: stretch.block, from: at, to: at });
  }

  protected dragOn(event: PointerEvent): void {
    const drag = this.drag();
    if (!drag) return;
    const to = this.minuteAt(event);
    if (to !== drag.to) this.drag.set({ ...drag, to });
  }

  protected dragEnds(): void {
    const drag = this.drag();
    if (!drag) return;
    this.drag.set(null);
    if (drag.does === 'paint') this.painted.emit(strokesBetween(drag.from, drag.to, this.step()));
    else if (drag.to !== drag.from) this.reshaped.emit({ block: drag.block, ...shapeOf(drag, this.step()) });
  }

  private place(minute: number): void {
    this.cursor.set(minute);
    this.moved.emit(minute);
  }

  private stretchAt(minute: number): GridStretch | undefined {
    const inDay = minute % DAY_MINUTES;
    return this.columns()[Math.floor(minute / DAY_MINUTES)]?.stretches.find(
      ({ from, to }) => inDay >= from && inDay < to,
    );
  }

  protected onKey(event: KeyboardEvent): void {
    const step = { ArrowDown: this.step(), ArrowUp: -this.step(), ArrowRight: DAY_MINUTES, ArrowLeft: -DAY_MINUTES }[
      event.key
    ];
    const block = this.stretchAt(this.cursor())?.block ?? null;
    if (step !== undefined) {
      event.preventDefault();
      if (event.altKey && block) this.reshaped.emit({ block, at: block.at + step, minutes: block.minutes });
      this.walk(step, event.shiftKey && !event.altKey);
    } else if (event.key === '+' || event.key === '-') {
      if (block)
        this.reshaped.emit({
          block,
          at: block.at,
          minutes: block.minutes + (event.key === '+' ? this.step() : -this.step()),
        });
    } else if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault();
      this.painted.emit(this.selection());
    } else if (event.key === 'Delete' || event.key === 'Backspace') {
      event.preventDefault();
      this.cleared.emit(
        block && this.anchor() === null ? [{ at: block.at, minutes: block.minutes }] : this.selection(),
      );
    } else if (event.key === 'p') {
      const under = this.stretchAt(this.cursor());
      if (under) this.taken.emit(under);
    } else if ((event.ctrlKey || event.metaKey) && (event.key === 'c' || event.key === 'v')) {
      event.preventDefault();
      const days = [...new Set(this.selection().map(({ at }) => Math.floor(at / DAY_MINUTES)))];
      if (event.key === 'c') this.copied.emit(elementAt(days, 0));
      else this.pasted.emit(days);
    }
  }

  private walk(step: number, extend: boolean): void {
    const next = this.cursor() + step;
    const leavesDay =
      Math.abs(step) < DAY_MINUTES && Math.floor(next / DAY_MINUTES) !== Math.floor(this.cursor() / DAY_MINUTES);
    if (next < 0 || next >= this.columns().length * DAY_MINUTES || leavesDay) return;
    if (extend) this.anchor.update((anchor) => anchor ?? this.cursor());
    else this.anchor.set(null);
    this.place(next);
  }
}

/** The same minutes of every day between two places, both included. */
function strokesBetween(from: number, to: number, step: number): Stroke[] {
  const inOrder = (a: number, b: number): [number, number] => (a < b ? [a, b] : [b, a]);
  const [firstDay, lastDay] = inOrder(Math.floor(from / DAY_MINUTES), Math.floor(to / DAY_MINUTES));
  const [first, last] = inOrder(from % DAY_MINUTES, to % DAY_MINUTES);
  return Array.from({ length: lastDay - firstDay + 1 }, (_, n) => ({
    at: (firstDay + n) * DAY_MINUTES + first,
    minutes: last - first + step,
  }));
}

/** What a block becomes while it is dragged by its name or an edge. */
function shapeOf(drag: Exclude<Drag, { does: 'paint' }>, step: number): Stroke {
  const by = drag.to - drag.from;
  const { at, minutes } = drag.block;
  if (drag.does === 'move') return { at: at + by, minutes };
  if (drag.does === 'bottom') return { at, minutes: Math.max(step, minutes + by) };
  const from = Math.min(at + by, at + minutes - step);
  return { at: from, minutes: at + minutes - from };
}
