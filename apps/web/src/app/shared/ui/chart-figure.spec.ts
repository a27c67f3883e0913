import { describe, expect, it } from '@jest/globals';
import { chartFigure, type Picture } from './chart-figure';

const TONES = {
  ink: '#1',
  line: '#3',
  paper: '#4',
  font: 'Sans',
  series: ['#a', '#b'],
  scale: ['#0', '#9'] as const,
};
const chart = (more: Partial<Exclude<Picture, { shape: 'heat' }>>): Picture => ({
  shape: 'bars',
  unit: 'count',
  labels: ['Harbour'],
  series: [{ name: 'Aired', colour: null, values: [3] }],
  links: [null],
  ...more,
});

describe('a chart', () => {
  it('takes nothing of a name for markup, and cuts what is too long', () => {
    const { layout } = chartFigure(
      chart({ labels: ['<b>Salt & Tide</b> %{x} and a very long name that goes on'] }),
      TONES,
    );
    expect(layout.yaxis!.ticktext).toEqual(['&lt;b&gt;Salt &amp; Tide&lt;/b&gt; % {x} and a ver…']);
  });

  it('has a bar for every place even where labels are the same, in the order of the numbers', () => {
    const series = [
      { name: 'Aired', colour: null, values: [3, 2] },
      { name: 'Gold', colour: '#c', values: [1, null] },
    ];
    const { data, layout } = chartFigure(chart({ labels: ['Same', 'Same'], series }), TONES);
    expect(data.map((one) => (one as { y: number[] }).y)).toEqual([
      [0, 1],
      [0, 1],
    ]);
    expect(data.map((one) => (one as { marker: { color: string } }).marker.color)).toEqual(['#a', '#c']);
    expect(layout.yaxis!.autorange).toBe('reversed');
  });

  it('names a year of dates without a label on every day, and each day once', () => {
    const labels = Array.from({ length: 366 }, (_, n) => new Date(Date.UTC(2027, 0, 1 + n)).toISOString().slice(0, 10));
    const series = [{ name: 'Strains', colour: null, values: labels.map(() => 1) }];
    const { data, layout } = chartFigure(chart({ shape: 'lines', labels, series }), TONES);
    expect(new Set((data[0] as { x: number[] }).x).size).toBe(366);
    expect(layout.xaxis!.ticktext!.length).toBeLessThanOrEqual(13);
    expect(layout.xaxis!.ticktext![0]).toBe('1 Jan');
  });
});
