import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { programAt } from './actor.js';
import { PlayEntity } from './db/entities/index.js';
import { NOW, testServer, TODAY, TOMORROW, type TestServer } from './testing/test-server.js';

let server: TestServer;
const HOUR = 3_600_000;
beforeAll(async () => {
  server = await testServer();
  const plays = [-30 * 24, -50, -49, -0.25, 20].map((hours) => NOW + hours * HOUR);
  await server.services.orm.em
    .fork()
    .insertMany(
      PlayEntity,
      plays.map((startMs) => ({ stationId: 'vale', itemId: 'song1', startMs, date: TODAY })) as never[],
    );
});
afterAll(() => server.close());

const get = (what: string) => server.api.get(`/api/stations/vale/items/${what}`);

describe('plays of an item', () => {
  it('are told by hour of the week, with what holds it back now and until when', async () => {
    const { body } = await get('song1/plays').expect(200);
    expect(body.past.map((ms: number) => (ms - NOW) / HOUR)).toEqual([-0.25, -49, -50, -720]);
    expect(body.coming).toEqual([NOW + 20 * HOUR]);
    // It is noon on a Monday; thirty days ago the clock was still on summer time.
    expect(body.cells.flatMap((count: number, cell: number) => (count ? [[cell, count]] : []))).toEqual([
      [11, 1],
      [5 * 24 + 10, 1],
      [5 * 24 + 11, 1],
      [5 * 24 + 13, 1],
    ]);
    for (const { ruleId, freeMs, endedMs, other } of body.held) {
      expect(other.id).toBe('song1');
      expect(endedMs).toBeLessThan(NOW);
      expect(freeMs).toBeGreaterThan(NOW);
      expect(typeof ruleId).toBe('string');
    }
    expect(body.held.length).toBeGreaterThan(0);
    await get('nobody/plays').expect(404);
  });

  it('fit a day hour by hour, whether it has a log or not', async () => {
    const bare = (await get(`song1/fit?date=${TOMORROW}`).expect(200)).body;
    expect([bare.hasLog, bare.hours.length]).toEqual([false, 24]);
    await server.services.generate.run(
      programAt('vale', 'test'),
      { from: TOMORROW, days: 1, seed: 1, only: 'all' },
      RUNNING,
    );
    const { hasLog, hours } = (await get(`song1/fit?date=${TOMORROW}`).expect(200)).body;
    expect(hasLog).toBe(true);
    const states = new Set(hours.map(({ state }: { state: string }) => state));
    expect(states.has('plays') || states.has('may')).toBe(true);
    const { body: item } = await get('song1').expect(200);
    await server.api
      .patch('/api/stations/vale/items/song1')
      .send({ revision: item.revision, pausedUntil: TOMORROW })
      .expect(200);
    const paused = (await get(`song1/fit?date=${TOMORROW}`).expect(200)).body.hours;
    for (const { state, bar } of paused)
      expect(state === 'plays' ? null : bar).toEqual(state === 'plays' ? null : { because: 'paused', until: TOMORROW });
    expect((await get('song1/fit?date=2026-02-30').expect(400)).body.message).toContain('date');
  });

  it('hold a featured artist back only where the rule looks at every credit', async () => {
    const { revision } = (await get('song2')).body;
    await server.api
      .patch('/api/stations/vale/items/song2')
      .send({ revision, artist: 'Artist 2 feat. Artist 1' })
      .expect(200);
    const held = async (): Promise<string[]> =>
      (await get('song2/plays').expect(200)).body.held.map(({ ruleId }: { ruleId: string }) => ruleId);
    expect(await held()).toEqual(['artist']);
    await server.api.patch('/api/stations/vale/rules/artist').send({ revision: 1, tag: 'main artist' }).expect(200);
    expect(await held()).toEqual([]);
  });

  it('are proved between two dates as CSV and as PDF, no play too many', async () => {
    const range = 'from=2026-11-21&to=2026-11-23';
    const { body } = await get(`song1/proof?${range}`).expect(200);
    expect(body.plays).toEqual([
      { date: '2026-11-21', time: '10:00:00' },
      { date: '2026-11-21', time: '11:00:00' },
      { date: '2026-11-23', time: '11:45:00' },
    ]);
    const csv = await get(`song1/proof.csv?${range}`).expect(200);
    expect(csv.text.trim().split(/\r?\n/)).toHaveLength(4);
    expect(csv.headers['content-disposition']).toContain('airplay 2026-11-21 to 2026-11-23.csv');
    const pdf = await get(`song1/proof.pdf?${range}`)
      .buffer()
      .parse(binary as never)
      .expect(200);
    expect(pdf.body.subarray(0, 5).toString()).toBe('%PDF-');
    expect((await get('song1/proof?from=2026-11-23&to=2026-11-21').expect(400)).body.message).toContain('before');
    await get('song1/proof?from=2020-01-01&to=2026-11-21').expect(400);
  });
});

const RUNNING = { signal: new AbortController().signal, progress: () => {} };

function binary(response: NodeJS.ReadableStream, done: (error: Error | null, body: Buffer) => void): void {
  const parts: Buffer[] = [];
  response.on('data', (part: Buffer) => parts.push(part));
  response.on('end', () => done(null, Buffer.concat(parts)));
}
