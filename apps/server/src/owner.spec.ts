import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync, existsSync, readdirSync } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { programAt } from './actor.js';
import { own, ownerOf } from './db/owner.js';
import { PendingHandOverEntity } from './db/entities/index.js';
import { inlineCompute } from './jobs/compute.js';
import { OWNER } from './people/caller.js';
import { AudioRoots } from './library/audio-roots.js';
import { openServices } from './services.js';
import { seedStations, TOMORROW, NOW } from './testing/test-server.js';
import { rowsOf } from './db/queries/query.js';

const folder = mkdtempSync(path.join(os.tmpdir(), 'fuller-owner-'));
afterAll(() => rmSync(folder, { recursive: true }));

describe('the owner of a data folder', () => {
  it('is one at a time, and says who it is', async () => {
    const dataDir = path.join(folder, 'one');
    const first = await own(dataDir);
    await first.tell('http://127.0.0.1:4600');
    await expect(own(dataDir)).rejects.toMatchObject({
      code: 'IN_USE',
      message: expect.stringContaining('http://127.0.0.1:4600'),
    });
    expect(await ownerOf(dataDir)).toMatchObject({ pid: process.pid, token: first.token });
    await first.release();
    await (await own(dataDir)).release();
  });

  it('leaves nothing behind when it is killed', () => {
    const dataDir = path.join(folder, 'killed');
    const program = `const Database = require('libsql'); const fs = require('fs'); fs.mkdirSync('${dataDir}');
      new Database('${dataDir}/owner.lock').exec('begin exclusive'); process.kill(process.pid, 'SIGKILL');`;
    expect(spawnSync(process.execPath, ['-e', program], { encoding: 'utf8' }).signal).toBe('SIGKILL');
    return own(dataDir).then((mine) => mine.release());
  });

  it('is refused a second set of services', async () => {
    const dataDir = path.join(folder, 'services');
    const first = await openServices({ dataDir, compute: inlineCompute });
    await expect(openServices({ dataDir, compute: inlineCompute })).rejects.toMatchObject({ code: 'IN_USE' });
    await first.close();
  });
});

describe('a start after a stop halfway', () => {
  const dataDir = path.join(folder, 'halfway');
  const open = (tell: (words: string) => void = () => {}) =>
    openServices({ dataDir, now: () => NOW, compute: inlineCompute, tell });
  const job = { signal: new AbortController().signal, progress: () => {} };

  beforeAll(async () => {
    const services = await open();
    await seedStations(services);
    await services.generate.run(programAt('vale', 'test'), { from: TOMORROW, days: 1, seed: 1, only: 'all' }, job);
    await services.close();
  });

  it('finishes a hand-over whose files were being put in place, and takes one back that was being written', async () => {
    const services = await open();
    const out = path.join(folder, 'out');
    await mkdir(out);
    const record = {
      id: 'pending1',
      stationId: 'vale',
      date: TOMORROW,
      atMs: NOW,
      folder: out,
      files: ['a.m3u8', 'b.m3u8'],
      entries: 2,
      heldBack: 0,
      outputId: null,
      outputName: '',
      versionId: null,
      logRevision: 1,
    };
    writeFileSync(path.join(out, 'a.m3u8'), 'new a');
    writeFileSync(path.join(out, 'b.m3u8.fuller-part-pending1'), 'new b');
    writeFileSync(path.join(out, 'c.m3u8.fuller-part-pending2'), 'half');
    const settings = {};
    await services.store.quietly(async (em) => {
      await em.insert(PendingHandOverEntity, {
        id: 'pending1',
        record,
        output: settings,
        clientId: 'x',
        state: 'placing',
      });
      const other = { ...record, id: 'pending2', files: ['c.m3u8'] };
      await em.insert(PendingHandOverEntity, {
        id: 'pending2',
        record: other,
        output: settings,
        clientId: 'x',
        state: 'writing',
      });
    });
    await services.close();
    const said: string[] = [];
    const again = await open((words) => said.push(words));
    expect(readdirSync(out).sort()).toEqual(['a.m3u8', 'b.m3u8']);
    expect((await again.handOver.state('vale', TOMORROW)).records.map(({ id }) => id)).toEqual(['pending1']);
    expect(said).toEqual([expect.stringContaining('is finished now'), expect.stringContaining('taken back')]);
    await again.close();
  });

  it('takes back an import that was being written, and remembers it was', async () => {
    const services = await open();
    const before = (await services.library.list('vale', { offset: 0, limit: 1, sort: 'title', dir: 'asc' } as never))
      .total;
    const stopped = services.store.batches.write(
      { clientId: 'x', stationId: 'vale', label: 'Import half.csv' },
      async ({ batch }) => {
        await batch(async (changes) => {
          await changes.insert('artist', [{ id: 'half', name: 'Half', nameKey: 'half there' }]);
        });
        // The process ends here: nothing after this is ever run.
        await new Promise(() => {});
      },
    );
    void stopped;
    await new Promise((resolve) => setTimeout(resolve, 100));
    // What is still being written is not taken for the remains of something dead.
    expect(await services.store.batches.recover()).toEqual([]);
    expect(await rowsOf(services.store.read, `select id from artist where id = 'half'`)).toHaveLength(1);
    await services.close();
    const said: string[] = [];
    const again = await open((words) => said.push(words));
    expect(said.join()).toContain('Import half.csv');
    expect(await rowsOf(again.store.read, `select id from artist where id = 'half'`)).toEqual([]);
    expect((await again.activity.latest(OWNER, { limit: 5 })).map(({ label }) => label)).not.toContain(
      'Import half.csv',
    );
    expect((await again.library.list('vale', { offset: 0, limit: 1, sort: 'title', dir: 'asc' } as never)).total).toBe(
      before,
    );
    await again.close();
  });

  it('tells of work that was going on, and takes up an import that was open', async () => {
    const services = await open();
    const file = path.join(services.folders.uploads, 'up');
    writeFileSync(file, 'title,artist\nA,B\n');
    const session = await services.imports.openTable('vale', file, 'songs.csv');
    writeFileSync(path.join(services.folders.uploads, 'left-over'), 'x');
    const view = services.jobs.start(
      { kind: 'generate', label: 'Generate a week', stationId: 'vale', clientId: 'x' },
      () => new Promise(() => {}),
    );
    void view;
    // Killed: the job never ends.
    await services.orm.close(true);
    await services.owner.release();
    const said: string[] = [];
    const again = await open((words) => said.push(words));
    expect(said).toEqual(['“Generate a week” was going on when Fuller stopped; nothing of it is kept.']);
    expect(again.jobs.list().map(({ state, message }) => [state, message])).toContainEqual([
      'failed',
      expect.stringContaining('Start it again'),
    ]);
    expect(again.imports.get(session.id)).toMatchObject({ name: 'songs.csv' });
    expect(existsSync(path.join(again.folders.uploads, 'left-over'))).toBe(false);
    await again.close();
  });
});

describe('audio roots', () => {
  it('give regular files below them alone', async () => {
    const roots = new AudioRoots(path.join(folder, 'audio'), [path.join(folder, 'more')]);
    for (const place of ['audio', 'more', 'other']) {
      await mkdir(path.join(folder, place));
      writeFileSync(path.join(folder, place, 'a.wav'), 'x');
    }
    spawnSync('mkfifo', [path.join(folder, 'audio', 'pipe.wav')]);
    spawnSync('ln', ['-s', path.join(folder, 'other', 'a.wav'), path.join(folder, 'audio', 'link.wav')]);
    expect(roots.fileAt('a.wav')).toBe(path.join(folder, 'audio', 'a.wav'));
    expect(roots.fileAt(path.join(folder, 'more', 'a.wav'))).not.toBeNull();
    for (const bad of [
      '../other/a.wav',
      path.join(folder, 'other', 'a.wav'),
      'pipe.wav',
      'link.wav',
      'a\0.wav',
      '.',
      '/dev/zero',
    ])
      expect(roots.fileAt(bad)).toBeNull();
    await expect(roots.folderAt('/')).rejects.toMatchObject({ code: 'INVALID', field: 'folder' });
    await expect(roots.folderAt('no-such')).rejects.toThrow('There is no folder');
  });
});
