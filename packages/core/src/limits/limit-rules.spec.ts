import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import '../testing/seed.js';
import { BackTest } from '../judge/back-test.js';
import { StationModel } from '../station/station-model.js';
import { DATE, smallStation } from '../testing/small-station.js';
import { addDays, hoursOfDay } from '../time/local-day.js';
import { checkLimits, type LimitEntry } from './check-limits.js';
import { isLimitRule, limitRules } from './limit-rules.js';

/** Few artists with few albums and sets, so that the limits are met at every turn. */
const items = smallStation()
  .items.slice(0, 24)
  .map((song, n) => ({
    ...song,
    artist: `Artist ${n % 3}`,
    artistIds: [`artist${n % 3}`],
    album: n % 4 === 3 ? '' : `Album ${n % 4}`,
    tags: { 'Box set': n % 5 === 0 ? [] : [`The ${n % 2 === 0 ? 'Blue' : 'Red'} Box`] },
  }));

interface Day {
  /** Of all the rules that stand for the limits. */
  readonly breaks: number;
  /** By the check of the law itself. */
  readonly violations: number;
}

function day(plays: readonly { item: number; gap: number }[], strict: boolean, exemptAlbums: readonly string[]): Day {
  const rules = limitRules(strict);
  const model = new StationModel(smallStation({ items, rules, exemptAlbums }));
  let at = hoursOfDay(DATE, model.data.timeZone)[0]!.startMs;
  const aired = plays.map(({ item, gap }) => {
    const play = { itemId: `song${item}`, startMs: at };
    at += gap * 1000;
    return play;
  });
  const test = new BackTest(model, aired, DATE, addDays(DATE, 1));
  const entries = aired.map(({ itemId, startMs }, n): LimitEntry => {
    const { title, artist, album, tags } = items.find(({ id }) => id === itemId)!;
    return { position: n + 1, start: startMs / 1000, title, artist, album, set: tags['Box set'][0] };
  });
  return {
    breaks: rules.reduce((sum, rule) => sum + test.count(rule).breaks, 0),
    violations: checkLimits(entries, { strict, exemptAlbums }).length,
  };
}

describe('the rules that stand for the statutory limits', () => {
  const plays = fc.array(
    fc.record({ item: fc.integer({ min: 0, max: 23 }), gap: fc.constantFrom(240, 600, 2400, 5400) }),
    { minLength: 1, maxLength: 14 },
  );

  it('are broken by every day that exceeds the limits', () => {
    let exceeded = 0;
    fc.assert(
      fc.property(plays, fc.boolean(), fc.constantFrom([], ['album 1']), (list, strict, exempt) => {
        const { breaks, violations } = day(list, strict, exempt);
        if (violations === 0) return;
        exceeded++;
        expect(breaks).toBeGreaterThan(0);
      }),
      { numRuns: 300 },
    );
    expect(exceeded).toBeGreaterThan(20);
  });

  it('leave exempt albums alone, whatever their spelling', () => {
    // Three of one album in a row, by one artist.
    const list = [0, 12, 0, 12].map((item) => ({ item, gap: 240 }));
    const albums = (exempt: string[]): number => day(list, false, exempt).breaks;
    expect(albums([])).toBeGreaterThan(albums(['ALBUM 0']));
  });

  it('are told from the rules of a station, and stop one short where they are strict', () => {
    expect(limitRules(false).every(({ id }) => isLimitRule(id))).toBe(true);
    expect(isLimitRule('rule-artist')).toBe(false);
    const amounts = (strict: boolean): number[] => limitRules(strict).map(({ amount }) => amount);
    expect([amounts(false), amounts(true)]).toEqual([
      [3, 2, 4, 3, 4, 3],
      [2, 2, 3, 3, 3, 3],
    ]);
  });
});
