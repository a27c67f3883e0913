import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { CategoryRests } from '@fuller/contracts';
import { scaleLinear } from 'd3-scale';
import { restText } from '../shared/text/when';

const [WIDTH, HEIGHT] = [820, 56];
const HOUR = 3_600_000;
type Item = CategoryRests['items'][number];

/** The songs of a category on one axis of time, each where it stands since its last play; what strict rotation expects is shaded. */
@Component({
  selector: 'f-rest-strip',
  template: `<svg
      [attr.viewBox]="'0 0 ' + width + ' ' + height"
      preserveAspectRatio="none"
      role="img"
      [attr.aria-label]="words()">
      @if (expected(); as zone) {
        <rect class="zone" [attr.x]="zone.from" y="4" [attr.width]="zone.to - zone.from" height="34" />
        <line class="mean" [attr.x1]="zone.mean" [attr.x2]="zone.mean" y1="0" y2="42" />
      }
      @for (mark of marks(); track mark.item.id) {
        <line
          [class]="mark.kind"
          [class.here]="mark.item.id === chosen()"
          [attr.x1]="mark.x"
          [attr.x2]="mark.x"
          [attr.y1]="mark.kind === 'even' ? 12 : 4"
          y2="38"
          (click)="choose.emit(mark.item.id)">
          <title>{{ mark.item.title }}, {{ since(mark.item) }}</title>
        </line>
      }
      <line class="axis" x1="0" [attr.x2]="width" y1="42" y2="42" />
    </svg>
    <div class="ticks" aria-hidden="true">
      @for (tick of ticks(); track tick.x) {
        <span [style.left.%]="tick.x">{{ tick.text }}</span>
      }
    </div>`,
  styles: `
    :host {
      display: block;
    }
    svg {
      width: 100%;
      height: 46px;
      overflow: visible;
    }
    line {
      vector-effect: non-scaling-stroke;
    }
    .zone {
      fill: var(--woad-wash);
    }
    .mean {
      stroke: var(--woad);
      stroke-dasharray: 3 3;
    }
    .axis {
      stroke: var(--line-strong);
    }
    .even,
    .behind,
    .worn {
      stroke: var(--quiet);
      stroke-width: 2px;
      cursor: pointer;
    }
    .behind {
      stroke: var(--madder);
      stroke-width: 3px;
    }
    .worn {
      stroke: var(--weld);
      stroke-width: 3px;
    }
    .here {
      stroke: var(--ink);
      stroke-width: 4px;
    }
    .ticks {
      position: relative;
      height: 16px;
      font-size: 11.5px;
      color: var(--quiet);
    }
    .ticks span {
      position: absolute;
      transform: translateX(-50%);
      white-space: nowrap;
    }
    .ticks span:first-child {
      transform: none;
    }
    .ticks span:last-child {
      transform: translateX(-100%);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RestStrip {
  readonly rests = input.required<CategoryRests>();
  readonly chosen = input<string | null>(null);
  readonly choose = output<string>();
  protected readonly width = WIDTH;
  protected readonly height = HEIGHT;

  private readonly longest = computed(() => {
    const { items, expected } = this.rests();
    return Math.max(HOUR, (expected?.longestMs ?? 0) * 1.1, ...items.map(({ sinceMs }) => sinceMs ?? 0));
  });
  private readonly scale = computed(() => scaleLinear([0, this.longest()], [2, WIDTH - 2]));
  protected readonly expected = computed(() => {
    const { expected } = this.rests();
    const x = this.scale();
    return expected && { from: x(expected.shortestMs), to: x(expected.longestMs), mean: x(expected.averageMs) };
  });
  protected readonly marks = computed(() =>
    this.rests()
      .items.filter(({ bar }) => bar === null)
      .map((item) => ({
        item,
        x: item.sinceMs === null ? WIDTH - 2 : this.scale()(item.sinceMs),
        kind: item.state === 'left behind' ? 'behind' : item.state === 'worn' ? 'worn' : 'even',
      })),
  );
  protected readonly ticks = computed(() =>
    this.scale()
      .ticks(7)
      .map((ms) => ({ x: (this.scale()(ms) / WIDTH) * 100, text: ms === 0 ? 'now' : restText(ms) })),
  );
  protected readonly words = computed(() => {
    const marks = this.marks();
    const of = (kind: string): number => marks.filter((mark) => mark.kind === kind).length;
    return `Since the last play of each of ${marks.length} songs: ${of('behind')} left behind, ${of('worn')} worn`;
  });

  protected since({ sinceMs }: Item): string {
    return sinceMs === null ? 'not played in these weeks' : `${restText(sinceMs)} ago`;
  }
}
