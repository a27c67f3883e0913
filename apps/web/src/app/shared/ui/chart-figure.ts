import type { ReportAnswer } from '@fuller/contracts';
import { elementAt, isDate } from '@fuller/core';
import { shortDayText } from '../text/when';
import type { Data, Layout } from 'plotly.js-cartesian-dist-min';

export type Picture = ReportAnswer['picture'];
type Chart = Exclude<Picture, { readonly shape: 'heat' }>;
type Heat = Extract<Picture, { readonly shape: 'heat' }>;

/** The colours of the house as they are on the page, light or dark. */
export interface Tones {
  readonly ink: string;
  readonly line: string;
  readonly paper: string;
  readonly font: string;
  /** One for each series, in order. */
  readonly series: readonly string[];
  /** From the least to the most of a heat map. */
  readonly scale: readonly [string, string];
}

const UNITS: Readonly<Record<Picture['unit'], string>> = {
  count: '',
  seconds: ' s',
  hours: ' h',
  days: ' days',
  percent: ' %',
};
const BAR_PX = 17;
const LONGEST_LABEL = 34;
const MOST_TICKS = 13;

/** What Plotly draws of a picture, and how. */
export function chartFigure(picture: Picture, tones: Tones): { data: Data[]; layout: Partial<Layout>; height: number } {
  const drawn = picture.shape === 'heat' ? heat(picture, tones) : chart(picture, tones);
  const axis = { gridcolor: tones.line, zerolinecolor: tones.line, linecolor: tones.line, automargin: true };
  return {
    ...drawn,
    layout: {
      ...drawn.layout,
      height: drawn.height,
      font: { family: tones.font, size: 13, color: tones.ink },
      paper_bgcolor: 'rgba(0,0,0,0)',
      plot_bgcolor: 'rgba(0,0,0,0)',
      margin: { l: 12, r: 16, t: 10, b: 12 },
      hoverlabel: { bgcolor: tones.paper, bordercolor: tones.line, font: { family: tones.font, color: tones.ink } },
      legend: { orientation: 'h', y: 1.02, yanchor: 'bottom', x: 0, traceorder: 'normal' },
      xaxis: { ...axis, ...drawn.layout.xaxis },
      yaxis: { ...axis, ...drawn.layout.yaxis },
    },
  };
}

type Drawn = { data: Data[]; layout: Partial<Layout>; height: number };

function chart(picture: Chart, tones: Tones): Drawn {
  return picture.shape === 'bars' ? bars(picture, tones) : overLabels(picture, tones);
}

function colourOf({ series }: Chart, n: number, tones: Tones): string {
  return elementAt(series, n).colour ?? elementAt(tones.series, n % tones.series.length);
}

/** Lying bars, since their labels are names; the first stands on top. */
function bars(picture: Chart, tones: Tones): Drawn {
  const { labels, series, unit } = picture;
  const places = labels.map((_, n) => n);
  const each = Math.max(1.6, series.length * 0.62);
  return {
    data: series.map(({ name, values }, n) => ({
      type: 'bar',
      orientation: 'h',
      name,
      y: places,
      x: values as number[],
      customdata: places,
      marker: { color: colourOf(picture, n, tones) },
      hovertemplate: `%{x}${UNITS[unit]}<extra>${escaped(name)}</extra>`,
    })),
    layout: {
      barmode: 'group',
      bargap: 0.28,
      showlegend: series.length > 1,
      xaxis: { rangemode: 'tozero', ticksuffix: UNITS[unit] },
      yaxis: {
        autorange: 'reversed',
        zeroline: false,
        tickvals: places,
        ticktext: labels.map((label) => escaped(shortened(label))),
        showgrid: false,
      },
    },
    height: 90 + labels.length * BAR_PX * each,
  };
}

/** Columns on one another, or lines, over dates and hours. */
function overLabels(picture: Chart, tones: Tones): Drawn {
  const { labels, series, shape, unit } = picture;
  const places = labels.map((_, n) => n);
  return {
    data: series.map(({ name, values }, n) => ({
      name: escaped(shortened(name)),
      x: places,
      y: values as number[],
      customdata: places,
      text: labels.map((label) => escaped(label)),
      textposition: 'none' as never,
      hovertemplate: `%{text}: %{y}${UNITS[unit]}<extra>${escaped(name)}</extra>`,
      ...(shape === 'stack'
        ? { type: 'bar' as const, marker: { color: colourOf(picture, n, tones) } }
        : {
            type: 'scatter' as const,
            mode: 'lines+markers' as const,
            line: { color: colourOf(picture, n, tones), width: 2 },
            marker: { size: 5 },
          }),
    })),
    layout: {
      barmode: 'stack',
      bargap: 0.18,
      showlegend: series.length > 1,
      xaxis: { showgrid: false, zeroline: false, ...ticksOf(labels) },
      yaxis: { rangemode: 'tozero', ticksuffix: UNITS[unit] },
    },
    height: 340,
  };
}

function heat({ rows, columns, values, unit }: Heat, tones: Tones): Drawn {
  return {
    data: [
      {
        type: 'heatmap',
        x: columns as string[],
        y: rows as string[],
        z: values as number[][],
        xgap: 2,
        ygap: 2,
        colorscale: [
          [0, tones.scale[0]],
          [1, tones.scale[1]],
        ],
        zmin: 0,
        colorbar: { thickness: 10, outlinewidth: 0, tickfont: { size: 12 } },
        hovertemplate: `%{y} %{x}: %{z}${UNITS[unit]}<extra></extra>`,
      },
    ],
    layout: {
      xaxis: { type: 'category', showgrid: false, tickangle: 0, nticks: 12 },
      yaxis: { autorange: 'reversed', showgrid: false },
    },
    height: 330,
  };
}

/** Some of the labels, as many as there is room for; a date goes without its year, which stands above the picture. */
function ticksOf(labels: readonly string[]): { tickvals: number[]; ticktext: string[] } {
  const step = Math.max(1, Math.ceil(labels.length / MOST_TICKS));
  const tickvals = labels.map((_, n) => n).filter((n) => n % step === 0);
  return {
    tickvals,
    ticktext: tickvals.map((n) => {
      const label = elementAt(labels, n);
      return isDate(label) ? shortDayText(label) : escaped(label);
    }),
  };
}

function shortened(text: string): string {
  return text.length > LONGEST_LABEL ? `${text.slice(0, LONGEST_LABEL - 1)}…` : text;
}

/** Plotly reads a little markup in its texts; names are not to be read as such. */
function escaped(text: string): string {
  return text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('%{', '% {');
}
