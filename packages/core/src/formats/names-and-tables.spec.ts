import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { detectDelimiter, readCsv, writeCsv } from './csv.js';
import { DELIMITERS } from './delimiters.js';
import { fileNameOf, PATTERN_PARTS, type FileNameParts } from './file-name-pattern.js';

const PARTS: FileNameParts = { station: 'Osier Vale & Río', date: '2026-11-24', hour: null, hourRepeat: 0 };
const named = (pattern: string, parts: Partial<FileNameParts> = {}) => fileNameOf(pattern, { ...PARTS, ...parts });

describe('the name of a file', () => {
  it.each([
    ['{station}_{date}.m3u8', 'osier-vale-río_2026-11-24.m3u8'],
    ['{year}/'.replace('/', '-') + '{month}-{day} {weekday}.txt', '2026-11-24 Tuesday.txt'],
    ['log.m3u', 'log.m3u'],
    ['  {date}  ', '2026-11-24'],
    [
      '{stationName} {yy}{MM}{dd} {EEE:upper} {EEEE:lower} {MMM} {E} {DDD} {WW}',
      'Osier Vale & Río 261124 TUE tuesday Nov 2 328 48',
    ],
  ])('%s is %s', (pattern, name) => expect(named(pattern)).toEqual({ ok: true, name }));

  it('tells the second of a doubled hour apart', () => {
    expect(named('{hour}.m3u', { hour: 1 })).toEqual({ ok: true, name: '01.m3u' });
    expect(named('{hour}.m3u', { hour: 1, hourRepeat: 1 })).toEqual({ ok: true, name: '01b.m3u' });
    expect(named('{hh}{a} {kk} {H}', { hour: 13 })).toEqual({ ok: true, name: '01PM 14 13' });
  });

  it.each([
    ['{artist}.m3u', 'is not known'],
    ['{__proto__}.m3u', 'is not known'],
    ['a/b.m3u', 'cannot hold “/”'],
    ['..\\{date}', 'cannot hold “\\”'],
    ['a\u0000b', 'cannot hold'],
    ['', 'usable file name'],
    ['.{date}', 'usable file name'],
    ['con.txt', 'usable file name'],
    ['LPT1', 'usable file name'],
    ['x'.repeat(201), 'usable file name'],
    ['漢'.repeat(70), 'usable file name'],
    ['{yyyy:title}', 'is not known'],
  ])('%j is refused: %s', (pattern, why) =>
    expect(named(pattern)).toMatchObject({ ok: false, why: expect.stringContaining(why) }),
  );

  it('of hourly files holds the hour', () => {
    expect(named('{date}.m3u', { hour: 3 })).toMatchObject({ ok: false, why: expect.stringContaining('{HH}') });
  });

  it('never leads to another folder, whatever the pattern and the station', () => {
    const piece = fc.oneof(
      fc.constantFrom(...PATTERN_PARTS.map(({ part }) => `{${part}}`)),
      fc.string({ maxLength: 4 }),
      fc.constantFrom('..', '/', '\\', '.'),
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 6 }), fc.string(), (pieces, station) => {
        const made = named(pieces.join(''), { station, hour: 4 });
        if (!made.ok) return;
        expect(made.name).not.toMatch(/[/\\:*?"<>|\u0000-\u001f]/);
        expect(made.name.startsWith('.')).toBe(false);
      }),
    );
  });
});

describe('a delimited text', () => {
  const cell = fc
    .string({ maxLength: 12 })
    .map((text) => text.replace(/[\u0000-\u001f\u0085\u2028\u2029\ufeff]/g, '').trim());

  it('reads back what was written, formulas made harmless', () => {
    const plain = cell.filter((text) => !/^[=+\-@\t\r＝＋－＠]/.test(text));
    const table = fc.array(fc.array(plain, { minLength: 3, maxLength: 3 }), { minLength: 1, maxLength: 12 });
    fc.assert(
      fc.property(table, (rows) => {
        const filled = rows.map(([first, ...others]) => [`x${first}`, ...others]);
        const read = readCsv(writeCsv(['a', 'b', 'c'], filled), ',');
        expect(read.ok && read.rows.map(({ cells }) => cells)).toEqual([['a', 'b', 'c'], ...filled]);
      }),
    );
    expect(writeCsv(['t'], [['=1+1'], ['@cmd'], [5], [null]])).toBe("t\r\n'=1+1\r\n'@cmd\r\n5\r\n\r\n");
  });

  it.each(DELIMITERS)('is known by %j between its cells, other marks within them', (delimiter) => {
    const line = ['Ember', '"a,b;c|d"', '3:41'].join(delimiter);
    expect(detectDelimiter(`${line}\n${line}\n`)).toBe(delimiter);
  });

  it('keeps ragged rows as they are, with the lines they end on, and skips empty ones', () => {
    const read = readCsv('a,b\n\n"one\ntwo",2,3\nlast\n', ',');
    expect(read).toEqual({
      ok: true,
      rows: [
        { line: 1, cells: ['a', 'b'] },
        { line: 4, cells: ['one\ntwo', '2', '3'] },
        { line: 5, cells: ['last'] },
      ],
    });
  });

  it('says at which line a quotation does not end', () => {
    expect(readCsv('a,b\n1,"x\n2,y\n', ',')).toMatchObject({ ok: false, why: expect.stringContaining('not closed') });
    expect(readCsv('', ',')).toEqual({ ok: true, rows: [] });
  });

  it('is read as far as is asked', () => {
    const read = readCsv('1\n2\n3\n4\n', ',', 2);
    expect(read.ok && read.rows.map(({ cells }) => cells[0])).toEqual(['1', '2']);
  });
});
