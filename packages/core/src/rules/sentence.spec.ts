import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { SEPARATED_TAGS } from './rule.js';
import { parseRuleSentence, sentenceOf } from './sentence.js';

describe('a rule as a sentence', () => {
  it.each([
    ['keep the same artist at least 90 min apart', 'artist', 5400],
    ['Artist 90 min', 'artist', 5400],
    ['titles: 2 days', 'title', 172_800],
    ['main artist 2 h', 'main artist', 7200],
    ['keep the same main artists 2 h apart', 'main artist', 7200],
    ['separate the same album by 2 h 30', 'album', 9000],
    ['ARTISTS 90', 'artist', 5400],
    ['album 1.5 h', 'album', 5400],
    ['album: 1,5 h.', 'album', 5400],
    ['keep the same album at least 1:30 h apart', 'album', 5400],
  ])('understands “%s”', (text, tag, seconds) => expect(parseRuleSentence(text)).toEqual({ ok: true, tag, seconds }));

  it.each([
    ['', 'Say one of title, artist or album'],
    ['artist and title 90 min', 'Say one of title, artist or album'],
    ['artist', 'Say how far apart'],
    ['artist soonish', '“soonish” is not a time'],
    ['album 1:30', 'could be hours and minutes'],
    ['artist 0 min', 'more than nothing'],
    ['artist 30 days', 'at most 28 days'],
  ])('says what it misses in “%s”', (text, why) => {
    const read = parseRuleSentence(text);
    expect(read.ok ? '' : read.why).toContain(why);
  });

  it('is understood as it is written', () => {
    fc.assert(
      fc.property(fc.constantFrom(...SEPARATED_TAGS), fc.integer({ min: 1, max: 28 * 86_400 }), (tag, seconds) => {
        expect(parseRuleSentence(sentenceOf({ tag, seconds, secondsByCategory: {} }, String))).toEqual({
          ok: true,
          tag,
          seconds,
        });
      }),
    );
  });

  it('names the categories with a distance of their own', () => {
    expect(sentenceOf({ tag: 'title', seconds: 28_800, secondsByCategory: { a: 9000 } }, () => 'Current A')).toBe(
      'Keep the same title at least 8 h apart, 2 h 30 in Current A',
    );
  });
});
