import { describe, expect, it } from '@jest/globals';
import { generateDay, type DailyLog } from '@fuller/core';
import * as v from 'valibot';
import { CategoryCode, DailyLogSchema, GenerateRequest, HandEdit, Id, ItemQuery, NewRule } from './index.js';

const issue = (schema: v.GenericSchema, value: unknown): string | undefined => {
  const read = v.safeParse(schema, value);
  return read.success ? undefined : `${v.getDotPath(read.issues[0]) ?? ''} ${read.issues[0].message}`;
};

describe('what crosses a border', () => {
  it('describes logs as the core makes them', () => {
    const plan = { cells: Array.from({ length: 168 }, () => 'c'), defaultClockId: null };
    const clock = {
      id: 'c',
      name: 'C',
      colour: '#000000',
      lines: [
        { id: 'p', kind: 'pick' as const, categoryId: 'g', comment: '' },
        { id: 'i', kind: 'item' as const, itemId: 'x', comment: '' },
        { id: 'b', kind: 'break' as const, bookedAtMs: 0, durationMs: 1, comment: '' },
        { id: 'n', kind: 'note' as const, text: '', comment: '' },
      ],
    };
    const data = {
      timeZone: 'Europe/Dublin',
      plan,
      clocks: [clock],
      items: [],
      categories: {},
      musicCategories: [],
      approvedOnly: [],
      spreadHours: true,
      coolOffs: {},
      orders: {},
      rules: [],
      history: [],
      nextLog: null,
    };
    const { log } = generateDay(data, { date: '2026-10-25', seed: 1, previous: null, only: 'all' });
    expect(v.parse(DailyLogSchema, log) as DailyLog).toEqual(log);
  });

  it.each([
    [Id, '../etc', 'is not an id'],
    [CategoryCode, 'A B', '1 to 4 letters'],
    [GenerateRequest, { from: '2026-02-30' }, 'from is not a date'],
    [GenerateRequest, { from: '2026-02-20', days: 1.5 }, 'days'],
    [GenerateRequest, { from: '2026-02-20', more: 1 }, 'more'],
    [HandEdit, { type: 'refill', hours: [] }, 'type'],
    [HandEdit, { type: 'lock', entryId: '0-a' }, 'locked'],
    [NewRule, { tag: 'artist', seconds: 1.5, secondsByCategory: {}, resting: false }, 'seconds'],
    [ItemQuery, { limit: '1e9' }, 'limit is not a whole number'],
  ] as const)('refuses what makes no sense: %#', (schema, value, why) => {
    expect(issue(schema as v.GenericSchema, value)).toContain(why);
  });

  it('fills in what may be left out', () => {
    expect(v.parse(GenerateRequest, { from: '2026-11-23' })).toEqual({
      from: '2026-11-23',
      days: 1,
      seed: 1,
      only: 'all',
    });
    expect(v.parse(ItemQuery, {})).toMatchObject({ sort: 'title', dir: 'asc', offset: 0, limit: 100 });
  });
});
