import { describe, expect, it } from '@jest/globals';
import type { ClockLine } from '../clocks/line.js';
import { apart, DATE, planOf, smallStation, songs } from '../testing/small-station.js';
import type { StationData } from '../station/station-data.js';
import { withChanges } from './change.js';
import { compareForecasts } from './compare-forecasts.js';
import { forecastDays } from './forecast-day.js';

const NAMES = {
  category: (id: string) => (id === 'gold' ? 'Gold' : 'Silver'),
  rule: (id: string) => id,
  isMusic: () => true,
};
const picks = (categoryId: string, count: number): ClockLine[] =>
  Array.from({ length: count }, (_, n) => ({ id: `${categoryId}${n}`, kind: 'pick', categoryId, comment: '' }));

/** Four songs an hour from fourteen that may not return for four hours: some slots stay open. */
function starved(count = 14): StationData {
  const items = songs(count, count);
  const rules = [apart('title', 4 * 3600)];
  return smallStation({
    items,
    categories: { gold: items.map(({ id }) => id) },
    plan: planOf(picks('gold', 4)),
    rules,
  });
}
const week = (data: StationData, seed = 1) =>
  [...forecastDays(data, { from: DATE, weeks: 1, seed })].map(({ figures }) => figures);

describe('a forecast', () => {
  const today = week(starved());

  it('is the same for the same seed, and leaves what it was given as it was', () => {
    const data = starved();
    const before = JSON.stringify(data);
    expect(week(data)).toEqual(today);
    expect(JSON.stringify(data)).toBe(before);
    expect(today.map(({ date }) => date)).toEqual(
      ['24', '25', '26', '27', '28', '29', '30'].map((day) => `2026-11-${day}`),
    );
  });

  it('counts the days before as history: no song returns before its rule lets it, over midnight too', () => {
    const last = new Map<string, number>();
    today.forEach(({ plays }, n) => {
      for (const { itemId, airedAt } of [...plays].sort((a, b) => a.airedAt! - b.airedAt!)) {
        const at = n * 86_400 + airedAt!;
        if (last.has(itemId)) expect(at - last.get(itemId)!).toBeGreaterThanOrEqual(4 * 3600);
        last.set(itemId, at);
      }
    });
  });

  it('shows a change that helps as helping: more songs in a starved category leave fewer slots open', () => {
    const changed = week(withChanges(starved(), [{ kind: 'add', categoryId: 'gold', songs: 4 }]));
    const { open, sentences, categories, songs: both } = compareForecasts(today, changed, NAMES);
    expect(open.today).toBeGreaterThan(open.changed);
    expect(sentences[0]).toBe(`Open slots: ${open.changed}, ${open.today} today.`);
    expect(categories[0]!.songs).toEqual({ today: 14, changed: 18 });
    expect(categories[0]!.plays.changed).toBeGreaterThan(categories[0]!.plays.today);
    expect(sentences).toContain('18 songs of Gold are heard, 14 today.');
    const made = both.filter(({ itemId }) => itemId.startsWith('forecast-song-'));
    expect(made).toHaveLength(4);
    for (const { plays, rest } of made) expect([plays.today, rest.today, plays.changed > 0]).toEqual([0, null, true]);
  });

  it('shows a loosened rule, a moved song and another clock each as what it does', () => {
    const loosened = week(withChanges(starved(), [{ kind: 'rule', ruleId: 'title-rule', amount: 3600 }]));
    expect(compareForecasts(today, loosened, NAMES).open.changed).toBe(0);
    const two = {
      ...starved(),
      categories: { ...starved().categories, silver: [] },
      musicCategories: ['gold', 'silver'],
    };
    const moved = withChanges(two, [{ kind: 'move', itemIds: ['song0', 'song1'], categoryId: 'silver' }]);
    expect([moved.categories['gold']!.length, moved.categories['silver']]).toEqual([12, ['song0', 'song1']]);
    expect(compareForecasts(today, week(moved), NAMES).open.changed).toBeGreaterThan(
      compareForecasts(today, today, NAMES).open.today,
    );
    const fewer = withChanges(starved(), [{ kind: 'clock', clockId: 'day', lines: picks('gold', 2) }]);
    const { slots, sentences } = compareForecasts(today, week(fewer), NAMES);
    expect([slots.today, slots.changed]).toEqual([7 * 24 * 4, 7 * 24 * 2]);
    expect(sentences.some((one) => /^Songs of Gold rest .* longer than/.test(one))).toBe(true);
  });

  it('says so where nothing differs, and refuses what is not there', () => {
    expect(compareForecasts(today, today, NAMES).sentences).toEqual(['Nothing differs that a listener would notice.']);
    for (const change of [
      { kind: 'move', itemIds: ['nobody'], categoryId: 'gold' },
      { kind: 'move', itemIds: ['song1'], categoryId: 'nowhere' },
      { kind: 'rule', ruleId: 'none', amount: 1 },
      { kind: 'clock', clockId: 'none', lines: [] },
      { kind: 'add', categoryId: 'nowhere', songs: 1 },
    ] as const)
      expect(() => withChanges(starved(), [change])).toThrow(RangeError);
  });
});
