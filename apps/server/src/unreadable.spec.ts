import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, expect, it } from '@jest/globals';
import { pino } from 'pino';
import supertest from 'supertest';
import { programAt } from './actor.js';
import { createApp } from './app.js';
import { inlineCompute } from './jobs/compute.js';
import { openServices, type Services } from './services.js';
import { NOW, seedStations, TOMORROW } from './testing/test-server.js';
import { rowsOf } from './db/queries/query.js';
import { describeOfFile } from './testing/database.js';

const BROKEN = '{"broken';

describeOfFile('stored documents that cannot be read', () => {
  const dataDir = mkdtempSync(path.join(os.tmpdir(), 'fuller-unreadable-'));
  const told: string[] = [];
  const open = () =>
    openServices({ dataDir, now: () => NOW, compute: inlineCompute, tell: (words) => told.push(words) });
  let services: Services;
  const apiOf = () =>
    supertest
      .agent(createApp(services, { log: pino({ level: 'silent' }), webDir: null, checkAnswers: true }))
      .set('x-client', 'test');

  beforeAll(async () => {
    services = await open();
    await seedStations(services);
    const job = { signal: new AbortController().signal, progress: () => {} };
    await services.generate.run(programAt('vale', 'test'), { from: TOMORROW, days: 2, seed: 1, only: 'all' }, job);
  });
  afterAll(async () => {
    await services.close();
    rmSync(dataDir, { recursive: true });
  });

  /** Opens the data folder again after some statements were run on it. */
  const reopenAfter = async (...statements: string[]): Promise<void> => {
    for (const sql of statements) await services.orm.em.getConnection().execute(sql);
    await services.close();
    told.length = 0;
    services = await open();
  };

  it('are all found again when nothing is wrong', async () => {
    await reopenAfter();
    expect(told).toEqual([]);
    expect(await services.unreadable.notes()).toEqual([]);
  });

  it('take down no more than themselves, are told of, and are kept aside', async () => {
    await reopenAfter(
      `update clock set lines = '${BROKEN}'`,
      `update week_plan set framing = '${BROKEN}' where id = 'vale'`,
      `update item set tags = '[1]' where rowid = (select min(rowid) from item)`,
      `update rule set exceptions = '{}'`,
      `update category set cool_off = '${BROKEN}' where id = 'gold'`,
      `update daily_log set hours = '[1, 2]' where "date" = '${TOMORROW}'`,
      `insert into worklist (id, item_ids) values ('vale', '${BROKEN}')`,
    );
    const api = apiOf();
    for (const place of ['catalogue', 'filter-words', 'rotation', 'tidy', 'stale-logs', 'items?limit=100'])
      await api.get(`/api/stations/vale/${place}`).expect(200);
    const { body: catalogue } = await api.get('/api/stations/vale/catalogue');
    expect(catalogue.clocks).toContainEqual(expect.objectContaining({ lines: [] }));
    await api.get(`/api/stations/vale/logs/${TOMORROW}`).expect(404);
    await api.get('/api/stations/vale/logs/2026-11-25').expect(200);
    const { body: notes } = await api.get('/api/unreadable').expect(200);
    expect(notes.map(({ text }: { text: string }) => text).sort()).toEqual([...told].sort());
    expect(told).toContainEqual(expect.stringMatching(/^The log of 2026-11-24 could not be read\. There is no log/));
    expect(told).toContainEqual(expect.stringContaining('The rest that category “Gold” gives'));
    const file = readdirSync(path.join(dataDir, 'recovered')).find((name) => name.startsWith('clock-lines'))!;
    expect(readFileSync(path.join(dataDir, 'recovered', file), 'utf8')).toBe(BROKEN);
    expect(await rowsOf(services.store.read, `select 1 from play where log_id is null`)).toEqual([]);
    await api.delete(`/api/unreadable/${notes[0].id}`).expect(200);
    expect((await api.get('/api/unreadable')).body).toHaveLength(notes.length - 1);
    await api.delete(`/api/unreadable/${notes[0].id}`).expect(404);
  });

  it('cannot be undone into, and say so', async () => {
    const made = await services.categories.createGroup(programAt('vale', 'test'), 'Speech');
    const [id] = await rowsOf<{ id: string }>(
      services.store.read,
      'select id from activity order by rowid desc limit 1',
    );
    await reopenAfter(`update activity_change set "after" = '${BROKEN}' where activity_id = '${id!.id}'`);
    expect(made).toBeDefined();
    const { body } = await apiOf().post(`/api/activity/${id!.id}/undo`).expect(409);
    expect(body.message).toBe('What was changed cannot be read any more, so it cannot be undone.');
  });
});
