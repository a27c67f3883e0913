import { describe, expect, it } from '@jest/globals';
import type { Station } from '@fuller/contracts';
import { Store } from '@ngrx/store';
import { TestBed } from '@angular/core/testing';
import { catalogueActions } from '../state/catalogue.feature';
import { openPlace } from '../testing/place';
import { StationsStore } from './stations.store';

const station = (id: string, more: Partial<Station> = {}): Station => ({
  id,
  name: `Radio ${id}`,
  frequency: '',
  timeZone: 'UTC',
  today: '2026-11-24',
  revision: 3,
  archived: false,
  movesByItself: false,
  ...more,
});
const STATIONS = [station('vale'), station('night', { archived: true })];

async function stations(answers: Record<string, () => unknown> = {}) {
  const place = openPlace(StationsStore, { answers: { stations: () => STATIONS, ...answers } });
  TestBed.inject(Store).dispatch(catalogueActions.stationsLoaded({ stations: STATIONS }));
  await place.settle();
  return place;
}

describe('stations', () => {
  it('are listed with those that are archived, which do not count as active', async () => {
    const { store } = await stations();
    expect([store.stations().length, store.active().map(({ id }) => id)]).toEqual([2, ['vale']]);
  });

  it('begin empty, with everything of another one, or with its clocks and rules', async () => {
    const { store, server } = await stations();
    const weir = { name: 'Weir', timeZone: 'Europe/Dublin' };
    expect(await store.make(weir, 'empty')).toBeNull();
    await store.make(weir, 'everything:vale');
    await store.make(weir, 'clocks and rules:vale');
    expect(server.asked('createStation').map(({ body }) => (body as { copyOf: unknown }).copyOf)).toEqual([
      null,
      { stationId: 'vale', parts: 'everything' },
      { stationId: 'vale', parts: 'clocks and rules' },
    ]);
    expect(store.chosenId()).toBe('made');
  });

  it('are changed by the revision they have, and tell why they were not', async () => {
    const { store, server } = await stations({
      updateStation: () => {
        throw new Error('This is the last station that is not archived.');
      },
    });
    const [vale] = store.stations();
    expect(await store.change(vale!, { archived: true })).toBe('This is the last station that is not archived.');
    expect(server.asked('updateStation')).toMatchObject([
      { address: { id: 'vale' }, body: { revision: 3, archived: true } },
    ]);
  });
});
