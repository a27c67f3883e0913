import { describe, expect, it } from '@jest/globals';
import type { Headroom } from '@fuller/core';
import { backTestWords, headroomWords, relationWords, trapWords } from './headroom-words';

const HEADROOM: Headroom = {
  state: 'tight',
  demand: 12,
  capacity: 10,
  measure: 'different values',
  value: null,
  categoryId: 'gold',
  at: 86_400 + 14 * 3600 + 5 * 60,
  idle: null,
  trap: null,
};
const name = (id: string): string => (id === 'gold' ? 'Gold' : 'nothing');
const words = (more: Partial<Headroom>, value = 'tempo slow'): string =>
  headroomWords({ ...HEADROOM, ...more }, name, value);

describe('headroom in words', () => {
  it.each([
    [{}, 'The busiest stretch asks for 12 that differ of Gold; there are 10, at its busiest Tue 14:05.'],
    [{ categoryId: null, at: null }, 'The busiest stretch asks for 12 that differ; there are 10.'],
    [
      { measure: 'forced plays', demand: 4, capacity: 3 },
      '4 slots on end can hold nothing but tempo slow; the rule allows 3',
    ],
    [
      { measure: 'supply of a value', demand: 3, capacity: 2 },
      'The rule asks for 3 of tempo slow an hour; 2 slots can hold it',
    ],
    [
      { measure: 'share of a value', demand: 4.9, capacity: 3 },
      'plays tempo slow of Gold 4.9 times; the rule’s figure is 3',
    ],
    [
      { measure: 'share of a value', demand: 0.47, capacity: 0.5 },
      'tempo slow has 47 % of the plays of Gold; the rule leaves room for 50 %',
    ],
    [{ idle: 'no slot' }, 'The week has no slot'],
    [{ idle: 'no item' }, 'No item'],
    [{ idle: 'never reached' }, 'never comes near'],
  ] as [Partial<Headroom>, string][])('of %j', (more, expected) => {
    expect(words(more)).toContain(expected);
  });

  it('names the trap with its numbers and what would help', () => {
    const trap = {
      categoryId: 'gold',
      value: 'x',
      items: 100,
      withValue: 35,
      askedPerHour: 4.9,
      allowedPerHour: 3,
      proposedSlots: 1,
    };
    expect(trapWords({ ...HEADROOM, trap }, name, 'voice female')).toBe(
      '35 of 100 in Gold (35 %) are voice female. Even turns ask for 4.9 an hour; the rule allows 3. They fall behind, or hold the others up. Give them a category of their own with one slot an hour.',
    );
    expect(trapWords(HEADROOM, name, '')).toBeNull();
  });

  it('tells how rules stand to each other, and how a rule has fared', () => {
    const relation = (kind: 'same' | 'follows' | 'contradicts'): string =>
      relationWords({ kind, otherId: 'b' }, (id) => `rule ${id}`);
    expect([relation('same'), relation('follows'), relation('contradicts')]).toEqual([
      'Asks the same as “rule b”. One of the two is enough.',
      'This already follows from “rule b”.',
      'Cannot be kept together with “rule b”.',
    ]);
    const test = { plays: 100, places: [] };
    expect(backTestWords({ ...test, breaks: 0, days: 7 })).toBe('Never broken in 7 days');
    expect(backTestWords({ ...test, breaks: 1, days: 1 })).toBe('Broken 1 time yesterday');
  });
});
