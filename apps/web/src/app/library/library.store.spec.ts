import { TestBed } from '@angular/core/testing';
import { describe, expect, it } from '@jest/globals';
import type { ItemRow } from '@fuller/contracts';
import { openPlace } from '../testing/place';
import { LibraryStore, type ItemListQuery } from './library.store';
import { LibraryWords } from './library-words';

const TOTAL = 250;
const row = (index: number) => ({ id: `s${index}`, title: `Song ${index}` }) as ItemRow;
const ALL: ItemListQuery = { q: '', category: undefined, artist: undefined, sort: 'title', dir: 'asc' };
const step = (index: number, more: { extend?: boolean; toggle?: boolean } = {}) => ({
  index,
  extend: false,
  toggle: false,
  ...more,
});

async function library(total = TOTAL) {
  const place = openPlace(LibraryStore, {
    answers: {
      items: ({ offset, limit }: { offset: number; limit: number }) => ({
        total,
        offset,
        rows: Array.from({ length: Math.max(0, Math.min(limit, total - offset)) }, (_, n) => row(offset + n)),
      }),
      filterWords: () => ({ categories: [], families: {} }),
      pools: () => [],
      families: () => [],
      worklist: () => ({ itemIds: ['s7', 's8'] }),
    },
    providers: [LibraryWords],
  });
  place.store.ask('vale', ALL);
  await place.settle();
  return { ...place, selected: () => [...place.store.selected()].sort() };
}

describe('the list of the library', () => {
  it('selects a row, one more, and all between, over pages that are not there yet', async () => {
    const { store, selected, server } = await library();
    expect((await store.goTo(step(3)))?.id).toBe('s3');
    await store.goTo(step(5, { toggle: true }));
    expect(selected()).toEqual(['s3', 's5']);
    await store.goTo(step(5, { toggle: true }));
    expect(selected()).toEqual(['s3']);
    await store.goTo(step(98));
    await store.goTo(step(203, { extend: true }));
    expect(selected()).toHaveLength(106);
    expect(server.asked('items').map(({ address }) => address['offset'])).toEqual([0, 100, 200]);
  });

  it('answers only the last of moves that come faster than rows', async () => {
    const { store, selected } = await library();
    const [first, last] = await Promise.all([store.goTo(step(150)), store.goTo(step(151))]);
    expect([first, last?.id, selected()]).toEqual([null, 's151', ['s151']]);
  });

  it('acts on a selection whose rows are still on their way', async () => {
    const { store, server } = await library();
    void store.goTo(step(120));
    await store.collect(true);
    expect(server.asked('changeWorklist')[0]!.body).toEqual({ add: ['s120'] });
    await store.collect(false);
    expect(server.asked('changeWorklist')[1]!.body).toEqual({ remove: ['s120'] });
  });

  it('selects everything that was found, up to what can be changed at once', async () => {
    const { store, selected, told } = await library(5100);
    store.selectAll();
    expect(await store.hasSelection()).toBe(true);
    expect(selected()).toHaveLength(5000);
    expect(told).toEqual(['The first 5,000 are selected; more cannot be changed at once.']);
  });

  it('selects nothing where nothing was found, and then changes nothing', async () => {
    const { store, server } = await library(0);
    store.selectAll();
    expect(await store.hasSelection()).toBe(false);
    await store.collect(true);
    await store.place([], 'gold');
    expect(server.calls.every(({ name }) => name === 'items')).toBe(true);
  });

  it('drags a row alone unless it is selected, and the worklist with all that is on it', async () => {
    const { store, selected } = await library();
    await store.goTo(step(1));
    await store.goTo(step(2, { extend: true }));
    store.dragFrom(1);
    expect(selected()).toEqual(['s1', 's2']);
    store.dragFrom(9);
    expect(selected()).toEqual(['s9']);
    await TestBed.inject(LibraryWords).load('vale');
    store.selectWorklist();
    expect(selected()).toEqual(['s7', 's8']);
  });

  it('puts items into a category, or takes them out of theirs', async () => {
    const { store, server } = await library();
    await store.place(['s1'], 'gold');
    await store.place(['s1'], 'none');
    expect(server.asked('place').map(({ body }) => body)).toEqual([
      { itemIds: ['s1'], categoryId: 'gold' },
      { itemIds: ['s1'], categoryId: null },
    ]);
  });

  it('keeps the selection when it is read again, and drops it with another question', async () => {
    const { store, selected, events, settle, server } = await library();
    await store.goTo(step(4));
    events.next({ type: 'changed', stationId: null, clientId: 'x', what: ['library'], dataRevision: 2 });
    await settle(90);
    expect([selected(), store.version(), server.asked('items').length]).toEqual([['s4'], 1, 2]);
    store.ask('vale', { ...ALL, q: 'ember' });
    expect([selected(), store.active()]).toEqual([[], -1]);
    expect(server.asked('items').at(-1)!.address).toMatchObject({ q: 'ember', offset: 0 });
  });
});
