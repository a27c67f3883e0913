import { createHash } from 'node:crypto';
import { cpSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { ForecastAnswer } from '@fuller/contracts';
import { addDays } from '@fuller/core';
import { fuller } from './testing/run-fuller.js';

const folder = mkdtempSync(path.join(os.tmpdir(), 'fuller-cli-'));
const data = path.join(folder, 'data');
const today = new Date().toLocaleDateString('sv', { timeZone: 'Europe/Dublin' });
const later = addDays(today, 10);

beforeAll(() => {
  // Made already where browser tests run beside this.
  const made = process.env['FULLER_E2E_DEMO'];
  if (made) return cpSync(path.join(made, '0'), data, { recursive: true });
  expect(fuller('init', '--data', data, '--demo', '--weeks', '0', '--json')).toMatchObject({
    code: 0,
    out: `${JSON.stringify({ data, demo: true })}\n`,
  });
});
afterAll(() => rmSync(folder, { recursive: true }));

describe('fuller', () => {
  it('generates days and prints one JSON document and nothing else', () => {
    const done = fuller('generate', '--data', data, '--from', later, '--days', '2', '--seed', '5', '--json');
    const { days } = done.json<{
      days: { date: string; slots: number; filled: number; open: unknown[]; hours: unknown[] }[];
    }>();
    expect(days.map((day) => day.date)).toEqual([later, addDays(later, 1)]);
    expect(done.code).toBe(days.some((day) => day.open.length) ? 3 : 0);
    for (const day of days) expect([day.filled + day.open.length, day.hours.length]).toEqual([day.slots, 24]);
  });

  it('refuses to generate where no clock runs', () => {
    const impossible = path.join(folder, 'empty');
    expect(fuller('init', '--data', impossible, '--json').code).toBe(0);
    const done = fuller('generate', '--data', impossible, '--from', later);
    expect(done.code).toBe(2);
    expect(done.err).toContain('No clock runs');
  });

  it('exports what it generated, whole files only, and lists what is left out', () => {
    const out = path.join(folder, 'out');
    const done = fuller('export', '--data', data, '--date', later, '--out', out, '--hourly', '--json');
    // Songs without a file need a person.
    expect(done.code).toBe(5);
    expect(done.json()['files']).toHaveLength(24);
    const names = done.json()['files'] as string[];
    expect(readdirSync(out).sort()).toEqual([...names, `${names[0]}.manifest.json`].sort());
    expect(readFileSync(path.join(out, names[0]!), 'utf8')).toMatch(/^#EXTM3U\n/);
    expect((done.json()['heldBack'] as { why: string }[]).map((held) => held.why)).toContain('no file');
  });

  it('reports on what it generated, into a file whose ending says how, and refuses what it cannot', () => {
    const run = (...args: string[]) => fuller('report', '--data', data, ...args);
    const day = ['--from', later, '--to', later];
    const songs = run('--report', 'songs', ...day, '--json').json<{ sentence: string; rows: { cells: unknown[] }[] }>();
    expect(songs.sentence).toMatch(/^Nothing has aired yet; \d+ plays planned\.$/);
    const planned = songs.rows.reduce((sum, { cells }) => sum + Number(cells[2]), 0);
    expect(songs.sentence).toContain(`${planned} plays`);
    const out = path.join(folder, 'report');
    expect(run('--report', 'songs', ...day, '--out', `${out}.csv`).code).toBe(0);
    expect(readFileSync(`${out}.csv`, 'utf8').split('\n')[0]).toContain('Title,Artist,Planned,Aired');
    for (const [args, words] of [
      [[], /--report, or .* --kept/],
      [['--report', 'songs', '--from', later], /both --from and --to/],
      [['--report', 'songs', ...day, '--out', `${out}.doc`], /ends neither in \.pdf/],
      [['--kept', 'Nothing'], /no report kept as “Nothing”/],
      [['--report', 'songs', ...day, '--out', path.join(folder, 'gone', 'a.csv')], /cannot be written/],
    ] as const) {
      const { code, err } = run(...args);
      expect([code, err]).toEqual([2, expect.stringMatching(words)]);
    }
  });

  it('forecasts a week with a change beside it, and leaves the data as it was', () => {
    const change = path.join(folder, 'change.json');
    const bytes = () =>
      createHash('sha256')
        .update(readFileSync(path.join(data, 'fuller.db')))
        .digest('hex');
    const before = bytes();
    writeFileSync(change, JSON.stringify({ kind: 'add', category: 'fresh', songs: 10 }));
    const run = (...args: string[]) => fuller('forecast', '--data', data, '--weeks', '1', '--from', later, ...args);
    const asked = ['--change', change, '--json'];
    const { categories, sentences, songs } = run(...asked).json<ForecastAnswer>();
    const fresh = categories.find(({ category }) => category === 'Fresh')!;
    expect(fresh.songs.changed).toBe(fresh.songs.today + 10);
    expect(fresh.rest.changed!).toBeGreaterThan(fresh.rest.today!);
    expect(sentences.join(' ')).toMatch(/Songs of Fresh rest .* longer than/);
    expect(songs.filter(({ title }) => title.startsWith('New song'))).toHaveLength(10);
    expect(bytes()).toBe(before);
    for (const [text, words] of [
      ['{', /is no JSON/],
      ['{"kind":"add","category":"Fresh"}', /songs/],
      ['{"kind":"add","category":"Nowhere","songs":1}', /There is no category “Nowhere”/],
      ['{"kind":"rule","rule":"Keep everything apart"}', /There is no rule/],
      ['{"kind":"move","songs":["C0"],"to":"Fresh"}', /There is no song “C0”/],
    ] as const) {
      writeFileSync(change, text);
      const { code, err } = run('--change', change);
      expect([text, code, err]).toEqual([text, 2, expect.stringMatching(words)]);
    }
  });

  it('imports a table, first dry, with a mapping, into a category', () => {
    const table = path.join(folder, 'songs.csv');
    const mapping = path.join(folder, 'mapping.json');
    writeFileSync(table, 'Eins;Nuala;3:10\nZwei;Piers;nonsense\n');
    writeFileSync(mapping, JSON.stringify({ header: false, mapping: ['title', 'artist', 'duration'] }));
    const args = ['import', 'library', table, '--data', data, '--mapping', mapping, '--category', 'fresh', '--json'];
    const dry = fuller(...args, '--dry-run').json();
    expect(dry).toEqual({
      read: 2,
      added: 1,
      changed: 0,
      rejected: [{ row: 2, column: 'duration', why: expect.stringContaining('“nonsense”') }],
    });
    expect(fuller(...args).json()).toEqual(dry);
    expect(fuller(...args).json()).toMatchObject({ added: 0, changed: 0 });
  });

  it('imports a folder of tagged audio', () => {
    const { read, added } = fuller(
      'import',
      'library',
      path.join(data, 'audio/incoming'),
      '--data',
      data,
      '--json',
    ).json();
    expect([read, added]).toEqual([8, 8]);
  });

  it.each([
    [['generate', '--data', data, '--from', '2026-13-01'], 'Write a date'],
    [['generate', '--data', data, '--from', '2020-01-01'], 'has aired'],
    [['generate', '--data', path.join(folder, 'none'), '--from', later], 'holds no data'],
    [['generate', '--data', data, '--station', 'ghost', '--from', later], 'no station “ghost”'],
    [['export', '--data', data, '--date', '2030-01-01', '--out', folder], 'There is no log'],
    [['export', '--data', data, '--date', later, '--out', folder, '--pattern', '../x'], 'cannot hold'],
    [['import', 'library', path.join(folder, 'nothing.csv'), '--data', data], 'no file or folder'],
    [['init', '--data', data], 'is not empty'],
    [['dance'], 'unknown command'],
  ])('exits with 2 and names what is wrong: %j', (args, why) => {
    const done = fuller(...args);
    expect(done.code).toBe(2);
    expect(done.err).toContain(why);
    expect(fuller(...args, '--json').code).toBe(2);
  });

  it.each([
    ['pls', ['[playlist]', 'File1='], 5],
    ['xspf', ['<playlist version="1"', '<location>file:///'], 5],
    ['csv', ['start,duration,kind,artist', ',song,'], 5],
    ['json', ['"format": "fuller-log"', '"kind": "song"'], 5],
    ['text', ['# Osier Vale Radio', '  song  '], 5],
  ])('exports %s, and tells by its code that what has no audio needs a person', (format, holds, code) => {
    const out = path.join(folder, `out-${format}`);
    const done = fuller('export', '--data', data, '--date', today, '--out', out, '--format', format, '--json');
    expect([done.code, done.err]).toEqual([code, '']);
    const text = readFileSync(path.join(out, (done.json()['files'] as string[])[0]!), 'utf8');
    for (const part of holds) expect(text).toContain(part);
  });

  it('hands over by an output of the station, and names those it has', () => {
    const done = fuller('export', '--data', data, '--date', today, '--output', 'playlist', '--json');
    expect([done.code, done.err]).toEqual([0, '']);
    expect(done.json()).toMatchObject({ outputs: [{ output: 'Playlist', done: true }] });
    expect(fuller('export', '--data', data, '--date', today, '--output', 'nothing').err).toContain(
      'there are Playlist, Playout machine',
    );
    expect(fuller('export', '--data', data, '--date', today).err).toContain('--out');
    expect(fuller('export', '--data', data, '--date', today, '--out', folder, '--prefix', 'M:').err).toContain(
      'FROM=TO',
    );
  });

  it('leaves an unreadable table alone', () => {
    const broken = path.join(folder, 'empty.csv');
    writeFileSync(broken, '');
    const done = fuller('import', 'library', broken, '--data', data, '--json');
    expect(done.code).toBe(2);
    expect(done.json()).toEqual({ error: { code: 'NOT_A_TEXT', message: 'The file is empty.' } });
    expect(existsSync(broken)).toBe(true);
  });

  describe('books traffic', () => {
    const file = path.join(folder, 'traffic.txt');
    const take = (text: string | Buffer, ...more: string[]) => {
      writeFileSync(file, text);
      const layout = more.includes('--layout') ? [] : ['--layout', 'auto'];
      return fuller('import', 'traffic', file, '--data', data, '--date', later, ...layout, ...more);
    };
    const rows = Array.from(
      { length: 40 },
      (_, n) => `${String(6 + (n >> 3)).padStart(2, '0')}:12:00  SP${10_000 + n}  30  SPONSOR ${n % 7}`,
    );

    it('in the breaks of a day, and tells every line', () => {
      fuller('generate', '--data', data, '--from', later);
      const done = take([`# ${later}`, ...rows, '03:33:00  SP1      30  NIGHT SHOP'].join('\r\n'), '--json');
      expect([done.code, done.err]).toEqual([5, '']);
      expect(done.json()).toMatchObject({
        lines: 42,
        placed: 40,
        tray: [{ line: 42, cart: 'SP1', sponsor: 'NIGHT SHOP', why: 'No break is booked near 03:33.' }],
        errors: [],
        layout: { format: 'fuller-layout', delimiter: null },
      });
      // By the layout it told, the same is read again, and nothing changes.
      const layout = path.join(folder, 'layout.json');
      writeFileSync(layout, JSON.stringify(done.json()['layout']));
      expect(take([`# ${later}`, ...rows].join('\n'), '--layout', layout, '--dry-run').out).toMatch(
        /^41 lines, 40 spots would be placed \(0 new, 0 gone\), 0 in the tray, 0 errors\n/,
      );
    });

    it('or refuses, naming what is wrong, and writes nothing', () => {
      const refused = (text: string | Buffer, ...more: string[]): string => {
        const done = take(text, ...more);
        expect([done.code, done.out]).toEqual([2, '']);
        return done.err;
      };
      expect(refused('')).toContain('is empty');
      expect(refused(Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex'))).toContain('not a text');
      expect(refused(`# ${today}\n${rows.join('\n')}`)).toContain(`The file is for ${today}, not for ${later}.`);
      const layout = path.join(folder, 'bad-layout.json');
      writeFileSync(layout, '{"format": "fuller-layout", "version": 2}');
      expect(refused(rows.join('\n'), '--layout', layout)).toMatch(/bad-layout\.json: version/);
      expect(refused(rows.join('\n'), '--layout', 'nowhere')).toContain('no file “nowhere”; there are Trade desk');
      expect(refused('6:12;:30;A1;X\n6:19;:30;A2;Y', '--layout', 'trade desk')).toContain('by the layout “Trade desk”');
      expect(refused(rows.join('\n'), '--tolerance', 'soon')).toContain('from 0 to 30');
      expect(refused(Buffer.alloc(13_000_000, 'x'))).toContain('too large');
    });
  });

  describe('imports what aired', () => {
    const file = path.join(folder, 'aired.csv');
    const take = (text: string, ...more: string[]) => {
      writeFileSync(file, text);
      return fuller('import', 'asrun', file, '--data', data, '--date', later, ...more);
    };

    it('tells each difference from the log, and takes the same plays once', () => {
      fuller('generate', '--data', data, '--from', later);
      const text = 'start,duration,artist,title\n05:00:00,180,Nobody,A call\n05:03:00,60,,Weather\n';
      const tried = take(text, '--dry-run');
      expect(tried.out).toMatch(/^2 plays would be imported, 0 of them known already/);
      const done = take(text, '--json');
      expect(done.json()).toMatchObject({ rows: 2, known: 0 });
      expect(JSON.stringify(done.json())).toContain('"is":"added"');
      expect(take(text, '--json').json()).toMatchObject({ rows: 2, known: 2 });
    });

    it('or refuses, naming the line, and exits 2', () => {
      const done = take('start,title\n05:00:00,a\nnever,b\n');
      expect([done.code, done.err]).toEqual([2, expect.stringContaining('Line 3: “never” is no time.')]);
      expect(take('').code).toBe(2);
      expect(take('nothing here').err).toContain('No column is named title, cart or file.');
    });
  });

  describe('checks playlists', () => {
    const SONGS = [
      ['Ash', 'One', 'Low'],
      ['Ash', 'Two', 'Low'],
      ['Bex', 'Three', 'High'],
      ['Ash', 'Four', 'LÓW'],
      ['ash', 'Five', 'low'],
    ] as const;
    const FOUR = { limit: 'album-3-in-3h', value: 'Low', positions: [1, 2, 4, 5], count: 4, allowed: 3 };
    const table = (delimiter: string, head: string, row: (song: readonly string[], at: number) => string[]): string =>
      [head, ...SONGS.map((song, at) => row(song, at).join(delimiter))].join('\n');
    const xspf = (album: (song: readonly string[]) => string): string =>
      `<?xml version="1.0"?><playlist version="1" xmlns="http://xspf.org/ns/0/"><trackList>${SONGS.map(
        (song) =>
          `<track><creator>${song[0]}</creator><title>${song[1]}</title>${album(song)}<duration>200000</duration></track>`,
      ).join('')}</trackList></playlist>`;
    const m3u = (album: boolean): string =>
      [
        '#EXTM3U',
        ...SONGS.flatMap(([artist, title, name]) => [
          `#EXTINF:200,${artist} - ${title}`,
          ...(album ? [`#EXTALB:${name}`] : []),
          `${title}.mp3`,
        ]),
      ].join('\n');
    const at = (n: number): string => `2026-11-23T10:0${n}:10`;

    it.each<[name: string, text: string | Buffer, start: string]>([
      ['commas.csv', table(',', 'artist,title,album', (song) => [...song]), '00:00:00'],
      [
        'semicolons.csv',
        table(';', 'Album;Title;Artist', ([artist, title, album]) => [album!, title!, artist!]),
        '00:00:00',
      ],
      ['tabs.tsv', table('\t', 'artist\ttitle\talbum', (song) => [...song]), '00:00:00'],
      ['pipes.txt', table('|', 'ARTIST|TITLE|ALBUM', (song) => [...song]), '00:00:00'],
      ['starts.csv', table(',', 'start,artist,title,album', (song, n) => [at(n), ...song]), at(0)],
      [
        'spaced.csv',
        table(',', 'Start time,Artist,Title,Album', (song, n) => [at(n).replace('T', ' '), ...song]),
        at(0),
      ],
      ['zone.csv', table(',', 'start,artist,title,album', (song, n) => [`${at(n)}+01:00`, ...song]), at(0)],
      ['clock.csv', table(',', 'start,artist,title,album', (song, n) => [`10:0${n}`, ...song]), '10:00:00'],
      ['half.csv', table(',', 'start,artist,title,album', (song, n) => [`11:0${n}:10 pm`, ...song]), '23:00:10'],
      [
        'midnight.csv',
        table(',', 'start,artist,title,album', (song, n) => [n < 3 ? `23:5${n}:00` : `00:0${n}:00`, ...song]),
        '23:50:00',
      ],
      ['lengths.csv', table(',', 'artist,title,album,duration', (song, n) => [...song, `3:0${n}`]), '00:00:00'],
      ['seconds.csv', table(',', 'artist,title,album,duration', (song) => [...song, '200']), '00:00:00'],
      ['quoted.csv', table(',', 'artist,title,album', (song) => song.map((cell) => `"${cell}"`)), '00:00:00'],
      ['dos.csv', table(',', 'artist,title,album', (song) => [...song]).replaceAll('\n', '\r\n'), '00:00:00'],
      ['marked.csv', `\uFEFF${table(',', 'artist,title,album', (song) => [...song])}`, '00:00:00'],
      [
        'windows.csv',
        Buffer.from(
          table(',', 'artist,title,album', (song) => [...song]),
          'latin1',
        ),
        '00:00:00',
      ],
      [
        'wide.csv',
        Buffer.from(`\uFEFF${table(',', 'artist,title,album', (song) => [...song])}`, 'utf16le'),
        '00:00:00',
      ],
      ['albums.m3u8', m3u(true), '00:00:00'],
      ['list.xspf', xspf((song) => `<album>${song[2]}</album>`), '00:00:00'],
      [
        'list.json',
        JSON.stringify(SONGS.map(([artist, title, album]) => ({ artist, title, album, durationMs: 200_000 }))),
        '00:00:00',
      ],
      [
        'within.json',
        JSON.stringify({ name: 'Party', tracks: SONGS.map(([artist, title, album]) => ({ artist, title, album })) }),
        '00:00:00',
      ],
    ])('%s', (name, text, start) => {
      const file = path.join(folder, name);
      writeFileSync(file, text);
      const done = fuller('check', file, '--json');
      expect([done.code, done.json()]).toEqual([
        4,
        {
          pass: false,
          pack: 'web-radio',
          strict: false,
          entries: 5,
          violations: [{ ...FOUR, start }],
          mend: { remove: [5] },
        },
      ]);
    });

    it.each<[name: string, text: string, more: string[], violations: object[]]>([
      ['none.m3u', m3u(false), [], []],
      [
        'none.pls',
        `[playlist]\n${SONGS.map(([artist, title], n) => `File${n + 1}=a${n}.mp3\nTitle${n + 1}=${artist} - ${title}\nLength${n + 1}=200`).join('\n')}\nNumberOfEntries=5\nVersion=2\n`,
        ['--strict'],
        [{ limit: 'artist-4-in-3h', count: 4, allowed: 3 }],
      ],
      [
        'sets.csv',
        `artist,title,set\n${[1, 2, 3, 4].map((n) => `A${n},T${n},Box`).join('\n')}`,
        [],
        [{ limit: 'set-3-in-a-row', value: 'Box' }],
      ],
      ['waived.csv', table(',', 'artist,title,album', (song) => [...song]), ['--exempt', 'LOW'], []],
    ])('%s, with what it is asked', (name, text, more, violations) => {
      const file = path.join(folder, name);
      writeFileSync(file, text);
      const done = fuller('check', file, ...more, '--json');
      expect(done.json()).toMatchObject({ pass: violations.length === 0, violations });
      expect(done.code).toBe(violations.length === 0 ? 0 : 4);
    });

    it('and logs, in words as well', () => {
      const done = fuller('check', '--data', data, '--date', later);
      expect([done.code, done.out]).toEqual([0, expect.stringMatching(/pass, \d{3} songs/)]);
      const words = fuller('check', path.join(folder, 'starts.csv'), '--data', data);
      expect(words.code).toBe(4);
      expect(words.out).toContain(`${at(0)}  Low: 4 songs of one album in three hours, 3 allowed`);
      expect(words.out).toContain('Without position 5 it passes.');
    });

    it.each([
      [['check'], 'name a file to check'],
      [['check', 'none.csv'], 'there is no such file'],
      [['check', '--date', later], '--date needs --data'],
      [['check', path.join(folder, 'odd.csv')], 'line 3, column start: “soon” is not a time of day'],
      [['check', 'a.csv', '--pack', 'tv'], 'Allowed choices are web-radio'],
    ])('names what is wrong: %j', (args, why) => {
      writeFileSync(path.join(folder, 'odd.csv'), 'title,start\nOne,10:00\nTwo,soon\n');
      const done = fuller(...args);
      expect([done.code, done.err]).toEqual([2, expect.stringContaining(why)]);
    });
  });

  it('helps', () => {
    expect(fuller('--help')).toMatchObject({ code: 0, out: expect.stringContaining('Exit codes') });
    expect(fuller('import', 'library', '--help').out).toContain('--dry-run');
  });
});
