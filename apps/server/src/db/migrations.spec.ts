import { handOverSettings } from '@fuller/contracts';
import { mkdir, mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { gunzipSync } from 'node:zlib';
import { afterEach, expect, it } from '@jest/globals';
import { MikroORM } from '@mikro-orm/libsql';
import { Migrator } from '@mikro-orm/migrations';
import Database from 'libsql';
import { pino } from 'pino';
import supertest from 'supertest';
import { createApp } from '../app.js';
import { ENTITIES } from './orm.js';
import { MIGRATION_NAMES } from './newer.js';
import { MIGRATIONS } from './migrations/index.js';
import { inlineCompute } from '../jobs/compute.js';
import { openServices, type Services } from '../services.js';
import { NOW, TOMORROW } from '../testing/test-server.js';
import { describeOfFile, itOfFile } from '../testing/database.js';

const KEPT = path.resolve('apps/server/src/db/kept');

/** Data files as earlier versions left them: two rules of one station, a painted week, a day generated and edited by hand. */
const FILES = ['before-air-plan.db.gz', 'before-rule-shapes.db.gz'];

let dataDir = '';
let services: Services;

async function open(file: string) {
  dataDir = await mkdtemp(path.join(os.tmpdir(), 'fuller-kept-'));
  await writeFile(path.join(dataDir, 'fuller.db'), gunzipSync(await readFile(path.join(KEPT, file))));
  services = await openServices({ dataDir, now: () => NOW, compute: inlineCompute });
  return supertest
    .agent(createApp(services, { log: pino({ level: 'silent' }), webDir: null, checkAnswers: true }))
    .set('x-client', 'test');
}

afterEach(async () => {
  await services.close();
  await rm(dataDir, { recursive: true, force: true });
});

describeOfFile.each(FILES)('a data file %s', (file) => {
  it('is brought up to date with all that is in it, after a copy', async () => {
    const api = await open(file);
    const { body: catalogue } = await api.get('/api/stations/vale/catalogue').expect(200);
    expect(catalogue.rules).toMatchObject([
      { id: 'artist', shape: 'apart', tag: 'artist', amount: 1200, exceptions: [], strength: 'hard', places: [] },
      { shape: 'apart', tag: 'title', amount: 3600, exceptions: [{ kind: 'category', id: 'gold', amount: 1800 }] },
    ]);
    expect(catalogue.clocks).toMatchObject([{ name: 'Day', lengthMs: 3_600_000 }]);
    expect(catalogue.week.blocks.length).toBeGreaterThan(0);
    const { body: view } = await api.get(`/api/stations/vale/logs/${TOMORROW}`).expect(200);
    const entry = view.log.hours[5].entries.find(({ id }: { id: string }) => id === 'p0-300');
    expect(entry).toMatchObject({ note: 'Kept from before' });
    expect(await readdir(path.join(dataDir, 'backups'))).toHaveLength(1);
  });

  it('lets what was changed before still be undone', async () => {
    const api = await open(file);
    const { body: undoable } = await api.get('/api/activity?stationId=vale').expect(200);
    const changed = undoable.find(({ label }: { label: string }) => label === 'Change a rule');
    await api.post(`/api/activity/${changed.id}/undo`).expect(200);
    const { body: after } = await api.get('/api/stations/vale/catalogue').expect(200);
    expect(after.rules[0]).toMatchObject({ id: 'artist', amount: 1800 });
    const made = undoable.find(({ label }: { label: string }) => label.startsWith('New rule'));
    await api.post(`/api/activity/${made.id}/undo`).expect(200);
    const noted = undoable.find(({ label }: { label: string }) => label === 'Write a note');
    await api.post(`/api/activity/${noted.id}/undo`).expect(200);
    const { body: view } = await api.get(`/api/stations/vale/logs/${TOMORROW}`).expect(200);
    expect(JSON.stringify(view)).not.toContain('Kept from before');
    expect((await api.get('/api/stations/vale/catalogue')).body.rules).toHaveLength(1);
  });
});

itOfFile('keeps what a person noted with its slot when a day of an older file is generated again', async () => {
  const api = await open('before-rule-shapes.db.gz');
  const { body: view } = await api.get(`/api/stations/vale/logs/${TOMORROW}`).expect(200);
  const noted = view.log.hours[5].entries.find(({ id }: { id: string }) => id === 'p0-300');
  await api.post('/api/stations/vale/generate').send({ from: TOMORROW, days: 1, seed: 3 }).expect(200);
  for (let tries = 0; tries < 1000; tries++) {
    const { body: jobs } = await api.get('/api/jobs');
    if (jobs.every(({ state }: { state: string }) => state !== 'running')) break;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  const { body: again } = await api.get(`/api/stations/vale/logs/${TOMORROW}`).expect(200);
  expect(again.revision).toBeGreaterThan(view.revision);
  const kept = again.log.hours[5].entries.find(({ id }: { id: string }) => id === 'p0-300');
  expect(kept).toMatchObject({ note: 'Kept from before', itemId: noted.itemId });
});

describeOfFile('a data file that kept named values in one table', () => {
  const FILE = 'before-typed-settings.db.gz';
  const undo = async (api: Awaited<ReturnType<typeof open>>, label: string) => {
    const { body: done } = await api.get('/api/activity?stationId=vale&limit=50').expect(200);
    const found = done.find((one: { label: string; undone: boolean }) => one.label === label && !one.undone);
    await api.post(`/api/activity/${found.id}/undo`).expect(200);
  };
  const goldPlan = async (api: Awaited<ReturnType<typeof open>>) => {
    const { body } = await api.get('/api/stations/vale/rotation').expect(200);
    return body.rows.find(({ categoryId }: { categoryId: string }) => categoryId === 'gold').plan;
  };

  it('keeps each of them', async () => {
    const api = await open(FILE);
    expect((await api.get('/api/stations/vale/worklist')).body.itemIds).toHaveLength(2);
    expect(await goldPlan(api)).toEqual({ items: 14, slotsPerWeek: 40 });
    expect((await services.watched.view('vale')).watched).toEqual({ folder: '/nowhere/new', categoryId: 'gold' });
    const { outputs, records } = await services.handOver.state('vale', TOMORROW);
    expect(outputs).toMatchObject([
      { name: 'Playlist', files: handOverSettings({ pattern: '{station}-{date}.m3u8', hourly: true }) },
    ]);
    const { revision, name, files, target, nightly } = outputs[0]!;
    const form = { revision, name, files: { ...files, hourly: false, zip: true }, target, nightly };
    await api.put(`/api/stations/vale/outputs/${outputs[0]!.id}`).send(form).expect(200);
    // The hand-over that was on its way had written nothing, so it was taken back.
    expect(records).toEqual([]);
    expect((await api.get('/api/unreadable')).body).toEqual([{ id: 'n1', text: 'The week could not be read.' }]);
    const table = path.join(dataDir, 'songs.csv');
    await writeFile(table, 'Title,Album,Who sings\nEmber,Coals,Ada\n');
    const { settings: read } = await services.imports.openTable('vale', table, 'songs.csv');
    expect(read?.mapping).toEqual(['title', 'album', 'artist']);
  });

  it('lets changes of them still be undone', async () => {
    const api = await open(FILE);
    const before = (await api.get('/api/stations/vale/worklist')).body.itemIds;
    await undo(api, 'Add to the worklist');
    expect((await api.get('/api/stations/vale/worklist')).body.itemIds).not.toEqual(before);
    await undo(api, 'Keep a rotation plan');
    expect(await goldPlan(api)).toEqual({ items: 12, slotsPerWeek: 40 });
    await undo(api, 'Keep a rotation plan');
    expect(await goldPlan(api)).toBeNull();
    await undo(api, 'Tell 2 pairs apart');
    expect((await api.get('/api/stations/vale/tidy')).body.refused).toBe(0);
    await undo(api, 'Salt & Iron is one act');
    await undo(api, 'Watch the folder new');
    expect((await services.watched.view('vale')).watched).toBeNull();
  });
});

describeOfFile('a data file of any earlier version', () => {
  /** Every table with its columns, whatever their order: added ones stand at the end. */
  const schemaOf = (file: string): Record<string, string[]> => {
    const database = new Database(file, { readonly: true });
    const tables = database
      .prepare("select name from sqlite_master where type = 'table' and name not like 'sqlite%'")
      .all() as { name: string }[];
    const found = tables.map(({ name }): [string, string[]] => {
      const columns = database.prepare(`pragma table_info("${name}")`).all() as { name: string; type: string }[];
      return [name, columns.map((column) => `${column.name} ${column.type.toLowerCase()}`).sort()];
    });
    database.close();
    return Object.fromEntries(found);
  };
  const countIn = (file: string, table: string): number => {
    const database = new Database(file, { readonly: true });
    const { count } = database.prepare(`select count(*) as count from ${table}`).get() as { count: number };
    database.close();
    return count;
  };
  /** The oldest kept file, brought up to one version and no further. */
  const upTo = async (file: string, name: string): Promise<void> => {
    const orm = await MikroORM.init({
      dbName: file,
      entities: ENTITIES as never,
      extensions: [Migrator],
      migrations: { migrationsList: [...MIGRATIONS.sqlite], snapshot: false, silent: true, tableName: 'migration' },
      discovery: { disableDynamicFileAccess: true },
    });
    await orm.getMigrator().up({ to: name });
    await orm.close(true);
  };

  it('comes to the tables of today, with its stations, items, rules and logs', async () => {
    const oldest = gunzipSync(await readFile(path.join(KEPT, 'before-air-plan.db.gz')));
    dataDir = await mkdtemp(path.join(os.tmpdir(), 'fuller-kept-'));
    const file = path.join(dataDir, 'fuller.db');
    services = await openServices({ dataDir, now: () => NOW, compute: inlineCompute });
    await services.close();
    const today = schemaOf(file);
    const layDown = async (): Promise<void> => {
      await rm(dataDir, { recursive: true });
      await mkdir(dataDir);
      await writeFile(file, oldest);
    };
    await layDown();
    const first = MIGRATION_NAMES.indexOf(await lastMigrationOf(file));
    expect(first).toBeLessThan(4);
    const kept = ['station', 'item', 'rule', 'daily_log', 'category', 'clock'].map((table) => [
      table,
      countIn(file, table),
    ]);
    expect(kept.every(([, count]) => Number(count) > 0)).toBe(true);
    for (const name of MIGRATION_NAMES.slice(first)) {
      await layDown();
      if (name !== MIGRATION_NAMES[first]) await upTo(file, name);
      expect(await lastMigrationOf(file)).toBe(name);
      services = await openServices({ dataDir, now: () => NOW, compute: inlineCompute });
      await services.close();
      expect([name, schemaOf(file)]).toEqual([name, today]);
      expect([name, kept.map(([table]) => [table, countIn(file, table as string)])]).toEqual([name, kept]);
    }
    services = await openServices({ dataDir, now: () => NOW, compute: inlineCompute });
  });

  async function lastMigrationOf(file: string): Promise<string> {
    const database = new Database(file, { readonly: true });
    const { name } = database.prepare('select name from migration order by id desc limit 1').get() as { name: string };
    database.close();
    return name;
  }
});

itOfFile(
  'keeps people, what they may do, tokens and what was shared in a file from before stations could be archived',
  async () => {
    const api = await open('before-group.db.gz');
    expect((await services.people.list()).map(({ name, roles }) => [name, roles[0]!.role])).toEqual([
      ['Nell', 'director'],
      ['Tom', 'traffic'],
    ]);
    expect(await services.tokens.list()).toMatchObject([{ name: 'night', rights: ['look', 'logs'] }]);
    const owner = { 'x-owner': services.owner.token };
    const { body: night } = await api.get('/api/stations/night/catalogue').set(owner).expect(200);
    expect(night.categories).toMatchObject([{ name: 'Shared gold', scope: 'group' }]);
    expect(night.setLists).toMatchObject([{ name: 'Shared list', rows: 3 }]);
    expect(night.station).toMatchObject({ archived: false, revision: 1 });
  },
);
