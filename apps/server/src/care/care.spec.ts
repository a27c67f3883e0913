import { spawnSync } from 'node:child_process';
import { copyFileSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, expect, it } from '@jest/globals';
import { GenerateRequest } from '@fuller/contracts';
import Database from 'libsql';
import { pino } from 'pino';
import supertest from 'supertest';
import * as v from 'valibot';
import { programAt } from '../actor.js';
import { createApp } from '../app.js';
import { rowsOf } from '../db/queries/query.js';
import { inlineCompute } from '../jobs/compute.js';
import { OWNER } from '../people/caller.js';
import { openServices, type Services } from '../services.js';
import { endOfJob, NOW, seedStations, testServer, TOMORROW, type TestServer } from '../testing/test-server.js';
import { backupOf, factsOfBackup } from './backup-file.js';
import { describeOfFile } from '../testing/database.js';

let server: TestServer;
const folder = mkdtempSync(path.join(os.tmpdir(), 'fuller-care-'));
const open = (dataDir: string, now = NOW): Promise<Services> =>
  openServices({ dataDir, now: () => now, compute: inlineCompute });
const poolNames = async ({ store }: Services): Promise<string[]> =>
  (await rowsOf<{ name: string }>(store.read, 'select name from pool order by name')).map(({ name }) => name);
const newPool = (name: string) =>
  server.api.post('/api/stations/vale/pools').send({ name, filter: 'year:1980..' }).expect(200);

beforeAll(async () => {
  server = await testServer();
});
afterAll(async () => {
  await server.close();
  rmSync(folder, { recursive: true, force: true });
});

describeOfFile('a backup', () => {
  it('made while others write is whole, and generates the same day from the same seed elsewhere', async () => {
    const job = (await server.api.post('/api/stations/vale/generate').send({ from: TOMORROW, days: 1, seed: 9 })).body;
    const [made] = await Promise.all([
      server.api.post('/api/backups').send({}),
      ...[1, 2, 3, 4].map((n) => newPool(`Beside ${n}`)),
      endOfJob(server, job.id as string),
    ]);
    expect(made.body).toMatchObject({ made: 'by hand' });
    const facts = (await server.api.get(`/api/backups/${made.body.name as string}`)).body;
    expect(facts).toMatchObject({ stations: ['Radio vale', 'Radio night'], faults: [] });
    const elsewhere = path.join(folder, 'elsewhere');
    mkdirSync(elsewhere);
    copyFileSync(
      path.join(server.dataDir, 'backups', `${made.body.name as string}.db`),
      path.join(elsewhere, 'fuller.db'),
    );
    const restored = await open(elsewhere);
    const songs = async (services: Services): Promise<unknown> => {
      const actor = programAt('vale', 'test');
      const job = { signal: new AbortController().signal, progress: () => {} };
      await services.generate.run(
        actor,
        v.parse(GenerateRequest, { from: '2026-11-27', days: 1, seed: 9 }),
        job,
        'job',
      );
      return (await services.logs.view('vale', '2026-11-27')).log.hours;
    };
    expect(await songs(restored)).toEqual(await songs(server.services));
    expect((await restored.checks.check()).map(({ what }) => what)).toEqual(['items whose file is missing']);
    await restored.close();
  });

  it('takes the place of the data at the next start, and what was there is kept', async () => {
    const dataDir = path.join(folder, 'restored');
    const first = await open(dataDir);
    await seedStations(first);
    const before = (await first.backups.make()).name;
    const actor = programAt('vale', 'test');
    await first.pools.create(actor, { name: 'After', filter: 'year:1980..', scope: 'station' } as never);
    const kept = await first.backups.layReady(await first.backups.fileOf(before));
    expect(await poolNames(first)).toContain('After');
    await first.close();
    const told: string[] = [];
    const again = await openServices({
      dataDir,
      now: () => NOW,
      compute: inlineCompute,
      tell: (words) => told.push(words),
    });
    expect(await poolNames(again)).not.toContain('After');
    expect(told).toEqual(['A backup was put in place of the data.']);
    const back = await again.backups.layReady(await again.backups.fileOf(kept));
    expect(back).toMatch(/^before-restore-/);
    await again.close();
    const third = await open(dataDir);
    expect(await poolNames(third)).toContain('After');
    await third.close();
  });

  it('that is damaged, no database, of nothing of ours or newer is refused in words', async () => {
    const file = (name: string): string => path.join(folder, name);
    const good = (await server.services.backups.make()).name;
    const source = await server.services.backups.fileOf(good);
    const broken = readFileSync(source);
    broken.fill(0x5a, 8192, 40_960);
    writeFileSync(file('broken.db'), broken);
    writeFileSync(file('text.db'), 'no database at all');
    copyFileSync(source, file('newer.db'));
    changeFile(file('newer.db'), `insert into migration (name, executed_at) values ('m999-later', 0)`);
    expect(factsOfBackup(file('broken.db')).faults.length).toBeGreaterThan(0);
    expect(factsOfBackup(file('text.db')).faults.join()).toMatch(/cannot be read as a database/);
    expect(factsOfBackup(file('newer.db')).faults.join()).toMatch(/newer Fuller.*m999-later/);
    for (const name of ['broken', 'text', 'newer'])
      await expect(server.services.backups.layReady(file(`${name}.db`))).rejects.toMatchObject({ code: 'CONFLICT' });
    expect(existsSync(path.join(server.dataDir, 'fuller.db.restore'))).toBe(false);
    // A whole folder of a newer version is not opened either.
    const newer = path.join(folder, 'newer');
    mkdirSync(newer);
    copyFileSync(file('newer.db'), path.join(newer, 'fuller.db'));
    await expect(open(newer)).rejects.toThrow(/newer Fuller.*nothing was changed/);
    await expect(open(newer)).rejects.toThrow(/newer Fuller/);
    const nowhere = path.join(folder, 'no', 'such', 'folder.db');
    expect(() => backupOf(source, nowhere)).toThrow(/No backup could be written/);
  });

  it('is made by itself once a night, from the next night on, and so many are kept', async () => {
    const dataDir = path.join(folder, 'nightly');
    let nowMs = NOW;
    const services = await openServices({ dataDir, now: () => nowMs, compute: inlineCompute });
    await seedStations(services);
    expect(await services.backups.makeDue()).toBeNull();
    await services.backups.set({ nightlyAt: '04:00', kept: 2, folder: '' });
    for (let night = 1; night <= 4; night++) {
      nowMs = NOW + night * 86_400_000 - 9 * 3_600_000;
      expect(await services.backups.makeDue()).toBeNull();
      nowMs += 9 * 3_600_000;
      expect(await services.backups.makeDue()).toMatchObject({ made: 'nightly' });
      expect(await services.backups.makeDue()).toBeNull();
    }
    expect((await services.backups.list()).backups).toHaveLength(2);
    await expect(services.backups.set({ nightlyAt: null, kept: 2, folder: '/etc' })).rejects.toThrow(
      /outside the folders/,
    );
    await services.close();
  });
});

describeOfFile('a check of the data', () => {
  it('finds what does not add up, mends what loses nothing, and leaves the rest', async () => {
    const { store, checks } = server.services;
    expect((await checks.check()).map(({ what }) => what)).toEqual(['items whose file is missing']);
    await store.writeUnrecorded(async (em) => {
      await rowsOf(em, 'pragma defer_foreign_keys = on');
      await rowsOf(em, `update item set file = 'gone.mp3' where id = 'song1'`);
      await rowsOf(em, `delete from item_search where rowid = (select rowid from item where id = 'song2')`);
      await rowsOf(em, `update daily_log set hours = replace(hours, '"itemId":"song3"', '"itemId":"nowhere"')`);
    });
    const found = (await server.api.get('/api/care')).body as { what: string; mends: boolean; examples: string[] }[];
    expect(found.map(({ what, mends }) => [what, mends])).toEqual(
      expect.arrayContaining([
        ['items the search does not know as they are', true],
        ['entries of logs whose item is gone', false],
        ['items whose file is missing', false],
      ]),
    );
    expect(found.find(({ what }) => what.includes('file'))!.examples).toContainEqual(
      expect.stringContaining('Réalta 0'),
    );
    const left = (await server.api.post('/api/care').send({})).body as { what: string }[];
    expect(left.map(({ what }) => what).sort()).toEqual([
      'entries of logs whose item is gone',
      'items whose file is missing',
    ]);
    const list = await server.api.get('/api/stations/vale/items').query({ q: 'realta 2' });
    expect(list.body.total).toBeGreaterThan(0);
  });

  it('finds what names a thing that is gone, or one of another station', async () => {
    const { store, checks } = server.services;
    await store.writeUnrecorded(async (em) => {
      await rowsOf(
        em,
        `update clock set station_id = 'night', lines = replace(lines, '"gold"', '"lost"') where id = 'day'`,
      );
    });
    const found = new Map((await checks.check()).map(({ what, examples }) => [what, examples]));
    expect(found.get('things that name what belongs to another station')).toEqual(['the week: Day']);
    expect(found.get('things that name what is gone')).toEqual(['the clock Day']);
  });
});

describeOfFile('activity', () => {
  it('is found by words, days and what was before, and forgotten when it is old', async () => {
    const dataDir = path.join(folder, 'activity');
    let nowMs = NOW;
    const services = await openServices({ dataDir, now: () => nowMs, compute: inlineCompute });
    await seedStations(services);
    const actor = programAt('vale', 'test');
    for (let day = 0; day < 30; day++) {
      nowMs = NOW + day * 86_400_000;
      await services.pools.create(actor, { name: `Pool ${day}`, filter: 'year:1980..', scope: 'station' } as never);
    }
    const labels = async (query: object): Promise<string[]> =>
      (await services.activity.latest(OWNER, { limit: 100, ...query })).map(({ label }) => label);
    expect(await labels({ words: 'POOL 1' })).toHaveLength(11);
    expect(await labels({ from: '2026-11-24', to: '2026-11-25' })).toHaveLength(2);
    expect(await labels({ before: NOW + 86_400_000, words: 'Pool' })).toHaveLength(1);
    expect(await labels({ station: 'night', words: 'Pool' })).toEqual([]);
    const [last] = await services.activity.latest(OWNER, { limit: 1 });
    expect(await services.activity.changes(OWNER, last!.id)).toMatchObject({
      total: 1,
      changes: [{ thing: 'pool', name: 'Pool 29', did: 'made' }],
    });
    await services.activity.set({ keptDays: 10 });
    expect(await labels({ words: 'Pool' })).toHaveLength(11);
    await services.close();
  });
});

describeOfFile('an engineer', () => {
  it('sees that it answers without a name, and measurements with a right alone', async () => {
    const access = { accounts: true, loopback: true, demo: false, secureCookies: false, setUpCode: '' };
    const app = createApp(server.services, { log: pino({ level: 'silent' }), webDir: null, access });
    expect((await supertest(app).get('/healthz')).body).toEqual({ ok: true });
    expect((await supertest(app).get('/metrics')).status).toBe(401);
    const { token } = await server.services.tokens.create(programAt('vale', 'test'), {
      ...{ name: 'Scraper', rights: ['look', 'care'], stationIds: null, days: null },
    });
    const authorization = `Bearer ${token}`;
    await supertest(app).get('/api/stations').set({ authorization });
    const { text, headers } = await supertest(app).get('/metrics').set({ authorization });
    expect(headers['content-type']).toMatch(/text\/plain; version=0.0.4/);
    expect(text).toMatch(
      /fuller_http_request_duration_seconds_count\{method="GET",route="\/stations",status="200"\} 1/,
    );
    expect(text).toMatch(/^fuller_jobs_running 0$/m);
  });
});

describeOfFile('a disk that is full', () => {
  const disk = mkdtempSync(path.join(os.tmpdir(), 'fuller-disk-'));
  const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=24m', 'tmpfs', disk]).status === 0;
  afterAll(() => {
    if (mounted) spawnSync('umount', ['-l', disk]);
    rmSync(disk, { recursive: true, force: true });
  });
  if (!mounted) process.stderr.write('A disk cannot be filled here: no file system may be mounted.\n');

  (mounted ? it : it.skip)(
    'is told in words, loses nothing that was answered, and is worked on again when there is space',
    async () => {
      const dataDir = path.join(disk, 'data');
      let services = await open(dataDir);
      await seedStations(services);
      const api = supertest
        .agent(createApp(services, { log: pino({ level: 'silent' }), webDir: null }))
        .set('x-client', 'test');
      const filler = path.join(disk, 'filler');
      spawnSync('dd', ['if=/dev/zero', `of=${filler}`, 'bs=64k']);
      const kept: string[] = [];
      let refused = 0;
      for (let n = 0; n < 60; n++) {
        const name = `Pool ${n} ${'x'.repeat(40)}`;
        const { status, body } = await (api as unknown as ReturnType<typeof supertest>)
          .post('/api/stations/vale/pools')
          .send({ name, filter: `"${'word '.repeat(90)}"` });
        if (status === 200) kept.push(name);
        else {
          expect(body).toMatchObject({
            code: 'STORAGE',
            status: 507,
            message: /disk is full.*nothing of this was saved/,
          });
          refused++;
        }
      }
      expect(refused).toBeGreaterThan(0);
      rmSync(filler);
      const after = await (api as unknown as ReturnType<typeof supertest>)
        .post('/api/stations/vale/pools')
        .send({ name: 'With space', filter: 'year:1980..' });
      expect(after.status).toBe(200);
      await services.close();
      services = await open(dataDir);
      expect(await poolNames(services)).toEqual([...kept, 'With space'].sort());
      expect(factsOfBackup(path.join(dataDir, 'fuller.db')).faults).toEqual([]);
      await services.close();
    },
  );
});

function changeFile(file: string, sql: string): void {
  const connection = new Database(file);
  connection.exec(sql);
  connection.close();
}
