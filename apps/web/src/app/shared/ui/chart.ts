import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import type * as PlotlyModule from 'plotly.js-cartesian-dist-min';
import type { PlotlyHTMLElement, PlotMouseEvent } from 'plotly.js-cartesian-dist-min';
import { Looks } from '../looks';
import { chartFigure, type Picture, type Tones } from './chart-figure';

type Plotly = typeof PlotlyModule;
const loadPlotly = (): Promise<Plotly> =>
  import('plotly.js-cartesian-dist-min').then(
    (module) => (module as unknown as { default?: Plotly }).default ?? module,
  );

/** A mark of a picture, by the place of its row and, in a heat map, of its column. */
export interface ChartMark {
  readonly row: number;
  readonly column: number;
  /** The series of a chart it belongs to. */
  readonly series: number;
}

/** A chart with axes in the colours and fonts of the house. Its numbers stand in a table beside it, for those who do not see it. */
@Component({
  selector: 'f-chart',
  template: `<div #place role="img" [attr.aria-label]="label()" [class.loading]="!drawn()"></div>`,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    .loading {
      min-height: 240px;
    }
    :host ::ng-deep .hoverlayer text {
      font-variant-numeric: tabular-nums;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Chart {
  private readonly looks = inject(Looks);
  private readonly place = viewChild.required<ElementRef<HTMLDivElement>>('place');
  readonly picture = input.required<Picture>();
  /** What the picture shows, in words. */
  readonly label = input.required<string>();
  readonly pressed = output<ChartMark>();
  protected readonly drawn = signal(false);
  private plotly: Plotly | null = null;
  private gone = false;
  private latest = 0;

  constructor() {
    const sizes = new ResizeObserver(() => {
      if (this.plotly && this.drawn()) this.plotly.Plots.resize(this.place().nativeElement);
    });
    effect(() => {
      // Its colours are read from the page, which has them once the theme is set.
      this.looks.theme();
      const picture = this.picture();
      sizes.observe(this.place().nativeElement);
      void this.draw(picture);
    });
    inject(DestroyRef).onDestroy(() => {
      this.gone = true;
      sizes.disconnect();
      this.plotly?.purge(this.place().nativeElement);
    });
  }

  private async draw(picture: Picture): Promise<void> {
    const turn = ++this.latest;
    const plotly = (this.plotly ??= await loadPlotly());
    if (this.gone || turn !== this.latest) return;
    const element = this.place().nativeElement;
    const { data, layout } = chartFigure(picture, tonesOf(element));
    await plotly.react(element, data, layout, { displayModeBar: false, responsive: false, displaylogo: false });
    if (this.gone) return;
    this.drawn.set(true);
    const plot = element as unknown as PlotlyHTMLElement;
    plot.removeAllListeners('plotly_click');
    plot.on('plotly_click', (event: PlotMouseEvent) => this.press(picture, event));
  }

  private press(picture: Picture, { points: [point] }: PlotMouseEvent): void {
    if (!point) return;
    if (picture.shape === 'heat') {
      const row = picture.rows.indexOf(String(point.y));
      this.pressed.emit({ row, column: picture.columns.indexOf(String(point.x)), series: 0 });
    } else this.pressed.emit({ row: Number(point.customdata), column: 0, series: point.curveNumber });
  }

  /** The picture as it is shown, as a data address to be downloaded. */
  async image(format: 'png' | 'svg'): Promise<string | null> {
    if (!this.plotly || !this.drawn()) return null;
    const { clientWidth: width, clientHeight: height } = this.place().nativeElement;
    const [paper] = [getComputedStyle(this.place().nativeElement).getPropertyValue('--chalk')];
    const { data, layout } = chartFigure(this.picture(), tonesOf(this.place().nativeElement));
    const figure = { data, layout: { ...layout, paper_bgcolor: paper.trim(), width, height } };
    return this.plotly.toImage(figure as never, { format, width, height, scale: format === 'png' ? 2 : 1 });
  }
}

function tonesOf(element: HTMLElement): Tones {
  const style = getComputedStyle(element);
  const tone = (name: string): string => style.getPropertyValue(`--${name}`).trim();
  return {
    ink: tone('ink'),
    line: tone('line'),
    paper: tone('paper'),
    font: tone('sans') || 'sans-serif',
    series: [1, 2, 3, 4, 5, 6, 7, 8].map((n) => tone(`series-${n}`)),
    scale: [tone('woad-wash'), tone('woad')],
  };
}
