import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { memoryPages, validateXML } from 'xmllint-wasm';
import { encodeText } from '../formats/encode-text.js';
import { decodeText } from '../formats/decode-text.js';
import { OUTPUT_ENCODINGS } from '../formats/encodings.js';
import type { TextLayout } from '../formats/layouts/layout.js';
import { readTextLog } from '../formats/layouts/read-text-log.js';
import { detectFormat, readRows } from '../formats/playlist-rows.js';
import type { PlayerRow } from '../formats/playlists/player-row.js';
import { readPlayerRows } from '../formats/playlists/read-player-rows.js';
import { rewritePath } from '../formats/playlists/rewrite-path.js';
import { parseDuration } from '../time/duration.js';
import { playerRow } from '../testing/player-rows.js';
import { encodingsOf, PLAIN_LAYOUT, type OUTPUT_FORMATS } from './output-format.js';
import { layoutFault, writeFile } from './write-output.js';

const ABOUT = { station: 'Osier & Vale', date: '2026-11-24', timeZone: 'Europe/Dublin' };
const written = (rows: readonly PlayerRow[], format: (typeof OUTPUT_FORMATS)[number], layout?: TextLayout): string =>
  writeFile(rows, format, layout ?? null, ABOUT, (line) => line).text;

const HARD = [
  '#',
  '<',
  '>',
  '&',
  '"',
  "'",
  '%',
  '%20',
  ' ',
  'é',
  '漢',
  '𝄞',
  '\u0007',
  ';',
  '=',
  'a',
  'Z',
  '1',
  '?',
  '|',
];
const words = fc
  .array(fc.constantFrom(...HARD), { minLength: 1, maxLength: 8 })
  .map((letters) => `x${letters.join('')}x`);
const file = fc
  .tuple(fc.constantFrom('/', 'music/', '#1/', 'M:/', '//host/share/'), words)
  .map((parts) => parts.join(''));
const rowOf = fc
  .record({ artist: words, title: words, album: words, file, durationMs: fc.integer({ min: 1000, max: 7_200_000 }) })
  .map((more) => playerRow(more));
const clean = (text: string): string =>
  text
    .replace(/\u0007/g, '')
    .replace(/\s+/g, ' ')
    .trim();

describe('a file of a player', () => {
  it.each(['m3u8', 'm3u', 'pls', 'xspf', 'csv', 'json'] as const)('as %s is read back as it was', (format) => {
    fc.assert(
      fc.property(fc.array(rowOf, { minLength: 1, maxLength: 5 }), (rows) => {
        const text = written(rows, format);
        const read = readRows(text, detectFormat(text), ',');
        if (!read.ok) throw new Error(read.why);
        const [head, ...cells] = read.rows.map((row) => row.cells);
        const at = (name: string): number =>
          head!.findIndex((cell) => cell.replace(' ms', 'Ms') === name || cell === name);
        const lengthAt = Math.max(at('duration'), at('durationMs'));
        expect(cells).toHaveLength(rows.length);
        cells.forEach((row, n) => {
          const { artist, title, file: path, durationMs } = rows[n]!;
          expect(row[at('artist')]).toBe(clean(artist));
          expect(row[at('title')]).toBe(clean(title));
          expect(row[at('file')]!.replace(/^\.\/#/, '#')).toBe(clean(path));
          const whole = ['m3u8', 'm3u', 'pls'].includes(format);
          expect(parseDuration(row[lengthAt]!)).toBe(whole ? Math.round(durationMs / 1000) * 1000 : durationMs);
        });
      }),
    );
  });

  it.each(['m3u8', 'm3u', 'pls', 'xspf', 'csv', 'json', 'text'] as const)(
    'as %s gives a player back its cues',
    (format) => {
      const zone = ABOUT.timeZone;
      const layout: TextLayout = {
        ...PLAIN_LAYOUT,
        columns: [
          { means: 'time', from: 1, length: 8 },
          { means: 'length', from: 11, length: 8 },
          { means: 'title', from: 20, length: 40 },
          { means: 'cue', from: 61, length: null },
        ],
      };
      const cueOf = fc.record({
        id: fc.constantFrom('a1', 'p2-0', 'x y'),
        startMs: fc.integer({ min: Date.UTC(2026, 10, 24), max: Date.UTC(2026, 10, 25) - 1 }),
        mark: fc.constantFrom('hard' as const, 'soft' as const, null),
        segueMs: fc.nat(9000),
        introMs: fc.nat(30_000),
        kind: fc.constantFrom('song', 'station ID', 'spot'),
        cart: words,
      });
      const flag = fc.subarray(['waits', 'noFade', 'over'] as const);
      fc.assert(
        fc.property(fc.array(fc.tuple(rowOf, cueOf, flag), { minLength: 1, maxLength: 4 }), (drawn) => {
          const rows = drawn.map(([row, cue, set]) => {
            const flags = Object.fromEntries(set.map((one) => [one, true]));
            return { ...row, startMs: cue.startMs, cue: { ...cue, cart: clean(cue.cart), ...flags } };
          });
          const about = { date: ABOUT.date, timeZone: zone, fromMs: 0, layout: format === 'text' ? layout : null };
          const read = readPlayerRows(written(rows, format, layout), about);
          if (!read.ok) throw new Error(read.why);
          expect(read.rows.map(({ cue }) => cue)).toEqual(rows.map(({ cue }) => cue));
          expect(read.rows.map(({ startMs }) => startMs)).toEqual(rows.map(({ startMs }) => startMs));
        }),
        { numRuns: 40 },
      );
    },
  );

  it('as XSPF is valid by its schema, whatever it names', async () => {
    const rows = fc.sample(rowOf, 60);
    const cue = { id: 'a', startMs: 0, mark: 'hard' as const, segueMs: 0, introMs: 0, kind: 'song', cart: 'ä&' };
    const odd = [
      playerRow({ cue }),
      playerRow({ file: 'https://host/a b%20ü.mp3' }),
      playerRow({ file: '\\\\host\\m\\a.wav', title: '' }),
    ];
    const result = await validateXML({
      xml: [
        { fileName: 'day.xspf', contents: written([...rows, ...odd], 'xspf') },
        { fileName: 'empty.xspf', contents: written([], 'xspf') },
      ],
      schema: [readFileSync(new URL('../testing/xspf-1.xsd', import.meta.url), 'utf8')],
      initialMemoryPages: memoryPages.defaultInitialMemoryPages,
    });
    expect(result.errors).toEqual([]);
    expect(result.valid).toBe(true);
  });

  it('as text has each value in its column, and is read back by the same layout', () => {
    const layouts: TextLayout[] = [
      PLAIN_LAYOUT,
      {
        ...PLAIN_LAYOUT,
        delimiter: ';',
        columns: (['sequence', 'time', 'length', 'cart', 'sponsor', 'title'] as const).map((means, n) => {
          return { means, from: n + 1, length: null };
        }),
        writing: { time: 'h:mm:ss am', length: 'm:ss.SSS', header: ['# {date}'], footer: ['# end'] },
      },
      {
        ...PLAIN_LAYOUT,
        times: 'past the hour',
        hourHeading: 'HOUR',
        writing: { time: 'hhmm', length: 'hh:mm:ss', header: [], footer: [] },
      },
    ];
    const rows = [0, 1, 2].map((n) =>
      playerRow({
        startMs: Date.UTC(2026, 10, 24, 11 + n, 12, 30),
        cart: `A${n}`,
        title: `7" ${n};`,
        durationMs: 90_000,
      }),
    );
    for (const layout of layouts) {
      const text = written(rows, 'text', layout);
      const read = readTextLog(text, layout);
      expect(read.errors).toEqual([]);
      expect(read.spots.map(({ atMs, lengthMs, cart, title }) => [atMs, lengthMs, cart, title])).toEqual(
        rows.map(({ cart, title, durationMs }, n) => [((11 + n) * 60 + 12.5) * 60_000, durationMs, cart, title]),
      );
    }
    const narrow = {
      ...PLAIN_LAYOUT,
      columns: PLAIN_LAYOUT.columns.map((one) => ({ ...one, length: one.length && 3 })),
    };
    expect(writeFile(rows, 'text', narrow, ABOUT, (line) => line).cut).toBe(3 * 4);
    expect(
      layoutFault({
        ...PLAIN_LAYOUT,
        columns: [
          { means: 'time', from: 1, length: 8 },
          { means: 'length', from: 5, length: null },
        ],
      }),
    ).toContain('overlaps');
  });
});

describe('the letters of a file', () => {
  it('that its encoding lacks are replaced and told; the others are read back as they were', () => {
    expect(encodeText('Łódź “x” Ø 漢', 'ascii', 'nearest')).toMatchObject({
      shown: 'Lodz "x" O ?',
      missing: ['Ł', 'ó', 'ź', '“', '”', 'Ø', '漢'],
    });
    expect(encodeText('Łódź', 'windows-1252', 'question mark').shown).toBe('?ód?');
    fc.assert(
      fc.property(fc.array(words), fc.constantFrom(...OUTPUT_ENCODINGS), (texts, encoding) => {
        const { bytes, shown } = encodeText(`#EXTM3U ${texts.join('\n')}`, encoding, 'nearest');
        const name =
          encoding === 'utf-8 with BOM'
            ? 'utf-8'
            : encoding.startsWith('utf')
              ? (encoding as 'utf-16le')
              : 'windows-1252';
        const back = decodeText(bytes, name);
        expect(back.ok && back.text.replace(/^\uFEFF/, '')).toBe(shown);
      }),
    );
    expect(encodingsOf('xspf')).toEqual(['utf-8']);
  });
});

describe('a path on the player’s machine', () => {
  it.each([
    ['/srv/audio/a/b.wav', [{ from: '/srv/audio/', to: 'M:\\' }], 'backward', 'M:\\a\\b.wav'],
    [
      '/srv/audio/a.wav',
      [
        { from: '/srv/', to: '' },
        { from: '/srv/audio/', to: 'X' },
      ],
      'as they are',
      'audio/a.wav',
    ],
    ['C:\\m\\a.wav', [{ from: 'C:', to: '' }], 'forward', '/m/a.wav'],
    ['/srv/a.wav', [{ from: '/srv/', to: 'https://host/' }], 'backward', 'https://host/a.wav'],
  ] as const)('%s is moved and turned', (path, prefixes, slashes, is) =>
    expect(rewritePath(path, prefixes, slashes)).toBe(is),
  );
});
