import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { LogView, SponsorWeek } from '@fuller/contracts';
import type { ClockLine, PickEntry } from '@fuller/core';
import { newItemRow } from './library/item-row.js';
import { endOfJob, seedStations, testServer, TOMORROW, type TestServer } from './testing/test-server.js';

const base = '/api/stations/vale';
const MONDAY = '2026-11-23';
const LINES: readonly ClockLine[] = ['p0', 's0', 'p1', 'p2', 's1', 'p3'].map((id) => ({
  id,
  kind: 'pick',
  categoryId: id.startsWith('s') ? 'fresh' : 'gold',
  comment: '',
}));

let server: TestServer;
beforeAll(async () => {
  server = await testServer(async (services) => {
    await seedStations(services);
    await services.store.write({ clientId: 'seed', stationId: null, label: 'Messages' }, async (changes) => {
      const messages = ['Bakery', 'Ferry', 'Bank'].flatMap((artist) =>
        [1, 2].map((n) => ({
          ...newItemRow({ kind: 'sponsor message', title: `${artist} ${n}`, artist, album: '', durationMs: 20_000 }),
          id: `${artist}-${n}`,
        })),
      );
      await changes.insert('item', messages);
      await changes.insert(
        'placement',
        messages.map(({ id }) => ({ id: `p-${id}`, itemId: id, categoryId: 'fresh' })),
      );
    });
  });
  const { body } = await server.api.get(`${base}/catalogue`).expect(200);
  const { id, revision, name, colour } = body.clocks[0];
  await server.api.put(`${base}/clocks/${id}`).send({ revision, name, colour, lines: LINES }).expect(200);
});
afterAll(() => server.close());

const week = async (date = TOMORROW): Promise<SponsorWeek> =>
  (await server.api.get(`${base}/sponsors/week/${date}`).expect(200)).body;
const add = (body: object) => server.api.post(`${base}/sponsors`).send(body);
const generate = async (date: string) =>
  endOfJob(server, (await server.api.post(`${base}/generate`).send({ from: date }).expect(200)).body.id);
const placed = async (date: string): Promise<string[]> => {
  const view: LogView = (await server.api.get(`${base}/logs/${date}`).expect(200)).body;
  return view.log.hours.flatMap(({ entries }) =>
    (entries as PickEntry[]).flatMap(({ categoryId, itemId }) => (categoryId === 'fresh' ? (itemId ?? 'open') : [])),
  );
};

describe('sponsors', () => {
  it('are those whose messages stand in the library, until something is agreed', async () => {
    const { sponsors, settings, days, monday } = await week();
    expect(sponsors.map(({ id, name, messages }) => [id, name, messages])).toEqual([
      [null, 'Bakery', 2],
      [null, 'Bank', 2],
      [null, 'Ferry', 2],
    ]);
    expect(settings).toEqual({ revision: 0, rivalsApartMinutes: 15, mostPerHour: null });
    expect(monday).toBe(MONDAY);
    expect(days[1]).toEqual({ date: TOMORROW, from: 'plan', slots: 48 });
  });

  it('keep what was promised, told before the run and after it', async () => {
    const made = await add({ name: 'bakery', product: 'food', promises: [{ count: 20, per: 'day', daypartId: null }] });
    expect(made.status).toBe(200);
    const before = (await week()).sponsors[0]!;
    expect(before).toMatchObject({ name: 'bakery', messages: 2, placed: [null, null, null, null, null, null, null] });
    expect(before.promises[0]).toMatchObject({ asked: Array(7).fill(20), placed: Array(7).fill(20) });
    await generate(TOMORROW);
    const names = (await placed(TOMORROW)).map((id) => id.split('-')[0]);
    expect(names.filter((name) => name === 'Bakery')).toHaveLength(20);
    expect(names.some((name, n) => name === names[n + 1])).toBe(false);
    const after = await week();
    expect(after.days[1]).toMatchObject({ from: 'log' });
    expect(after.sponsors[0]!.placed[1]).toBe(20);
    expect(after.sponsors[0]!.aired[1]).toBeNull();
  });

  it('say with the numbers what cannot be kept', async () => {
    const hours = `${'0'.repeat(6)}11${'0'.repeat(16)}`.repeat(7);
    const part = await server.api.post(`${base}/dayparts`).send({ name: 'Early', hours }).expect(200);
    const { id } = (
      await add({ name: 'Ferry', promises: [{ count: 5, per: 'day', daypartId: part.body.id }] }).expect(200)
    ).body;
    const { body } = await server.api.get(`${base}/sponsors/shortfalls?from=2026-11-25&to=2026-11-26`).expect(200);
    expect(body).toEqual(
      ['2026-11-25', '2026-11-26'].map((date) => ({
        date,
        sponsor: 'Ferry',
        count: 5,
        per: 'day',
        daypartId: part.body.id,
        asked: 5,
        placed: 2,
        slots: 4,
      })),
    );
    // A daypart that messages are promised in stays.
    const refused = await server.api.delete(`${base}/dayparts/${part.body.id}`).expect(409);
    expect(refused.body.message).toContain('promised to Ferry');
    const { revision } = (await week()).sponsors.find((one) => one.id === id)!;
    await server.api.patch(`${base}/sponsors/${id}`).send({ revision, promises: [] }).expect(200);
    expect((await server.api.get(`${base}/sponsors/shortfalls?from=2026-11-25&to=2026-11-26`)).body).toEqual([]);
  });

  it('are kept apart as set, from the next run on', async () => {
    await server.api
      .put(`${base}/sponsors/settings`)
      .send({ revision: 0, rivalsApartMinutes: 600, mostPerHour: 1 })
      .expect(200);
    await server.api
      .put(`${base}/sponsors/settings`)
      .send({ revision: 0, rivalsApartMinutes: 5, mostPerHour: 1 })
      .expect(409);
    await add({ name: 'Bank', product: 'FOOD' }).expect(200);
    await generate('2026-11-27');
    const names = (await placed('2026-11-27')).map((id) => id.split('-')[0]);
    // Rivals ten hours apart: whichever is on, the other is not near.
    names.forEach((name, n) => {
      if (name === 'Bank') expect(names.slice(Math.max(0, n - 19), n + 20)).not.toContain('Bakery');
    });
  });

  it('refuse what cannot be, naming it', async () => {
    expect((await add({ name: ' BAKERY ' }).expect(409)).body).toMatchObject({ code: 'NAME_TAKEN', field: 'name' });
    const wrong = { name: 'New', startDate: '2026-12-02', endDate: '2026-12-01' };
    expect((await add(wrong).expect(400)).body).toMatchObject({ field: 'endDate' });
    const nowhere = { name: 'New', promises: [{ count: 1, per: 'day', daypartId: 'nowhere' }] };
    expect((await add(nowhere).expect(400)).body).toMatchObject({ field: 'promises.0.daypartId' });
    expect(
      (await add({ name: 'New', promises: [{ count: 0, per: 'day', daypartId: null }] }).expect(400)).body.message,
    ).toContain('less than 1');
  });

  it('go, and come back with undo', async () => {
    const { id } = (await week()).sponsors[0]!;
    const gone = await server.api.delete(`${base}/sponsors/${id}`).expect(200);
    expect((await week()).sponsors.some((one) => one.id === id)).toBe(false);
    await server.api.post(`/api/activity/${gone.body.activityId}/undo`).expect(200);
    expect((await week()).sponsors.find((one) => one.id === id)?.promises).toHaveLength(1);
  });

  it('are no artists', async () => {
    const { body } = await server.api.get(`${base}/items/Bakery-1`).expect(200);
    expect(body.credits).toEqual([]);
    const patched = { revision: body.revision, artist: 'Bakery & Sons' };
    await server.api.patch(`${base}/items/Bakery-1`).send(patched).expect(200);
    expect((await server.api.get(`${base}/items/Bakery-1`)).body.credits).toEqual([]);
  });
});
