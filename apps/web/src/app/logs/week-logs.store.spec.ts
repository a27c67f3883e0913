import { describe, expect, it } from '@jest/globals';
import { ApiError } from '../shared/api/api';
import { openPlace } from '../testing/place';
import { viewDates } from './view-order';
import { WeekLogs } from './week-logs.store';

const pick = (id: string, categoryId: string, itemId: string | null) => ({
  id,
  kind: 'pick',
  categoryId,
  itemId,
  note: '',
});
const view = (date: string) => ({
  revision: 1,
  log: {
    date,
    timeZone: 'UTC',
    hours: [7, 8].map((localHour, index) => ({
      index,
      localHour,
      startMs: localHour * 3_600_000,
      durationMs: 3_600_000,
      entries: [
        pick(`id-${localHour}`, 'ids', 's0'),
        pick(`a-${localHour}`, 'gold', 's1'),
        pick(`b-${localHour}`, 'gold', null),
      ],
    })),
  },
  items: [
    { id: 's0', title: 'Ident', artist: '', durationMs: 10_000 },
    { id: 's1', title: 'Ember', artist: 'Ada', durationMs: 200_000 },
  ],
  strains: [{ entryId: 'a-8', ruleId: 'r', by: 1 }],
});
const category = (id: string, music: boolean) => ({
  id,
  code: id[0]!.toUpperCase(),
  colour: '#123456',
  name: id,
  music,
  averageMs: 180_000,
});

const week = (log: (at: { date: string }) => unknown) =>
  openPlace(WeekLogs, {
    catalogue: { categories: [category('ids', false), category('gold', true)] as never },
    answers: { log: log as never },
  });

describe('seven logs side by side', () => {
  it('show one slot of music an hour of each day, at its time; a day without a log is empty', async () => {
    const { store } = week(({ date }) =>
      date === '2026-11-26' ? Promise.reject(new ApiError('NO_LOG', 'none', undefined)) : view(date),
    );
    await store.open('vale', viewDates('2026-11-24', 'seven'));
    expect(store.days()!.map(({ date, view: of }) => [date.slice(8), of !== null])).toEqual(
      ['24', '25', '26', '27', '28', '29', '30'].map((day) => [day, day !== '26']),
    );
    const [seven, eight] = store.rows();
    expect(store.rows()).toHaveLength(2);
    expect(seven!.cells[0]).toMatchObject([{ title: 'Ember', startMs: 7 * 3_600_000 + 10_000, isStrained: false }]);
    expect(seven!.cells[2]).toEqual([]);
    expect(eight!.cells[1]).toMatchObject([{ id: 'a-8', isStrained: true, date: '2026-11-25' }]);
    store.choice.set({ categoryId: null, slot: 1 });
    expect(store.rows()[0]!.cells[0]).toMatchObject([{ title: 'Open slot', isOpen: true }]);
  });

  it('show every slot of a category, music or not', async () => {
    const { store } = week(({ date }) => view(date));
    await store.open('vale', viewDates('2026-11-24', 'seven'));
    store.choice.set({ categoryId: 'gold', slot: null });
    expect(store.rows()[0]!.cells[0]!.map(({ id }) => id)).toEqual(['a-7', 'b-7']);
    store.choice.set({ categoryId: 'ids', slot: null });
    expect(store.rows()[1]!.cells[6]!.map(({ title }) => title)).toEqual(['Ident']);
  });

  it('say why they cannot be read', async () => {
    const { store } = week(() => Promise.reject(new ApiError('OFFLINE', 'The server does not answer.', undefined)));
    await store.open('vale', viewDates('2026-11-24', 'seven'));
    expect([store.days(), store.failed()]).toEqual([null, 'The server does not answer.']);
  });
});
