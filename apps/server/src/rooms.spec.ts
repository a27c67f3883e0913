import { handOverSettings } from '@fuller/contracts';
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import { actsOf } from './library/credits.js';
import { programAt } from './actor.js';
import { CreditEntity, ItemEntity, PlacementEntity } from './db/entities/index.js';
import { testServer, TOMORROW, type TestServer } from './testing/test-server.js';

const ME = programAt('vale', 'test');
const OTHER = programAt('night', 'test');

let server: TestServer;
beforeEach(async () => {
  server = await testServer();
});
afterEach(() => server.close());

const read = () => server.services.store.read;
const undo = (activityId: string | null) => server.services.store.undoing.undo(activityId!, 'test');
const categoryOf = async (itemId: string) => (await read().findOne(PlacementEntity, { itemId }))?.categoryId ?? null;
const creditsOf = async (itemId: string) =>
  (await read().find(CreditEntity, { itemId }, { orderBy: { position: 'asc' } })).map(({ artistId }) => artistId);
const artistNamed = async (name: string) => {
  const [row] = (await server.api.get(`/api/stations/vale/items?q=${encodeURIComponent(name)}&limit=1`)).body.rows;
  const [credit] = (await server.api.get(`/api/stations/vale/items/${row.id}`)).body.credits;
  return credit.artistId as string;
};

describe('categories', () => {
  it('tell before they go what hangs on them', async () => {
    await server.services.pools.create(ME, { name: 'Old gold', filter: 'category:g year:..1990', scope: 'station' });
    const use = await server.services.categories.use('vale', 'gold');
    expect(use).toMatchObject({ clocks: ['Day'], pools: ['Old gold'], rules: 0 });
    expect(use.items).toBeGreaterThan(30);
    expect(await server.services.categories.use('vale', 'fresh')).toMatchObject({ items: 0, clocks: [], pools: [] });
  });

  it('become part of another with their items and their lines in clocks, and come back in one step', async () => {
    await server.services.itemEdits.place(ME, ['song1'], 'fresh');
    const { activityId } = await server.services.categories.merge(ME, 'gold', 'fresh');
    expect([await categoryOf('song1'), await categoryOf('song2')]).toEqual(['fresh', 'fresh']);
    expect(await read().count(PlacementEntity, { itemId: 'song1' })).toBe(1);
    const [clock] = (await server.services.plans.rows('vale')).clocks;
    expect(new Set(clock!.lines.map((line) => (line.kind === 'pick' ? line.categoryId : '')))).toEqual(
      new Set(['fresh']),
    );
    await undo(activityId);
    expect([await categoryOf('song1'), await categoryOf('song2')]).toEqual(['fresh', 'gold']);
  });

  it('do not become part of themselves, nor while a pool asks for them', async () => {
    const { categories, pools } = server.services;
    await expect(categories.merge(ME, 'gold', 'gold')).rejects.toMatchObject({ code: 'NOT_FOUND' });
    await pools.create(ME, { name: 'Old gold', filter: 'category:g', scope: 'station' });
    await expect(categories.merge(ME, 'gold', 'fresh')).rejects.toMatchObject({ code: 'IN_USE' });
    await expect(categories.merge(OTHER, 'gold', 'fresh')).rejects.toMatchObject({ code: 'NOT_FOUND' });
    expect(await categoryOf('song2')).toBe('gold');
  });

  it('give some of their items to a new one like them, of another colour', async () => {
    const { value: id } = await server.services.categories.split(ME, 'gold', {
      name: 'Old gold',
      code: 'OG',
      itemIds: ['song1', 'song2'],
    });
    const { categories } = (await server.api.get('/api/stations/vale/catalogue')).body;
    const [gold, made] = ['gold', id].map((one) => categories.find((row: { id: string }) => row.id === one));
    expect(made).toMatchObject({ name: 'Old gold', code: 'OG', items: 2, turnOrder: gold.turnOrder, groupId: 'music' });
    expect(made.colour).not.toBe(gold.colour);
    for (const taken of [
      { name: 'FRESH', code: 'X' },
      { name: 'New', code: 'g' },
    ])
      await expect(
        server.services.categories.split(ME, 'gold', { ...taken, itemIds: ['song3'] }),
      ).rejects.toMatchObject({ code: 'NAME_TAKEN' });
    expect(await categoryOf('song3')).toBe('gold');
  });

  it('stay when their group goes', async () => {
    const { categories } = server.services;
    await expect(categories.createGroup(ME, 'MUSIC')).rejects.toMatchObject({ code: 'NAME_TAKEN' });
    await categories.renameGroup(ME, 'music', 'Songs');
    const { activityId } = await categories.removeGroup(ME, 'music');
    const group = async () => (await server.api.get('/api/stations/vale/catalogue')).body.categories[0].groupId;
    expect(await group()).toBeNull();
    await undo(activityId);
    expect(await group()).toBe('music');
  });
});

describe('pools', () => {
  const pool = { name: 'Long', filter: 'length:3:45..', scope: 'station' as const };

  it('are named once, whatever the case, and ask for something', async () => {
    const { pools } = server.services;
    await pools.create(ME, pool);
    await expect(pools.create(ME, { ...pool, name: 'LONG' })).rejects.toMatchObject({ code: 'NAME_TAKEN' });
    await expect(pools.create(ME, { ...pool, name: 'All', filter: '  ' })).rejects.toThrow('asks for everything');
    await expect(pools.create(ME, { ...pool, name: 'Odd', filter: 'tempo:' })).rejects.toMatchObject({
      code: 'INVALID',
    });
    expect((await pools.list('night')).map(({ name }) => name)).toEqual([]);
  });

  it('of the group are seen by every station', async () => {
    await server.services.pools.create(ME, { ...pool, scope: 'group' });
    expect((await server.services.pools.list('night')).map(({ name }) => name)).toEqual(['Long']);
  });

  it('hold nothing and say why when what they name has gone', async () => {
    const { pools, store } = server.services;
    await pools.create(ME, { name: 'Fresh ones', filter: 'category:f', scope: 'station' });
    await store.write({ clientId: 'test', stationId: 'vale', label: 'x' }, (changes) =>
      changes.remove('category', 'fresh'),
    );
    const [row] = await pools.list('vale');
    expect(row).toMatchObject({ items: 0, fault: expect.stringContaining('f') });
    expect(await pools.itemsOf('vale', [row!.id])).toEqual({ [row!.id]: [] });
  });

  it('stay as long as a clock draws from them', async () => {
    const { pools, store } = server.services;
    const { value: id } = await pools.create(ME, pool);
    const [clock] = (await server.services.plans.rows('vale')).clocks;
    const lines = clock!.lines.map((line, n) => (n === 0 ? { ...line, categoryId: id } : line));
    await store.write({ clientId: 'test', stationId: 'vale', label: 'x' }, (changes) =>
      changes.update('clock', 'day', { lines }),
    );
    await expect(pools.remove(ME, id)).rejects.toThrow('Long stands in the clock Day; take it out there first.');
    await expect(pools.remove(OTHER, id)).rejects.toThrow();
  });
});

describe('the worklist', () => {
  it('keeps each item once, in the order they were added, and no more than it can hold', async () => {
    const { worklist } = server.services;
    await worklist.change(ME, ['song3', 'song1'], []);
    await worklist.change(ME, ['song1', 'song2'], ['song3']);
    expect(await worklist.items('vale')).toEqual(['song1', 'song2']);
    expect(await worklist.items('night')).toEqual([]);
    const many = Array.from({ length: 5001 }, (_, n) => `x${n}`);
    await expect(worklist.change(ME, many, [])).rejects.toThrow('The worklist holds 5,000 items at most.');
    expect((await worklist.change(ME, ['song1'], [])).activityId).toBeNull();
  });
});

describe('credits', () => {
  it('follow the artist as it is printed, and meet whatever the spelling', async () => {
    const [artist] = await creditsOf('song0');
    await server.services.itemEdits.update(ME, 'song1', { revision: 1, artist: 'ARTIST 0 feat. Nobody Yet' });
    const [first, second] = await creditsOf('song1');
    expect(first).toBe(artist);
    const { body: card } = await server.api.get('/api/stations/vale/items/song1').expect(200);
    expect(card.credits.map(({ name, role }: { name: string; role: string }) => [name, role])).toEqual([
      ['Artist 0', 'main'],
      ['Nobody Yet', 'featured'],
    ]);
    expect(second).not.toBe(first);
  });

  it('of one act are one, for every item that prints it, until it is several again', async () => {
    const { itemEdits, store } = server.services;
    await itemEdits.update(ME, 'song1', { revision: 1, artist: 'Salt & Iron' });
    expect(await creditsOf('song1')).toHaveLength(2);
    const { activityId } = await itemEdits.setAct(ME, 'Salt & Iron', true);
    expect([await creditsOf('song1'), await actsOf(store.read)]).toEqual([[expect.any(String)], ['Salt & Iron']]);
    expect((await itemEdits.setAct(ME, 'SALT & IRON', true)).activityId).toBeNull();
    await undo(activityId);
    expect([(await creditsOf('song1')).length, await actsOf(store.read)]).toEqual([2, []]);
    await itemEdits.setAct(ME, 'Salt & Iron', true);
    await itemEdits.setAct(ME, 'Salt & Iron', false);
    expect(await creditsOf('song1')).toHaveLength(2);
  });

  it('of two artists become one with their names, and split again by hand', async () => {
    const { artists } = server.services;
    const [zero, one] = [await artistNamed('Réalta 0'), await artistNamed('Réalta 1')];
    expect(await artists.previewAlias(zero, 'Artist 1')).toMatchObject({ artist: { id: one } });
    await expect(artists.addAlias(ME, zero, 'Artist 1', false)).rejects.toMatchObject({ code: 'NAME_TAKEN' });
    await artists.addAlias(ME, zero, 'Artist 1', true);
    expect(await artists.view(zero)).toMatchObject({ aliases: [{ name: 'Artist 1' }] });
    await expect(artists.view(one)).rejects.toMatchObject({ code: 'NOT_FOUND' });
    const item = await read().findOneOrFail(ItemEntity, { id: 'song1' });
    expect(item.artist).toBe('Artist 0');
    const { value: made } = await artists.split(ME, zero, ['song1'], 'Artist 0 (Bristol)');
    expect(await creditsOf('song1')).toEqual([made]);
    // A new song of that name is the first artist’s; this one stays the other’s.
    await server.services.itemEdits.update(ME, 'song1', {
      revision: (await read().findOneOrFail(ItemEntity, { id: 'song1' })).revision,
      artist: 'Artist 0 feat. Guest',
    });
    expect((await creditsOf('song1'))[0]).toBe(made);
    await expect(artists.split(ME, zero, ['song1'], 'Elsewhere')).rejects.toThrow('is not by this artist');
  });
});

describe('edits of an item', () => {
  it('keep its points within it and its cart its own', async () => {
    const { itemEdits } = server.services;
    const change = (fields: object) => itemEdits.update(ME, 'song1', { revision: 1, ...fields });
    await expect(change({ introMs: 300_000 })).rejects.toMatchObject({
      field: 'introMs',
      message: 'The intro is longer than the item.',
    });
    await expect(change({ cart: 'C2' })).rejects.toThrow('Cart C2 belongs to “Réalta 2”.');
    await change({ cart: 'C1', title: 'Réalta 1' });
    await change({ title: 'Renamed' });
    await expect(change({ title: 'Late' })).rejects.toMatchObject({ code: 'CONFLICT' });
  });

  it('approve in a name once, and take it back', async () => {
    const { itemEdits } = server.services;
    const by = async () => (await read().findOneOrFail(ItemEntity, { id: 'song1' })).approvedBy ?? null;
    await itemEdits.approve(ME, ['song1', 'song2'], 'Maeve');
    expect((await itemEdits.approve(ME, ['song1'], 'Ada')).activityId).toBeNull();
    expect(await by()).toBe('Maeve');
    await itemEdits.approve(ME, ['song1'], null);
    expect(await by()).toBeNull();
    await expect(itemEdits.approve(ME, ['song2', 'ghost'], null)).rejects.toMatchObject({ code: 'NOT_FOUND' });
    expect((await read().findOneOrFail(ItemEntity, { id: 'song2' })).approvedBy).toBe('Maeve');
  });
});

describe('a rotation plan', () => {
  it('is of one station, changed and dropped', async () => {
    const { rotation } = server.services;
    const plan = async () => (await rotation.sheet('vale')).rows.find(({ categoryId }) => categoryId === 'gold')!.plan;
    await rotation.plan(ME, 'gold', { items: 30, slotsPerWeek: 100 });
    await rotation.plan(ME, 'gold', { items: 31, slotsPerWeek: 100 });
    expect(await plan()).toEqual({ items: 31, slotsPerWeek: 100 });
    await expect(rotation.plan(OTHER, 'gold', null)).rejects.toMatchObject({ code: 'NOT_FOUND' });
    const { activityId } = await rotation.plan(ME, 'gold', null);
    expect(await plan()).toBeNull();
    expect((await rotation.plan(ME, 'gold', null)).activityId).toBeNull();
    await undo(activityId);
    expect(await plan()).toEqual({ items: 31, slotsPerWeek: 100 });
  });
});

describe('days at a glance', () => {
  it('tell what is planned, handed over, out of date and aired', async () => {
    const { generate, logs, handOver } = server.services;
    const job = { signal: new AbortController().signal, progress: () => {} };
    await generate.run(ME, { from: TOMORROW, days: 1, seed: 1, only: 'all' }, job);
    const state = async () => (await logs.days('vale', TOMORROW, 2)).map((day) => day.state);
    const planned = await state();
    await handOver.write(ME, TOMORROW, handOverSettings({ pattern: '{date}.m3u8', hourly: false }));
    const handedOver = await state();
    expect(handedOver[0]).not.toBe(planned[0]);
    expect(handedOver[1]).toBe(planned[1]);
    const { records } = await handOver.state('vale', TOMORROW);
    expect(records).toMatchObject([{ stale: false, date: TOMORROW }]);
    const row = await logs.mustFind('vale', TOMORROW);
    const entry = row.hours.flatMap(({ entries }) => entries).find(({ kind }) => kind === 'pick')!;
    await server.services.logWriter.edit(ME, TOMORROW, row.revision, { type: 'note', entryId: entry.id, note: 'x' });
    expect((await handOver.state('vale', TOMORROW)).records).toMatchObject([{ stale: true }]);
    await expect(logs.mustFind('vale', '2026-12-24')).rejects.toMatchObject({ code: 'NO_LOG' });
  });
});
