import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { parseFilter } from '../library/filter/parse-filter.js';
import { addDays, hoursOfDay, localTimeOf, weekdayOf } from '../time/local-day.js';
import { dayFigures, hourAt, type DayFigures, type DayPlay } from './day-figures.js';
import type { ReportCategory, ReportGround, ReportItem, StationDays } from './ground.js';
import { makeReport, REPORT_KINDS } from './make-report.js';
import { datesIn, datesOfRange, rangeBefore } from './range.js';
import { reportCsv } from './report-csv.js';
import { comparedWith, inWords } from './words.js';

const ZONE = 'Europe/Dublin';
const OPTIONS = { categoryId: null, family: null };
const song = (title: string, more: Partial<ReportItem> = {}): ReportItem => ({
  title,
  artist: 'Nora Weir',
  kind: 'song',
  artists: [{ id: 'nora', name: 'Nora Weir' }],
  tags: { Tempo: ['slow'] },
  ...more,
});
const gold: ReportCategory = {
  name: 'Gold',
  code: 'G',
  colour: '#1F6FA8',
  music: true,
  expected: { items: 3, slotsPerWeek: 42, restMs: 12 * 3_600_000 },
};
const play = (itemId: string, at: number, more: Partial<DayPlay> = {}): DayPlay => ({
  itemId,
  categoryId: 'gold',
  plannedAt: at,
  airedAt: at,
  ...more,
});
const day = (date: string, plays: readonly DayPlay[], more: Partial<DayFigures> = {}): DayFigures => {
  const empty = dayFigures({
    date,
    timeZone: ZONE,
    log: null,
    counted: [],
    asRun: null,
    itemWith: () => undefined,
    categoryOf: () => null,
    strains: {},
  });
  return { ...empty, plays, ...more };
};
const station = (days: readonly DayFigures[], more: Partial<StationDays> = {}): StationDays => ({
  name: 'Osier Vale',
  days,
  before: [],
  airedUntil: () => Infinity,
  requests: new Map(),
  ...more,
});
const ground = (stations: readonly StationDays[], more: Partial<ReportGround> = {}): ReportGround => ({
  stations,
  names: {
    items: new Map([
      ['a', song('Harbour')],
      [
        'b',
        song('Lantern', { tags: { Tempo: ['fast'] }, artists: [{ id: 'tom', name: 'Tom Reed' }], artist: 'Tom Reed' }),
      ],
      ['c', song('Silent one')],
      ['id', song('Station ID', { kind: 'station ID', artists: [] })],
    ]),
    categories: new Map([['gold', gold]]),
    rules: new Map([['artist', 'Keep the same artist 90 min apart']]),
    sponsors: [],
    families: [{ name: 'Tempo', values: ['slow', 'fast'] }],
  },
  dates: [...new Set(stations.flatMap(({ days }) => days.map(({ date }) => date)))],
  hours: null,
  ...more,
});
const HOUR = 3600;
const LOG = { hasLog: true };

describe('reports over days', () => {
  const days = [
    day('2026-11-23', [play('a', 6 * HOUR), play('b', 7 * HOUR), play('id', 8 * HOUR, { categoryId: null })], LOG),
    day('2026-11-24', [play('a', 6 * HOUR), play('a', 18 * HOUR, { airedAt: null }), play('gone', 9 * HOUR)]),
  ];
  const before = [day('2026-11-22', [play('a', 18 * HOUR)])];

  it('count plays of songs planned and aired, beside the range before, the silent ones too', () => {
    const { rows, sentence } = makeReport('songs', ground([station(days, { before })]), OPTIONS);
    expect(rows.map(({ cells }) => cells)).toEqual([
      ['Harbour', 'Nora Weir', 3, 2, 1, 1],
      ['Deleted song', '', 1, 1, 0, 1],
      ['Lantern', 'Tom Reed', 1, 1, 0, 1],
      ['Silent one', 'Nora Weir', 0, 0, 0, 0],
    ]);
    expect(sentence).toBe(
      '3 songs aired 4 times. Harbour · Nora Weir aired most: 2 times, 1 more than in the range before. 1 did not air. Planned counts 1 day of 2, those that have a log.',
    );
  });

  it('list the first two thousand of those that stayed silent, and say how many more there are', () => {
    const given = ground([station(days)]);
    const many = Array.from({ length: 100_000 }, (_, n) => [`s${n}`, song(`Song ${n}`)] as const);
    const items = new Map([...given.names.items, ...many]);
    const { rows, sentence } = makeReport('songs', { ...given, names: { ...given.names, items } }, OPTIONS);
    expect(sentence).toContain('100,001 did not air.');
    expect([rows.length, rows.at(-1)!.cells[0]]).toEqual([3 + 2000 + 1, '98,001 more did not air']);
  });

  it('count a song of two artists for both, and what a station picked from a category that is gone', () => {
    const duet = ground([station(days)]);
    const artists = [
      { id: 'nora', name: 'Nora Weir' },
      { id: 'tom', name: 'Tom Reed' },
    ];
    const items = new Map([...duet.names.items, ['a', song('Harbour', { artists })] as const]);
    const names = { ...duet.names, items, categories: new Map() };
    const counted = makeReport('artists', { ...duet, names }, OPTIONS).rows.map(({ cells }) => cells.slice(0, 3));
    expect(counted).toEqual([
      ['Tom Reed', 4, 3],
      ['Nora Weir', 3, 2],
    ]);
    const categories = makeReport('categories', { ...duet, names }, OPTIONS);
    expect(categories.rows.map(({ cells, link }) => [...cells.slice(0, 3), link])).toEqual([
      ['Deleted category', 5, 4, null],
      ['No category', 1, 1, null],
    ]);
  });

  it('count of today what has aired so far, and only the hours asked for', () => {
    const until = station(days, { airedUntil: (date) => (date === '2026-11-24' ? 7 * HOUR : Infinity) });
    const rowOf = (given: ReportGround): unknown =>
      makeReport('songs', given, OPTIONS).rows.map(({ cells }) => cells[3]);
    expect(rowOf(ground([until]))).toEqual([2, 1, 0, 0]);
    const mornings = Array.from({ length: 168 }, (_, hour) => (hour % 24 === 6 ? '1' : '0')).join('');
    expect(rowOf(ground([station(days)], { hours: mornings }))).toEqual([2, 0, 0]);
  });

  it('measure rests to the play before, over midnight and into the range before', () => {
    const { rows } = makeReport('rest', ground([station(days, { before })]), OPTIONS);
    // 18:00 to 06:00, then 06:00 to 06:00.
    expect(rows[0]!.cells).toEqual(['Gold', 12, 18, null, 18, 12, 24, 2]);
    const turnover = makeReport('turnover', ground([station(days)]), OPTIONS).rows[0]!.cells;
    expect(turnover).toEqual(['Gold', 3, 3, 4, 0.5, 1.5, null]);
  });

  it('share the songs of an hour among the values of a tag, 100 percent of them', () => {
    const { rows, columns } = makeReport('mix-day', ground([station(days)]), OPTIONS);
    expect(columns.map(({ label }) => label)).toEqual(['Hour', 'Songs', 'slow', 'fast']);
    expect(rows.map(({ cells }) => cells)).toEqual([
      ['06:00', 2, 100, 0],
      ['07:00', 1, 0, 100],
    ]);
    const weeks = makeReport('mix-weeks', ground([station(days)]), OPTIONS).rows.map(({ cells }) => cells);
    expect(weeks).toEqual([['2026-11-23', 3, 66.7, 33.3]]);
  });

  it('tell strains of a deleted rule, open slots, hour endings and sponsors of whom nothing is known', () => {
    const judged = [
      day('2026-11-23', [], {
        hasLog: true,
        slots: 10,
        open: { gold: 2 },
        strains: { artist: 3, gone: 1 },
        endings: [0, 4, -90, 400],
        sponsors: [{ name: 'Bakery', planned: 4, aired: null }],
      }),
      day('2026-11-24', [], { hasLog: true, slots: 10, sponsors: [{ name: 'BAKERY', planned: 2, aired: 1 }] }),
    ];
    const agreed = {
      id: 's',
      name: 'Bakery',
      product: '',
      startDate: '2026-11-24',
      endDate: null,
      promises: [{ count: 3, per: 'day' as const, daypartId: null }],
    };
    const given = ground([station(judged)]);
    const all = { ...given, names: { ...given.names, sponsors: [agreed] } };
    const strains = makeReport('strains', all, OPTIONS);
    expect(strains.rows.map(({ cells }) => cells.slice(0, 2))).toEqual([
      ['Keep the same artist 90 min apart', 3],
      ['Open slots', 2],
      ['Deleted rule', 1],
    ]);
    expect(strains.sentence).toContain('2 slots open of 20 slots (10 %)');
    const endings = makeReport('endings', all, OPTIONS);
    expect(endings.sentence).toBe(
      '2 hours of 4 end within 5 s of their mark (50 %); the median is 47 s off. Furthest off: 03:00 on 2026-11-23, 7 min late.',
    );
    expect(endings.rows.map(({ cells }) => cells)).toEqual([
      ['2026-11-23', '03:00', 400],
      ['2026-11-23', '02:00', -90],
    ]);
    expect(makeReport('sponsors', all, OPTIONS).rows.map(({ cells }) => cells)).toEqual([['Bakery', 3, 6, 1, 4, 0]]);
  });

  it('are compared with the range before, and their marks lead to what is behind them', () => {
    const earlier = [
      day('2026-11-21', [play('b', 6 * HOUR)], { hasLog: true, endings: [0, 90] }),
      day('2026-11-22', [play('b', 6 * HOUR), play('a', 18 * HOUR)]),
    ];
    const ended = days.map((one, n) => ({ ...one, hasLog: true, endings: n === 0 ? [200, -40] : [280, 0] }));
    const given = ground([station(ended, { before: earlier })]);
    const made = (kind: (typeof REPORT_KINDS)[number]) => makeReport(kind, given, OPTIONS);
    const mix = made('mix-day');
    expect(mix.rows.at(-1)!.cells).toEqual(['Range before', 3, 33.3, 66.7]);
    expect(mix.sentence).toBe('Tempo of the songs that aired: slow 67 % (33 % before), fast 33 % (67 % before).');
    const linked = mix.picture.shape === 'heat' ? [] : mix.picture.series.map(({ link }) => link?.id ?? '');
    const vocabulary = { categories: [], families: { Tempo: ['slow', 'fast'] } };
    expect(linked.map((text) => [text, parseFilter(text, vocabulary).ok])).toEqual([
      ['tempo:slow', true],
      ['tempo:fast', true],
    ]);
    expect(made('hours').sentence).toMatch(/^3 plays, as many as in the range before\./);
    expect(made('rest').rows[0]!.cells.slice(0, 4)).toEqual(['Gold', 12, 20.3, 24]);
    expect(made('turnover').rows[0]!.cells.slice(4)).toEqual([0.5, 1.5, 2]);
    const endings = made('endings');
    expect(endings.sentence).toMatch(/In the range before it was 50 %\.$/);
    // Two hours are two to five minutes late; the mark leads to the further one.
    expect(endings.picture.links.filter(Boolean)).toEqual([
      { to: 'log', id: '2026-11-23' },
      { to: 'log', id: '2026-11-24' },
    ]);
  });

  it('say that a range holds nothing, whatever is asked', () => {
    for (const kind of REPORT_KINDS) {
      const { empty, sentence, rows, columns } = makeReport(
        kind,
        ground([station([])], { dates: ['2026-11-23'] }),
        OPTIONS,
      );
      expect([kind, empty]).toEqual([kind, true]);
      expect(sentence).toMatch(/^(Nothing|No|Nobody) /);
      for (const { cells } of rows) expect(cells).toHaveLength(columns.length);
    }
  });

  it('add up: every play stands once in the hours by days and once among the songs', () => {
    const at = fc.integer({ min: 0, max: 86_399 });
    const plays = fc.array(fc.record({ itemId: fc.constantFrom('a', 'b', 'c'), at, aired: fc.boolean() }));
    fc.assert(
      fc.property(fc.array(plays, { minLength: 1, maxLength: 6 }), (drawn) => {
        const made = drawn.map((own, n) =>
          day(
            addDays('2026-10-23', n),
            own.map(({ itemId, at: second, aired }) => play(itemId, second, { airedAt: aired ? second : null })),
          ),
        );
        const expected = drawn.flat().filter(({ aired }) => aired).length;
        const given = ground([station(made)]);
        const songs = makeReport('songs', given, OPTIONS).rows.reduce((all, { cells }) => all + Number(cells[3]), 0);
        const cells = makeReport('hours', given, OPTIONS).rows.reduce((all, row) => all + Number(row.cells.at(-2)), 0);
        expect([songs, cells]).toEqual([expected, expected]);
      }),
    );
  });
});

describe('a day of 25 hours', () => {
  it('has each of its hours, the doubled one twice on the clock', () => {
    const date = '2026-10-25';
    const hours = hoursOfDay(date, ZONE);
    const counted = hours.map(({ startMs }) => ({ itemId: 'a', startMs: startMs + 60_000 }));
    const made = dayFigures({
      date,
      timeZone: ZONE,
      log: null,
      counted,
      asRun: null,
      itemWith: () => ({ kind: 'song', artist: '', title: '', cart: null, file: null, durationMs: 180_000 }),
      categoryOf: () => 'gold',
      strains: {},
    });
    expect(made.plays.map(({ airedAt }) => hourAt(made, airedAt!))).toEqual(hours.map(({ index }) => index));
    const { rows } = makeReport('hours', ground([station([made])]), OPTIONS);
    expect(rows.map(({ cells }) => cells[1 + weekdayOf(date)])).toEqual([1, 2, ...Array<number>(22).fill(1)]);
    expect(counted.map(({ startMs }) => localTimeOf(startMs, ZONE).hour)).toHaveLength(25);
    expect(made.time.map(([music]) => music)).toEqual(Array<number>(25).fill(180));
  });
});

describe('ranges and words', () => {
  it('move with the date, weeks from Monday, months whole', () => {
    expect(datesOfRange('last week', '2026-11-30')).toEqual({ from: '2026-11-23', to: '2026-11-29' });
    expect(datesOfRange('last month', '2026-03-01')).toEqual({ from: '2026-02-01', to: '2026-02-28' });
    expect(datesIn(datesOfRange('last 13 weeks', '2026-11-30'))).toHaveLength(91);
    expect(rangeBefore({ from: '2026-11-23', to: '2026-11-29' })).toEqual({ from: '2026-11-16', to: '2026-11-22' });
    expect(datesIn({ from: '2026-11-24', to: '2026-11-23' })).toEqual([]);
    expect(() => datesIn({ from: 'soon', to: '2026-11-23' })).toThrow(RangeError);
  });

  it('say lengths and differences as people do', () => {
    expect([42, 60, 3_540, 19_200, 273_600].map(inWords)).toEqual([
      '42 s',
      '1 min',
      '59 min',
      '5 h 20 min',
      '3 days 4 h',
    ]);
    expect([comparedWith(3, 3), comparedWith(1, 1_201)]).toEqual([
      'as many as in the range before',
      '1,200 fewer than in the range before',
    ]);
    const columns = [
      { label: 'Name', unit: 'text' as const },
      { label: 'Rest', unit: 'hours' as const },
    ];
    expect(reportCsv({ columns, rows: [{ cells: ['=Harbour, "old"', null], link: null }] })).toMatch(
      /^Name,Rest \(hours\)\r?\n.*Harbour, ""old""",\r?\n?$/,
    );
  });
});
