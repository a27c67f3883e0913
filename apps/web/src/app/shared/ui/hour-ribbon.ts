import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { formatDuration } from '@fuller/core';
import { scaleLinear } from 'd3-scale';
import type { HourPart } from './hour-shape';

const HOUR_MS = 3_600_000;
const WIDTH = 172;
/** Parts shorter than this on screen carry no words. */
const LEAST_LABEL_PX = 13;

/** The minute-true picture of a clock: a ruler, every line as tall as it is long, booked break times as pins. */
@Component({
  selector: 'f-hour-ribbon',
  template: `<svg [attr.width]="width" [attr.height]="height() + 24" role="img" [attr.aria-label]="summary()">
    @for (minute of minutes; track minute) {
      <line [attr.x1]="minute % 15 === 0 ? 22 : 28" x2="34" [attr.y1]="y(minute * 60000)" [attr.y2]="y(minute * 60000)" class="tick" />
      @if (minute % 15 === 0) {
        <text x="18" [attr.y]="y(minute * 60000) + 3.5" class="minute">{{ minute }}</text>
      }
    }
    @for (part of parts(); track part.lineId) {
      @if (part.durationMs > 0) {
        <g [class.selected]="part.lineId === selected()" [class.break]="part.kind === 'break'" (click)="choose.emit(part.lineId)">
          <rect x="40" [attr.y]="y(part.startMs) + 0.5" [attr.width]="width - 44" [attr.height]="tall(part)" rx="1.5" class="body" />
          <rect x="40" [attr.y]="y(part.startMs) + 0.5" width="5" [attr.height]="tall(part)" [style.fill]="part.colour" rx="1" />
          @if (tall(part) >= leastLabel) {
            <text x="51" [attr.y]="y(part.startMs) + tall(part) / 2 + 4" class="name">{{ short(part.label) }}</text>
          }
        </g>
      }
    }
    @for (part of pins(); track part.lineId) {
      <path [attr.d]="thread(part)" class="thread" [class.off]="off(part)" />
      <circle cx="34" [attr.cy]="y(part.bookedAtMs ?? 0)" r="3" class="pin" [class.off]="off(part)" />
    }
    <line x1="22" [attr.x2]="width" [attr.y1]="y(hour)" [attr.y2]="y(hour)" class="end" />
    @if (totalMs() >= hour + 1000) {
      <text [attr.x]="width - 2" [attr.y]="height() + 18" class="over">+{{ over() }} beyond the hour</text>
    }
  </svg>`,
  styles: `
    :host {
      display: block;
    }
    text {
      font: 12px var(--sans);
      fill: var(--ink);
    }
    .minute {
      font: 11px var(--mono);
      fill: var(--quiet);
      text-anchor: end;
    }
    .tick {
      stroke: var(--line-strong);
    }
    .body {
      fill: var(--paper);
      stroke: var(--line);
    }
    .break .body {
      fill: var(--line);
    }
    .name {
      pointer-events: none;
    }
    g {
      cursor: pointer;
    }
    .selected .body {
      stroke: var(--woad);
      stroke-width: 2;
      fill: var(--woad-wash);
    }
    .end {
      stroke: var(--ink);
      stroke-width: 1.25;
    }
    .pin {
      fill: var(--paper);
      stroke: var(--ink);
      stroke-width: 1.5;
    }
    .thread {
      fill: none;
      stroke: var(--ink);
      stroke-width: 1;
    }
    .pin.off {
      stroke: var(--weld);
      fill: var(--weld);
    }
    .thread.off {
      stroke: var(--weld);
      stroke-dasharray: 3 2;
    }
    .over {
      fill: var(--madder);
      text-anchor: end;
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HourRibbon {
  readonly parts = input.required<readonly HourPart[]>();
  readonly totalMs = input.required<number>();
  readonly selected = input<string | null>(null);
  readonly height = input(560);
  readonly choose = output<string>();

  protected readonly width = WIDTH;
  protected readonly hour = HOUR_MS;
  protected readonly leastLabel = LEAST_LABEL_PX;
  protected readonly minutes = Array.from({ length: 13 }, (_, index) => index * 5);
  private readonly scale = computed(() => scaleLinear([0, Math.max(HOUR_MS, this.totalMs())], [6, this.height()]));
  protected readonly pins = computed(() => this.parts().filter((part) => part.bookedAtMs !== null));
  protected readonly over = computed(() => formatDuration(this.totalMs() - HOUR_MS));
  protected readonly summary = computed(() => {
    const drift = this.pins()
      .map((part) => `break booked at ${formatDuration(part.bookedAtMs!)} expected ${formatDuration(part.startMs)}`)
      .join(', ');
    return `The hour minute by minute, ${formatDuration(this.totalMs())} in all${drift ? `: ${drift}` : ''}`;
  });

  protected y(ms: number): number {
    return this.scale()(ms);
  }

  protected tall(part: HourPart): number {
    return Math.max(1, this.y(part.startMs + part.durationMs) - this.y(part.startMs) - 1);
  }

  protected thread(part: HourPart): string {
    const from = this.y(part.bookedAtMs ?? 0);
    return `M34 ${from} L40 ${this.y(part.startMs) + 1}`;
  }

  /** A minute off its mark is worth seeing. */
  protected off(part: HourPart): boolean {
    return Math.abs(part.driftMs ?? 0) > 60_000;
  }

  protected short(text: string): string {
    return text.length > 18 ? `${text.slice(0, 17)}…` : text;
  }
}
