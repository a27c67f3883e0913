import { describe, expect, it } from '@jest/globals';
import { guessMapping, looksLikeHeader, type ColumnMapping } from './import-fields.js';
import { planImport, type ExistingItem } from './import-plan.js';
import { readRow, type ItemDraft } from './import-row.js';

const MAPPING: ColumnMapping = ['title', 'artist', 'year', 'duration', 'cart'];

function draft(row: number, ...cells: string[]): ItemDraft {
  const read = readRow(row, cells, MAPPING, 2027);
  if (!('draft' in read)) throw new Error(JSON.stringify(read));
  return read.draft;
}

function faults(...cells: string[]): string[] {
  const read = readRow(7, cells, MAPPING, 2027);
  return 'errors' in read ? read.errors.map(({ column, why }) => `${column}: ${why}`) : [];
}

describe('headings', () => {
  it('are guessed in any case, each meaning once', () => {
    expect(guessMapping(['Song Title', 'ARTIST', 'Release_Year', 'Length', 'Cart Number', 'Title', 'Colour'])).toEqual([
      'title',
      'artist',
      'year',
      'duration',
      'cart',
      null,
      null,
    ]);
  });

  it('are told from a first song', () => {
    expect(looksLikeHeader(['Title', 'Artist'])).toBe(true);
    expect(looksLikeHeader(['Burning River', 'Yara Quillane'])).toBe(false);
  });
});

describe('readRow', () => {
  it('reads a row', () => {
    expect(draft(3, ' Burning River ', 'Yara', '2024-05-01', '3:31', 'M1')).toMatchObject({
      row: 3,
      title: 'Burning River',
      artist: 'Yara',
      year: 2024,
      durationMs: 211_000,
      cart: 'M1',
      album: null,
    });
  });

  it('tells every fault of a row by column', () => {
    expect(faults('', 'Yara', '1492', '99:99', 'M1')).toEqual(
      [
        'year: “1492” is not a year from 1860 to 2027',
        'duration: “99:99” is not a length between 0:00.001 and 24 hours',
        'title: is empty',
      ].sort(
        (a, b) =>
          ['title', 'year', 'duration'].indexOf(a.split(':')[0]!) -
          ['title', 'year', 'duration'].indexOf(b.split(':')[0]!),
      ),
    );
  });

  it.each([
    [['a', 'b'], ': 2 cells where the first row has 5'],
    [['x'.repeat(501), '', '', '', ''], 'title: longer than 500 characters'],
    [['Bad \uFFFD byte', '', '', '', ''], 'title: holds bytes that are not in the encoding of the file'],
    [['a', '', '', '0:00', ''], 'duration: “0:00” is not a length between 0:00.001 and 24 hours'],
    [['a', '', '', '25:00:00', ''], 'duration: “25:00:00” is not a length between 0:00.001 and 24 hours'],
    [['a', '', '2028', '', ''], 'year: “2028” is not a year from 1860 to 2027'],
  ])('refuses %j', (cells, why) => expect(faults(...cells)).toEqual([why]));

  it('refuses an intro longer than the item', () => {
    const read = readRow(1, ['a', '1:00', '2:00'], ['title', 'duration', 'intro'], 2027);
    expect(read).toEqual({ errors: [{ row: 1, column: 'intro', why: 'is longer than the item' }] });
  });
});

describe('planImport', () => {
  const stored: ExistingItem = {
    id: 'i1',
    kind: 'song',
    title: 'Burning River',
    artist: 'Yara Quillane',
    album: '',
    year: 2024,
    durationMs: 211_000,
    introMs: null,
    outroMs: null,
    cart: 'M1',
    file: null,
    isrc: null,
    label: null,
    notes: '',
    startDate: null,
    endDate: null,
    tags: { mood: ['calm'] },
  };

  it('meets items by cart and tells what changes, field by field', () => {
    const plan = planImport([draft(2, 'Burning River', 'Yara Quillane', '2023', '3:31', 'M1')], [stored]);
    expect(plan).toMatchObject({
      added: [],
      rejected: [],
      changed: [{ itemId: 'i1', changes: [{ field: 'year', before: 2024, after: 2023 }] }],
    });
  });

  it('leaves alone what a row does not say', () => {
    expect(planImport([draft(2, 'Burning River', '', '', '', 'M1')], [stored]).unchanged).toHaveLength(1);
  });

  it('meets items without cart and file by title, artist and album in any spelling', () => {
    const bare = { ...stored, cart: null };
    const plan = planImport([draft(2, 'burning  RIVER', 'yara quillane', '', '', '')], [bare]);
    expect(plan.added).toHaveLength(0);
    expect(plan.changed[0]?.itemId).toBe('i1');
  });

  it('rejects a row that repeats an earlier one', () => {
    const plan = planImport([draft(2, 'One', 'A', '', '', 'C1'), draft(3, 'Two', 'B', '', '', 'C1')], []);
    expect(plan.added).toHaveLength(1);
    expect(plan.rejected).toEqual([{ row: 3, column: 'cart', why: 'the same as in row 2' }]);
  });

  it('changes the tags a row says and no others', () => {
    const draftOf = (tags: ItemDraft['tags']) => ({ ...draft(2, 'Burning River', '', '', '', 'M1'), tags });
    expect(planImport([draftOf({ mood: ['calm'] })], [stored]).unchanged).toHaveLength(1);
    expect(planImport([draftOf({ mood: ['wild'], era: ['20s'] })], [stored]).changed[0]?.changes).toEqual([
      { field: 'tag:mood', before: ['calm'], after: ['wild'] },
      { field: 'tag:era', before: [], after: ['20s'] },
    ]);
  });
});

describe('tag columns', () => {
  const families = [
    { name: 'Mood', single: false, values: [{ value: 'Calm', code: 'C', colour: null }] },
    { name: 'tempo', single: true, values: [{ value: 'up, and away', code: '', colour: null }] },
  ];
  const read = (mood: string, tempo = '') =>
    readRow(2, ['Title', mood, tempo], ['title', 'tag:Mood', 'tag:tempo'], 2027, families);

  it('are known by their headings', () => {
    expect(guessMapping(['Title', 'MOOD', 'mood', 'Tempo'], ['Mood', 'tempo'])).toEqual([
      'title',
      'tag:Mood',
      null,
      'tag:tempo',
    ]);
  });

  it.each([
    ['calm; Wild', 'UP, and Away', { Mood: ['Calm', 'Wild'], tempo: ['up, and away'] }],
    ['c|C', '', { Mood: ['Calm'] }],
    ['', 'fast', { tempo: ['fast'] }],
  ])('read %j and %j', (mood, tempo, tags) => {
    const row = read(mood, tempo);
    expect('draft' in row && row.draft.tags).toEqual(tags);
  });

  it.each([
    ['calm', 'fast, slow', 'tempo', 'has several values where there can be one'],
    ['x'.repeat(61), '', 'Mood', 'holds a value of more than 60 letters'],
  ])('refuse %j and %j', (mood, tempo, column, why) => {
    expect(read(mood, tempo)).toEqual({ errors: [{ row: 2, column, why }] });
  });
});
