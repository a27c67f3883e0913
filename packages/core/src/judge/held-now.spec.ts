import { describe, expect, it } from '@jest/globals';
import { apart, ruleOf, smallStation, songs } from '../testing/small-station.js';
import { StationModel } from '../station/station-model.js';
import type { Rule } from '../rules/rule.js';
import { heldAt } from './held-now.js';

const NOW = Date.UTC(2026, 10, 24, 12);
const MINUTE = 60_000;

/** song0 and song40 share an artist; song0 ended ten minutes ago. */
function held(rules: readonly Rule[], categoryId: string | null = 'gold', tempo = ['slow', 'fast']) {
  const items = songs(120, 40).map((item, index) => ({ ...item, tags: { tempo: [tempo[index % 2]!] } }));
  const model = new StationModel(smallStation({ items, rules }));
  const startMs = NOW - 10 * MINUTE - items[0]!.durationMs;
  return heldAt(model, 'song40', categoryId, NOW, [
    { itemId: 'song0', startMs },
    { itemId: 'song1', startMs: startMs - 60 * MINUTE },
    { itemId: 'song0', startMs: NOW + MINUTE },
  ]);
}

describe('what holds an item back now', () => {
  it('is a separation from what has played, until so long after its end', () => {
    expect(held([apart('artist', 3600)])).toEqual([
      { ruleId: 'artist-rule', otherId: 'song0', endedMs: NOW - 10 * MINUTE, freeMs: NOW + 50 * MINUTE },
    ]);
    expect(held([apart('artist', 600)])).toEqual([]);
  });

  it('goes by the distance of its category, and by no rule that rests or is for other places', () => {
    const own = (amount: number): Rule =>
      apart('artist', 3600, { exceptions: [{ kind: 'category', id: 'gold', amount }] });
    expect(held([own(660)])).toMatchObject([{ freeMs: NOW + MINUTE }]);
    expect(held([own(300)])).toEqual([]);
    expect(held([apart('artist', 3600, { resting: true })])).toEqual([]);
    expect(held([apart('artist', 3600, { places: [{ kind: 'category', id: 'other' }] })])).toEqual([]);
    expect(held([apart('artist', 3600, { places: [{ kind: 'clock', id: 'day' }] })])).toEqual([]);
  });

  it('looks at the one value a rule is about, and at separations alone', () => {
    const slow = ruleOf('apart', 'tempo', 3600, { value: 'slow' });
    expect(held([slow])).toMatchObject([{ otherId: 'song0' }]);
    expect(held([{ ...slow, value: 'fast' }])).toEqual([]);
    expect(held([ruleOf('streak', 'tempo', 1)])).toEqual([]);
  });

  it('is nothing for what is no music; several hold in the order in which they let go', () => {
    expect(held([apart('artist', 3600)], 'jingles')).toEqual([]);
    const both = held([apart('artist', 3600), ruleOf('apart', 'tempo', 7200, { value: 'slow' })], null);
    expect(both.map(({ ruleId }) => ruleId)).toEqual(['apart tempo', 'artist-rule']);
    expect(() => held([], null) && heldAt(new StationModel(smallStation()), 'ghost', null, NOW, [])).toThrow(
      RangeError,
    );
  });
});
