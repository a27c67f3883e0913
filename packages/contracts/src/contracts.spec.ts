import { describe, expect, it } from '@jest/globals';
import { generateDay, HOUR_MS, NO_FRAMING, type DailyLog } from '@fuller/core';
import * as v from 'valibot';
import { CategoryCode } from './catalogue.js';
import {
  GenerateRequest,
  HandEdit,
  Id,
  ItemQuery,
  NewClock,
  NewDatePlan,
  NewRule,
  NewShow,
  WeekUpdate,
} from './index.js';
import { DailyLogSchema } from './logs.js';

const issue = (schema: v.GenericSchema, value: unknown): string | undefined => {
  const read = v.safeParse(schema, value);
  return read.success ? undefined : `${v.getDotPath(read.issues[0]) ?? ''} ${read.issues[0].message}`;
};

const NOTHING = { id: 'm', kind: 'moment', itemId: null, categoryId: null, comment: '' };
const block = (at: number, minutes: number) => ({ at, minutes, runs: 'clock', id: 'c' });

describe('what crosses a border', () => {
  it('describes logs as the core makes them', () => {
    const pick = { kind: 'pick' as const, categoryId: 'g', comment: '' };
    const clock = {
      id: 'c',
      name: 'C',
      colour: '#000000',
      lengthMs: HOUR_MS,
      lines: [
        { ...pick, id: 'p', filter: 'tempo:4', spare: true as const, rules: 'off' as const, ask: 'Who?', note: 'n' },
        { id: 'i', kind: 'item' as const, itemId: 'x', comment: '' },
        { id: 'b', kind: 'break' as const, bookedAtMs: 0, durationMs: 1, comment: '' },
        { id: 'm', kind: 'moment' as const, atMs: 60_000, hard: false, itemId: null, categoryId: 'g', comment: '' },
        { id: 'f', kind: 'fill' as const, categoryId: 'g', comment: '' },
        { id: 's', kind: 'next show' as const, comment: '' },
        { id: 'n', kind: 'note' as const, text: '', comment: '' },
      ],
    };
    const week = { blocks: [], defaultClockId: 'c' };
    const framing = { ...NO_FRAMING, hourOpenerId: 'c' };
    const data = {
      timeZone: 'Europe/Dublin',
      plan: { week, dates: [], shows: [], framing, clocks: [clock] },
      items: [],
      categories: {},
      filters: { 'tempo:4': [] },
      musicCategories: [],
      approvedOnly: [],
      spreadHours: true,
      coolOffs: {},
      orders: {},
      rules: [],
      history: [],
      dayparts: [],
      exemptAlbums: [],
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
    [HandEdit, { type: 'lock', entryId: 'a-0' }, 'locked'],
    [NewRule, { shape: 'apart', tag: 'artist', amount: 1.5 }, 'amount'],
    [ItemQuery, { limit: '1e9' }, 'limit is not a whole number'],
    [NewClock, { name: 'C', colour: '#000000', lengthMs: 400_000 }, 'lengthMs is not a multiple of five minutes'],
    [NewClock, { name: 'C', colour: '#000000', lines: [{ ...NOTHING, atMs: 0, hard: true }] }, 'lines hold a moment'],
    [NewShow, { name: 'S', colour: '#000000', clockIds: [], minutes: 60 }, 'clockIds are none'],
    [WeekUpdate, { revision: 1, blocks: [block(0, 60), block(55, 60)] }, 'blocks overlap'],
    [WeekUpdate, { revision: 1, blocks: [block(0, 60), block(10_020, 65)] }, 'blocks overlap'],
    [WeekUpdate, { revision: 1, blocks: [block(7, 60)] }, 'blocks.0.at is not a multiple'],
    [NewDatePlan, { name: 'D', start: '2026-02-30' }, 'start is not a date'],
    [NewDatePlan, { name: 'D', start: '2026-02-20', repeat: 'FREQ=NEVER' }, 'repeat is not a recurrence rule'],
    [NewDatePlan, { name: 'D', start: '2026-02-20', like: 7 }, 'like is not a day'],
  ] as const)('refuses what makes no sense: %#', (schema, value, why) => {
    expect(issue(schema as v.GenericSchema, value)).toContain(why);
  });

  it('fills in what may be left out', () => {
    expect(v.parse(GenerateRequest, { from: '2026-11-23' })).toEqual({
      from: '2026-11-23',
      days: 1,
      seed: 1,
      replaceByHand: false,
      rulesOff: [],
      only: 'all',
      relax: [],
      stations: [],
      preview: false,
    });
    expect(v.parse(ItemQuery, {})).toMatchObject({ sort: 'title', dir: 'asc', offset: 0, limit: 100 });
  });
});
