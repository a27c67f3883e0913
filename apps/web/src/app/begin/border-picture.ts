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
import type { Axis, CutPart } from './begin.store';

const HEIGHT = 120;

/** The songs of a library along an axis, cut into categories by borders that are dragged, or moved by arrows. */
@Component({
  selector: 'f-border-picture',
  template: `<div class="bars" #area>
      <svg [attr.viewBox]="'0 0 ' + axis().values.length + ' ' + height" preserveAspectRatio="none" aria-hidden="true">
        @for (bar of bars(); track $index) {
          <rect
            [attr.x]="$index + 0.06"
            [attr.y]="bar.y"
            width="0.88"
            [attr.height]="bar.height"
            [style.fill]="bar.colour">
            <title>{{ bar.title }}</title>
          </rect>
        }
      </svg>
      @for (border of borders(); track $index) {
        <div
          class="border"
          role="slider"
          tabindex="0"
          [style.left.%]="border.percent"
          [attr.aria-label]="border.label"
          [attr.aria-valuemin]="border.least"
          [attr.aria-valuemax]="border.most"
          [attr.aria-valuenow]="border.place"
          [attr.aria-valuetext]="border.words"
          (keydown)="onKey($event, $index, border.place)"
          (pointerdown)="grab($event, $index)"
          (pointermove)="drag($event)"
          (pointerup)="dragging.set(null)"
          (pointercancel)="dragging.set(null)">
          <i></i>
        </div>
      }
    </div>
    <div class="labels">
      @for (label of labels(); track $index) {
        <span [style.left.%]="label.percent">{{ label.text }}</span>
      }
    </div>`,
  styles: `
    .bars {
      position: relative;
      height: 132px;
      border-bottom: 1px solid var(--line-strong);
    }
    svg {
      width: 100%;
      height: 100%;
    }
    .border {
      position: absolute;
      top: -4px;
      bottom: -8px;
      width: 22px;
      margin-left: -11px;
      cursor: ew-resize;
      touch-action: none;
    }
    .border::before {
      content: '';
      position: absolute;
      inset: 0 10px;
      background: var(--ink);
    }
    i {
      position: absolute;
      bottom: -4px;
      left: 4px;
      width: 14px;
      height: 14px;
      border: 2px solid var(--paper);
      border-radius: 50%;
      background: var(--ink);
    }
    .labels {
      position: relative;
      height: 26px;
      margin-top: 10px;
      color: var(--quiet);
      font-size: 13px;
    }
    .labels span {
      position: absolute;
      transform: translateX(-50%);
      white-space: nowrap;
    }
    .labels span:first-child {
      transform: none;
    }
    .labels span:last-child:not(:first-child) {
      transform: translateX(-100%);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BorderPicture {
  private readonly area = viewChild.required<ElementRef<HTMLElement>>('area');
  readonly axis = input.required<Axis>();
  readonly parts = input.required<readonly CutPart[]>();
  readonly moved = output<{ readonly after: number; readonly place: number }>();
  protected readonly height = HEIGHT;
  protected readonly dragging = signal<number | null>(null);

  protected readonly bars = computed(() => {
    const { values } = this.axis();
    const most = Math.max(1, ...values.map(({ songs }) => songs));
    return values.map(({ label, songs }, n) => {
      const height = Math.max(1.5, (songs / most) * HEIGHT);
      const part = this.parts().find(({ from, to }) => n >= from && n < to);
      return { y: HEIGHT - height, height, colour: part?.colour ?? 'var(--line)', title: `${label}: ${songs}` };
    });
  });
  protected readonly borders = computed(() => {
    const [parts, { values }] = [this.parts(), this.axis()];
    return parts.slice(0, -1).map((part, n) => {
      const next = parts[n + 1] ?? part;
      return {
        place: part.to,
        percent: (part.to / values.length) * 100,
        least: part.from + 1,
        most: next.to - 1,
        label: `Border between ${part.name} and ${next.name}`,
        words: `before ${values[part.to]?.label ?? ''}: ${part.songs} songs and ${next.songs} songs`,
      };
    });
  });
  protected readonly labels = computed(() => {
    const { values } = this.axis();
    const at = [
      ...new Set([
        0,
        ...this.parts()
          .slice(1)
          .map(({ from }) => from),
        values.length - 1,
      ]),
    ];
    // Labels that would lie on each other are left out; the ends stay.
    const room = Math.max(1, Math.round(values.length * 0.09));
    const kept = at.filter(
      (place, n) =>
        n === 0 || n === at.length - 1 || (place - (at[n - 1] ?? 0) >= room && values.length - 1 - place >= room),
    );
    return kept.map((place, n) => ({
      text: values[place]?.label ?? '',
      percent: n === 0 ? 0 : place === values.length - 1 ? 100 : ((place + 0.5) / values.length) * 100,
    }));
  });

  protected onKey(event: KeyboardEvent, after: number, place: number): void {
    const steps: Readonly<Record<string, number>> = {
      ArrowLeft: -1,
      ArrowDown: -1,
      ArrowRight: 1,
      ArrowUp: 1,
      PageDown: -5,
      PageUp: 5,
    };
    const step = steps[event.key];
    if (step === undefined) return;
    event.preventDefault();
    this.moved.emit({ after, place: place + step });
  }

  protected grab(event: PointerEvent, after: number): void {
    event.preventDefault();
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
    (event.currentTarget as HTMLElement).focus();
    this.dragging.set(after);
  }

  protected drag(event: PointerEvent): void {
    const after = this.dragging();
    if (after === null) return;
    const { left, width } = this.area().nativeElement.getBoundingClientRect();
    const place = Math.round(((event.clientX - left) / width) * this.axis().values.length);
    if (place !== this.parts()[after]?.to) this.moved.emit({ after, place });
  }
}
