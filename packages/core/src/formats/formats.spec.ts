import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { detectDelimiter, readCsv, writeCsv } from './csv.js';
import { decodeText } from './decode-text.js';
import { DELIMITERS } from './delimiters.js';
import { writeM3u } from './playlists/m3u.js';
import { playerRow } from '../testing/player-rows.js';
import { detectFormat, readRows, TEXT_FORMATS } from './playlist-rows.js';

const utf16 = (text: string, mark: number[], big: boolean): Uint8Array => {
  const bytes = [...text].flatMap((letter) => [letter.charCodeAt(0) & 255, letter.charCodeAt(0) >> 8]);
  for (let i = 0; big && i < bytes.length; i += 2) [bytes[i], bytes[i + 1]] = [bytes[i + 1]!, bytes[i]!];
  return Uint8Array.from([...mark, ...bytes]);
};

describe('decodeText', () => {
  it.each([
    ['UTF-8', new TextEncoder().encode('Réalta;Ø'), 'utf-8'],
    ['UTF-8 with a mark', Uint8Array.from([0xef, 0xbb, 0xbf, ...new TextEncoder().encode('Réalta;Ø')]), 'utf-8'],
    ['UTF-16 with a mark', utf16('Réalta;Ø', [0xff, 0xfe], false), 'utf-16le'],
    ['UTF-16, big end first, without a mark', utf16('Réalta;Ø', [], true), 'utf-16be'],
    ['Windows-1252', Uint8Array.from([0x52, 0xe9, 0x61, 0x6c, 0x74, 0x61, 0x3b, 0xd8]), 'windows-1252'],
  ])('reads %s', (_name, bytes, encoding) => {
    const decoded = decodeText(bytes);
    expect(decoded).toEqual({ ok: true, text: 'Réalta;Ø', encoding });
  });

  it('refuses an empty file and a picture', () => {
    const png = Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 13]);
    expect(decodeText(new Uint8Array())).toMatchObject({ ok: false, why: 'The file is empty.' });
    expect(decodeText(png)).toMatchObject({ ok: false });
    expect(decodeText(png, 'utf-8')).toMatchObject({ ok: false });
  });

  it('reads a file that mixes encodings as UTF-8 and marks what is not', () => {
    const mixed = Uint8Array.from([...new TextEncoder().encode('été\nRéalta\n'), 0xe9, 0x74, 0xe9]);
    expect(decodeText(mixed)).toEqual({ ok: true, encoding: 'utf-8', text: 'été\nRéalta\n\uFFFDt\uFFFD' });
  });

  it('never throws', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 200 }), (bytes) => expect(typeof decodeText(bytes).ok).toBe('boolean')),
    );
  });
});

describe('CSV', () => {
  const cell = fc
    .string({ maxLength: 12 })
    .map((text) => text.trim().replace(/\r/g, ''))
    .filter((text) => !/^[=+\-@\t\r\uFEFF]/.test(text));
  const table = fc.array(fc.tuple(fc.stringMatching(/^[a-z]{1,5}$/), cell, cell), { minLength: 1, maxLength: 8 });

  it('reads back what it writes', () => {
    fc.assert(
      fc.property(table, (rows) => {
        const read = readCsv(writeCsv(['a', 'b', 'c'], rows), ',');
        expect(read.ok && read.rows.slice(1).map((row) => row.cells)).toEqual(rows);
      }),
    );
  });

  it.each(DELIMITERS.map((delimiter) => [delimiter]))('finds the delimiter %j', (delimiter) => {
    const text =
      ['Title', 'Artist', 'Year'].join(delimiter) +
      '\n' +
      ['One, two', 'A', '1999']
        .map((one) => (one.includes(',') && delimiter === ',' ? `"${one}"` : one))
        .join(delimiter);
    expect(detectDelimiter(text)).toBe(delimiter);
  });

  it('makes cells harmless that a spreadsheet would run', () => {
    expect(writeCsv(['t'], [['=1+1'], ['@x'], ['-3:00'], [5], [null]])).toBe(
      "t\r\n'=1+1\r\n'@x\r\n'-3:00\r\n5\r\n\r\n",
    );
  });

  it('says on which line a quote stays open, and never throws', () => {
    expect(readCsv('a,b\nc,"d\n', ',')).toMatchObject({ ok: false });
    fc.assert(
      fc.property(fc.string({ maxLength: 80 }), fc.constantFrom(...DELIMITERS), (text, delimiter) =>
        expect(typeof readCsv(text, delimiter).ok).toBe('boolean'),
      ),
    );
  });
});

describe('M3U', () => {
  it('writes one line each, whatever the title holds', () => {
    const text = writeM3u([playerRow({ file: '/a/b.wav', artist: '', title: 'Two\nlines', durationMs: 12_600 })]);
    expect(text).toBe('#EXTM3U\n#EXTINF:13,Two lines\n/a/b.wav\n');
  });
});

describe('playlists and lists as tables', () => {
  const rows = (text: string) => {
    const table = readRows(text, detectFormat(text), ',');
    return table.ok ? table.rows.slice(1).map(({ cells }) => cells) : table.why;
  };

  it.each([
    [
      'm3u',
      '\uFEFF#EXTM3U\r\n#EXTINF:213,Nuala - Low - Tide\r\n#EXTALB:Weir\r\nC:\\audio\\a.wav\r\n# nothing\r\n\r\nfile:///srv/b%20c.mp3\r\n',
      [
        ['C:\\audio\\a.wav', 'Nuala', 'Low - Tide', 'Weir', '213 s'],
        ['/srv/b c.mp3', '', 'b c', '', ''],
      ],
    ],
    [
      'm3u',
      'one.wav\nsub/two.FLAC',
      [
        ['one.wav', '', 'one', '', ''],
        ['sub/two.FLAC', '', 'two', '', ''],
      ],
    ],
    [
      'pls',
      '[playlist]\nFile2=b.wav\nTitle2=Only a title\nLength2=-1\nFile1=a.wav\nTitle1=Nuala - Tide\nLength1=61\nTitle3=no file\nNumberOfEntries=2\nVersion=2',
      [
        ['a.wav', 'Nuala', 'Tide', '', '61 s'],
        ['b.wav', '', 'Only a title', '', ''],
      ],
    ],
    [
      'xspf',
      `<?xml version="1.0"?><playlist version="1" xmlns="http://xspf.org/ns/0/"><trackList><track>
         <location>file:///C:/m/a%26b.wav</location><creator>Oak &amp; Ash</creator><title>&#x41;n Lár</title><duration>61000</duration></track>
         <track><title>No place</title></track></trackList></playlist>`,
      [
        ['C:/m/a&b.wav', 'Oak & Ash', 'An Lár', '', '61000 ms'],
        ['', '', 'No place', '', ''],
      ],
    ],
    [
      'json',
      '{"items":[{"title":"A","durationMs":61000,"tags":["x","y"]},{"title":"B","year":1994}]}',
      [
        ['A', '61000 ms', 'x, y', ''],
        ['B', '', '', '1994'],
      ],
    ],
    ['xspf', '<?xml version="1.0"?><html></html>', 'The file is XML, but not an XSPF playlist: it has no trackList.'],
    ['xspf', '<playlist><trackList><track></trackList>', expect.stringContaining('not well-formed XML')],
    ['json', '[{"title": }]', expect.stringContaining('not JSON')],
    ['json', '[{"title":"A"},7]', 'Item 2 of the list is not an object with fields.'],
  ])('reads %s %#', (format, text, expected) => {
    expect(detectFormat(text)).toBe(format);
    expect(rows(text)).toEqual(expected);
  });

  it('takes a table for a table, and reads back what it writes', () => {
    expect(detectFormat('Title,Artist\nA,B')).toBe('table');
    expect(rows(writeM3u([playerRow({ file: '/a/b.wav', durationMs: 61_000 })]))).toEqual([
      ['/a/b.wav', 'Oak', 'Ash', '', '61 s'],
    ]);
  });

  it('never throws, whatever a file holds', () => {
    const piece = fc.constantFrom(
      '#EXTM3U\n',
      '#EXTINF:',
      '[playlist]\n',
      'File1=',
      '<?xml version="1.0"?>',
      '<playlist>',
      '<trackList>',
      '<track>',
      '</track>',
      '&#99999999;',
      '[{',
      '"a":',
      '}]',
      'file://%',
      '\n',
      ',',
    );
    fc.assert(
      fc.property(fc.array(fc.oneof(piece, fc.string({ maxLength: 6 })), { maxLength: 14 }), (pieces) => {
        const text = pieces.join('');
        for (const format of TEXT_FORMATS) expect(typeof readRows(text, format, ',').ok).toBe('boolean');
      }),
      { numRuns: 500 },
    );
  });
});
