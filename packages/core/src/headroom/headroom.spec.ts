import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import '../testing/seed.js';
import { generateDay } from '../generate/generate-day.js';
import { BackTest } from '../judge/back-test.js';
import type { ClockLine } from '../clocks/line.js';
import { slotsOf } from '../log/daily-log.js';
import { RULE_SHAPES, type Rule } from '../rules/rule.js';
import type { StationData } from '../station/station-data.js';
import { StationModel } from '../station/station-model.js';
import { DATE, planOf, ruleOf, smallStation, songs } from '../testing/small-station.js';
import { EMPTY_WEEK } from '../week/week-plan.js';
import { weekDemand } from './demand.js';
import { headroomOf, type Headroom } from './headroom.js';

const DAYS = [0, 1, 2, 3, 4, 5, 6].map((day) => ({ at: day * 1440, minutes: 240, runs: 'clock' as const, id: 'day' }));

/** A station with one category of so many songs, of which some are slow, and so many picks an hour. */
function station(items: number, artists: number, slow: number, picks: number): StationData {
  const library = songs(items, artists).map((song, n) => ({
    ...song,
    tags: { tempo: [n % items < slow ? 'slow' : 'fast'] },
  }));
  const lines = Array.from({ length: picks }, (_, n): ClockLine => {
    return { id: `p${n}`, kind: 'pick', categoryId: 'gold', comment: '' };
  });
  return smallStation({
    items: library,
    categories: { gold: library.map(({ id }) => id) },
    // Four hours a day, so that days are made fast.
    plan: planOf(lines, { week: { ...EMPTY_WEEK, blocks: DAYS } }),
    rules: [],
  });
}

function headroom(data: StationData, rule: Rule): Headroom {
  const model = new StationModel(data);
  return headroomOf(model, weekDemand(model), rule);
}

/** What generation comes to under one rule: slots that stay open, and breaks, of a hundred slots. */
function outcome(data: StationData, rule: Rule): { readonly open: number; readonly broken: number } {
  const ruled = { ...data, rules: [rule] };
  const { log } = generateDay(ruled, { date: DATE, seed: 1, only: 'all', previous: null });
  const slots = slotsOf(log);
  const model = new StationModel(ruled);
  const { breaks } = new BackTest(model, model.plays(log), DATE, DATE).count(rule);
  const open = slots.filter(({ itemId }) => itemId === null).length;
  return { open: (100 * open) / slots.length, broken: (100 * breaks) / slots.length };
}

const slowRule = (shape: Rule['shape'], amount: number, more: Partial<Rule> = {}): Rule =>
  ruleOf(shape, 'tempo', amount, { value: 'slow', ...more });

describe('headroom', () => {
  it.each([
    // Ten songs in three hours and more of twelve an hour.
    ['titles for a small category', ruleOf('apart', 'title', 3 * 3600), station(10, 10, 0, 12), 'impossible', 10],
    ['titles with room', ruleOf('apart', 'title', 3 * 3600), station(200, 200, 0, 12), 'easy', 1],
    ['more than there are', slowRule('atMost', 12), station(40, 40, 10, 12), 'idle', 0],
    ['a share that fits', slowRule('atMost', 8), station(40, 40, 10, 12), 'easy', 8],
    ['a value nothing has', ruleOf('atMost', 'tempo', 2, { value: 'calm' }), station(40, 40, 9, 12), 'idle', 0],
    ['all of one value', slowRule('streak', 3), station(40, 40, 40, 12), 'impossible', 3],
    ['half of one value in streaks of one', slowRule('streak', 1), station(40, 40, 20, 12), 'tight', 0.5],
    ['after itself', slowRule('handOff', 0, { followedBy: 'slow' }), station(40, 40, 8, 12), 'easy', 0.5],
    [
      'more than an hour has',
      slowRule('atLeast', 13, { strength: 'soft', rank: 1 }),
      station(40, 40, 20, 12),
      'impossible',
      12,
    ],
    ['what comes by itself', slowRule('atLeast', 2, { strength: 'soft', rank: 1 }), station(40, 40, 20, 12), 'easy', 6],
    // Twelve slots at one hour of four days, and forty songs.
    ['another hour', ruleOf('otherHour', 'title', 3), station(40, 40, 0, 12), 'tight', 40],
    ['another hour with room', ruleOf('otherHour', 'title', 3), station(400, 400, 0, 12), 'easy', 1],
  ] as const)('of %s', (_, rule, data, state, capacity) => {
    const found = headroom(data, rule);
    expect([found.state, found.capacity]).toEqual([state, capacity]);
  });

  it('tells a category that holds more of a value than a rule lets it play, and what would help', () => {
    // 35 in a hundred of the songs, fourteen slots an hour, three of them allowed.
    const found = headroom(station(100, 100, 35, 14), slowRule('atMost', 3));
    expect(found.state).toBe('tight');
    expect(found.trap).toEqual({
      categoryId: 'gold',
      value: 'slow',
      items: 100,
      withValue: 35,
      askedPerHour: expect.closeTo(4.9, 5),
      allowedPerHour: 3,
      proposedSlots: 3,
    });
    expect(headroom(station(100, 100, 10, 14), slowRule('atMost', 3)).trap).toBeNull();
  });

  it('looks only where a rule is for, with the amount it has there', () => {
    const data = station(10, 10, 0, 12);
    const place = { kind: 'daypart' as const, id: 'night' };
    const night = {
      ...data,
      dayparts: [{ id: 'night', name: 'Night', hours: '0'.repeat(3).concat('1').padEnd(168, '0') }],
    };
    const title = ruleOf('apart', 'title', 3 * 3600);
    expect(headroom(data, { ...title, places: [{ kind: 'category', id: 'silver' }] })).toMatchObject({
      idle: 'no slot',
    });
    expect(headroom(night, { ...title, places: [place] })).toMatchObject({
      demand: 12,
      at: 3 * 3600,
      state: 'impossible',
    });
    const eased = { ...title, amount: 3600, exceptions: [{ ...place, amount: 600 }], places: [place] };
    expect(headroom(night, eased).demand).toBeLessThan(6);
  });

  const anyRule = fc
    .record({
      shape: fc.constantFrom(...RULE_SHAPES.filter((one) => one !== 'across')),
      own: fc.boolean(),
      amount: fc.integer({ min: 1, max: 4 }),
      minutes: fc.constantFrom(10, 30, 60, 120),
      window: fc.constantFrom(null, 1800, 7200),
    })
    .map(({ shape, own, amount, minutes, window }): Rule => {
      const subject =
        own || shape === 'handOff' || shape === 'atLeast' ? slowRule(shape, amount) : ruleOf(shape, 'artist', amount);
      return {
        ...subject,
        amount: shape === 'apart' ? minutes * 60 : shape === 'handOff' ? 0 : amount,
        followedBy: shape === 'handOff' ? 'slow' : null,
        windowSeconds: shape === 'atMost' ? window : null,
        ...(shape === 'atLeast' && { strength: 'soft' as const, rank: 1 }),
      };
    });
  const anyStation = fc
    .record({
      items: fc.integer({ min: 20, max: 80 }),
      artists: fc.integer({ min: 5, max: 60 }),
      slow: fc.double({ min: 0, max: 1, noNaN: true }),
      picks: fc.integer({ min: 6, max: 14 }),
    })
    .map(({ items, artists, slow, picks }) =>
      station(items, Math.min(artists, items), Math.round(slow * items), picks),
    );

  it('never calls easy what the engine breaks or leaves open in more than one of a hundred slots, nor impossible what a day keeps', () => {
    const seen = { easy: 0, impossible: 0 };
    fc.assert(
      fc.property(anyStation, anyRule, (data, rule) => {
        const { state } = headroom(data, rule);
        if (state !== 'easy' && state !== 'impossible') return;
        seen[state]++;
        const { open, broken } = outcome(data, rule);
        if (state === 'easy') expect(open + broken).toBeLessThanOrEqual(1);
        else expect(open + broken).toBeGreaterThan(0);
      }),
      { numRuns: 24 },
    );
    expect(Math.min(seen.easy, seen.impossible)).toBeGreaterThan(2);
  });
});
