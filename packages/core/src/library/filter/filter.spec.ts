import { describe, expect, it } from '@jest/globals';
import { completionsOf, valuesInField, withField } from './complete-filter.js';
import type { FilterVocabulary } from './filter.js';
import { matchesFilter, type FilterableItem } from './match-filter.js';
import { parseFilter } from './parse-filter.js';
import { asWords } from './tokens.js';

const VOCABULARY: FilterVocabulary = {
  categories: [
    { id: 'cat-g', code: 'G', name: 'Gold' },
    { id: 'cat-l', code: 'L', name: 'Late café' },
  ],
  families: { tempo: ['1', '2', '3'], voice: ['duet', 'female'], 'Sung in': ['gaeilge'] },
};
const NOW = Date.UTC(2026, 10, 23, 12);
const ITEM: FilterableItem = {
  title: 'Réalta na Mara',
  artist: 'Nuala & the Otters',
  album: 'Low Tide',
  kind: 'song',
  year: 1994,
  durationMs: 210_400,
  introMs: 12_000,
  outroMs: null,
  cart: 'VR1204',
  file: null,
  notes: 'Recorded at the wharf',
  label: null,
  approved: true,
  tags: { tempo: ['2'], voice: ['female', 'duet'] },
  categoryIds: ['cat-g'],
  lastPlayedMs: NOW - 30 * 3_600_000,
};

function finds(text: string, item = ITEM): boolean {
  const parsed = parseFilter(text, VOCABULARY);
  if (!parsed.ok) throw new Error(parsed.fault.why);
  return matchesFilter(parsed.filter, item, NOW);
}

describe('a filter', () => {
  it.each([
    ['', true],
    ['***', true],
    ['realta mar', true],
    ['tide nuala', true],
    ['wharf', false],
    ['-wharf', true],
    ['notes:wharf', true],
    ['title:otters', false],
    ['artist:otters,weir', true],
    ['"low tide"', true],
    ['album:"low wide"', false],
    ['label:none', true],
    ['approved:any', true],
    ['approved:none', false],
    ['album:none', false],
    ['year:1994', true],
    ['year:..1993', false],
    ['year:1990..1999', true],
    ['-year:1990..', false],
    ['length:3:30', true],
    ['length:3:31..', false],
    ['length:3:00..3:30', true],
    ['intro:..0:11', false],
    ['outro:none', true],
    ['outro:..9:00', false],
    ['rested:24h', true],
    ['rested:2d', false],
    ['rested:..24h', false],
    ['rested:never', false],
    ['kind:song,sweeper', true],
    ['kind:"station id"', false],
    ['category:g', true],
    ['category:"late cafe",none', false],
    ['category:GOLD', true],
    ['tempo:1,2', true],
    ['-tempo:2', false],
    ['voice:Female', true],
    ['sung-in:none', true],
    ['sung-in:gaeilge', false],
    ['cart:vr12', true],
    ['cart:12', false],
    ['file:none', true],
    ['file:any', false],
    ['mara year:1994 -tempo:3 rested:1d..2d', true],
    ['title:"realta', true],
  ])('%j answers %s', (text, expected) => {
    expect(finds(text)).toBe(expected);
  });

  it.each(['Coming up: Réalta', '-5 -Below', 'He said "no"', 'plain words'])(
    'finds a title such as %j by its words',
    (title) => {
      expect(finds(asWords(title), { ...ITEM, title })).toBe(true);
    },
  );

  it('counts what never played as rested longer than anything', () => {
    const fresh = { ...ITEM, lastPlayedMs: null };
    expect(['rested:28d', 'rested:never', '-rested:..7d'].map((text) => finds(text, fresh))).toEqual([
      true,
      true,
      true,
    ]);
    expect(finds('rested:..28d', fresh)).toBe(false);
  });

  it.each([
    ['mara mood:dark', 5, 5, 'no field “mood”'],
    ['tempo:9', 6, 1, 'no tempo “9”; there is 1, 2, 3'],
    ['x -category:Z', 12, 1, 'no category “Z”; there is G, L'],
    ['year:199x', 5, 4, 'is not a year like'],
    ['year:1999..1990', 5, 10, '1999 comes after 1990'],
    ['year:..', 5, 2, 'is not a year'],
    ['length:3:75', 7, 4, 'is not a length'],
    ['rested:7', 7, 1, 'is not a time like 7d'],
    ['kind:opera', 5, 5, 'no kind “opera”'],
    ['kind:none', 0, 9, 'Every item has a kind'],
    ['file:yes', 5, 3, 'Write file:any'],
    ['title:', 6, 1, 'Say which title'],
    ['title:--', 6, 2, 'no letter or figure'],
  ])('%j is refused with where and why', (text, at, length, why) => {
    const parsed = parseFilter(text, VOCABULARY);
    expect(parsed).toMatchObject({ ok: false, fault: { at, length, why: expect.stringContaining(why) } });
  });
});

describe('completing a filter', () => {
  const labels = (text: string, caret = text.length): string[] =>
    completionsOf(text, caret, VOCABULARY).map(({ label }) => label);

  it('offers fields that begin so, tag families among them, and values of the field in hand', () => {
    expect(labels('mara t')).toEqual(['title:', 'tempo:']);
    expect(labels('-su')).toEqual(['sung-in:']);
    expect(labels('tempo:1,')).toEqual(['1', '2', '3', 'none']);
    expect(labels('category:la')).toEqual(['L']);
    expect(labels('kind:station')).toEqual(['station ID']);
    expect(labels('mara ')).toEqual([]);
  });

  it('takes a completion in where the caret is and leaves the rest', () => {
    const [first] = completionsOf('kind:sta year:1994', 8, VOCABULARY);
    expect(first).toMatchObject({ text: 'kind:"station ID" year:1994', caret: 17 });
  });

  it('puts the values of one field in place and finds them again', () => {
    const text = withField('mara tempo:1 -tempo:3 year:1994', 'tempo', ['2', 'very slow']);
    expect(text).toBe('mara -tempo:3 year:1994 tempo:2,"very slow"');
    expect(valuesInField(text, 'tempo')).toEqual(['2', 'very slow']);
    expect(withField(text, 'tempo', [])).toBe('mara -tempo:3 year:1994');
  });
});
