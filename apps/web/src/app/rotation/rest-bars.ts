import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';

const [WIDTH, HEIGHT] = [84, 20];

/** How the items of a category have rested: bars up to twice the average rest, which is marked. */
@Component({
  selector: 'f-rest-bars',
  template: `<svg [attr.width]="width" [attr.height]="height" role="img" [attr.aria-label]="words()">
    <line class="mean" [attr.x1]="width / 2" [attr.x2]="width / 2" y1="0" [attr.y2]="height" />
    @for (bar of bars(); track $index) {
      <rect
        [attr.x]="bar.x"
        [attr.y]="height - bar.h"
        [attr.width]="bar.w"
        [attr.height]="bar.h"
        [class.late]="bar.late" />
    }
  </svg>`,
  styles: `
    :host {
      display: inline-block;
      line-height: 0;
    }
    rect {
      fill: var(--woad);
    }
    .late {
      fill: var(--weld);
    }
    .mean {
      stroke: var(--line-strong);
      stroke-dasharray: 2 2;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RestBars {
  readonly rests = input.required<readonly number[]>();
  protected readonly width = WIDTH;
  protected readonly height = HEIGHT;
  protected readonly bars = computed(() => {
    const rests = this.rests();
    const most = Math.max(1, ...rests);
    const step = WIDTH / rests.length;
    return rests.map((count, at) => ({
      x: at * step + 0.5,
      w: step - 1,
      h: count === 0 ? 0 : Math.max(1.5, (count / most) * HEIGHT),
      late: at >= rests.length * 0.75,
    }));
  });
  protected readonly words = computed(() => {
    const rests = this.rests();
    const half = rests.length / 2;
    const sum = (list: readonly number[]): number => list.reduce((all, one) => all + one, 0);
    return `${sum(rests.slice(0, half))} rested less than the average, ${sum(rests.slice(half))} longer`;
  });
}
