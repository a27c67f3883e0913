import { describe, expect, it } from '@jest/globals';
import { checkLayout, type TextLayout } from './layout.js';
import { pointOut } from './point-out.js';
import { proposeLayout } from './propose-layout.js';
import { readTextLog, type BookedSpot } from './read-text-log.js';
import { findDate, readClockTime, readPastHour, readSpotLength } from './text-log-values.js';

const HOUR_MS = 3_600_000;
const DATE = '2026-11-23';
const SPONSORS = [
  'CANAL ST BAKERY',
  'LOCKSIDE CYCLES',
  'VALE CREDIT UNION',
  'FÉILE TEAS',
  'MOSS & DAUGHTER',
  'THE OLD MILL',
];
const TITLES = ['Winter loaves A', 'Lights on', 'Switch week', 'A cup of it', 'Boots, 20% off', 'Sunday carvery'];
const PRODUCTS = ['F12', 'B07', 'M33', 'F14', 'S20', 'F12'];

/** Spots as a sales office might book them over a morning: three breaks an hour, two or three spots each. */
const BOOKED: Omit<BookedSpot, 'line'>[] = [6, 7, 8, 13].flatMap((hour, h) =>
  [12, 27, 57].flatMap((minute, b) =>
    Array.from({ length: 2 + ((h + b) % 2) }, (_, n) => {
      const at = (h * 7 + b * 3 + n) % SPONSORS.length;
      return {
        atMs: hour * HOUR_MS + minute * 60_000,
        lengthMs: [30_000, 20_000, 45_000][(b + n) % 3]!,
        cart: `SP10${100 + h * 31 + b * 9 + n}`,
        sponsor: SPONSORS[at]!,
        title: TITLES[at]!,
        product: PRODUCTS[at]!,
        sequence: n + 1,
      };
    }),
  ),
);

const two = (value: number): string => String(value).padStart(2, '0');
const hourOf = ({ atMs }: { atMs: number }): number => Math.floor(atMs / HOUR_MS);
const minuteOf = ({ atMs }: { atMs: number }): number => (atMs % HOUR_MS) / 60_000;
const seconds = ({ lengthMs }: { lengthMs: number }): number => lengthMs / 1000;
const hhmmss = (spot: { atMs: number }): string => `${two(hourOf(spot))}:${two(minuteOf(spot))}:00`;
const halfDay = (spot: { atMs: number }, withSeconds: boolean): string =>
  `${hourOf(spot) % 12 || 12}:${two(minuteOf(spot))}${withSeconds ? ':00' : ''} ${hourOf(spot) < 12 ? 'AM' : 'PM'}`;
/** The lines of each hour under a heading. */
const underHours = (heading: (hour: number) => string, line: (spot: (typeof BOOKED)[number]) => string): string[] =>
  [6, 7, 8, 13].flatMap((hour) => [heading(hour), ...BOOKED.filter((spot) => hourOf(spot) === hour).map(line), '']);

/** Made-up files of sales offices, each in its own way; the fields each of them tells. */
const FILES: [name: string, fields: (keyof BookedSpot)[], text: string][] = [
  [
    'fixed columns with comments',
    ['cart', 'sponsor', 'title'],
    [
      `# OSIER VALE TRADE DESK  ${DATE}`,
      ...BOOKED.map(
        (s) => `${hhmmss(s)}  ${s.cart.padEnd(9)}${String(seconds(s)).padStart(2)}  ${s.sponsor.padEnd(24)}${s.title}`,
      ),
    ].join('\n'),
  ],
  [
    'tabs and four figures',
    ['cart', 'sponsor', 'title'],
    [
      `Log for ${DATE}`,
      ...BOOKED.map((s) => [`${two(hourOf(s))}${two(minuteOf(s))}`, s.cart, seconds(s), s.sponsor, s.title].join('\t')),
    ].join('\r\n'),
  ],
  [
    'semicolons, morning and afternoon',
    ['cart', 'sponsor', 'title'],
    [
      `Date: 23/11/2026`,
      ...BOOKED.map((s) => [halfDay(s, true), `:${seconds(s)}`, s.sponsor, s.title, s.cart].join(';')),
    ].join('\n'),
  ],
  [
    'minutes past the hour under a heading',
    ['cart', 'sponsor'],
    [
      'COMMERCIALS 23 NOV 2026',
      ...underHours(
        (hour) => `HOUR ${two(hour)}`,
        (s) => `  ${two(minuteOf(s))}  ${s.cart}  ${String(seconds(s)).padStart(3)}  ${s.sponsor}`,
      ),
    ].join('\n'),
  ],
  [
    'a quoted table with names of columns',
    ['cart', 'sponsor', 'title'],
    [
      'Time,Cart,Length,Client,Spot',
      ...BOOKED.map((s) => `${hhmmss(s)},${s.cart},00:${two(seconds(s))}.000,"${s.sponsor}","${s.title}"`),
    ].join('\r\n'),
  ],
  [
    'bars, places in the break and product codes',
    ['cart', 'sponsor', 'title', 'product', 'sequence'],
    BOOKED.map((s) =>
      [hhmmss(s), s.sequence, s.cart, s.product, `0:${two(seconds(s))}`, s.sponsor, s.title].join('|'),
    ).join('\n'),
  ],
  [
    'pages with headings and rules between lines',
    ['cart', 'sponsor', 'title'],
    Array.from({ length: 3 }, (_, page) => [
      `${page ? '\f' : ''}PAGE ${page + 1}   OSIER VALE RADIO   ${DATE}`,
      '-'.repeat(60),
      ...BOOKED.slice(page * 10, page * 10 + 10).map(
        (s) => `${two(hourOf(s))}:${two(minuteOf(s))}  ${s.cart}  :${seconds(s)}  ${s.sponsor.padEnd(20)}${s.title}`,
      ),
      '-'.repeat(60),
    ])
      .flat()
      .join('\r\n'),
  ],
  [
    'tabs with the date in every line',
    ['cart', 'sponsor'],
    BOOKED.map((s) => ['23/11/2026', hhmmss(s), s.sponsor, s.cart, seconds(s)].join('\t')).join('\n'),
  ],
  [
    'the month before the day',
    ['cart', 'sponsor'],
    ['Schedule 11/23/2026', ...BOOKED.map((s) => [halfDay(s, false), s.cart, seconds(s), s.sponsor].join(';'))].join(
      '\n',
    ),
  ],
  [
    'fixed columns in another order',
    ['cart', 'sponsor'],
    BOOKED.map((s) => `${s.sponsor.padEnd(22)}${`0:${two(seconds(s))}`.padStart(6)}  ${hhmmss(s)}  ${s.cart}`)
      .map((line, n) => `${String(n + 1).padStart(4, '0')}  ${line}`)
      .join('\n'),
  ],
  [
    'six figures and milliseconds',
    ['cart', 'sponsor', 'title'],
    BOOKED.map((s) =>
      [`${two(hourOf(s))}${two(minuteOf(s))}00`, s.lengthMs, s.cart, s.sponsor, s.title].join(';'),
    ).join('\r\n'),
  ],
  [
    'the cart last, times without seconds',
    ['cart', 'sponsor', 'title'],
    [
      '# Mon 23 November 2026',
      ...BOOKED.map((s) => [halfDay(s, false), s.sponsor, s.title, `00:00:${two(seconds(s))}`, s.cart].join('\t')),
    ].join('\n'),
  ],
  [
    'stars before comments, spots in quotes of their own',
    ['cart', 'sponsor'],
    [
      '* for Nov 23, 2026',
      '* prepared by the trade desk',
      ...BOOKED.map((s) => `${hhmmss(s)}   ${seconds(s)}   ${s.cart}   ${s.sponsor}`),
      '* end',
    ].join('\n'),
  ],
  [
    'hours of half a day as headings',
    ['cart', 'sponsor'],
    underHours(
      (hour) => `Hour of ${hour % 12 || 12} ${hour < 12 ? 'AM' : 'PM'}`,
      (s) => `:${two(minuteOf(s))}\t${s.cart}\t:${seconds(s)}\t${s.sponsor}`,
    ).join('\n'),
  ],
  [
    'totals between breaks',
    ['cart', 'sponsor', 'product'],
    BOOKED.flatMap((s, n) => [
      [hhmmss(s), s.cart, `:${seconds(s)}`, s.product, s.sponsor].join(';'),
      ...(n % 5 === 4 ? [`TOTAL ${n + 1} spots`, ''] : []),
    ]).join('\n'),
  ],
  [
    'a break number at the front',
    ['cart', 'sponsor', 'title'],
    BOOKED.map(
      (s, n) =>
        `${String(n).padStart(3)} ${hhmmss(s)} ${s.cart} ${String(seconds(s)).padStart(3)} ${s.sponsor.padEnd(20)} ${s.title}`,
    ).join('\n'),
  ],
];

describe('text logs of sales offices', () => {
  it.each(FILES)('are read by the layout that is proposed: %s', (_, fields, text) => {
    const layout = proposeLayout(text, 'Trade desk')!;
    expect(layout).not.toBeNull();
    expect(checkLayout(JSON.parse(JSON.stringify(layout)))).toEqual({ ok: true, layout });
    const { spots, errors, passed, date } = readTextLog(text, layout);
    expect(errors).toEqual([]);
    const told = (spot: Omit<BookedSpot, 'line'>): object =>
      Object.fromEntries(['atMs', 'lengthMs', ...fields].map((field) => [field, spot[field as keyof typeof spot]]));
    expect(spots.map(told)).toEqual(BOOKED.map(told));
    // Nothing is lost: every line is a spot, an error, or passed.
    const lines = text.split(/\r\n|\n/).length;
    expect(spots.length + errors.length + passed.length).toBe(lines);
    if (/2026|NOV/i.test(text)) expect(date).toBe(DATE);
  });

  it('name every line that cannot be read, with its number and what is wrong', () => {
    const layout = proposeLayout(FILES[1]![2], 'Trade desk')!;
    const { spots, errors } = readTextLog(
      [
        '0612\tSP1\t30\tA\tB',
        '9912\tSP1\t30\tA\tB',
        '0612\tSP1\tlong\tA\tB',
        '0612\tSP1\t0\tA\tB',
        '\tSP1\t30\tA\tB',
        'garbage',
        `0612\tSP1\t30\t${'A'.repeat(501)}\tB`,
      ].join('\n'),
      layout,
    );
    expect(spots.map(({ line }) => line)).toEqual([1]);
    expect(errors.map(({ line, why }) => `${line}: ${why}`)).toEqual([
      '2: “9912” is not a time of day.',
      '3: “long” is not a length.',
      '4: A spot of 0 is not possible.',
      '5: There is no time on this line.',
      '6: “garbage” is not a time of day.',
      '7: The sponsor is longer than 500 characters.',
    ]);
  });

  it('are not proposed a layout where they are none', () => {
    for (const text of ['', '\n\n', 'Dear all,\nthe log comes tomorrow.', 'PNG\r\n\u001a\n\0\0\0IHDR', 'a;b;c\nd;e;f'])
      expect(proposeLayout(text, 'None')).toBeNull();
  });
});

describe('a first layout', () => {
  it('keeps AM and PM with their time, numbers at the end with their text, and counts of lines out of the carts', () => {
    const rows = [6, 7, 12, 13, 14].map((hour, n) => {
      const time = `${String(hour > 12 ? hour - 12 : hour).padStart(2)}:12 ${hour < 12 ? 'AM' : 'PM'}`;
      return `00${n + 1}  ${time}  SP1010${n % 3}  :${20 + 10 * (n % 2)}  ${['LOCKSIDE CYCLES', 'VALE CREDIT UNION'][n % 2]!.padEnd(20)}  ${['BIKE', 'BANK'][n % 2]}  Winter ${n + 1}`;
    });
    const more = Array.from({ length: 10 }, (_, n) => rows[4]!.replace('005', String(n + 6).padStart(3, '0')));
    const text = ['LOG FOR 2026-11-24', ...rows, ...more, rows[4]!.replace('005', '999')].join('\n');
    const { spots, errors } = readTextLog(text, proposeLayout(text, 'x')!);
    expect(errors).toEqual([]);
    expect(spots.slice(0, 5).map(({ atMs }) => atMs / 60_000)).toEqual([372, 432, 732, 792, 852]);
    expect(spots[1]).toMatchObject({
      cart: 'SP10101',
      sponsor: 'VALE CREDIT UNION',
      product: 'BANK',
      title: 'Winter 2',
    });
  });
});

describe('a layout', () => {
  const layout: TextLayout = proposeLayout(FILES[0]![2], 'Trade desk')!;

  it('is refused with what is wrong and where', () => {
    const wrong = (change: object): string => {
      const checked = checkLayout({ ...layout, ...change });
      return checked.ok ? 'fine' : `${checked.path}: ${checked.why}`;
    };
    const time = { means: 'time', from: 1, length: 8 };
    const length = { means: 'length', from: 20, length: 2 };
    expect(wrong({})).toBe('fine');
    expect(wrong({ columns: [time, time, length] })).toBe('columns.1: There are two columns for the time.');
    expect(wrong({ columns: [time] })).toBe('columns: There is no column for the length.');
    expect(wrong({ times: 'past the hour' })).toMatch(/^hourHeading: /);
    expect(wrong({ columns: [{ ...time, length: null }, length] })).toMatch(/^columns\.0: Only the last/);
    expect(wrong({ columns: [{ ...time, from: 0 }, length] })).toMatch(/^columns\.0\.from: /);
    expect(wrong({ more: 1 })).toMatch(/^more: /);
  });

  it('takes a quotation mark that is never closed as a letter', () => {
    const tabs = {
      ...layout,
      delimiter: '\t' as const,
      columns: [
        { means: 'time' as const, from: 1, length: null },
        { means: 'length' as const, from: 2, length: null },
        { means: 'sponsor' as const, from: 3, length: null },
      ],
    };
    expect(readTextLog('06:12\t30\t"7 INCH RECORDS', tabs).spots).toMatchObject([{ sponsor: '"7 INCH RECORDS' }]);
  });
});

describe('values of a text log', () => {
  const ms = (read: { ok: boolean; ms?: number }): number | null => (read.ok ? read.ms! : null);

  it('are times of day in many ways', () => {
    const times = [
      '06:12:00',
      '0612',
      '061200',
      '6:12 AM',
      '6:12:00 pm',
      '12:00 am',
      '12 pm',
      '6.12',
      '24:00',
      '13:00 pm',
      '6:60',
      '612x',
    ];
    expect(times.map((text) => ms(readClockTime(text))).map((at) => (at === null ? null : at / 60_000))).toEqual([
      372,
      372,
      372,
      372,
      1092,
      0,
      720,
      372,
      null,
      null,
      null,
      null,
    ]);
  });

  it('are minutes past an hour, lengths and dates', () => {
    expect(['12', ':07', '59:30', '60', '1:2'].map((text) => ms(readPastHour(text)))).toEqual([
      720_000,
      420_000,
      3_570_000,
      null,
      null,
    ]);
    expect(
      ['30', ':30', '0:30', '00:30.500', '00:00:30', 'x'].map((text) => ms(readSpotLength(text, 'seconds'))),
    ).toEqual([30_000, 30_000, 30_000, 30_500, 30_000, null]);
    expect(ms(readSpotLength('30000', 'milliseconds'))).toBe(30_000);
    const dates = [
      'on 2026-11-23.',
      '23/11/2026',
      '23.11.26',
      '20261123',
      'Mon 23rd Nov 2026',
      'November 23, 2026',
      '31/02/2026',
      '12',
    ];
    expect(dates.map((text) => findDate(text, true))).toEqual([DATE, DATE, DATE, DATE, DATE, DATE, null, null]);
    expect(findDate('11/23/2026', false)).toBe(DATE);
  });
});

describe('pointing at the characters of a column', () => {
  const fixed: TextLayout = {
    ...proposeLayout('06:12:00  A1  30  BAKERY\n06:27:00  A2  20  SHOP\n', 'x')!,
    columns: [
      { means: 'time', from: 1, length: 8 },
      { means: 'title', from: 11, length: null },
    ],
  };

  it('makes a column there; others make room, and one of the same meaning moves', () => {
    expect(pointOut(fixed, 'length', { from: 20, length: 3 }).columns).toEqual([
      { means: 'time', from: 1, length: 8 },
      { means: 'title', from: 11, length: 9 },
      { means: 'length', from: 20, length: 3 },
    ]);
    expect(pointOut(fixed, 'time', { from: 3, length: 5 }).columns).toEqual([
      { means: 'time', from: 3, length: 5 },
      { means: 'title', from: 11, length: null },
    ]);
    expect(pointOut(fixed, null, { from: 1, length: 8 }).columns).toEqual([{ means: 'title', from: 11, length: null }]);
  });
});
