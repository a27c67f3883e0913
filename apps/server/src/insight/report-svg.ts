import type { ReportAnswer } from '@fuller/contracts';
import { elementAt } from '@fuller/core';
import { scaleBand, scaleLinear } from 'd3-scale';

type Picture = ReportAnswer['picture'];
type Chart = Exclude<Picture, { readonly shape: 'heat' }>;
type Heat = Extract<Picture, { readonly shape: 'heat' }>;

const WIDTH = 760;
const INK = '#1E2A30';
const QUIET = '#5B676C';
const LINE = '#DDD6C6';
/** Woad, weld, moss, madder and lighter shades of them; told apart by people who do not see every colour. */
const COLOURS = ['#24527A', '#B98900', '#6B8F57', '#A23B2A', '#7FB0DC', '#8A6FA8', '#5B676C', '#D1862B'];
const LETTER = 5.4;
const ROW = 17;
const LABEL_WIDTH = 210;
const LEGEND = 26;
const CHART_HEIGHT = 250;

/** The picture of a report as SVG, in one font and without script, for paper. */
export function reportSvg(picture: Picture): string {
  if (picture.shape === 'heat') return heat(picture);
  return picture.shape === 'bars' ? bars(picture) : columns(picture);
}

function bars(chart: Chart): string {
  const { labels, series } = chart;
  const height = LEGEND + labels.length * ROW * 1.3 + 24;
  const x = scaleLinear([0, most(chart)], [LABEL_WIDTH, WIDTH - 40]).nice();
  const y = scaleBand(
    labels.map((_, n) => String(n)),
    [LEGEND, height - 20],
  ).padding(0.25);
  const each = y.bandwidth() / series.length;
  const marks = labels.flatMap((label, n) => [
    text(LABEL_WIDTH - 6, y(String(n))! + y.bandwidth() / 2 + 3, shortened(label, LABEL_WIDTH - 10), 'end'),
    ...series.map(({ values }, s) => {
      const value = values[n] ?? 0;
      const [from, to] = [x(Math.min(0, value)), x(Math.max(0, value))];
      return rect(from, y(String(n))! + s * each, to - from, each * 0.9, colourOf(chart, s));
    }),
  ]);
  const grid = x
    .ticks(6)
    .flatMap((tick) => [
      line(x(tick), LEGEND, x(tick), height - 20),
      text(x(tick), height - 8, String(tick), 'middle', QUIET),
    ]);
  return svg(height, [legend(chart), ...grid, ...marks]);
}

/** Columns on one another, or lines. */
function columns(chart: Chart): string {
  const { labels, series, shape } = chart;
  const height = LEGEND + CHART_HEIGHT + 28;
  const bottom = height - 28;
  const totals = labels.map((_, n) => series.reduce((all, { values }) => all + (values[n] ?? 0), 0));
  const y = scaleLinear([0, Math.max(1, shape === 'stack' ? Math.max(0, ...totals) : most(chart))], [bottom, LEGEND]);
  const x = scaleBand(
    labels.map((_, n) => String(n)),
    [44, WIDTH - 10],
  ).padding(0.15);
  const middle = (n: number): number => x(String(n))! + x.bandwidth() / 2;
  const grid = y
    .ticks(5)
    .flatMap((tick) => [line(44, y(tick), WIDTH - 10, y(tick)), text(40, y(tick) + 3, String(tick), 'end', QUIET)]);
  const step = Math.max(1, Math.ceil((labels.length * 62) / (WIDTH - 54)));
  const names = labels.flatMap((label, n) => (n % step ? [] : [text(middle(n), height - 14, label, 'middle', QUIET)]));
  const marks =
    shape === 'stack'
      ? labels.flatMap((_, n) => {
          let below = 0;
          return series.map(({ values }, s) => {
            const value = values[n] ?? 0;
            const from = below;
            below += value;
            return rect(x(String(n))!, y(below), x.bandwidth(), y(from) - y(below), colourOf(chart, s));
          });
        })
      : series.map(({ values }, s) => {
          const points = values.flatMap((value, n) =>
            value === null ? [] : [`${round(middle(n))},${round(y(value))}`],
          );
          return `<polyline points="${points.join(' ')}" fill="none" stroke="${colourOf(chart, s)}" stroke-width="1.6"/>`;
        });
  return svg(height, [legend(chart), ...grid, ...names, ...marks]);
}

function heat({ rows, columns: across, values }: Heat): string {
  const height = 20 + rows.length * 24 + 8;
  const x = scaleBand(
    across.map((_, n) => String(n)),
    [76, WIDTH - 4],
  ).padding(0.06);
  const y = scaleBand(
    rows.map((_, n) => String(n)),
    [20, height - 8],
  ).padding(0.06);
  const top = Math.max(1, ...values.flat().map((value) => value ?? 0));
  const shade = scaleLinear([0, top], ['#F5F2EA', '#24527A'] as never) as unknown as (value: number) => string;
  const names = across.map((name, n) =>
    text(x(String(n))! + x.bandwidth() / 2, 13, name.replace(':00', ''), 'middle', QUIET),
  );
  const cells = rows.flatMap((name, r) => [
    text(70, y(String(r))! + y.bandwidth() / 2 + 3, name, 'end'),
    ...across.flatMap((_, c) => {
      const value = elementAt(elementAt(values, r), c) ?? 0;
      const ink = value > top * 0.55 ? '#FFFDF7' : INK;
      return [
        rect(x(String(c))!, y(String(r))!, x.bandwidth(), y.bandwidth(), shade(value)),
        text(x(String(c))! + x.bandwidth() / 2, y(String(r))! + y.bandwidth() / 2 + 3, String(value), 'middle', ink),
      ];
    }),
  ]);
  return svg(height, [...names, ...cells]);
}

function most({ series }: Chart): number {
  return Math.max(1, ...series.flatMap(({ values }) => values.map((value) => value ?? 0)));
}

function colourOf({ series }: Chart, n: number): string {
  return elementAt(series, n).colour ?? elementAt(COLOURS, n % COLOURS.length);
}

function legend(chart: Chart): string {
  let at = 0;
  return chart.series
    .map(({ name }, n) => {
      const shown = shortened(name, 220);
      const mark = rect(at, 4, 9, 9, colourOf(chart, n)) + text(at + 13, 12, shown, 'start');
      at += 24 + shown.length * LETTER;
      return at > WIDTH ? '' : mark;
    })
    .join('');
}

function svg(height: number, parts: readonly string[]): string {
  const inner = parts.join('');
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH}" height="${round(height)}" viewBox="0 0 ${WIDTH} ${round(height)}">${inner}</svg>`;
}

function rect(x: number, y: number, width: number, height: number, colour: string): string {
  return `<rect x="${round(x)}" y="${round(y)}" width="${round(Math.max(0, width))}" height="${round(Math.max(0, height))}" fill="${colour}"/>`;
}

function line(x1: number, y1: number, x2: number, y2: number): string {
  return `<line x1="${round(x1)}" y1="${round(y1)}" x2="${round(x2)}" y2="${round(y2)}" stroke="${LINE}" stroke-width="0.7"/>`;
}

function text(x: number, y: number, words: string, anchor: 'start' | 'middle' | 'end', colour = INK): string {
  return `<text x="${round(x)}" y="${round(y)}" font-size="9.5" font-family="Sans" text-anchor="${anchor}" fill="${colour}">${escaped(words)}</text>`;
}

function shortened(words: string, width: number): string {
  const letters = Math.floor(width / LETTER);
  return words.length > letters ? `${words.slice(0, letters - 1)}…` : words;
}

function escaped(words: string): string {
  return words.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');
}

function round(value: number): number {
  return Math.round(value * 100) / 100;
}
