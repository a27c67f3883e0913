import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { testServer, type TestServer } from './testing/test-server.js';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

const catalogue = async (station = 'vale') =>
  (await server.api.get(`/api/stations/${station}/catalogue`).expect(200)).body;
const undo = (activityId: string) => server.api.post(`/api/activity/${activityId}/undo`);

describe('categories', () => {
  it('tell their items, average, demand and turnover', async () => {
    const { categories, items, withoutCategory } = await catalogue();
    expect(categories[0]).toMatchObject({
      name: 'Gold',
      items: 55,
      averageMs: 227_000,
      slotsPerWeek: 168 * 15,
      turnoverHours: 55 / 15,
    });
    expect(categories[1]).toMatchObject({ name: 'Fresh', items: 0, slotsPerWeek: 0, turnoverHours: null });
    expect([items, withoutCategory]).toEqual([60, 5]);
  });

  it('are seen by their own station alone', async () => {
    expect((await catalogue('night')).categories).toEqual([]);
  });

  it('are made, renamed and deleted, and each of it is undone and done again', async () => {
    const made = await server.api
      .post('/api/stations/vale/categories')
      .send({ name: 'Local hands', code: 'L', colour: '#112233', music: true, groupId: 'music' })
      .expect(200);
    const { id } = made.body;
    const renamed = await server.api
      .patch(`/api/stations/vale/categories/${id}`)
      .send({ revision: 1, name: 'Local lane' })
      .expect(200);
    const nameOf = async (): Promise<string | undefined> =>
      (await catalogue()).categories.find((row: { id: string }) => row.id === id)?.name;
    expect(await nameOf()).toBe('Local lane');
    const undone = await undo(renamed.body.activityId).expect(200);
    expect(await nameOf()).toBe('Local hands');
    await undo(undone.body.activityId).expect(200);
    expect(await nameOf()).toBe('Local lane');
    const deleted = await server.api.delete(`/api/stations/vale/categories/${id}`).expect(200);
    expect(await nameOf()).toBeUndefined();
    await undo(deleted.body.activityId).expect(200);
    expect(await nameOf()).toBe('Local lane');
  });

  it.each([
    [{ name: 'GOLD', code: 'X' }, 'name'],
    [{ name: 'The  Gold', code: 'X' }, 'name'],
    [{ name: 'Other', code: 'g' }, 'code'],
  ])('refuse a name or code that is taken, whatever the case: %j', async (fields, field) => {
    const { body } = await server.api
      .post('/api/stations/vale/categories')
      .send({ colour: '#112233', music: true, groupId: null, ...fields })
      .expect(409);
    expect(body).toMatchObject({ code: 'NAME_TAKEN', field });
  });

  it('cannot be deleted while a clock or an item needs them', async () => {
    const { body } = await server.api.delete('/api/stations/vale/categories/gold').expect(409);
    expect(body).toMatchObject({ code: 'IN_USE', message: 'Gold stands in Day.' });
  });
});

describe('a stale write', () => {
  it('is refused and loses nothing', async () => {
    await server.api.patch('/api/stations/vale/categories/fresh').send({ revision: 1, colour: '#445566' }).expect(200);
    const { body } = await server.api
      .patch('/api/stations/vale/categories/fresh')
      .send({ revision: 1, colour: '#000000' })
      .expect(409);
    expect(body.code).toBe('CONFLICT');
    expect((await catalogue()).categories[1]).toMatchObject({ colour: '#445566', revision: 2 });
  });

  it('of what is the same already changes nothing, not even the revision', async () => {
    const { body } = await server.api
      .patch('/api/stations/vale/categories/fresh')
      .send({ revision: 2, colour: '#445566' })
      .expect(200);
    expect(body.activityId).toBeNull();
    expect((await catalogue()).categories[1].revision).toBe(2);
  });
});

describe('undo', () => {
  it('is refused when the thing has been changed again since', async () => {
    const first = await server.api
      .patch('/api/stations/vale/categories/fresh')
      .send({ revision: 2, name: 'Newest' })
      .expect(200);
    const second = await server.api
      .patch('/api/stations/vale/categories/fresh')
      .send({ revision: 3, name: 'Brand new' })
      .expect(200);
    expect((await undo(first.body.activityId).expect(409)).body.code).toBe('CANNOT_UNDO');
    await undo(second.body.activityId).expect(200);
    await undo(first.body.activityId).expect(200);
    expect((await undo(first.body.activityId).expect(409)).body.message).toContain('undone already');
    expect((await catalogue()).categories[1].name).toBe('Fresh');
  });

  it('stands in the activity', async () => {
    const { body } = await server.api.get('/api/activity?limit=3').expect(200);
    expect(body[0]).toMatchObject({ label: 'Undo: Change category Newest', undone: false });
  });
});

describe('clocks', () => {
  const line = { id: 'x1', kind: 'pick', categoryId: 'gold', comment: '' };

  it('are saved with their lines under a label of the edit', async () => {
    const { body: made } = await server.api
      .post('/api/stations/vale/clocks')
      .send({ name: 'Evening', colour: '#112233' })
      .expect(200);
    const put = (body: object) =>
      server.api
        .put(`/api/stations/vale/clocks/${made.id}?label=Add%20a%20line`)
        .send({ name: 'Evening', colour: '#112233', ...body });
    const { body: saved } = await put({
      revision: 1,
      lines: [line, { id: 'x2', kind: 'break', bookedAtMs: 720_000, durationMs: 120_000, comment: 'news' }],
    }).expect(200);
    expect(saved.label).toBe('Add a line');
    const clock = (await catalogue()).clocks.find((row: { id: string }) => row.id === made.id);
    expect(clock.lines).toHaveLength(2);
    await undo(saved.activityId).expect(200);
    expect((await catalogue()).clocks.find((row: { id: string }) => row.id === made.id).lines).toEqual([]);
  });

  it.each([
    [[{ ...line, categoryId: 'nothing' }], 'lines.0.categoryId'],
    [[line, line], 'lines'],
    [[{ ...line, kind: 'dance' }], 'lines.0.kind'],
    [[{ id: 'b', kind: 'break', bookedAtMs: 24 * 3_600_000, durationMs: 1, comment: '' }], 'lines.0.bookedAtMs'],
    [[{ ...line, extra: 1 }], 'lines.0.extra'],
  ])('refuse lines that make no sense and name the place: %j', async (lines, field) => {
    const { revision } = (await catalogue()).clocks.find((row: { id: string }) => row.id === 'day');
    const { body } = await server.api
      .put('/api/stations/vale/clocks/day')
      .send({ revision, name: 'Day', colour: '#112233', lengthMs: 3_600_000, lines })
      .expect(400);
    expect(body).toMatchObject({ code: 'INVALID', field });
  });

  it('cannot be deleted while the week needs them', async () => {
    expect((await server.api.delete('/api/stations/vale/clocks/day').expect(409)).body.code).toBe('IN_USE');
  });
});

describe('rules', () => {
  const RULES = '/api/stations/vale/rules';
  const gold = { kind: 'category', id: 'gold', amount: 1800 };

  it('are made, rested and deleted', async () => {
    const rule = { shape: 'apart', tag: 'title', amount: 3600, exceptions: [gold] };
    const { body } = await server.api.post(RULES).send(rule).expect(200);
    expect(body.label).toBe('New rule: Keep the same title at least 1 h apart, 30 min in Gold');
    await server.api.patch(`${RULES}/${body.id}`).send({ revision: 1, resting: true }).expect(200);
    expect((await catalogue()).rules.at(-1)).toMatchObject({ ...rule, resting: true });
    await server.api.delete(`${RULES}/${body.id}`).expect(200);
    expect((await catalogue()).rules).toHaveLength(1);
  });

  it.each([
    [{ amount: 0 }, 'amount'],
    [{ tag: 'mood' }, 'tag'],
    [{ exceptions: [{ ...gold, id: 'nowhere' }] }, 'exceptions'],
    [{ places: [{ kind: 'clock', id: 'nowhere' }] }, 'places'],
    [{ shape: 'atLeast' }, 'strength'],
    [{ strength: 'soft' }, 'rank'],
    [{ windowSeconds: 60 }, 'windowSeconds'],
    [{ shape: 'handOff', amount: 0, value: 'a' }, 'followedBy'],
  ])('are refused with %j', async (wrong, field) => {
    const rule = { shape: 'apart', tag: 'title', amount: 3600, ...wrong };
    expect((await server.api.post(RULES).send(rule).expect(400)).body).toMatchObject({ code: 'INVALID', field });
    const { body: made } = await server.api.post(RULES).send({ shape: 'apart', tag: 'title', amount: 60 }).expect(200);
    await server.api
      .patch(`${RULES}/${made.id}`)
      .send({ revision: 1, ...wrong })
      .expect(400);
    await server.api.delete(`${RULES}/${made.id}`).expect(200);
  });

  it('follow the names of a tag family and its values, which stay while a rule is about them', async () => {
    const { body: family } = await server.api
      .post('/api/stations/vale/tag-families')
      .send({ name: 'Feel' })
      .expect(200);
    const url = `/api/stations/vale/tag-families/${family.id}`;
    const value = (was: string | null, name: string) => ({ was, value: name, code: '', colour: null });
    await server.api
      .patch(url)
      .send({ revision: 1, values: [value(null, 'dark'), value(null, 'bright')] })
      .expect(200);
    const rule = { shape: 'handOff', tag: 'Feel', value: 'dark', followedBy: 'bright', amount: 0 };
    const { body: made } = await server.api.post(RULES).send(rule).expect(200);
    await server.api
      .patch(url)
      .send({ revision: 2, name: 'Mood', values: [value('dark', 'dark'), value('bright', 'sunny')] })
      .expect(200);
    expect((await catalogue()).rules.at(-1)).toMatchObject({ tag: 'Mood', value: 'dark', followedBy: 'sunny' });
    expect(
      (
        await server.api
          .patch(url)
          .send({ revision: 3, values: [value('dark', 'dark')] })
          .expect(409)
      ).body.message,
    ).toContain('“sunny”');
    await server.api.delete(url).expect(409);
    await server.api.delete(`${RULES}/${made.id}`).expect(200);
    await server.api.delete(url).expect(200);
  });

  it('lose what they say of a clock that goes', async () => {
    const { body: clock } = await server.api
      .post('/api/stations/vale/clocks')
      .send({ name: 'Passing', colour: '#224466' })
      .expect(200);
    const at = { kind: 'clock', id: clock.id };
    const rule = { shape: 'streak', tag: 'album', amount: 2 };
    const { body: both } = await server.api
      .post(RULES)
      .send({ ...rule, exceptions: [{ ...at, amount: 1 }] })
      .expect(200);
    const { body: alone } = await server.api
      .post(RULES)
      .send({ ...rule, places: [at] })
      .expect(200);
    await server.api.delete(`/api/stations/vale/clocks/${clock.id}`).expect(200);
    const { rules } = await catalogue();
    expect(rules.find(({ id }: { id: string }) => id === both.id)).toMatchObject({ exceptions: [] });
    expect(rules.some(({ id }: { id: string }) => id === alone.id)).toBe(false);
    await server.api.delete(`${RULES}/${both.id}`).expect(200);
  });
});
