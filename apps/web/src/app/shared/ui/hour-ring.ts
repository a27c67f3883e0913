import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { arc } from 'd3-shape';
import { HOUR_MS } from '@fuller/core';
import type { HourPart } from './hour-shape';

/** What plays over an intro is drawn inside the ring, so wide. */
const OVER_ANGLE = 0.16;

/** The small round summary of a clock: one turn is the whole clock, from the top; what runs over is cut off. */
@Component({
  selector: 'f-hour-ring',
  template: `<svg [attr.width]="size()" [attr.height]="size()" viewBox="-20 -20 40 40" aria-hidden="true">
    <circle r="15.5" class="bed" />
    @for (slice of slices(); track $index) {
      <path [attr.d]="slice.d" [style.fill]="slice.colour" />
    }
  </svg>`,
  styles: `
    :host {
      display: inline-flex;
      flex: none;
    }
    .bed {
      fill: none;
      stroke: var(--line);
      stroke-width: 7;
    }
    path {
      stroke: var(--paper);
      stroke-width: 0.6;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HourRing {
  readonly parts = input.required<readonly HourPart[]>();
  readonly size = input(36);
  readonly lengthMs = input<number>(HOUR_MS);

  protected readonly slices = computed(() => {
    const length = this.lengthMs();
    const angle = (ms: number): number => (Math.min(ms, length) / length) * 2 * Math.PI;
    const shape = arc<HourPart>()
      .innerRadius((part) => (part.kind === 'break' ? 14 : 12))
      .outerRadius((part) => (part.kind === 'break' ? 17 : 19))
      .startAngle((part) => angle(part.startMs))
      .endAngle((part) => angle(part.startMs + part.durationMs));
    const over = arc<HourPart>()
      .innerRadius(8.5)
      .outerRadius(11)
      .startAngle((part) => angle(part.startMs))
      .endAngle((part) => angle(part.startMs) + OVER_ANGLE);
    const themed = arc<HourPart>()
      .innerRadius(9.4)
      .outerRadius(10.6)
      .startAngle((part) => angle(part.startMs))
      .endAngle((part) => angle(part.startMs + part.durationMs));
    const shown = this.parts().filter((part) => part.startMs < length);
    return [
      ...shown.filter((part) => part.durationMs > 0).map((part) => ({ d: shape(part) ?? '', colour: part.colour })),
      ...shown
        .filter(({ theme, durationMs }) => theme !== null && durationMs > 0)
        .map((part) => ({ d: themed(part) ?? '', colour: 'var(--woad)' })),
      ...shown.filter((part) => part.kind === 'sweeper').map((part) => ({ d: over(part) ?? '', colour: part.colour })),
    ];
  });
}
