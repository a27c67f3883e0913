import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import '../testing/seed.js';
import { detectDelimiter } from '../formats/csv.js';
import { detectFormat, readRows } from '../formats/playlist-rows.js';
import { checkLimits, type LimitEntry } from './check-limits.js';
import { STANDARD_LIMITS } from './limits.js';
import { mendOf } from './mend.js';
import { playlistSongs, type PlaylistSong } from './playlist-entries.js';
import { limitReport } from './report.js';

type Row = readonly [artist: string, album: string, title?: string, set?: string];

/** Songs of 200 s that follow each other. */
function list(rows: readonly Row[], seconds = 200): LimitEntry[] {
  return rows.map(([artist, album, title, set], at) => ({
    position: at + 1,
    start: at * seconds,
    artist,
    album,
    title: title ?? `Song ${at}`,
    set,
  }));
}

/** Other songs in between, which share nothing. */
const others = (count: number, from = 0): Row[] =>
  Array.from({ length: count }, (_, n): Row => [`Act ${from + n}x`, `Record ${from + n}`]);

const limitsOf = (entries: readonly LimitEntry[], strict = false): string[] =>
  checkLimits(entries, { ...STANDARD_LIMITS, strict }).map(({ limit }) => limit);

describe('the statutory limits', () => {
  it('are three of an album in any three hours, wherever the hours of the clock lie', () => {
    // Two acts may each have an album of one name; four of the five are of Ash's.
    const five: Row[] = [
      ['Ash', 'Low'],
      ['Ash', 'Low'],
      ['Bex', 'Low'],
      ['Ash', 'Low'],
      ['Ash', 'Low'],
    ];
    expect(checkLimits(list(five, 2700), STANDARD_LIMITS)).toEqual([]);
    const found = checkLimits(list(five, 2600), STANDARD_LIMITS);
    expect(found).toEqual([
      { limit: 'album-3-in-3h', value: 'Low', positions: [1, 2, 4, 5], start: 0, count: 4, allowed: 3 },
    ]);
  });

  it('count the plays that start less than three hours after the first', () => {
    const four = (last: number): LimitEntry[] =>
      [0, 3000, 6000, last].map((start, at) => ({
        position: at + 1,
        start,
        artist: `Guest ${at}`,
        albumArtist: 'Various',
        album: 'Collected',
        title: `Song ${at}`,
      }));
    expect(limitsOf(four(10_799))).toContain('album-3-in-3h');
    expect(limitsOf(four(10_800))).not.toContain('album-3-in-3h');
  });

  it.each([
    ['two of an album in a row', [['A', 'X'], ['A', 'X'], ...others(5)], []],
    ['three of an album in a row', [['A', 'X'], ['A', 'X'], ['A', 'X'], ...others(5)], ['album-2-in-a-row']],
    ['three of an artist in a row', [['A', 'X'], ['A', 'Y'], ['A', 'Z'], ...others(5)], []],
    [
      'four of an artist in a row',
      [
        ['A', 'X'],
        ['A', 'Y'],
        ['A', 'Z'],
        ['A', 'W'],
      ],
      ['artist-3-in-a-row'],
    ],
    [
      'five of an artist apart',
      [['A', 'V'], ...others(1), ['A', 'W'], ...others(1, 9), ['A', 'X'], ['A', 'Y'], ['A', 'Z']],
      ['artist-4-in-3h'],
    ],
    [
      'the same recording again',
      [
        ['A', 'X', 'One'],
        ['a', 'x', 'ONE'],
        ['Á', 'X', 'Oné'],
        ['A', 'X', 'Two'],
      ],
      [],
    ],
    [
      'four of a set in a row',
      others(4).map(([artist, album]): Row => [artist, album, undefined, 'The Box']),
      ['set-3-in-a-row'],
    ],
    [
      'five of a set',
      [0, 1, 2, 3, 4].flatMap((n): Row[] => [[`S${n}`, `T${n}`, undefined, 'Box'], ...others(1, 20 + n)]),
      ['set-4-in-3h'],
    ],
  ] as [string, Row[], string[]][])('say of %s what they should', (_, rows, expected) => {
    expect(limitsOf(list(rows))).toEqual(expected);
  });

  it('stop one short in any period, not in a row, where they are strict', () => {
    const three = list([['A', 'X'], ...others(1), ['A', 'X'], ...others(1, 5), ['A', 'X']]);
    expect([limitsOf(three), limitsOf(three, true)]).toEqual([[], ['album-3-in-3h']]);
    expect(
      limitsOf(
        list([
          ['A', 'X'],
          ['A', 'X'],
        ]),
        true,
      ),
    ).toEqual([]);
    const exempt = checkLimits(three, { strict: true, exemptAlbums: ['x'] });
    expect(exempt).toEqual([]);
  });

  it('count an act for its own songs and for those with guests, under the name the list gives it', () => {
    const rows: Row[] = [
      ['Oona & the Otters', 'A'],
      ['Oona & the Otters feat. Piers', 'B'],
      ['oona and the otters', 'C'],
      ['Oona & the Otters', 'D'],
    ];
    expect(checkLimits(list(rows), STANDARD_LIMITS)).toMatchObject([
      { limit: 'artist-3-in-a-row', value: 'Oona & the Otters', positions: [1, 2, 3, 4] },
    ]);
    const pair = list([
      ['Ash & Bex', 'A'],
      ['Ash & Bex', 'B'],
      ['Ash & Bex', 'C'],
      ['Ash & Bex', 'D'],
    ]);
    expect(checkLimits(pair, STANDARD_LIMITS).map(({ value }) => value)).toEqual(['Ash & Bex']);
  });
});

/** Whether a list keeps the limits, told by trying every period that begins with a song. */
function keeps(entries: readonly LimitEntry[]): boolean {
  const different = (songs: readonly LimitEntry[]): number =>
    new Set(songs.map(({ title, artist }) => `${title}|${artist}`)).size;
  const subjects = [
    { of: ({ album, artist }: LimitEntry) => `${album}|${artist}`, inPeriod: 3, inARow: 2 },
    { of: ({ artist }: LimitEntry) => artist, inPeriod: 4, inARow: 3 },
  ];
  return subjects.every(({ of, inPeriod, inARow }) =>
    entries.every((first, at) => {
      const period = entries.filter(({ start }) => start >= first.start && start < first.start + 10_800);
      const same = period.filter((one) => of(one) === of(first));
      const end = entries.findIndex((one, n) => n > at && of(one) !== of(first));
      const row = entries.slice(at, end < 0 ? undefined : end).filter(({ start }) => start < first.start + 10_800);
      return different(same) <= inPeriod && different(row) <= inARow;
    }),
  );
}

/** A list without some songs, those after them moved up. */
function without(entries: readonly LimitEntry[], gone: readonly number[]): LimitEntry[] {
  let moved = 0;
  return entries.flatMap((entry, at) => {
    if (gone.includes(entry.position)) {
      moved += at + 1 < entries.length ? entries[at + 1]!.start - entry.start : 0;
      return [];
    }
    return [{ ...entry, start: entry.start - moved }];
  });
}

describe('any list', () => {
  const lists = fc
    .array(
      fc.record({
        artist: fc.constantFrom('A', 'A', 'B', 'C'),
        album: fc.constantFrom('X', 'X', 'Y'),
        title: fc.integer({ min: 1, max: 6 }),
        seconds: fc.constantFrom(200, 900, 2500),
      }),
      { minLength: 1, maxLength: 10 },
    )
    .map((rows) => {
      let start = 0;
      return rows.map(({ artist, album, title, seconds }, at): LimitEntry => {
        const entry = { position: at + 1, start, artist, album, title: `T${title}` };
        start += seconds;
        return entry;
      });
    });

  it('passes when every period of it does, and only then', () => {
    fc.assert(
      fc.property(lists, (entries) => {
        expect(checkLimits(entries, STANDARD_LIMITS).length === 0).toBe(keeps(entries));
      }),
      { numRuns: 2000 },
    );
  });

  it('passes once mended, and would not with one song fewer taken out', () => {
    fc.assert(
      fc.property(lists, (entries) => {
        const { positions, smallest } = mendOf(entries, STANDARD_LIMITS, 'remove');
        expect(keeps(without(entries, positions))).toBe(true);
        expect(smallest).toBe(true);
        if (positions.length > 0) expect(someSubsetMends(entries, positions.length - 1)).toBe(false);
      }),
      { numRuns: 150 },
    );
  });

  it('passes with other songs in the place of those named', () => {
    fc.assert(
      fc.property(lists, (entries) => {
        const { positions } = mendOf(entries, STANDARD_LIMITS, 'replace');
        const replaced = entries.map((entry) =>
          positions.includes(entry.position)
            ? { ...entry, artist: `New ${entry.position}`, album: `N${entry.position}` }
            : entry,
        );
        expect(checkLimits(replaced, STANDARD_LIMITS)).toEqual([]);
      }),
      { numRuns: 300 },
    );
  });
});

/** Whether taking out at most so many songs would do, by trying every choice. */
function someSubsetMends(entries: readonly LimitEntry[], most: number): boolean {
  for (let choice = 0; choice < 2 ** entries.length; choice++) {
    const gone = entries.flatMap(({ position }, at) => (choice & (1 << at) ? [position] : []));
    if (gone.length <= most && keeps(without(entries, gone))) return true;
  }
  return false;
}

function songsOf(text: string): readonly PlaylistSong[] {
  const read = playlistSongs(readRows(text, detectFormat(text), detectDelimiter(text)));
  if (!read.ok) throw new Error(read.why);
  return read.songs;
}

describe('a playlist file', () => {
  it('has the starts it names, those past midnight of the next day', () => {
    const songs = songsOf('start,artist,title\n23:58:00,A,One\n00:01:30,B,Two\n12:00 pm,C,Three\n');
    expect(songs.map(({ start, startText }) => [start, startText])).toEqual([
      [86_280, '23:58:00'],
      [86_490, '24:01:30'],
      [129_600, '36:00:00'],
    ]);
    expect(
      songsOf('start;title\n2026-11-23T10:04:10;One\n2026-11-23 10:08;Two\n').map(({ startText }) => startText),
    ).toEqual(['2026-11-23T10:04:10', '2026-11-23T10:08:00']);
  });

  it('follows on from 00:00:00 without starts, 3:30 for what has no length', () => {
    const text = 'Artist\tTitle\tDuration\nA\tOne\t2:00\nB\tTwo\t\nC\tThree\t200000 ms\n';
    expect(songsOf(text).map(({ startText }) => startText)).toEqual(['00:00:00', '00:02:00', '00:05:30']);
    expect(playlistSongs(readRows(text, 'table', '\t'))).toMatchObject({ ok: true, withoutLength: 1 });
  });

  it.each([
    ['', 1, null, 'holds no songs'],
    ['a,b\n1,2\n', 1, null, 'names none of the columns'],
    ['title,duration\nOne,3:00\nTwo,soon\n', 3, 'duration', '“soon” is not a length'],
    ['title,start\nOne,25:00\n', 2, 'start', '“25:00” is not a time of day'],
    ['title,start\nOne,\n', 2, 'start', '“” is not a time of day'],
  ])('is refused where it cannot be read: %j', (text, line, column, why) => {
    const read = playlistSongs(readRows(text, 'table', ','));
    expect(read).toMatchObject({ ok: false, line, column });
    expect(read.ok ? '' : read.why).toContain(why);
  });

  it('is reported with the fields other programs rely on', () => {
    const rows = [1, 2, 3, 4].map((n) => `2026-11-23T10:0${n}:10,Ash,Song ${n},Low`).join('\n');
    const { report } = limitReport(songsOf(`start,artist,title,album\n${rows}\n`), STANDARD_LIMITS);
    expect(report).toEqual({
      pass: false,
      pack: 'web-radio',
      strict: false,
      entries: 4,
      violations: [
        {
          limit: 'album-3-in-3h',
          value: 'Low',
          positions: [1, 2, 3, 4],
          start: '2026-11-23T10:01:10',
          count: 4,
          allowed: 3,
        },
        {
          limit: 'album-2-in-a-row',
          value: 'Low',
          positions: [1, 2, 3, 4],
          start: '2026-11-23T10:01:10',
          count: 4,
          allowed: 2,
        },
        {
          limit: 'artist-3-in-a-row',
          value: 'Ash',
          positions: [1, 2, 3, 4],
          start: '2026-11-23T10:01:10',
          count: 4,
          allowed: 3,
        },
      ],
      mend: { remove: [3, 4] },
    });
    expect(report.mend.remove).toHaveLength(2);
  });
});
