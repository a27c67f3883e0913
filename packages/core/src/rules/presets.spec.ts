import { describe, expect, it } from '@jest/globals';
import { daypartsAt } from './daypart.js';
import { RULE_EXAMPLES, RULE_PRESETS } from './presets.js';
import { RULE_SHAPES } from './rule.js';
import { ruleNames } from './rule-words.js';
import { faultOfRule, readRuleSentence, readRuleWindow, ruleSentence } from './sentence.js';

const names = ruleNames([{ id: 'tempo', name: 'Tempo', values: ['slow', 'fast'] }], ({ id }) => id, [
  { id: 'cat-1', name: 'Gold bright' },
  { id: 'cat-2', name: 'Gold' },
]);

describe('what a board begins with', () => {
  it('has an example of every shape, each of which is a rule', () => {
    expect(RULE_EXAMPLES.map(({ shape }) => shape)).toEqual([...RULE_SHAPES]);
    for (const { shape, example } of RULE_EXAMPLES) {
      const read = readRuleSentence(example.replace('VALUE', 'fast').replace('VALUE', 'slow'), names);
      expect([example, read.ok && read.parts.shape]).toEqual([example, shape]);
    }
  });

  it.each(RULE_PRESETS)('has the preset $name, whose rules hold together', ({ rules }) => {
    for (const { sentence, rank } of rules) {
      const read = readRuleSentence(sentence, names);
      if (!read.ok) throw new Error(`${sentence}: ${read.why}`);
      expect(ruleSentence(read.parts, names)).toBe(sentence);
      expect(faultOfRule({ ...read.parts, strength: rank === 0 ? 'hard' : 'soft', rank })).toBeNull();
    }
  });
});

describe('categories in sentences', () => {
  it('are named, the longest name first, and told by their name', () => {
    const read = readRuleSentence('at most 3 gold bright an hour', names);
    expect(read).toMatchObject({ ok: true, parts: { tag: 'category', value: 'cat-1', amount: 3 } });
    expect(read.ok && ruleSentence(read.parts, names)).toBe('At most 3 of category Gold bright an hour');
    expect(readRuleSentence('no gold after gold bright', names)).toMatchObject({
      parts: { tag: 'category', value: 'cat-1', followedBy: 'cat-2' },
    });
    expect(read.ok && ruleSentence({ ...read.parts, value: 'gone' }, names)).toContain('deleted value');
  });
});

describe('a stretch of time', () => {
  it.each([
    ['an hour', null],
    ['hour', null],
    ['per clock hour', null],
    ['in 3 h', 10_800],
    ['90 min', 5400],
    ['2 days', 172_800],
  ])('is “%s”', (text, windowSeconds) => {
    expect(readRuleWindow(text)).toEqual({ ok: true, windowSeconds });
  });

  it('is none that is too long or no time', () => {
    expect([readRuleWindow('29 days').ok, readRuleWindow('ever').ok, readRuleWindow('0 min').ok]).toEqual([
      false,
      false,
      false,
    ]);
  });
});

it('dayparts hold hours of the week, several at once', () => {
  const part = (id: string, cells: number[]) => ({
    id,
    name: id,
    hours: Array.from({ length: 168 }, (_, cell) => (cells.includes(cell) ? '1' : '0')).join(''),
  });
  const parts = [part('monday', [0, 1, 2]), part('early', [1, 25])];
  expect(daypartsAt(parts, 0, 1)).toEqual(['monday', 'early']);
  expect([daypartsAt(parts, 1, 1), daypartsAt(parts, 6, 23)]).toEqual([['early'], []]);
});
