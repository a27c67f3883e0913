import { describe, expect, it } from '@jest/globals';
import type { AskedReport, KeptReport, ReportAnswer } from '@fuller/contracts';
import { openPlace } from '../testing/place';
import { InsightStore } from './insight.store';
import { cellText, placeOf } from './report-words';

const ASKED: AskedReport = { range: 'last week', daypartId: null, stationIds: [], categoryId: null, family: null };
const question = (asked: Partial<AskedReport> = {}) => ({
  stationId: 'vale',
  kind: 'songs' as const,
  asked: { ...ASKED, ...asked },
});
const answer = (...rows: (string | number | null)[][]): ReportAnswer => ({
  report: 'songs',
  from: '2026-11-16',
  to: '2026-11-22',
  beforeFrom: '2026-11-09',
  beforeTo: '2026-11-15',
  stations: ['Vale'],
  daypart: null,
  sentence: 'Two songs.',
  picture: { shape: 'bars', unit: 'count', labels: [], series: [], links: [] },
  columns: [
    { label: 'Title', unit: 'text' },
    { label: 'Aired', unit: 'count' },
  ],
  rows: rows.map((cells) => ({ cells, link: null })),
  empty: false,
});
const kept: KeptReport = { id: 'k', revision: 2, name: 'Mondays', report: 'songs', asked: ASKED };

describe('a report that is shown', () => {
  it('asks in the words of an address, and sorts numbers as numbers and names as names', async () => {
    const { store, server } = openPlace(InsightStore, {
      answers: { report: () => answer(['Harbour', 9], ['Abbey', 10], ['Lantern', null]) },
    });
    await store.ask(question({ range: { from: '2026-11-01', to: '2026-11-07' }, stationIds: ['night', 'weir'] }));
    expect(server.asked('report')[0]!.address).toEqual({
      stationId: 'vale',
      report: 'songs',
      from: '2026-11-01',
      to: '2026-11-07',
      stations: 'night,weir',
    });
    const titles = () => store.rows().map(({ cells }) => cells[0]);
    store.sortBy(1);
    expect(titles()).toEqual(['Abbey', 'Harbour', 'Lantern']);
    store.sortBy(1);
    expect(titles()).toEqual(['Lantern', 'Harbour', 'Abbey']);
    store.sortBy(0);
    expect(titles()).toEqual(['Lantern', 'Harbour', 'Abbey']);
  });

  it('is the one asked for last, however late another one answers, and tells why there is none', async () => {
    const waiting: ((value: ReportAnswer) => void)[] = [];
    const { store } = openPlace(InsightStore, {
      answers: { report: () => new Promise<ReportAnswer>((resolve) => waiting.push(resolve)) },
    });
    const first = store.ask(question());
    const second = store.ask(question({ range: 'last month' }));
    waiting[1]!(answer(['Second', 1]));
    await second;
    waiting[0]!(answer(['First', 1]));
    await first;
    expect([store.rows()[0]!.cells[0], store.reading()]).toEqual(['Second', false]);
    const failing = store.ask(question({ range: 'last year' }));
    waiting[2]!(Promise.reject(new Error('A report covers 366 days at most.')) as never);
    await failing;
    expect([store.problem(), store.answer()]).toEqual(['A report covers 366 days at most.', null]);
  });

  it('is kept, known again by what it asks, renamed by its revision and removed', async () => {
    const { store, server } = openPlace(InsightStore, {
      answers: { report: () => answer(), keptReports: () => [kept] },
    });
    await store.ask(question());
    expect(store.shownKept()).toBeNull();
    expect(await store.keep('Mondays')).toBeNull();
    expect(server.asked('createKeptReport')[0]!.body).toEqual({ name: 'Mondays', report: 'songs', asked: ASKED });
    expect(store.shownKept()?.id).toBe('k');
    await store.rename(kept, 'Every Monday');
    expect(server.asked('patchKeptReport')[0]).toMatchObject({ address: { id: 'k' }, body: { revision: 2 } });
    await store.ask(question({ daypartId: 'morning' }));
    expect(store.shownKept()).toBeNull();
    await store.drop(kept);
    expect(server.asked('deleteKeptReport')).toHaveLength(1);
  });
});

describe('numbers and links', () => {
  it('stand in the unit of their column', () => {
    const texts = [
      cellText(3_725, { label: '', unit: 'seconds' }),
      cellText(-90, { label: '', unit: 'seconds' }),
      cellText(1_234, { label: '', unit: 'count' }),
      cellText(12.5, { label: '', unit: 'percent' }),
      cellText(null, { label: '', unit: 'hours' }),
      cellText('2026-11-23', { label: '', unit: 'text' }),
    ];
    expect(texts).toEqual(['1:02:05', '−1:30', '1,234', '12.5 %', '–', 'Mon 23 Nov 2026']);
  });

  it('lead to what is behind them, quotes in names or not', () => {
    expect(placeOf('vale', { to: 'artist', id: 'The "Reed" Cutters' })).toEqual({
      commands: ['/', 'vale', 'library'],
      query: { q: 'artist:"The Reed Cutters"' },
    });
    expect(placeOf('vale', { to: 'log', id: '2026-11-23' }).commands).toEqual(['/', 'vale', 'logs', '2026-11-23']);
    expect(placeOf('vale', { to: 'rule', id: 'r' }).query).toEqual({ rule: 'r' });
  });
});
