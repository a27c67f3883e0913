import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { programAt } from './actor.js';
import { PlayEntity } from './db/entities/index.js';
import { NOW, testServer, TODAY, TOMORROW, type TestServer } from './testing/test-server.js';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
  const plays = Array.from({ length: 110 }, (_, n) => ({
    stationId: 'vale',
    itemId: n % 11 === 0 ? 'song0' : `song${n % 50}`,
    startMs: NOW - (110 - n) * 240_000,
    date: TODAY,
  }));
  await server.services.orm.em.fork().insertMany(PlayEntity, plays as never[]);
});
afterAll(() => server.close());

const base = '/api/stations/vale';
const get = async (what: string) => (await server.api.get(`${base}/${what}`).expect(200)).body;
const post = (what: string, body: object) => server.api.post(`${base}/${what}`).send(body);
const undo = (activityId: string) => server.api.post(`/api/activity/${activityId}/undo`).expect(200);
const catalogue = () => get('catalogue');

describe('the turnover sheet', () => {
  it('tells what can play and why the rest cannot, what the week asks, and how separations sit with it', async () => {
    const { body } = await post('bulk', {
      itemIds: ['song1', 'song2'],
      edit: { do: 'set', field: 'pausedUntil', value: '2026-12-24' },
    }).expect(200);
    const row = (await get('rotation')).rows.find(({ categoryId }: { categoryId: string }) => categoryId === 'gold');
    expect(row).toMatchObject({ items: 55, canPlay: 53, barred: [{ because: 'paused', items: 2 }] });
    expect(row.slots).toHaveLength(168 * 15);
    expect(row.slotsByDay).toEqual(Array.from({ length: 7 }, () => 360));
    expect(row.rules).toMatchObject([{ ruleId: 'artist', seconds: 1800 }]);
    // Three songs an artist of 55, two of them with the paused ones left out of what is asked about.
    expect(row.rules[0].own).toHaveLength(53);
    expect(row.rests.reduce((sum: number, one: number) => sum + one, 0)).toBe(53);
    await undo(body.activityId);
  });

  it('shows who is left behind and who is worn, and what each turn order would pick', async () => {
    const { items, expected, picks } = await get('rotation/gold');
    const of = (id: string) => items.find((item: { id: string }) => item.id === id);
    expect([of('song0').state, of('song54').state]).toEqual(['worn', 'left behind']);
    expect(of('song0').marks.length).toBe(of('song0').plays);
    expect(expected.averageMs).toBeCloseTo((55 / (168 * 15)) * 168 * 3_600_000, -3);
    expect(picks).toHaveLength(20);
    // What never played takes its turn, but not all turns.
    const next = picks.map(({ id }: { id: string }) => id);
    expect(next).toEqual(expect.arrayContaining(['song50', 'song51', 'song52', 'song53', 'song54']));
    expect(new Set(next).size).toBeGreaterThan(12);
    const inOrder = (await get('rotation/gold?order=in%20order')).picks.map(({ id }: { id: string }) => id);
    expect(inOrder).not.toEqual(picks.map(({ id }: { id: string }) => id));
    await server.api.get(`${base}/rotation/gold?order=sideways`).expect(400);
  });

  it('names what gets no turn in a week', async () => {
    const [clock] = (await catalogue()).clocks;
    const put = (lines: object[], revision: number) =>
      server.api
        .put(`${base}/clocks/${clock.id}`)
        .send({ revision, name: clock.name, colour: clock.colour, lengthMs: clock.lengthMs, lines });
    const week = (await catalogue()).week;
    const blocks = [{ at: 0, minutes: 240, runs: 'clock', id: 'day' }];
    const { body } = await server.api
      .put(`${base}/week`)
      .send({ revision: week.revision, blocks, defaultClockId: null })
      .expect(200);
    await put(clock.lines.slice(0, 12), clock.revision).expect(200);
    const { leftOver, items } = await get('rotation/gold');
    // 48 slots for 55 items; the one that played most comes last.
    expect(leftOver).toHaveLength(7);
    expect(leftOver.at(-1)).toBe(items.find(({ id }: { id: string }) => id === 'song0').title);
    await put(clock.lines, clock.revision + 1).expect(200);
    await undo(body.activityId);
  });

  it('keeps a plan, and drops it', async () => {
    const put = (body: object) => server.api.put(`${base}/rotation/gold/plan`).send(body);
    await put({ items: 40, slotsPerWeek: 2000 }).expect(200);
    const plan = async () =>
      (await get('rotation')).rows.find(({ categoryId }: { categoryId: string }) => categoryId === 'gold').plan;
    expect(await plan()).toEqual({ items: 40, slotsPerWeek: 2000 });
    await put({ items: 0, slotsPerWeek: 2000 }).expect(400);
    await server.api.delete(`${base}/rotation/gold/plan`).expect(200);
    expect(await plan()).toBeNull();
  });
});

describe('categories', () => {
  it('say what hangs on them, are made one, clocks and all, and undo makes them two', async () => {
    expect(await get('categories/gold/use')).toMatchObject({ items: 55, clocks: ['Day'], pools: [] });
    const { body } = await post('categories/gold/merge', { into: 'fresh' }).expect(200);
    const after = await catalogue();
    expect(after.categories.map(({ id }: { id: string }) => id)).toEqual(['fresh']);
    expect(after.categories[0].items).toBe(55);
    expect(new Set(after.clocks[0].lines.map(({ categoryId }: { categoryId: string }) => categoryId))).toEqual(
      new Set(['fresh']),
    );
    await undo(body.activityId);
    expect((await catalogue()).categories.map(({ items }: { items: number }) => items)).toEqual([55, 0]);
    await post('pools', { name: 'Golden', filter: 'category:G year:1990..' }).expect(200);
    expect((await post('categories/gold/merge', { into: 'fresh' }).expect(409)).body.message).toContain('Golden');
    await post('categories/gold/merge', { into: 'gold' }).expect(404);
  });

  it('are split, and stand in groups', async () => {
    const { body } = await post('categories/gold/split', {
      name: 'Gold two',
      code: 'G2',
      itemIds: ['song0', 'song1'],
    }).expect(200);
    await post('categories/gold/split', { name: 'gold TWO', code: 'G3', itemIds: ['song0'] }).expect(409);
    const group = (await post('category-groups', { name: 'Old' }).expect(200)).body;
    await post('category-groups', { name: 'OLD' }).expect(409);
    const made = (await catalogue()).categories.find(({ id }: { id: string }) => id === body.id);
    expect(made).toMatchObject({ items: 2, music: true, turnOrder: 'even' });
    await server.api
      .patch(`${base}/categories/${made.id}`)
      .send({ revision: made.revision, groupId: group.id, turnOrder: 'newest' })
      .expect(200);
    await server.api.delete(`${base}/category-groups/${group.id}`).expect(200);
    const later = (await catalogue()).categories.find(({ id }: { id: string }) => id === body.id);
    expect(later).toMatchObject({ groupId: null, turnOrder: 'newest' });
  });

  it('cool off what has played too much', async () => {
    const { revision } = (await catalogue()).categories.find(({ id }: { id: string }) => id === 'gold');
    const patch = (coolOff: object) => server.api.patch(`${base}/categories/gold`).send({ revision, coolOff });
    await patch({ plays: 1, days: 2, rest: 3 }).expect(400);
    await patch({ plays: 3, days: 2, rest: 29 }).expect(400);
    await server.services.store.write({ clientId: 'test', stationId: 'vale', label: 'Plays' }, async ({ em }) => {
      const plays = [20, 22, 24].map((hours) => ({
        stationId: 'vale',
        itemId: 'song5',
        startMs: NOW - hours * 3_600_000,
        date: '2026-11-22',
      }));
      await em.insertMany(PlayEntity, plays as never[]);
    });
    await patch({ plays: 3, days: 3, rest: 9 }).expect(200);
    const { rows } = await get('rotation');
    expect(rows.find(({ categoryId }: { categoryId: string }) => categoryId === 'gold').barred).toMatchObject([
      { because: 'cooling off', items: 1 },
    ]);
  });
});

describe('a line of a clock', () => {
  it('may draw from a pool, in a turn order of its own', async () => {
    const pool = (await post('pools', { name: 'Two thousands', filter: 'year:2000..2019' }).expect(200)).body.id;
    const [clock] = (await catalogue()).clocks;
    const line = (categoryId: string) => ({
      id: `x${categoryId}`,
      kind: 'pick',
      categoryId,
      comment: '',
      turnOrder: 'newest',
    });
    const write = (lines: object[]) =>
      server.api
        .put(`${base}/clocks/${clock.id}`)
        .send({ revision: clock.revision, name: clock.name, colour: clock.colour, lines });
    await write([line('nowhere')]).expect(400);
    await write([{ ...line(pool), turnOrder: 'sideways' }]).expect(400);
    await write([...clock.lines.slice(0, 8), line(pool), line('gold')]).expect(200);
    expect((await server.api.delete(`${base}/pools/${pool}`).expect(409)).body.message).toContain('Day');
    const row = (await catalogue()).categories.find(({ id }: { id: string }) => id === pool);
    expect(row).toMatchObject({ pool: true, code: 'TT', slotsPerWeek: 168 });
    await server.services.generate.run(
      programAt('vale', 'test'),
      { from: TOMORROW, days: 1, seed: 1, only: 'all' },
      RUNNING,
    );
    const { log } = await get(`logs/${TOMORROW}`);
    const picked = log.hours.flatMap(
      (hour: { entries: { categoryId?: string; itemId?: string | null }[] }) => hour.entries,
    );
    const ofPool = picked.filter((entry: { categoryId?: string }) => entry.categoryId === pool);
    expect(ofPool).toHaveLength(24);
    const years = new Map(
      (await get('items?limit=500')).rows.map((item: { id: string; year: number }) => [item.id, item.year]),
    );
    for (const { itemId, turnOrder } of ofPool) {
      expect([
        turnOrder,
        itemId === null || (Number(years.get(itemId)) >= 2000 && Number(years.get(itemId)) <= 2019),
      ]).toEqual(['newest', true]);
    }
    expect(ofPool.some(({ itemId }: { itemId: string | null }) => itemId !== null)).toBe(true);
  });
});

const RUNNING = { signal: new AbortController().signal, progress: () => {} };
