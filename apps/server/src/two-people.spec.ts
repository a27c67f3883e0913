import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import supertest from 'supertest';
import { programAt } from './actor.js';
import { createApp } from './app.js';
import { pino } from 'pino';
import { ItemEntity } from './db/entities/index.js';
import { endOfJob, NOW, testServer, TODAY, TOMORROW, type TestServer } from './testing/test-server.js';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

interface Entry {
  id: string;
  kind: string;
  itemId: string | null;
  note: string;
}
interface View {
  revision: number;
  log: { hours: { startMs: number; entries: Entry[] }[] };
}
const base = '/api/stations/vale';
const view = async (date: string): Promise<View> => (await server.api.get(`${base}/logs/${date}`).expect(200)).body;
const entries = ({ log }: View): Entry[] => log.hours.flatMap((hour) => hour.entries);
const generate = async (body: object) =>
  endOfJob(server, (await server.api.post(`${base}/generate`).send(body).expect(200)).body.id);
const edit = async (date: string, change: object) =>
  (
    await server.api
      .post(`${base}/logs/${date}/edits`)
      .send({ revision: (await view(date)).revision, edit: change })
      .expect(200)
  ).body;
const undo = (id: string) => server.api.post(`/api/activity/${id}/undo`);

describe('a run and what another person does after it', () => {
  it('undoes the run but for the entries the other one touched, and says which', async () => {
    await generate({ from: TOMORROW });
    const first = await view(TOMORROW);
    // Another artist everywhere would be another log; turn order random makes one.
    await server.api.patch(`${base}/categories/gold`).send({ revision: 1, turnOrder: 'random' }).expect(200);
    const run = await generate({ from: TOMORROW, seed: 9 });
    const theirs = entries(await view(TOMORROW))[100]!;
    await edit(TOMORROW, { type: 'replace', entryId: theirs.id, itemId: 'song7' });
    await edit(TOMORROW, { type: 'note', entryId: entries(first)[5]!.id, note: 'theirs' });
    const { body } = await undo(run.activityId!).expect(200);
    expect(body.left).toEqual([expect.stringMatching(/^2026-11-24: \d\d:\d\d:\d\d, \d\d:\d\d:\d\d left as they are/)]);
    const now = entries(await view(TOMORROW));
    expect(now[100]).toMatchObject({ itemId: 'song7' });
    expect(now[5]).toMatchObject({ note: 'theirs' });
    const others = now.filter((_, n) => n !== 100 && n !== 5).map(({ itemId }) => itemId);
    expect(others).toEqual(
      entries(first)
        .filter((_, n) => n !== 100 && n !== 5)
        .map(({ itemId }) => itemId),
    );
  });

  it('refuses to undo an edit whose entry somebody changed again, and a log somebody edited', async () => {
    const entry = entries(await view(TOMORROW))[30]!;
    const mine = await edit(TOMORROW, { type: 'replace', entryId: entry.id, itemId: 'song11' });
    await edit(TOMORROW, { type: 'replace', entryId: entry.id, itemId: 'song12' });
    const refused = await undo(mine.activityId).expect(409);
    expect(refused.body).toMatchObject({
      code: 'CANNOT_UNDO',
      message: expect.stringContaining('changed again since'),
    });
    expect(entries(await view(TOMORROW))[30]).toMatchObject({ itemId: 'song12' });
    const made = await generate({ from: '2026-11-28' });
    await edit('2026-11-28', { type: 'note', entryId: entries(await view('2026-11-28'))[0]!.id, note: 'mine' });
    expect((await undo(made.activityId!).expect(409)).body.message).toContain(
      'has been changed since it was made, at 00:00:00',
    );
  });

  it('tells others of an edit by what it changed', async () => {
    const entry = entries(await view(TOMORROW))[40]!;
    const events: { dataRevision: number }[] = [];
    const stop = server.services.events.listen((event) => events.push(event));
    const { revision } = await edit(TOMORROW, { type: 'replace', entryId: entry.id, itemId: 'song3' });
    stop();
    expect(events).toEqual([
      expect.objectContaining({ type: 'ready' }),
      expect.objectContaining({
        type: 'log',
        date: TOMORROW,
        revision,
        edit: { type: 'replace', entryId: entry.id, itemId: 'song3' },
        items: [expect.objectContaining({ id: 'song3' })],
        open: 0,
      }),
    ]);
    // Who was cut off knows from the revision whether anything was missed.
    expect(events[1]!.dataRevision).toBeGreaterThan(events[0]!.dataRevision);
  });
});

describe('today', () => {
  it('is generated from now on: what has aired stays, by button and by hour, and nothing left is said', async () => {
    await generate({ from: TODAY });
    const first = await view(TODAY);
    expect((await generate({ from: TODAY, seed: 5 })).state).toBe('done');
    const again = await view(TODAY);
    const aired = first.log.hours.flatMap((hour) => (hour.startMs < NOW ? hour.entries : []));
    for (const entry of aired) expect(entries(again)).toContainEqual(entry);
    expect(entries(again)).not.toEqual(entries(first));
    const refused = await server.api
      .post(`${base}/generate`)
      .send({ from: TODAY, hours: [2, 3] })
      .expect(400);
    expect(refused.body.message).toBe('Those hours have aired or begun to air; there is nothing left to generate.');
  });

  it('does not place what is taken off the air while a run goes on', async () => {
    const { store } = server.services;
    const run = server.services.generate.run(
      programAt('vale', 'test'),
      { from: '2026-11-26', days: 1, seed: 1, only: 'all' },
      {
        signal: new AbortController().signal,
        progress: (_share, doing) => {
          if (doing !== 'Writing' || taken) return;
          taken = true;
          void store.write({ clientId: 'other', stationId: 'vale', label: 'End a song' }, async (changes) => {
            await changes.update('item', 'song20', { endDate: '2026-11-20' });
          });
        },
      },
    );
    let taken = false;
    await run;
    expect((await store.read.findOneOrFail(ItemEntity, { id: 'song20' })).endDate).toBe('2026-11-20');
    expect(entries(await view('2026-11-26')).map(({ itemId }) => itemId)).not.toContain('song20');
  });
});

describe('answers that are kept', () => {
  it('are the same until something they depend on changes, and say so by their tag', async () => {
    const ask = () => server.api.get(`${base}/logs/${TOMORROW}`);
    const { etag } = (await ask().expect(200)).headers as { etag: string };
    await ask().set('if-none-match', etag).expect(304);
    await edit(TOMORROW, { type: 'note', entryId: entries(await view(TOMORROW))[0]!.id, note: `${NOW}` });
    expect((await ask().set('if-none-match', etag).expect(200)).headers['etag']).not.toBe(etag);
  });
});

describe('host names', () => {
  it('are answered only where they are known', async () => {
    const app = createApp(server.services, {
      log: pino({ level: 'silent' }),
      webDir: null,
      hosts: ['127.0.0.1', '::1', 'studio.example'],
    });
    const as = (host: string) => supertest(app).get('/api/health').set('host', host);
    for (const host of ['127.0.0.1:4600', '[::1]:4600', 'Studio.example']) await as(host).expect(200);
    for (const host of ['evil.example', '127.0.0.1.evil.example', 'localhost.evil'])
      expect((await as(host).expect(403)).body.code).toBe('FORBIDDEN');
  });
});

describe('filters that cannot be', () => {
  it('are refused before they are kept, and one that is kept does not close the station', async () => {
    const filter = `length:${'9'.repeat(310)}`;
    const pool = { name: 'Endless', filter, scope: 'station' };
    expect((await server.api.post(`${base}/pools`).send(pool).expect(400)).body.message).toContain('length');
    const { body } = await server.api
      .post(`${base}/pools`)
      .send({ ...pool, filter: 'length:3:00..4:00' })
      .expect(200);
    await server.services.store.write({ clientId: 'x', stationId: 'vale', label: 'Old data' }, async (changes) => {
      await changes.update('pool', body.id, { filter });
    });
    await server.api.get(`${base}/catalogue`).expect(200);
    const kept = (await server.api.get(`${base}/pools`).expect(200)).body.find(
      ({ id }: { id: string }) => id === body.id,
    );
    expect(kept).toMatchObject({ filter, fault: expect.stringContaining('is not a length') });
  });
});
