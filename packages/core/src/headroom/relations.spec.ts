import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import '../testing/seed.js';
import { BackTest } from '../judge/back-test.js';
import { RULE_SHAPES, type Rule } from '../rules/rule.js';
import { StationModel } from '../station/station-model.js';
import { DATE, ruleOf, smallStation } from '../testing/small-station.js';
import { hoursOfDay } from '../time/local-day.js';
import { relationsOf } from './relations.js';

const slow = (shape: Rule['shape'], amount: number, more: Partial<Rule> = {}): Rule =>
  ruleOf(shape, 'tempo', amount, { value: 'slow', ...more });
const gold = { kind: 'category' as const, id: 'gold' };
const kindOf = (rule: Rule, other: Rule): string =>
  relationsOf({ ...rule, id: 'a' }, [{ ...other, id: 'b' }])[0]?.kind ?? 'none';

describe('two rules', () => {
  it.each([
    [ruleOf('apart', 'artist', 3600), ruleOf('apart', 'artist', 5400), 'follows'],
    [ruleOf('apart', 'artist', 5400), ruleOf('apart', 'artist', 3600), 'none'],
    [ruleOf('apart', 'artist', 3600), ruleOf('apart', 'artist', 3600), 'same'],
    [ruleOf('apart', 'main artist', 3600), ruleOf('apart', 'artist', 3600), 'follows'],
    [ruleOf('apart', 'artist', 3600), ruleOf('apart', 'main artist', 3600), 'none'],
    [slow('streak', 2), ruleOf('streak', 'tempo', 2), 'follows'],
    [slow('streak', 1), slow('handOff', 0, { followedBy: 'slow' }), 'same'],
    [slow('handOff', 0, { followedBy: 'fast' }), slow('handOff', 0, { followedBy: 'slow' }), 'none'],
    [ruleOf('atMost', 'album', 2, { windowSeconds: 3600 }), ruleOf('apart', 'album', 3600), 'follows'],
    [ruleOf('atMost', 'album', 2), ruleOf('atMost', 'album', 2, { windowSeconds: 3600 }), 'follows'],
    [ruleOf('atMost', 'album', 2, { windowSeconds: 3600 }), ruleOf('atMost', 'album', 2), 'none'],
    [slow('atLeast', 3, { strength: 'soft', rank: 1 }), slow('atMost', 2), 'contradicts'],
    [slow('atLeast', 2, { strength: 'soft', rank: 1 }), slow('atMost', 2), 'none'],
    [slow('atLeast', 2, { strength: 'soft', rank: 1 }), slow('apart', 5400), 'contradicts'],
    [slow('atLeast', 3, { strength: 'soft', rank: 1, places: [gold] }), slow('atMost', 2), 'contradicts'],
    [ruleOf('apart', 'title', 3600, { places: [gold] }), ruleOf('apart', 'title', 3600), 'follows'],
    [ruleOf('apart', 'title', 3600), ruleOf('apart', 'title', 3600, { places: [gold] }), 'none'],
    [ruleOf('apart', 'title', 3600), ruleOf('apart', 'title', 7200, { exceptions: [{ ...gold, amount: 60 }] }), 'none'],
    [ruleOf('apart', 'title', 3600), ruleOf('apart', 'title', 7200, { strength: 'soft', rank: 1 }), 'none'],
    [ruleOf('apart', 'title', 3600), ruleOf('apart', 'title', 7200, { resting: true }), 'none'],
  ] as const)('%#: %j', (rule, other, kind) => {
    expect(kindOf(rule, other)).toBe(kind);
  });

  const rule = fc
    .record({
      shape: fc.constantFrom(...RULE_SHAPES),
      amount: fc.integer({ min: 1, max: 3 }),
      every: fc.boolean(),
      to: fc.constantFrom('slow', 'fast'),
    })
    .map(({ shape, amount, every, to }): Rule => {
      const more = {
        ...(shape === 'handOff' && { followedBy: to }),
        ...(shape === 'atMost' && { windowSeconds: every ? null : 3600 }),
      };
      const one = shape === 'handOff' ? 0 : shape === 'apart' ? amount * 900 : amount;
      return every && shape !== 'handOff' ? ruleOf(shape, 'tempo', one, more) : slow(shape, one, more);
    });

  it('of which one follows from the other are broken by no day that keeps the other', () => {
    const items = smallStation().items.map((item, n) => ({
      ...item,
      tags: { tempo: n % 3 ? (n % 3 === 1 ? ['fast'] : ['slow', 'fast']) : ['slow'] },
    }));
    const model = new StationModel(smallStation({ items }));
    const startMs = hoursOfDay(DATE, model.data.timeZone)[0]!.startMs;
    const day = fc.array(fc.record({ item: fc.integer({ min: 0, max: 60 }), gap: fc.constantFrom(240, 900, 2000) }), {
      minLength: 2,
      maxLength: 14,
    });
    let followed = 0;
    fc.assert(
      fc.property(rule, rule, day, (first, second, plays) => {
        if (kindOf(first, second) !== 'follows') return;
        followed++;
        let at = startMs;
        const aired = plays.map(({ item, gap }) => ({ itemId: `song${item}`, startMs: (at += gap * 1000) }));
        const test = new BackTest(model, aired, DATE, DATE);
        if (test.count(second).breaks === 0)
          expect([first, second, test.count(first).breaks]).toEqual([first, second, 0]);
      }),
      { numRuns: 3000 },
    );
    expect(followed).toBeGreaterThan(50);
  });
});
