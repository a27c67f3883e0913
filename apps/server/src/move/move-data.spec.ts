import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, expect, it } from '@jest/globals';
import { programAt } from '../actor.js';
import { ActivityEntity } from '../db/entities/index.js';
import { databaseOf } from '../db/open.js';
import { inlineCompute } from '../jobs/compute.js';
import { UNWATCHED } from '../jobs/job-runner.js';
import { openServices, type Services } from '../services.js';
import { describeShared } from '../testing/database.js';
import { NOW, seedStations, TODAY } from '../testing/test-server.js';
import { moveData } from './move-data.js';

describeShared('data that moves', () => {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'fuller-move-'));
  const [there, back] = ['there', 'back'].map((name) => path.join(folder, name)) as [string, string];
  const database = databaseOf(folder)!;
  const open = (dataDir: string, where: string): Promise<Services> =>
    openServices({ dataDir, database: where, now: () => NOW, compute: inlineCompute });

  beforeAll(async () => {
    const services = await open(there, '');
    await seedStations(services);
    const range = { from: TODAY, days: 2, seed: 7, only: 'all' } as const;
    await services.generate.run(programAt('vale', 'anna'), range, UNWATCHED);
    await services.store.write({ clientId: 'anna', stationId: 'vale', label: 'Rename' }, (changes) =>
      changes.update('item', 'song1', { title: 'René’s “quoted” \\ 雨' }),
    );
    await services.close();
  });
  afterAll(() => rmSync(folder, { recursive: true }));

  it('is the same on the other side, with its history, and again when it comes back', async () => {
    const moved = await moveData({ dataDir: there }, { database });
    expect(moved.find(({ table }) => table === 'activity')!.rows).toBeGreaterThan(2);
    expect(moved.find(({ table }) => table === 'play')!.rows).toBeGreaterThan(300);
    const returned = await moveData({ database }, { dataDir: back });
    expect(returned).toEqual(moved);
    const services = await open(back, '');
    expect((await services.library.card('vale', 'song1')).title).toBe('René’s “quoted” \\ 雨');
    await services.close();
  });

  it('is worked on there as before: what was done is undone, what counts goes on, the search finds it', async () => {
    const services = await open(there, database);
    const last = await services.store.read.findOne(ActivityEntity, { label: 'Rename' });
    await services.store.undoing.undo(last!.id, 'bo');
    expect((await services.library.card('vale', 'song1')).title).toBe('Réalta 1');
    const query = { q: 'realta 1', sort: 'title', dir: 'asc', offset: 0, limit: 50 } as const;
    const found = (await services.library.list('vale', query)).rows.map(({ title }) => title);
    expect(found.slice(0, 3)).toEqual(['Réalta 1', 'Réalta 10', 'Réalta 11']);
    await services.close();
  });

  it('goes on where it was broken off, and refuses a target that holds something else', async () => {
    await expect(moveData({ dataDir: there }, { database })).rejects.toMatchObject({ code: 'CONFLICT' });
    const half = `${database}_half`;
    let told = 0;
    const broken = moveData({ dataDir: there }, { database: half }, () => {
      if (++told === 6) throw new Error('cut off');
    });
    await expect(broken).rejects.toThrow('cut off');
    const moved = await moveData({ dataDir: there }, { database: half });
    expect(moved.every(({ rows, sum }) => rows === 0 || sum.length === 64)).toBe(true);
    expect(moved.find(({ table }) => table === 'play')!.rows).toBeGreaterThan(300);
  });

  it('waits for no server: it is refused while one works on either side', async () => {
    const services = await open(there, '');
    await expect(moveData({ dataDir: there }, { database: `${database}_other` })).rejects.toMatchObject({
      code: 'IN_USE',
    });
    await services.close();
  });
});
