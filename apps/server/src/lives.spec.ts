import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { CategoryRow, ItemLife, Moves } from '@fuller/contracts';
import { programAt } from './actor.js';
import { rowOf, rowsOf } from './db/queries/query.js';
import { UNWATCHED } from './jobs/job-runner.js';
import { testServer, TODAY, TOMORROW, type TestServer } from './testing/test-server.js';

const VALE = '/api/stations/vale';
let server: TestServer;

beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

const categories = async (): Promise<CategoryRow[]> =>
  (await server.api.get(`${VALE}/catalogue`).expect(200)).body.categories as CategoryRow[];
const category = async (id: string): Promise<CategoryRow> => (await categories()).find((one) => one.id === id)!;
const patch = async (id: string, fields: object, status = 200) =>
  server.api
    .patch(`${VALE}/categories/${id}`)
    .send({ revision: (await category(id)).revision, ...fields })
    .expect(status);
const moves = async (until?: string): Promise<Moves> =>
  (
    await server.api
      .get(`${VALE}/moves`)
      .query(until ? { until } : {})
      .expect(200)
  ).body as Moves;
const life = async (item: string): Promise<ItemLife> =>
  (await server.api.get(`${VALE}/items/${item}/life`).expect(200)).body as ItemLife;
const plan = (item: string, planned: object | null, status = 200) =>
  server.api.put(`${VALE}/items/${item}/life`).send({ planned }).expect(status);
const placedIn = async (item: string): Promise<string | undefined> => (await life(item)).categoryId ?? undefined;
const undo = (activityId: string) => server.api.post(`/api/activity/${activityId}/undo`).expect(200);
/** Songs that came on a date. */
const came = (date: string, ...items: string[]) =>
  server.services.store.write({ clientId: 'test', stationId: 'vale', label: 'Came' }, async (changes) => {
    for (const item of items) await changes.update('placement', `place-${item}`, { since: date });
  });

describe('the life of songs', () => {
  it('is a rule of their category: what is due is listed with both turnovers, and told on each song', async () => {
    await came('2026-10-26', 'song1', 'song2');
    await patch('gold', { life: { after: 4, unit: 'weeks', to: 'gold' } }, 400);
    await patch('gold', { life: { after: 4, unit: 'weeks', to: 'nowhere' } }, 404);
    await patch('gold', { life: { after: 4, unit: 'weeks', to: 'fresh' } });
    // Of the others nobody knows since when they are there: they count from the day the life was set.
    expect(await life('song3')).toMatchObject({
      since: expect.stringMatching(/^2026-11-2/),
      next: { date: expect.anything() },
    });
    const { moves: due, effects, today } = await moves(TOMORROW);
    expect([today, due.map(({ itemId, from, to, date }) => [itemId, from, to, date])]).toEqual([
      TODAY,
      [
        ['song1', 'gold', 'fresh', TODAY],
        ['song2', 'gold', 'fresh', TODAY],
      ],
    ]);
    const gold = effects.find(({ categoryId }) => categoryId === 'gold')!;
    expect([gold.leave, gold.come, gold.songs.today - gold.songs.then]).toEqual([2, 0, 2]);
    expect(gold.turnoverHours.then!).toBeLessThan(gold.turnoverHours.today!);
    expect((await moves('2027-01-31')).moves).toHaveLength(gold.songs.today);
  });

  it('is respected by a run past the date, before anybody moves a song', async () => {
    await plan('song5', { kind: 'on', date: TOMORROW, to: null });
    const range = { from: TODAY, days: 2, seed: 1, only: 'all' } as const;
    await server.services.generate.run(programAt('vale', 'test'), range, UNWATCHED);
    const plays = (date: string, item: string) =>
      rowsOf(server.services.store.read, 'select 1 from play where "date" = ? and item_id = ?', [date, item]);
    expect(await plays(TODAY, 'song1')).toHaveLength(0);
    expect((await plays(TODAY, 'song5')).length).toBeGreaterThan(0);
    expect(await plays(TOMORROW, 'song5')).toHaveLength(0);
    expect((await plays(TOMORROW, 'song6')).length).toBeGreaterThan(0);
  });

  it('goes on by one key, undone by one; a song that is kept stays', async () => {
    await plan('song2', { kind: 'stays' });
    const { body } = await server.api.post(`${VALE}/moves`).send({}).expect(200);
    expect([await placedIn('song1'), await placedIn('song2')]).toEqual(['fresh', 'gold']);
    expect((await life('song1')).since).toMatch(/^2026-11-2/);
    await undo(body.activityId as string);
    expect(await life('song1')).toMatchObject({ categoryId: 'gold', since: '2026-10-26' });
    // A song is moved before its time when it is named.
    await server.api
      .post(`${VALE}/moves`)
      .send({ itemIds: ['song7'] })
      .expect(200);
    expect(await placedIn('song7')).toBe('fresh');
    await server.api
      .post(`${VALE}/moves`)
      .send({ itemIds: ['song2'] })
      .expect(400);
  });

  it('is planned by hand: on a date, after plays, and refused where it makes no sense', async () => {
    await plan('song8', { kind: 'plays', plays: 1, to: 'fresh' });
    await came('2026-11-01', 'song8');
    const { next, plays } = await life('song8');
    expect(plays).toBeGreaterThan(0);
    expect(next).toEqual({ to: 'fresh', date: TODAY, expected: false, byHand: true });
    await plan('song8', { kind: 'plays', plays: 5000, to: 'fresh' });
    expect((await life('song8')).next).toMatchObject({ expected: true });
    await plan('song8', null);
    expect((await life('song8')).next).toMatchObject({ byHand: false });
    await plan('song8', { kind: 'on', date: TOMORROW, to: 'gold' }, 400);
    await plan('song8', { kind: 'on', date: TOMORROW, to: 'nowhere' }, 404);
    await plan('song8', { kind: 'on', date: 'soon', to: null }, 400);
    await plan('song59', { kind: 'stays' }, 400);
  });

  it('goes on each night where the station wants it, once a day, so that an undo holds until the next', async () => {
    const { lives, store } = server.services;
    await lives.carryOutNightly();
    expect(await placedIn('song1')).toBe('gold');
    const { revision } = (await server.api.get('/api/stations')).body.find((one: { id: string }) => one.id === 'vale');
    await server.api.patch('/api/stations/vale').send({ revision, movesByItself: true }).expect(200);
    await lives.carryOutNightly();
    expect(await placedIn('song1')).toBe('fresh');
    const { id } = await rowOf<{ id: string }>(store.read, `select id from activity where client_id = 'nightly'`);
    await undo(id);
    await lives.carryOutNightly();
    expect(await placedIn('song1')).toBe('gold');
  });

  it('forgets a category that is deleted, and goes along with a copy of the station', async () => {
    const made = await server.api.post('/api/stations').send({
      name: 'Copy',
      timeZone: 'Europe/Dublin',
      copyOf: { stationId: 'vale', parts: 'everything' },
    });
    const copied = (await server.api.get(`/api/stations/${made.body.id}/catalogue`)).body.categories as CategoryRow[];
    const [gold, fresh] = ['Gold', 'Fresh'].map((name) => copied.find((one) => one.name === name)!);
    expect(gold!.life).toEqual({ after: 4, unit: 'weeks', to: fresh!.id });
    const song7 = await rowOf<{ since: string }>(
      server.services.store.read,
      `select since from placement where item_id = 'song7' and category_id = ?`,
      [fresh!.id],
    );
    expect(song7.since).toMatch(/^2026-11-2/);
    await server.api.post(`${VALE}/moves`).send({ itemIds: ['song4'] });
    await server.services.itemEdits.place(programAt('vale', 'test'), ['song7', 'song4'], null);
    await server.api.delete(`${VALE}/categories/fresh`).expect(200);
    expect((await category('gold')).life).toBeNull();
  });
});
