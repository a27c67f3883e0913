import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { testServer, TOMORROW, type TestServer } from './testing/test-server.js';

/** What belongs to one station is out of reach for another; what is shared is looked for at every station before it goes. */
let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

const vale = (path: string) => `/api/stations/vale/${path}`;
const night = (path: string) => `/api/stations/night/${path}`;
const make = async (path: string, body: object): Promise<string> =>
  (await server.api.post(path).send(body).expect(200)).body.id as string;
const snapshot = async (): Promise<string> => {
  const { body } = await server.api.get(vale('catalogue')).expect(200);
  const { body: pools } = await server.api.get(vale('pools')).expect(200);
  return JSON.stringify([body, pools]);
};

describe('what belongs to another station', () => {
  it('cannot be changed or deleted, and stays as it is', async () => {
    const show = await make(vale('shows'), { name: 'Market', colour: '#224466', clockIds: ['day'], minutes: 60 });
    const date = await make(vale('dates'), { name: 'Fair', start: TOMORROW });
    const pool = await make(vale('pools'), { name: 'Old', filter: 'year:..1990', scope: 'station' });
    const rule = await make(vale('rules'), { shape: 'apart', tag: 'album', amount: 60 });
    const before = await snapshot();
    const refused = [
      server.api.patch(night('categories/gold')).send({ revision: 1, name: 'Taken' }),
      server.api.delete(night('categories/fresh')),
      server.api.post(night('categories/gold/merge')).send({ into: 'fresh' }),
      server.api.post(night('categories/gold/split')).send({ name: 'X', code: 'X', itemIds: ['song1'] }),
      server.api.put(night('rotation/gold/plan')).send({ items: 1, slotsPerWeek: 1 }),
      server.api
        .put(night('clocks/day'))
        .send({ revision: 1, name: 'Taken', colour: '#000000', lengthMs: 3_600_000, lines: [] }),
      server.api.delete(night('clocks/day')),
      server.api.patch(night(`shows/${show}`)).send({ revision: 1, name: 'Taken' }),
      server.api.delete(night(`shows/${show}`)),
      server.api.patch(night(`dates/${date}`)).send({ revision: 1, name: 'Taken' }),
      server.api.delete(night(`dates/${date}`)),
      server.api.patch(night(`pools/${pool}`)).send({ revision: 1, name: 'Taken' }),
      server.api.delete(night(`pools/${pool}`)),
      server.api.patch(night(`rules/${rule}`)).send({ revision: 1, resting: true }),
      server.api.delete(night(`rules/${rule}`)),
    ];
    for (const request of refused) expect((await request).body).toMatchObject({ code: 'NOT_FOUND' });
    expect(await snapshot()).toBe(before);
  });

  it('is not shown either: an item of one station has no card at another', async () => {
    const { store } = server.services;
    await store.write({ clientId: 'test', stationId: 'vale', label: 'Own' }, async (changes) => {
      await changes.update('item', 'song9', { scope: 'station', stationId: 'vale' });
    });
    await server.api.get(vale('items/song9')).expect(200);
    await server.api.get(night('items/song9')).expect(404);
    await server.api.patch(night('items/song9')).send({ revision: 1, notes: 'x' }).expect(404);
    await server.api
      .post(night('approvals'))
      .send({ itemIds: ['song9'], by: 'Nora' })
      .expect(404);
    const edit = { do: 'set', field: 'year', value: 1901 };
    const both = { itemIds: ['song9', 'song3'], edit };
    expect((await server.api.post(night('bulk/preview')).send(both).expect(200)).body).toMatchObject({ changed: 1 });
    expect((await server.api.post(night('bulk')).send(both).expect(200)).body).toMatchObject({ changed: 1 });
    expect((await server.api.get(vale('items/song9'))).body.year).not.toBe(1901);
    const gold = { itemIds: ['song3'], categoryId: 'gold' };
    await server.api.post(night('placements')).send(gold).expect(404);
    await server.api.get(night('items/song3')).expect(200);
  });
});

describe('what is shared', () => {
  it('does not go while any station needs it', async () => {
    const category = await make(vale('categories'), {
      name: 'Imaging',
      code: 'I',
      colour: '#224466',
      music: false,
      groupId: null,
      scope: 'group',
    });
    const lines = [{ id: 'p0', kind: 'pick', categoryId: category, comment: '' }];
    const clock = await make(night('clocks'), { name: 'Small hours', colour: '#224466', lines });
    const { body } = await server.api.delete(vale(`categories/${category}`)).expect(409);
    expect(body).toMatchObject({ code: 'IN_USE', message: 'Imaging stands in Small hours.' });
    await server.services.store.write({ clientId: 'test', stationId: null, label: 'Share' }, async (changes) => {
      await changes.update('clock', clock, { scope: 'group', stationId: null });
    });
    const { week } = (await server.api.get(night('catalogue'))).body;
    await server.api.put(night('week')).send({ revision: week.revision, defaultClockId: clock }).expect(200);
    expect((await server.api.delete(vale(`clocks/${clock}`)).expect(409)).body.message).toContain('at Radio night');
    await server.api
      .put(night('week'))
      .send({ revision: week.revision + 1, defaultClockId: null })
      .expect(200);
    await server.api.delete(vale(`clocks/${clock}`)).expect(200);
    await server.api.delete(vale(`categories/${category}`)).expect(200);
  });
});
