import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { detectDelimiter, readCsv, writeCsv } from './csv.js';
import { decodeText } from './decode-text.js';
import { DELIMITERS } from './delimiters.js';
import { writeM3u } from './m3u.js';

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
    const text = writeM3u([{ file: '/a/b.wav', artist: '', title: 'Two\nlines', durationMs: 12_600 }]);
    expect(text).toBe('#EXTM3U\n#EXTINF:13,Two lines\n/a/b.wav\n');
  });
});
