import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { TURN_ORDERS } from '../../rotation/category.js';
import { LINE_FLAGS } from '../line-flags.js';
import type { Clock, ClockLine } from '../line.js';
import { mergeLines } from './merge-lines.js';
import { readClock, type TextLine } from './read-clock.js';
import { writeClock } from './write-clock.js';

const BOOK = {
  sources: [
    { id: 'cat-a', name: 'Current A' },
    { id: 'cat-b', name: 'Gold “bright” \\ "1"' },
    { id: 'pool-1', name: 'Twice' },
    { id: 'pool-2', name: 'twice' },
  ],
  families: ['Mood', 'era'],
  setLists: [{ id: 'list-1', name: 'Sunday “late”' }],
  items: [
    { id: 'i1', name: 'Lock song' },
    { id: 'i2', name: 'LOCK SONG' },
    { id: 'i3', name: 'Bells -- and [more]' },
  ],
};

const source = fc.constantFrom(...BOOK.sources.map(({ id }) => id));
const item = fc.constantFrom(...BOOK.items.map(({ id }) => id));
const text = fc.string({ minLength: 1, maxLength: 12, unit: 'grapheme' });
const comment = fc
  .string({ maxLength: 12, unit: 'grapheme' })
  .map((one) => one.replace(/[\r\n]/g, '').trim())
  .filter((one) => one === one.trim());
const ms = fc.nat(3_599_999);
const line: fc.Arbitrary<ClockLine> = fc.oneof(
  fc.record(
    {
      id: fc.uuid(),
      kind: fc.constant('pick' as const),
      categoryId: source,
      filter: text,
      turnOrder: fc.constantFrom(...TURN_ORDERS),
      rules: fc.constant('off' as const),
      spare: fc.constant(true as const),
      theme: fc.record({
        by: fc.constantFrom('artist', 'album', 'year', 'decade', 'Mood', 'era'),
        group: fc.constantFrom('A', 'B', 'two in a row'),
      }),
      ask: text,
      note: text,
      comment,
    },
    { requiredKeys: ['id', 'kind', 'categoryId', 'comment'] },
  ),
  fc.record(
    { id: fc.uuid(), kind: fc.constant('item' as const), itemId: item, spare: fc.constant(true as const), comment },
    { requiredKeys: ['id', 'kind', 'itemId', 'comment'] },
  ),
  fc.record({ id: fc.uuid(), kind: fc.constant('break' as const), bookedAtMs: ms, durationMs: ms, comment }),
  fc.record(
    {
      id: fc.uuid(),
      kind: fc.constant('moment' as const),
      atMs: ms,
      hard: fc.boolean(),
      itemId: fc.constant(null),
      categoryId: source,
      filter: text,
      comment,
    },
    { requiredKeys: ['id', 'kind', 'atMs', 'hard', 'itemId', 'categoryId', 'comment'] },
  ),
  fc.record({
    id: fc.uuid(),
    kind: fc.constant('moment' as const),
    atMs: ms,
    hard: fc.boolean(),
    itemId: item,
    categoryId: fc.constant(null),
    comment,
  }),
  fc.record(
    { id: fc.uuid(), kind: fc.constant('fill' as const), categoryId: source, filter: text, comment },
    { requiredKeys: ['id', 'kind', 'categoryId', 'comment'] },
  ),
  fc.record({
    id: fc.uuid(),
    kind: fc.constant('set list' as const),
    setListId: fc.constant('list-1'),
    take: fc.oneof(fc.constant('all' as const), fc.integer({ min: 1, max: 200 })),
    from: fc.constantFrom('next' as const, 'top' as const),
    comment,
  }),
  fc.record({
    id: fc.uuid(),
    kind: fc.constant('tease' as const),
    target: fc.oneof(
      fc.record({ to: fc.constant('pick' as const), categoryId: source }),
      fc.record({ to: fc.constant('time' as const), atMs: ms }),
      fc.record({ to: fc.constant('next show' as const) }),
    ),
    comment,
  }),
  fc.record(
    { id: fc.uuid(), kind: fc.constant('sweeper' as const), categoryId: source, filter: text, comment },
    { requiredKeys: ['id', 'kind', 'categoryId', 'comment'] },
  ),
  fc.record({ id: fc.uuid(), kind: fc.constant('next show' as const), comment }),
  fc.record({ id: fc.uuid(), kind: fc.constant('note' as const), text, comment }),
);
const flags = fc
  .subarray(LINE_FLAGS.map(({ flag }) => flag))
  .map((set) => Object.fromEntries(set.map((flag) => [flag, true])));
const flagged = fc.tuple(line, flags).map(([one, set]) => ({ ...one, ...set }) as ClockLine);
const clock: fc.Arbitrary<Clock> = fc.record({
  id: fc.uuid(),
  name: text.map((one) => one.trim()).filter((one) => one !== ''),
  colour: fc.constantFrom('#24527A', '#000000'),
  lengthMs: fc.integer({ min: 1, max: 288 }).map((n) => n * 300_000),
  lines: fc.uniqueArray(flagged, { maxLength: 8, selector: ({ id }) => id }),
});
const withoutId = ({ id, ...rest }: ClockLine): TextLine => {
  void id;
  return rest as TextLine;
};

describe('clock text', () => {
  it('is read back without loss', () => {
    fc.assert(
      fc.property(clock, (one) => {
        const written = writeClock(one, BOOK);
        const { clock: read, faults } = readClock(written, BOOK);
        expect(faults).toEqual([]);
        expect(read.head).toEqual({ name: one.name, lengthMs: one.lengthMs, colour: one.colour });
        expect(read.lines).toEqual(one.lines.map(withoutId));
        expect(mergeLines(one.lines, read.lines, () => 'new').map(({ id }) => id)).toEqual(
          one.lines.map(({ id }) => id),
        );
      }),
    );
  });

  it('takes what player and print are asked from the end of a line, in any order, and each once', () => {
    const read = readClock('break at 12:00 for 2:00 no print then wait no fade', BOOK);
    expect(read.clock.lines).toMatchObject([{ kind: 'break', noPrint: true, waits: true, noFade: true }]);
    const twice = readClock('item "i1" [i1] no file no file', BOOK);
    expect(twice.faults).toMatchObject([{ line: 1, message: 'This has been said already.' }]);
    expect(readClock('no fade', BOOK).faults).toHaveLength(1);
  });

  it('names the line a tease announces by its place, and keeps to that line', () => {
    const before: ClockLine[] = [
      { id: 't', kind: 'tease', target: { to: 'line', lineId: 'b' }, comment: '' },
      { id: 'a', kind: 'pick', categoryId: 'cat-a', comment: '' },
      { id: 'b', kind: 'pick', categoryId: 'cat-b', comment: '' },
    ];
    const clock = { name: 'Hour', colour: '#24527A', lengthMs: 3_600_000, lines: before };
    const written = writeClock(clock, BOOK);
    expect(written).toContain('tease line 3');
    // Another line before it, and the place written anew.
    const typed = written
      .replace('tease line 3', 'tease line 4')
      .replace('pick "Current A"', 'break at 5:00 for 1:00\n$&');
    const { clock: read, faults } = readClock(typed, BOOK);
    expect(faults).toEqual([]);
    const merged = mergeLines(before, read.lines, () => 'new');
    expect(merged.map(({ id }) => id)).toEqual(['t', 'new', 'a', 'b']);
    expect(merged[0]).toMatchObject({ target: { to: 'line', lineId: 'b' } });
  });

  it('reads what a person would type', () => {
    const typed =
      'pick "current a" spare turn fewest-plays where "tempo:4"  -- a fast one\n\n at 30:00 hard item "i1" [i1]';
    expect(readClock(typed, BOOK)).toEqual({
      faults: [],
      clock: {
        head: null,
        lines: [
          {
            kind: 'pick',
            categoryId: 'cat-a',
            spare: true,
            turnOrder: 'fewest plays',
            filter: 'tempo:4',
            comment: 'a fast one',
          },
          { kind: 'moment', atMs: 1_800_000, hard: true, itemId: 'i1', categoryId: null, comment: '' },
        ],
      },
    });
  });

  it.each([
    ['pick "Nobody"', 6, 8, 'There is no category or pool named “Nobody”.'],
    ['pick "Twice"', 6, 7, '2 are named “Twice”; write the id of one behind it: [pool-1] or [pool-2].'],
    ['pick', 5, 0, 'Here the name of a category or pool in quotes is wanted.'],
    ['pick "Current A" spare spare', 24, 5, 'This has been said already.'],
    ['pick "Current A" turn around', 23, 6, 'There is no turn order “around”'],
    ['pick "Current A" loudly', 18, 6, 'This is not understood here; a pick may have'],
    ['pick "Current A', 6, 8, 'Here the name of a category'],
    ['item "Lock song" [nobody]', 18, 8, 'No item has this id.'],
    ['break at noon', 10, 4, 'Here when the break is booked, like 12:00, is wanted.'],
    ['break at 12:75 for 2:00', 10, 5, 'Here when'],
    ['at 12:00 item "i3"', 10, 4, 'Here “hard” or “soft” is wanted.'],
    ['clock "x" 7:00', 11, 4, 'A clock is five minutes long or a multiple'],
    ['tease line 7', 12, 1, 'There is no line 7 in this clock.'],
    ['tease line 1', 12, 1, 'That line does not come after the tease.'],
    ['tease line seven', 12, 5, 'Here the number of a line is wanted.'],
    ['tease', 6, 0, 'Here what it announces is wanted'],
    ['tease at 45:00 hard', 16, 4, 'a tease announces one thing'],
    ['set list "Nobody"', 10, 8, 'There is no set list named “Nobody”.'],
    ['set list "Sunday “late”" next 0', 31, 1, 'A line plays 1 to 200 rows.'],
    ['sweeper "Nobody"', 9, 8, 'There is no category or pool named “Nobody”.'],
    [
      'pick "Current A" theme "colour"',
      24,
      8,
      'Lines cannot share “colour”; they share artist, album, year, decade, Mood, era.',
    ],
    ['dance', 1, 5, 'A line begins with pick'],
    ['-- alone', 1, 8, 'A line begins with pick'],
  ])('says what is wrong in %s, and where', (row, column, length, message) => {
    const { faults } = readClock(`note "first"\n${row}`.replace(/^note "first"\n(clock)/, '\n$1'), BOOK);
    expect(faults).toHaveLength(1);
    expect(faults[0]).toMatchObject({ line: 2, column, length });
    expect(faults[0]!.message).toContain(message);
  });

  it('refuses a second name, and a name after the lines', () => {
    const { faults } = readClock('note "a"\nclock "late" 60:00', BOOK);
    expect(faults[0]!.message).toBe('The clock is named once, before its lines.');
  });

  it('keeps the ids of lines that stayed when others come, go and change', () => {
    const pick = (categoryId: string, comment = ''): TextLine => ({ kind: 'pick', categoryId, comment });
    const before = ['cat-a', 'cat-b', 'pool-1'].map((id, n) => ({ ...pick(id), id: `l${n}` }) as ClockLine);
    const ids = (read: TextLine[]): string[] => mergeLines(before, read, () => 'new').map(({ id }) => id);
    expect(ids([pick('pool-2'), pick('cat-a'), pick('cat-b'), pick('pool-1')])).toEqual(['new', 'l0', 'l1', 'l2']);
    expect(ids([pick('cat-a'), pick('cat-b', 'changed'), pick('pool-1')])).toEqual(['l0', 'l1', 'l2']);
    expect(ids([pick('cat-a'), { kind: 'next show', comment: '' }, pick('pool-1')])).toEqual(['l0', 'new', 'l2']);
    expect(ids([pick('pool-1')])).toEqual(['l2']);
  });
});
