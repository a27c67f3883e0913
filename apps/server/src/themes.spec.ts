import { afterAll, beforeAll, expect, it } from '@jest/globals';
import type { LogView } from '@fuller/contracts';
import type { ClockLine, PickEntry } from '@fuller/core';
import { endOfJob, testServer, type TestServer } from './testing/test-server.js';

const base = '/api/stations/vale';
let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

const clock = async () => (await server.api.get(`${base}/catalogue`).expect(200)).body.clocks[0];
const setLines = async (by: string): Promise<void> => {
  const { id, revision, name, colour } = await clock();
  const lines = Array.from({ length: 6 }, (_, n): ClockLine => ({
    id: `p${n}`,
    kind: 'pick',
    categoryId: 'gold',
    ...(n < 2 ? { theme: { by, group: 'A' } } : {}),
    comment: '',
  }));
  await server.api.put(`${base}/clocks/${id}`).send({ revision, name, colour, lines }).expect(200);
};
const values = async (date: string): Promise<(string | null)[]> => {
  const view: LogView = (await server.api.get(`${base}/logs/${date}`).expect(200)).body;
  return view.log.hours.flatMap(({ entries }) =>
    (entries as PickEntry[]).flatMap(({ id, theme }) => (theme && id.startsWith('p0-') ? [theme.value] : [])),
  );
};

it('takes another value in each run of a clock, over the days of one run and of runs before', async () => {
  await setLines('artist');
  for (const from of ['2026-11-24', '2026-11-26']) {
    const { body } = await server.api.post(`${base}/generate`).send({ from, days: 2 }).expect(200);
    await endOfJob(server, body.id);
  }
  const days = await Promise.all(['2026-11-24', '2026-11-25', '2026-11-26', '2026-11-27'].map(values));
  const all = days.flat();
  expect(all).toHaveLength(96);
  // Twenty artists have songs here: none is a theme again within ten hours, over midnight and over runs.
  all.forEach((value, n) => value !== null && expect(all.slice(n + 1, n + 10)).not.toContain(value));
  expect(all.filter((value) => value === null).length).toBeLessThan(20);
});

it('goes by the name its tag family has, and keeps the family while lines share it', async () => {
  const { body } = await server.api.post(`${base}/tag-families`).send({ name: 'Feel' });
  const family = body.id as string;
  await setLines('Feel');
  await server.api.patch(`${base}/tag-families/${family}`).send({ revision: 1, name: 'Mood' }).expect(200);
  expect((await clock()).lines[0].theme).toEqual({ by: 'Mood', group: 'A' });
  const refused = await server.api.delete(`${base}/tag-families/${family}`).expect(409);
  expect(refused.body.message).toContain('share one Mood');
});
