import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { formatDuration, HOUR_MS, type ExpectedSilence } from '@fuller/core';
import { scaleLinear } from 'd3-scale';
import type { HourPart } from './hour-shape';

const WIDTH = 172;
/** Parts shorter than this on screen carry no words. */
const LEAST_LABEL_PX = 13;

/** The minute-true picture of a clock: a ruler, every line as tall as it is long, booked break times as pins. */
@Component({
  selector: 'f-hour-ribbon',
  template: `<svg [attr.width]="width" [attr.height]="height() + 24" role="img" [attr.aria-label]="summary()">
    @for (minute of minutes(); track minute) {
      <line
        [attr.x1]="minute % numbered() === 0 ? 22 : 28"
        x2="34"
        [attr.y1]="y(minute * 60000)"
        [attr.y2]="y(minute * 60000)"
        class="tick" />
      @if (minute % numbered() === 0) {
        <text x="18" [attr.y]="y(minute * 60000) + 3.5" class="minute">{{ minute }}</text>
      }
    }
    @for (silence of silences(); track silence.startMs) {
      <g class="silence">
        <rect
          x="40"
          [attr.y]="y(silence.startMs) + 1"
          [attr.width]="width - 44"
          [attr.height]="silenceHeight(silence)"
          rx="1.5" />
        @if (silenceHeight(silence) >= leastLabel) {
          <text x="51" [attr.y]="y(silence.startMs) + silenceHeight(silence) / 2 + 4">
            {{ silent(silence.durationMs) }}
          </text>
        }
      </g>
    }
    @for (part of parts(); track $index) {
      @if (part.durationMs > 0) {
        <g
          [class.selected]="part.lineId === selected()"
          [class.break]="part.kind === 'break'"
          [class.framed]="part.from !== null"
          [class.fill]="part.kind === 'fill'"
          (click)="pick(part)">
          <rect
            x="40"
            [attr.y]="y(part.startMs) + 0.5"
            [attr.width]="width - 44"
            [attr.height]="tall(part)"
            rx="1.5"
            class="body" />
          <rect
            x="40"
            [attr.y]="y(part.startMs) + 0.5"
            width="5"
            [attr.height]="tall(part)"
            [style.fill]="part.colour"
            rx="1" />
          @if (tall(part) >= leastLabel) {
            <text x="51" [attr.y]="y(part.startMs) + tall(part) / 2 + 4" class="name">{{ short(part.label) }}</text>
          }
        </g>
      }
    }
    @for (part of overs(); track part.lineId) {
      <path
        [attr.d]="overMark(part)"
        [style.fill]="part.colour"
        class="over-mark"
        [class.selected]="part.lineId === selected()"
        (click)="pick(part)">
        <title>{{ part.label }} over the intro</title>
      </path>
    }
    @for (part of parts(); track $index) {
      @if (part.theme && part.durationMs > 0) {
        <rect
          [attr.x]="width - 3"
          [attr.y]="y(part.startMs) + 0.5"
          width="3"
          [attr.height]="tall(part)"
          rx="1"
          class="theme">
          <title>{{ part.theme }}</title>
        </rect>
      }
    }
    @for (part of pins(); track part.lineId) {
      <path [attr.d]="thread(part)" class="thread" [class.off]="off(part)" />
      <circle cx="34" [attr.cy]="y(part.markMs ?? 0)" r="3" class="pin" [class.off]="off(part)" />
    }
    <line x1="22" [attr.x2]="width" [attr.y1]="y(lengthMs())" [attr.y2]="y(lengthMs())" class="end" />
    @if (totalMs() >= lengthMs() + 1000) {
      <text [attr.x]="width - 2" [attr.y]="height() + 18" class="over">+{{ over() }} beyond its end</text>
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
    .silence rect {
      fill: none;
      stroke: var(--weld);
      stroke-dasharray: 3 3;
    }
    .silence text {
      fill: var(--weld-text);
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
    g {
      cursor: pointer;
    }
    .framed .body {
      fill: none;
      stroke-dasharray: 3 2;
    }
    .framed .name {
      fill: var(--quiet);
      font-style: italic;
    }
    .framed {
      cursor: default;
    }
    .fill .body {
      fill: var(--moss-wash);
    }
    .name {
      pointer-events: none;
    }
    .selected .body {
      stroke: var(--woad);
      stroke-width: 2;
      fill: var(--woad-wash);
    }
    .theme {
      fill: var(--woad);
    }
    .over-mark {
      cursor: pointer;
    }
    .over-mark.selected {
      stroke: var(--woad);
      stroke-width: 2;
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
  /** Where nothing plays. */
  readonly silences = input<readonly ExpectedSilence[]>([]);
  readonly lengthMs = input<number>(HOUR_MS);
  readonly selected = input<string | null>(null);
  readonly height = input(560);
  readonly choose = output<string>();

  protected readonly width = WIDTH;
  protected readonly leastLabel = LEAST_LABEL_PX;
  /** Where the ruler has its strokes: every five minutes, further apart in a long clock. */
  protected readonly minutes = computed(() => {
    const length = this.lengthMs() / 60_000;
    const step = length <= 15 ? 1 : length <= 120 ? 5 : 15;
    return Array.from({ length: Math.floor(length / step) + 1 }, (_, index) => index * step);
  });
  protected readonly numbered = computed(() => {
    const length = this.lengthMs() / 60_000;
    return length <= 15 ? 5 : length <= 120 ? 15 : 60;
  });
  private readonly scale = computed(() =>
    scaleLinear([0, Math.max(this.lengthMs(), this.totalMs())], [6, this.height()]),
  );
  protected readonly pins = computed(() => this.parts().filter((part) => part.markMs !== null));
  /** Sweepers over an intro, which take no time of their own. */
  protected readonly overs = computed(() => this.parts().filter(({ kind }) => kind === 'sweeper'));
  /** A flag on the right edge of the song whose intro it plays over. */
  protected overMark({ startMs }: HourPart): string {
    return `M${WIDTH - 4} ${this.y(startMs) + 1} h-14 l5 4.5 l-5 4.5 h14 z`;
  }

  protected silenceHeight({ startMs, durationMs }: ExpectedSilence): number {
    return Math.max(2, this.y(startMs + durationMs) - this.y(startMs) - 2);
  }

  protected silent(durationMs: number): string {
    return `Silence ${formatDuration(durationMs)}`;
  }

  protected readonly over = computed(() => formatDuration(this.totalMs() - this.lengthMs()));
  protected readonly summary = computed(() => {
    const drift = this.pins()
      .map(
        (part) =>
          `${part.kind === 'break' ? 'break booked' : 'moment'} at ${formatDuration(part.markMs!)} expected ${formatDuration(part.startMs)}`,
      )
      .join(', ');
    const silent = this.silences().map(
      ({ startMs, durationMs }) => `${formatDuration(durationMs)} of silence from ${formatDuration(startMs)}`,
    );
    const said = [drift, ...silent].filter(Boolean).join('; ');
    return `The clock minute by minute, ${formatDuration(this.totalMs())} in all${said ? `: ${said}` : ''}`;
  });

  /** What the station adds is changed where it is made, not here. */
  protected pick(part: HourPart): void {
    if (part.from === null) this.choose.emit(part.lineId);
  }

  protected y(ms: number): number {
    return this.scale()(ms);
  }

  protected tall(part: HourPart): number {
    return Math.max(1, this.y(part.startMs + part.durationMs) - this.y(part.startMs) - 1);
  }

  protected thread(part: HourPart): string {
    const from = this.y(part.markMs ?? 0);
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
