import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { ForecastView, JobView } from '@fuller/contracts';
import { programAt } from './actor.js';
import { rowsOf } from './db/queries/query.js';
import { UNWATCHED } from './jobs/job-runner.js';
import { endOfJob, testServer, TODAY, TOMORROW, type TestServer } from './testing/test-server.js';
import { IS_SHARED } from './testing/database.js';

const FORECASTS = '/api/stations/vale/forecasts';
let server: TestServer;

beforeAll(async () => {
  server = await testServer();
  await server.services.store.write({ clientId: 'test', stationId: 'vale', label: 'A short clock' }, (changes) =>
    changes.update('clock', 'day', {
      lines: [0, 1, 2].map((n) => ({ id: `p${n}`, kind: 'pick', categoryId: 'gold', comment: '' })),
    }),
  );
  const range = { from: TODAY, days: 1, seed: 1, only: 'all' } as const;
  await server.services.generate.run(programAt('vale', 'test'), range, UNWATCHED);
});
afterAll(() => server.close());

const post = (body: object) => server.api.post(FORECASTS).send(body);
const made = async (body: object): Promise<ForecastView> => {
  const job = await endOfJob(server, ((await post(body).expect(200)).body as JobView).id);
  expect(job).toMatchObject({ state: 'done', kind: 'forecast' });
  const { forecastId } = job.result as { forecastId: string };
  return (await server.api.get(`${FORECASTS}/${forecastId}`).expect(200)).body as ForecastView;
};
const rows = (sql: string) => rowsOf(server.services.store.read, sql);
/** Everything the database holds, as a sum. */
const bytes = async (): Promise<string> => {
  if (IS_SHARED) {
    const sums: unknown[] = [];
    for (const { name } of (await rows(`select table_name as name from information_schema.tables
      where table_schema = 'public' order by 1`)) as { name: string }[])
      sums.push(...(await rows(`select md5(string_agg(t::text, '' order by t::text)) as sum from "${name}" t`)));
    return JSON.stringify(sums);
  }
  await rows('pragma wal_checkpoint(truncate)');
  return createHash('sha256')
    .update(readFileSync(path.join(server.dataDir, 'fuller.db')))
    .digest('hex');
};

describe('a forecast of the server', () => {
  it('leaves the database as it was, begins tomorrow, and is the same for the same seed', async () => {
    const before = await bytes();
    const [one, two] = [await made({ weeks: 1 }), await made({ weeks: 1 })];
    expect(await bytes()).toBe(before);
    expect(one.from).toBe(TOMORROW);
    expect(one.answer.slots.today).toBeGreaterThan(0);
    expect(two.answer).toEqual(one.answer);
    expect(one.answer.sentences).toEqual(['Nothing differs that a listener would notice.']);
    const list = (await server.api.get(FORECASTS)).body as { id: string }[];
    expect(list.map(({ id }) => id)).toEqual([two.id, one.id]);
    expect((await server.api.get('/api/stations/night/forecasts')).body).toEqual([]);
    await server.api.get(`/api/stations/night/forecasts/${one.id}`).expect(404);
  });

  it('says what its changes are, and keeps them in one step that is undone in one', async () => {
    const rule = (await rows('select id, amount, revision from rule where not resting order by position'))[0] as never;
    const { id, amount } = rule as { id: string; amount: number };
    const [{ id: clockId } = { id: '' }] = (await rows('select id from clock')) as { id: string }[];
    const changes = [
      { kind: 'move', songs: ['song1', 'song2'], to: null },
      { kind: 'rule', rule: id, amount: amount + 60 },
      { kind: 'rule', rule: id, resting: true },
      { kind: 'week', days: [0, 1], from: 600, to: 660, clock: clockId },
      { kind: 'week', days: [2], from: 600, to: 660, clock: clockId },
      { kind: 'add', category: 'gold', songs: 5 },
    ];
    const forecast = await made({ weeks: 1, changes });
    expect(forecast.changes[0]).toBe('2 songs leave rotation');
    expect(forecast.changes[2]).toMatch(/^“.*” rests$/);
    expect(forecast.changes[4]).toMatch(/on Wednesday from 10:00 to 11:00$/);
    expect(forecast.changes[5]).toBe('5 songs more in Gold');
    expect(forecast.asked.changes).toEqual(changes);
    const state = async () => [
      await rows('select item_id, category_id from placement order by 1, 2'),
      await rows('select id, amount, resting from rule order by 1'),
      await rows('select blocks from week_plan'),
      await rows('select * from rotation_plan'),
    ];
    const before = await state();
    const { body } = await server.api.post(`${FORECASTS}/${forecast.id}/keep`).expect(200);
    const after = await state();
    expect(after[0]!.length).toBe(before[0]!.length - 2);
    expect(after[1]).toContainEqual({ id, amount: amount + 60, resting: 1 });
    expect(after[2]).not.toEqual(before[2]);
    expect(after[3]).toEqual([expect.objectContaining({ category_id: 'gold', items: expect.any(Number) })]);
    await server.api.post(`/api/activity/${body.activityId}/undo`).expect(200);
    expect(await state()).toEqual(before);
  });

  it('is not kept over what somebody changed since: nothing of it is made', async () => {
    const [rule] = (await rows('select id, amount, revision from rule order by position')) as never[];
    const { id, amount, revision } = rule as unknown as { id: string; amount: number; revision: number };
    const forecast = await made({
      weeks: 1,
      changes: [
        { kind: 'move', songs: ['song3'], to: null },
        { kind: 'rule', rule: id, amount: amount + 120 },
      ],
    });
    await server.api
      .patch(`/api/stations/vale/rules/${id}`)
      .send({ revision, amount: amount + 1 })
      .expect(200);
    const { body } = await server.api.post(`${FORECASTS}/${forecast.id}/keep`).expect(409);
    expect(body.message).toContain('Somebody else changed this rule');
    expect(await rows(`select 1 from placement where item_id = 'song3'`)).toHaveLength(1);
  });

  it('refuses what is not there before it begins, and what changes nothing when it is kept', async () => {
    for (const [change, words] of [
      [{ kind: 'move', songs: ['nobody'], to: 'gold' }, 'song “nobody”'],
      [{ kind: 'rule', rule: 'none', amount: 5 }, 'rule “none”'],
      [{ kind: 'week', days: [1], from: 0, to: 60, clock: 'none' }, 'clock “none”'],
      [{ kind: 'week', days: [1], from: 60, to: 60, clock: 'none' }, 'is not after the beginning'],
      [{ kind: 'fewer', category: 'gold', songs: 5000 }, 'to leave out'],
    ] as const) {
      const { body } = await post({ weeks: 1, changes: [change] }).expect(400);
      expect(body.message).toContain(words);
    }
    await post({ weeks: 27 }).expect(400);
    const { id } = await made({ weeks: 1 });
    await server.api.post(`${FORECASTS}/${id}/keep`).expect(400);
    await server.api.delete(`${FORECASTS}/${id}`).expect(200);
    await server.api.get(`${FORECASTS}/${id}`).expect(404);
  });

  it('is made one at a time, is cancelled halfway, and then there is none', async () => {
    const { body } = await post({ weeks: 26 });
    expect((await post({ weeks: 1 }).expect(409)).body.message).toContain('is being made');
    await server.api.delete(`/api/jobs/${(body as JobView).id}`).expect(200);
    const job = await endOfJob(server, (body as JobView).id);
    expect(job.state).toBe('cancelled');
    await server.api.get(`${FORECASTS}/${(body as JobView).id}`).expect(404);
  });
});
