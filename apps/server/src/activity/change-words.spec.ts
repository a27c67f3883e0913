import { describe, expect, it } from '@jest/globals';
import { changeWords } from './change-words.js';

const placed = (planned: object | null) => ({
  thing: 'placement',
  thingId: 'p',
  before: { planned: null },
  after: { planned },
});

describe('a change in words', () => {
  it.each([
    [{ kind: 'on', date: '2026-12-10', to: 'gold' }, '2026-12-10'],
    [{ kind: 'plays', plays: 40, to: null }, 'after 40 plays'],
    [{ kind: 'stays' }, 'stays'],
  ])('names the planned move %p as a person does', (planned, words) => {
    expect(changeWords(placed(planned) as never).fields).toEqual([
      { field: 'planned move', before: null, after: words },
    ]);
  });

  it('says how long songs stay', () => {
    const change = {
      thing: 'category',
      thingId: 'c',
      before: { life: null },
      after: { life: { after: 4, unit: 'weeks', to: null } },
    };
    expect(changeWords(change as never).fields).toEqual([
      { field: 'how long songs stay', before: null, after: '4 weeks' },
    ]);
  });
});
