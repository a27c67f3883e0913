import { describe, expect, it } from '@jest/globals';
import { isFiltering, NO_FILTER, shownRows, type DeskFilter } from './desk-filter';
import type { EntryRow, LogRow } from './log-model';

const hour = (index: number): LogRow =>
  ({ kind: 'hour', id: `hour-${index}`, hour: { index, localHour: index + 16 } }) as unknown as LogRow;
const row = (id: string, hourIndex: number, entry: object, more: Partial<EntryRow> = {}): LogRow =>
  ({
    kind: 'entry',
    id,
    hourIndex,
    entry: { kind: 'pick', itemId: 's', locked: false, origin: 'engine', note: '', ...entry },
    startMs: hourIndex * 100,
    durationMs: 50,
    item: { title: 'Réalta', artist: 'Maeve' },
    category: { id: 'gold', name: 'Gold' },
    strains: [],
    ...more,
  }) as unknown as LogRow;
const MUST = { strains: [{ ruleId: 'r', strength: 'must' as const, words: '' }] };
const WISH = { strains: [{ ruleId: 'w', strength: 'wish' as const, words: '' }] };
const ROWS: LogRow[] = [
  hour(0),
  row('open', 0, { itemId: null }, { item: null }),
  row('hand', 0, { origin: 'hand' }),
  { kind: 'silence', id: 'silence-1', hourIndex: 0, startMs: 60, durationMs: 5 },
  hour(1),
  row('locked', 1, { locked: true }, MUST),
  row('noted', 1, { note: 'Fair day' }, WISH),
  hour(2),
  row('put', 2, { kind: 'item', placed: 'hand' }, { category: { id: 'fresh', name: 'Fresh' } as never }),
];
const ids = (filter: Partial<DeskFilter>, collapsed: number[] = [], always: string | null = null) =>
  shownRows(ROWS, { ...NO_FILTER, ...filter }, new Set(collapsed), { nowMs: 160, always }).map(({ id }) => id);

describe('what the desk shows of a log', () => {
  it('finds a break by what is booked in it', () => {
    const spots = [{ cart: 'SP7', sponsor: 'Canal Bakery', title: 'Loaves' }];
    const rows = [hour(0), row('break', 0, { kind: 'break', spots }, { item: null, category: null })];
    const found = (words: string) =>
      shownRows(rows, { ...NO_FILTER, words }, new Set(), { nowMs: 0, always: null }).map(({ id }) => id);
    expect([found('bakery sp7'), found('brewery')]).toEqual([['hour-0', 'break'], []]);
  });

  it('is all of it, the very same rows, where nothing is asked', () => {
    expect(shownRows(ROWS, NO_FILTER, new Set(), { nowMs: 0, always: null })).toBe(ROWS);
    expect(isFiltering({ ...NO_FILTER, words: '  ' })).toBe(false);
  });

  it.each([
    ['matters', ['hour-0', 'open', 'hour-1', 'locked']],
    ['open', ['hour-0', 'open']],
    ['wishes', ['hour-1', 'noted']],
    ['hand', ['hour-0', 'hand', 'hour-2', 'put']],
    ['locked', ['hour-1', 'locked']],
    ['notes', ['hour-1', 'noted']],
    ['coming', ['hour-2', 'put']],
  ] as const)('%s', (show, expected) => {
    expect(ids({ show })).toEqual(expected.filter((id) => id !== 'hour-1' || show !== 'coming'));
  });

  it('is found by a category, and by words whatever their accents: of a title, an artist, a category, a note or an hour', () => {
    expect(ids({ categoryId: 'fresh' })).toEqual(['hour-2', 'put']);
    expect(ids({ words: 'realta MAEVE' })).not.toContain('open');
    expect(ids({ words: 'fair' })).toEqual(['hour-1', 'noted']);
    expect(ids({ words: 'nobody' })).toEqual([]);
    expect(ids({ words: '17:00' })).toEqual(['hour-1', 'locked', 'noted']);
  });

  it('leaves out the entries of hours that are collapsed, and keeps the chosen entry under a filter', () => {
    expect(ids({}, [0, 2])).toEqual(['hour-0', 'hour-1', 'locked', 'noted', 'hour-2']);
    expect(ids({ show: 'locked' }, [1], 'hand')).toEqual(['hour-0', 'hand', 'hour-1', 'locked']);
  });
});
