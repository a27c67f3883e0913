import { describe, expect, it } from '@jest/globals';
import { apart } from '../testing/small-station.js';
import { amountAt, amountInCategory, isWithin, withoutPlace, type RulePlace } from './rule.js';

const at = { categoryId: 'gold', clockId: 'day', showId: null, daypartIds: [] };
const place = (kind: RulePlace['kind'], id: string): RulePlace => ({ kind, id });

describe('what a rule asks where a play stands', () => {
  it('is its amount, or the first of its exceptions that takes the place in', () => {
    const rule = apart('artist', 3600, {
      exceptions: [
        { ...place('show', 'market'), amount: 60 },
        { ...place('clock', 'day'), amount: 120 },
        { ...place('category', 'gold'), amount: 180 },
      ],
    });
    expect(amountAt(rule, at)).toBe(120);
    expect(amountAt(rule, { ...at, showId: 'market' })).toBe(60);
    expect(amountAt(rule, { ...at, clockId: 'night' })).toBe(180);
    expect(amountAt(rule, { categoryId: null, clockId: null, showId: null, daypartIds: [] })).toBe(3600);
    expect([amountInCategory(rule, 'gold'), amountInCategory(rule, 'new')]).toEqual([180, 3600]);
  });

  it('is nothing outside its places', () => {
    const rule = apart('artist', 3600, { places: [place('category', 'gold'), place('show', 'market')] });
    expect(amountAt(rule, at)).toBe(3600);
    expect(amountAt(rule, { ...at, categoryId: 'new' })).toBeNull();
    // Of a category alone it is not known whether a show is on.
    expect(amountInCategory(rule, 'gold')).toBeNull();
    expect(isWithin(place('clock', 'day'), at)).toBe(true);
  });
});

describe('a place that goes', () => {
  const gold = place('category', 'gold');

  it('goes out of a rule with its amount', () => {
    const rule = apart('artist', 60, {
      places: [gold, place('clock', 'day')],
      exceptions: [
        { ...gold, amount: 5 },
        { ...place('clock', 'gold'), amount: 6 },
      ],
    });
    expect(withoutPlace(rule, gold)).toMatchObject({
      places: [place('clock', 'day')],
      exceptions: [{ ...place('clock', 'gold'), amount: 6 }],
    });
  });

  it('takes a rule along that is for it alone, and leaves one that is for everything', () => {
    expect(withoutPlace(apart('artist', 60, { places: [gold] }), gold)).toBeNull();
    expect(withoutPlace(apart('artist', 60), gold)).toMatchObject({ places: [] });
  });
});
