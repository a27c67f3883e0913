import { describe, expect, it } from '@jest/globals';
import type { CategoryRow, RotationRow } from '@fuller/contracts';
import { openPlace } from '../testing/place';
import { RotationStore } from './rotation.store';

const category = (id: string, groupId: string | null = null): CategoryRow => ({
  id,
  revision: 1,
  scope: 'station',
  name: id,
  code: id.slice(0, 2).toUpperCase(),
  colour: '#1F6FA8',
  music: true,
  groupId,
  turnOrder: 'even',
  approvedOnly: false,
  coolOff: null,
  life: null,
  pool: false,
  position: 0,
  items: 20,
  averageMs: 200_000,
  standardDeviationMs: 20_000,
  slotsPerWeek: 168,
  turnoverHours: 20,
});
const row = (categoryId: string, canPlay = 20): RotationRow => ({
  categoryId,
  items: 20,
  canPlay,
  barred: [],
  averageMs: 200_000,
  slotsByDay: [24, 24, 24, 24, 24, 24, 24],
  slots: Array.from({ length: 168 }, (_, hour) => hour * 3600),
  rules: [],
  rests: [],
  spread: null,
  plan: null,
});

async function sheet() {
  const place = openPlace(RotationStore, {
    catalogue: {
      groups: [
        { id: 'pop', name: 'Pop', position: 0 },
        { id: 'empty', name: 'Empty', position: 1 },
      ],
      categories: [category('gold', 'pop'), category('fresh')],
    },
    answers: { rotation: () => ({ weeks: 8, rows: [row('gold'), row('fresh')] }) },
  });
  await place.store.load('vale');
  const view = (id: string) => place.store.views().find((one) => one.category.id === id)!;
  return { ...place, view };
}

describe('the turnover sheet', () => {
  it('stands in groups, the empty ones too, and the rest under a name of its own', async () => {
    const { store } = await sheet();
    expect(store.groups().map(({ name, views }) => [name, views.map(({ category: { id } }) => id)])).toEqual([
      ['Pop', ['gold']],
      ['Empty', []],
      ['Other', ['fresh']],
    ]);
  });

  it('shows what follows from another number, and holds the number given last but one', async () => {
    const { store, view, server } = await sheet();
    const plays = view('gold').turn!.playsPerWeek;
    expect(store.wish(view('gold'), 'items', 40)).toBe(true);
    expect(view('gold').turn!.playsPerWeek).toBeCloseTo(plays / 2, 5);
    store.wish(view('gold'), 'playsPerWeek', 8.4);
    expect([view('gold').items, view('gold').slotsPerWeek]).toEqual([40, 336]);
    expect(server.calls.map(({ name }) => name)).toEqual(['rotation', 'moves']);
    store.drop('gold');
    expect(view('gold').turn!.playsPerWeek).toBeCloseTo(plays, 5);
  });

  it.each([
    ['items', 0],
    ['items', 2.5],
    ['slotsPerWeek', -1],
    ['playsPerWeek', 1001],
    ['items', Number.NaN],
  ] as const)('takes no %s of %s', async (what, value) => {
    const { store, view } = await sheet();
    store.wish(view('gold'), 'items', 40);
    expect(store.wish(view('gold'), what, value)).toBe(false);
    expect(view('gold').wished).toBe(false);
  });

  it('keeps the numbers as a plan, and ends the trial when that was made', async () => {
    const { store, view, server } = await sheet();
    store.wish(view('gold'), 'items', 30);
    await store.keep(view('gold'));
    expect(server.asked('keepPlan')).toMatchObject([
      { address: { stationId: 'vale', id: 'gold' }, body: { items: 30, slotsPerWeek: 168 } },
    ]);
    expect(view('gold').wished).toBe(false);
  });

  it('shows both categories with what is dragged from one to the other, and moves it when it is dropped', async () => {
    const { store, view, server } = await sheet();
    store.choose('gold');
    store.carry(['s1', 's2']);
    store.dragOver('fresh');
    expect([view('gold').items, view('fresh').items]).toEqual([18, 22]);
    store.dragLeave('gold');
    expect(view('fresh').items).toBe(22);
    await store.dropOn('fresh');
    expect(server.asked('place')[0]!.body).toEqual({ itemIds: ['s1', 's2'], categoryId: 'fresh' });
    expect([view('gold').items, view('fresh').items]).toEqual([20, 20]);
    store.carry(['s1']);
    await store.dropOn('gold');
    expect(server.asked('place')).toHaveLength(1);
  });

  it('refuses names and codes that are taken, and makes a category of songs that are split off', async () => {
    const { store, server } = await sheet();
    expect(await store.create('GOLD', 'X', null)).toBe('There is a category gold already.');
    expect(await store.create('Old', 'go', null)).toBe('The code belongs to gold.');
    expect(await store.create('Old', '!', null)).toMatch(/1 to 4 letters or digits/);
    store.choose('gold');
    expect(await store.create('Old', 'O', ['s1'])).toMatchObject({ id: 'made' });
    expect(server.asked('splitCategory')).toMatchObject([
      { address: { id: 'gold' }, body: { name: 'Old', code: 'O', itemIds: ['s1'] } },
    ]);
    await store.create('New', 'N', null);
    expect(server.asked('createCategory')[0]!.body).toMatchObject({ name: 'New', groupId: 'pop', music: true });
  });

  it('is read again after any change on the server, and says why it cannot be', async () => {
    const { store, events, server, settle } = await sheet();
    const before = store.version();
    events.next({ type: 'changed', stationId: null, clientId: 'x', what: ['library'], dataRevision: 2 });
    events.next({ type: 'changed', stationId: null, clientId: 'x', what: ['logs'], dataRevision: 3 });
    await settle(120);
    expect(server.asked('rotation')).toHaveLength(2);
    expect(store.version()).toBe(before + 1);
    server.answers['rotation'] = () => Promise.reject(new Error('The server does not answer.'));
    await store.load();
    expect([store.failed(), store.views()]).toEqual(['The server does not answer.', store.views()]);
    expect(store.views()[0]!.turn).not.toBeNull();
  });
});
