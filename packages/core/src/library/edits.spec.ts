import { describe, expect, it } from '@jest/globals';
import { bulkChange, type BulkEdit, type EditedItem } from './bulk-edit.js';
import { changeValues, movedValues, valueMeant, type NextValue } from './tag-family.js';

const ITEM: EditedItem = {
  title: 'Low Water (Live) live',
  artist: 'The Weir',
  label: null,
  year: 1994,
  tags: { mood: ['calm', 'warm'], tempo: ['2'] },
};

describe('a bulk edit', () => {
  it.each<[BulkEdit, unknown]>([
    [{ do: 'set', field: 'year', value: 1994 }, null],
    [{ do: 'replace', field: 'title', find: ' (LIVE)', by: '' }, 'Low Water live'],
    [{ do: 'replace', field: 'title', find: 'l', by: '$&' }, '$&ow Water ($&ive) $&ive'],
    [{ do: 'replace', field: 'title', find: 'w.t', by: '' }, null],
    [{ do: 'replace', field: 'label', find: 'a', by: 'b' }, null],
    [
      { do: 'tag', family: 'mood', how: 'add', values: ['warm', 'low'] },
      { mood: ['calm', 'warm', 'low'], tempo: ['2'] },
    ],
    [{ do: 'tag', family: 'mood', how: 'add', values: ['warm'] }, null],
    [
      { do: 'tag', family: 'mood', how: 'remove', values: ['warm'] },
      { mood: ['calm'], tempo: ['2'] },
    ],
    [{ do: 'tag', family: 'tempo', how: 'set', values: [] }, { mood: ['calm', 'warm'] }],
    [
      { do: 'tag', family: 'era', how: 'set', values: ['90s'] },
      { mood: ['calm', 'warm'], tempo: ['2'], era: ['90s'] },
    ],
  ])('%j', (edit, after) => {
    expect(bulkChange(ITEM, edit)?.after ?? null).toEqual(after);
  });

  it('tells clearing a field from changing nothing', () => {
    expect(bulkChange(ITEM, { do: 'set', field: 'year', value: null })).toMatchObject({ before: 1994, after: null });
    expect(bulkChange(ITEM, { do: 'set', field: 'label', value: null })).toBeNull();
  });
});

describe('the values of a tag family', () => {
  const value = (name: string, was: string | null = name): NextValue => ({ value: name, was, code: '', colour: null });
  const before = [value('calm'), value('fierce'), value('wild')];
  const used = new Map([
    ['calm', 3],
    ['wild', 1],
  ]);
  const change = (next: NextValue[], gone = {}) => changeValues(before, next, gone, used);

  it('are renamed, joined and ordered without losing one in use', () => {
    expect(change([value('wild'), value('quiet', 'calm')], {})).toMatchObject({
      ok: true,
      moved: new Map([
        ['calm', 'quiet'],
        ['fierce', null],
      ]),
    });
    expect(change([value('calm')])).toEqual({ ok: false, why: '“wild” is on an item; say what takes its place.' });
    const joined = change([value('calm')], { wild: 'calm' });
    expect(joined.ok && movedValues(['wild', 'calm', 'other'], joined.moved)).toEqual(['calm', 'other']);
    const taken = change([value('calm')], { wild: null });
    expect(taken.ok && movedValues(['wild'], taken.moved)).toEqual([]);
    expect(change([value('calm')], { wild: 'gone' })).toMatchObject({ ok: false });
    expect(change([...before, value('CALM', null)])).toEqual({ ok: false, why: '“CALM” and “calm” are one value.' });
  });

  it('are known by name or code, whatever the spelling', () => {
    const values = [
      { value: 'Female', code: 'M', colour: null },
      { value: 'm', code: '', colour: null },
      { value: 'Gaeilge', code: 'GA', colour: null },
    ];
    expect(['FEMALE', 'm', 'ga', 'x'].map((text) => valueMeant(text, values))).toEqual([
      'Female',
      'm',
      'Gaeilge',
      null,
    ]);
  });
});
