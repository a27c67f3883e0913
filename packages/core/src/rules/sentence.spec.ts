import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { RULE_FORMS } from './forms.js';
import { ruleNames } from './rule-words.js';
import { ITEM_TAGS, RULE_SHAPES, type RuleParts } from './rule.js';
import { faultOfRule, readRuleSentence, ruleSentence } from './sentence.js';

const NAMES = ruleNames(
  [
    { id: 'tempo', name: 'Tempo', values: ['1', '2', 'slow', 'fast'] },
    { id: 'gender', name: 'Voice', values: ['female', 'male', 'duet'] },
    { id: 'f-3', name: 'Sound', values: ['instrumental', 'in the open air', 'slow burn', 'duet'] },
  ],
  ({ id }) => (id === 'a' ? 'Current A' : id),
);

function parts(shape: RuleParts['shape'], tag: string, amount: number, more: Partial<RuleParts> = {}): RuleParts {
  return { shape, tag, value: null, followedBy: null, amount, windowSeconds: null, exceptions: [], ...more };
}

describe('a rule as a sentence', () => {
  it.each([
    ['keep the same artist at least 90 min apart', parts('apart', 'artist', 5400)],
    ['Artist 90 min', parts('apart', 'artist', 5400)],
    ['titles: 2 days', parts('apart', 'title', 172_800)],
    ['main artist 2 h', parts('apart', 'main artist', 7200)],
    ['keep the same main artists 2 h apart', parts('apart', 'main artist', 7200)],
    ['separate the same album by 2 h 30', parts('apart', 'album', 9000)],
    ['ARTISTS 90', parts('apart', 'artist', 5400)],
    ['album: 1,5 h.', parts('apart', 'album', 5400)],
    ['keep the same album at least 1:30 h apart', parts('apart', 'album', 5400)],
    ['15 min between instrumentals', parts('apart', 'f-3', 900, { value: 'instrumental' })],
    ['at most 4 slow an hour', parts('atMost', 'tempo', 4, { value: 'slow' })],
    ['no more than 2 of the same artist in 3 h', parts('atMost', 'artist', 2, { windowSeconds: 10_800 })],
    ['at least 2 female per hour', parts('atLeast', 'gender', 2, { value: 'female' })],
    ['at most 2 of the same tempo in a row', parts('streak', 'tempo', 2)],
    ['no more than 3 slow burn songs in a row', parts('streak', 'f-3', 3, { value: 'slow burn' })],
    ['no female after male', parts('handOff', 'gender', 0, { value: 'male', followedBy: 'female' })],
    ['no female after duet', parts('handOff', 'gender', 0, { value: 'duet', followedBy: 'female' })],
    ['title not in the same hour for 3 days', parts('otherHour', 'title', 3)],
    ['title 15 min across stations', parts('across', 'title', 900)],
    ['keep the same artist 10 min from other stations', parts('across', 'artist', 600)],
  ])('understands “%s”', (text, expected) => {
    expect(readRuleSentence(text, NAMES)).toEqual({ ok: true, parts: expected });
  });

  it.each([
    ['', 'Say one of title, artist or album'],
    ['artist and title 90 min', 'Say one of title, artist or album'],
    ['artist', 'Say how far apart'],
    ['artist soonish', '“soonish” is not a time'],
    ['album 1:30', 'could be hours and minutes'],
    ['artist 0 min', 'more than nothing'],
    ['artist 30 days', 'at most 28 days'],
    ['at most 4 duet an hour', 'Several tags have the value “duet”'],
    ['at most slow an hour', 'Say how many'],
    ['at most 5000 slow an hour', 'out of range'],
    ['no female after slow', 'not values of one tag'],
    ['no artist after title', 'Say two values of one tag'],
    ['title out of the same hour', 'Say for how many days'],
    ['title out of the same hour for 90 days', 'out of range'],
    ['title across stations', 'Say how far apart'],
    ['title 2 days across stations', 'across stations it is at most 24 h'],
  ])('says what it misses in “%s”', (text, why) => {
    const read = readRuleSentence(text, NAMES);
    expect(read.ok ? '' : read.why).toContain(why);
  });

  it('is understood as it is written, whatever its shape', () => {
    const about = fc.oneof(
      fc.constantFrom(...ITEM_TAGS).map((tag) => ({ tag: tag as string, value: null as string | null })),
      fc
        .constantFrom(...NAMES.tags.filter(({ values }) => values.length > 0))
        .chain(({ id, values }) => fc.constantFrom(...values).map((value) => ({ tag: id, value }))),
    );
    const rule = fc
      .record({
        shape: fc.constantFrom(...RULE_SHAPES),
        about,
        share: fc.double({ min: 0, max: 1, noNaN: true }),
        window: fc.integer({ min: 61, max: 80_000 }),
      })
      .map(({ shape, about: subject, share, window }): RuleParts => {
        const range = RULE_FORMS[shape].amount;
        if (!range) return parts('handOff', 'tempo', 0, { value: 'slow', followedBy: 'fast' });
        const amount = Math.round(range.least + share * (range.most - range.least));
        return parts(shape, subject.tag, amount, {
          value: subject.value,
          windowSeconds: shape === 'atMost' && window % 2 ? window : null,
        });
      });
    fc.assert(
      fc.property(rule, (one) => {
        expect(readRuleSentence(ruleSentence(one, NAMES), NAMES)).toEqual({ ok: true, parts: one });
      }),
    );
  });

  it('names the categories with an amount of their own', () => {
    const rule = parts('apart', 'title', 28_800, { exceptions: [{ kind: 'category', id: 'a', amount: 9000 }] });
    expect(ruleSentence(rule, NAMES)).toBe('Keep the same title at least 8 h apart, 2 h 30 in Current A');
  });

  it.each([
    ['strength', parts('atLeast', 'tempo', 2), 'hard', 0],
    ['rank', parts('apart', 'title', 60), 'soft', 0],
    ['rank', parts('apart', 'title', 60), 'hard', 2],
    ['followedBy', parts('apart', 'title', 60, { followedBy: 'x' }), 'hard', 0],
    ['value', parts('handOff', 'tempo', 0, { followedBy: 'x' }), 'hard', 0],
    ['windowSeconds', parts('streak', 'tempo', 2, { windowSeconds: 60 }), 'hard', 0],
    ['amount', parts('otherHour', 'title', 90), 'hard', 0],
    ['stationIds', { ...parts('apart', 'title', 60), stationIds: ['x'] }, 'hard', 0],
    ['exceptions', parts('streak', 'tempo', 2, { exceptions: [{ kind: 'clock', id: 'c', amount: 0 }] }), 'hard', 0],
  ] as const)('is refused for its %s', (field, rule, strength, rank) => {
    expect(faultOfRule({ ...rule, strength, rank })).toMatchObject({ field });
    expect(faultOfRule({ ...parts('streak', 'tempo', 2), strength: 'soft', rank: 1 })).toBeNull();
  });
});
