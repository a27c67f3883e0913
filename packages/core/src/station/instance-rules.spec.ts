import { describe, expect, it } from '@jest/globals';
import { findViolations } from '../engine/score.js';
import { generateDay } from '../generate/generate-day.js';
import { asItStands, LogInspector } from '../judge/inspect-log.js';
import { allEntries } from '../log/daily-log.js';
import type { Rule } from '../rules/rule.js';
import { apart, DATE, ruleOf, smallStation, songs } from '../testing/small-station.js';
import { withStationRules } from './instance-rules.js';
import { StationModel } from './station-model.js';

const SLOTS = ['1', '2', '3'].map((id, index) => ({ id, start: index * 200, hour: 0, pool: 'gold' }));
const AT = { '1': 'gold', '2': 'new', '3': 'gold' } as const;
const locationOf = (id: string) => ({
  categoryId: AT[id as keyof typeof AT],
  clockId: 'day',
  showId: null,
  daypartIds: [],
});

function station(rules: readonly Rule[]): StationModel {
  const tempo = ['slow', 'medium', 'fast'];
  const items = songs(120, 40).map((item, index) => ({ ...item, tags: { tempo: [tempo[index % 3]!] } }));
  return new StationModel(smallStation({ items, rules }));
}

describe('rules of a station in an instance', () => {
  it('charge only their places', () => {
    const rule = apart('artist', 3600, { places: [{ kind: 'category', id: 'gold' }] });
    const { rules, slots } = withStationRules([rule], SLOTS, locationOf);
    expect(rules).toMatchObject([{ id: 'artist-rule', seconds: 3600 }]);
    expect(slots.map(({ uncharged }) => uncharged ?? [])).toEqual([[], ['artist-rule'], []]);
  });

  it('have their own distance in a place', () => {
    const rule = apart('artist', 3600, { exceptions: [{ kind: 'category', id: 'new', amount: 60 }] });
    expect(withStationRules([rule], SLOTS, locationOf).rules).toMatchObject([{ secondsBySlot: { '2': 60 } }]);
  });

  it('are one rule for each amount where the engine has no amount by slot', () => {
    const rule = ruleOf('streak', 'tempo', 2, { exceptions: [{ kind: 'category', id: 'new', amount: 1 }] });
    const { rules, slots } = withStationRules([rule], SLOTS, locationOf);
    expect(rules).toMatchObject([{ max: 2 }, { max: 1 }]);
    const chargedBy = (slot: number) =>
      rules.filter(({ id }) => !slots[slot]!.uncharged?.includes(id)).map((one) => one.shape === 'streak' && one.max);
    expect([chargedBy(0), chargedBy(1), chargedBy(2)]).toEqual([[2], [1], [2]]);
  });

  it('leave out what rests', () => {
    expect(withStationRules([apart('artist', 60, { resting: true })], SLOTS, locationOf).rules).toEqual([]);
  });

  it.each([
    ['a streak of a tag', ruleOf('streak', 'tempo', 1)],
    ['so many an hour', ruleOf('atMost', 'tempo', 4, { value: 'slow' })],
    ['a hand-off', ruleOf('handOff', 'tempo', 0, { value: 'slow', followedBy: 'fast' })],
  ])('are kept when a day is generated: %s', (_, rule) => {
    const model = station([rule, apart('title', 3600)]);
    const { log } = generateDay(model.data, { date: DATE, seed: 3, previous: null, only: 'all' });
    expect(allEntries(log).filter((entry) => entry.kind === 'pick' && entry.itemId === null)).toEqual([]);
    expect(new LogInspector(model, log).strains()).toEqual([]);
    // Without the rule the same day breaks it many times.
    const free = generateDay(station([apart('title', 3600)]).data, {
      date: DATE,
      seed: 3,
      previous: null,
      only: 'all',
    });
    expect(
      new LogInspector(model, free.log).strains().filter(({ ruleId }) => ruleId === rule.id).length,
    ).toBeGreaterThan(5);
  });

  it('tell the breaks of every amount under the rule of the station', () => {
    const rule = ruleOf('streak', 'tempo', 40, { exceptions: [{ kind: 'category', id: 'gold', amount: 1 }] });
    const model = station([rule]);
    const free = generateDay(station([]).data, { date: DATE, seed: 3, previous: null, only: 'all' }).log;
    const strains = new LogInspector(model, free).strains();
    expect(strains.length).toBeGreaterThan(5);
    expect(new Set(strains.map(({ ruleId }) => ruleId))).toEqual(new Set([rule.id]));
    expect(findViolations(asItStands(model, free).compiled)).toHaveLength(strains.length);
  });
});
