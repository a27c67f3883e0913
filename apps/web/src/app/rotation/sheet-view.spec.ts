import { describe, expect, it } from '@jest/globals';
import type { CategoryRow, RotationRow, RuleRow } from '@fuller/contracts';
import { restWords, sheetView } from './sheet-view';

const HOUR = 3600;
const category = { id: 'gold', name: 'Gold', items: 24, slotsPerWeek: 168 } as CategoryRow;
const row: RotationRow = {
  categoryId: 'gold',
  items: 24,
  canPlay: 20,
  barred: [{ because: 'paused', items: 4 }],
  averageMs: 200_000,
  slotsByDay: Array.from({ length: 7 }, () => 24),
  slots: Array.from({ length: 168 }, (_, hour) => hour * HOUR),
  rules: [
    { ruleId: 'title', seconds: 10 * HOUR, own: [], other: [] },
    {
      ruleId: 'artist',
      seconds: 2 * HOUR,
      own: Array.from({ length: 20 }, () => 168),
      other: Array.from({ length: 20 }, () => 0),
    },
  ],
  rests: [],
  spread: null,
  plan: null,
};
const rules = { title: { tag: 'title' }, artist: { tag: 'artist' } } as unknown as Record<string, RuleRow>;

describe('a row of the turnover sheet', () => {
  it('reckons with what can play, and tells the tightest separation', () => {
    const view = sheetView(category, row, rules, undefined);
    expect([view.items, view.slotsPerWeek, view.turn!.averageRest, view.wished]).toEqual([20, 168, 20 * HOUR, false]);
    expect(view.fits.map(({ tightness }) => tightness)).toEqual(['easy', 'tight']);
    // A play an hour by one artist leaves exp(-2.06) of twenty songs free.
    expect(view.tightest!.short).toBe('artist leaves 3 of 20');
  });

  it('lets the other numbers follow from a wish', () => {
    const half = sheetView(category, row, rules, { items: 9 });
    expect([half.turn!.averageRest, half.wished]).toEqual([9 * HOUR, true]);
    expect(half.fits[0]).toMatchObject({ tightness: 'too tight', short: 'title cannot be kept' });
    expect(sheetView(category, row, rules, { playsPerWeek: 4 }).items).toBe(42);
    const fewer = sheetView(category, row, rules, { slotsPerWeek: 84 });
    expect([fewer.slotsPerWeek, fewer.turn!.averageRest]).toEqual([84, 40 * HOUR]);
    expect(fewer.fits[1]).toMatchObject({ tightness: 'easy', short: 'artist leaves 7 of 20' });
  });

  it('says nothing of what is not known yet, or does not turn', () => {
    expect(sheetView(category, undefined, rules, { items: 3 })).toMatchObject({ turn: null, items: 24, wished: false });
    expect(sheetView(category, { ...row, canPlay: 0 }, rules, undefined).tightest).toBeNull();
  });

  it.each([
    [42 * 60, '42 min'],
    [6.5 * HOUR, '6.5 h'],
    [100 * HOUR, '4.2 d'],
  ])('tells %d seconds as %s', (seconds, words) => expect(restWords(seconds)).toBe(words));
});
