import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { BeginView, SetUpView } from '@fuller/contracts';
import { programAt } from './actor.js';
import { rowOf } from './db/queries/query.js';
import { UNWATCHED } from './jobs/job-runner.js';
import { newItemRow } from './library/item-row.js';
import { addCredits } from './library/credits.js';
import { SONGS, testServer, TOMORROW, type TestServer } from './testing/test-server.js';

/** A station that has nothing but the songs of the group. */
const NIGHT = '/api/stations/night';
let server: TestServer;

beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

const view = async (): Promise<BeginView> => (await server.api.get(`${NIGHT}/begin`).expect(200)).body as BeginView;
const proposed = async (breaks = '0'): Promise<SetUpView> =>
  (await server.api.get(`${NIGHT}/begin/set-up`).query({ breaks }).expect(200)).body as SetUpView;
const post = (path: string, body: object, status: number) =>
  server.api.post(`${NIGHT}/begin/${path}`).send(body).expect(status);
const undo = (activityId: string) => server.api.post(`/api/activity/${activityId}/undo`).expect(200);
const openSlots = async (): Promise<number> => {
  const range = { from: TOMORROW, days: 1, seed: 7, only: 'all' } as const;
  const { result } = await server.services.generate.run(programAt('night', 'test'), range, UNWATCHED);
  return (result as { days: { open: unknown[] }[] }).days[0]!.open.length;
};

describe('the beginning of a station', () => {
  it('says what is missing while no song stands in a category', async () => {
    expect(await view()).toMatchObject({
      songs: SONGS,
      withoutCategory: SONGS,
      categories: [],
      clocks: 0,
      withoutLength: 0,
    });
    const none = await proposed();
    expect([none.clocks, none.missing]).toEqual([[], ['No song stands in a music category yet.']]);
    await post('set-up', { breaks: 0 }, 400);
  });

  it('makes categories in one step, as they are cut, and takes them back in one', async () => {
    const { axes } = await view();
    const [year] = axes;
    expect([year!.key, year!.proposed.map(({ name }) => name)]).toEqual(['year', ['Current', 'Gold']]);
    const end = year!.values.length;
    const part = (name: string, from: number, to: number) => ({ name, code: name.slice(0, 2), from, to });
    await post('categories', { axis: 'year', parts: [part('New', 0, 3), part('Old', 4, end)] }, 400);
    await post('categories', { axis: 'tag:none', parts: [part('New', 0, 3)] }, 400);
    await post('categories', { axis: 'year', parts: [part('New', 0, 3), part('new', 3, end)] }, 409);
    const made = await post('categories', { axis: 'year', parts: [part('New', 0, 3), part('Old', 3, end)] }, 200);
    const after = await view();
    const newest = year!.values.slice(0, 3).reduce((sum, { songs }) => sum + songs, 0);
    expect(after.categories.map(({ name, songs }) => [name, songs])).toEqual([
      ['New', newest],
      ['Old', SONGS - newest],
    ]);
    expect([after.withoutCategory, after.axes]).toEqual([0, []]);
    await undo(made.body.activityId as string);
    expect(await view()).toMatchObject({ withoutCategory: SONGS, categories: [] });
    await post('categories', { axis: 'year', parts: year!.proposed }, 200);
  });

  it('tries its clocks and rules out before it makes them, in one step: tomorrow has no open slot', async () => {
    const proposal = await proposed('1');
    expect(proposal.tried!.open).toBe(0);
    expect(proposal.missing).toEqual([]);
    expect(proposal.clocks.map(({ name }) => name)).toEqual(['Daytime', 'Evening', 'Night']);
    expect(proposal.rules[0]).toEqual({
      sentence: expect.stringMatching(/^Keep the same artist at least/),
      must: true,
    });
    const made = await post('set-up', { breaks: 1 }, 200);
    await post('set-up', { breaks: 1 }, 409);
    expect(await openSlots()).toBe(0);
    const { log } = (await server.api.get(`${NIGHT}/logs/${TOMORROW}`)).body;
    expect(log.hours[10].entries.some(({ kind }: { kind: string }) => kind === 'break')).toBe(true);
    await undo(made.body.activityId as string);
    expect((await view()).clocks).toBe(0);
  });

  it('gives songs a length of which none is known, and says how many there are before', async () => {
    const items = ['One', 'Two'].map((title) => ({
      ...newItemRow({
        kind: 'song',
        title,
        artist: 'Nobody',
        album: '',
        year: null,
        durationMs: 0,
        cart: null,
        file: null,
      }),
      id: `short-${title}`,
    }));
    await server.services.store.write({ clientId: 'test', stationId: 'night', label: 'Songs' }, async (changes) => {
      await changes.insert('item', items);
      await addCredits(
        changes,
        items.map(({ id }) => ({ itemId: id, artist: 'Nobody' })),
      );
    });
    expect(await view()).toMatchObject({ withoutLength: 2, withoutCategory: 2 });
    expect((await proposed()).missing[0]).toBe(`2 of ${SONGS + 2} songs have no length and cannot be scheduled.`);
    await post('lengths', { durationMs: 5 }, 400);
    await post('lengths', { durationMs: 210_000 }, 200);
    expect((await view()).withoutLength).toBe(0);
    await post('lengths', { durationMs: 210_000 }, 400);
    const { n } = await rowOf<{ n: number }>(
      server.services.store.read,
      `select count(*) as n from item where duration_ms = 210000 and title in ('One', 'Two')`,
    );
    expect(n).toBe(2);
  });
});
