import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { ServerEvent } from '@fuller/contracts';
import { OWNER } from '../people/caller.js';
import { programAt } from '../actor.js';
import { inlineCompute } from '../jobs/compute.js';
import type { RunningJob } from '../jobs/job-runner.js';
import { openServices, type Services } from '../services.js';
import { seedStations } from '../testing/test-server.js';

const ROWS = 3000;

describe('long work in threads', () => {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'fuller-writers-'));
  let services: Services;
  const events: ServerEvent[] = [];

  beforeAll(async () => {
    services = await openServices({
      dataDir: path.join(folder, path.basename(folder)),
      compute: inlineCompute,
      threads: true,
    });
    await seedStations(services);
    services.events.listen((event) => events.push(event));
  });
  afterAll(async () => {
    await services.close();
    rmSync(folder, { recursive: true });
  });

  const table = (name: string): string => {
    const file = path.join(folder, `${name}.csv`);
    const lines = Array.from({ length: ROWS }, (_, n) => `${name} ${n},Maker ${n % 90},3:00`);
    writeFileSync(file, ['title,artist,duration', ...lines].join('\n'));
    return file;
  };
  const itemsNamed = async (name: string): Promise<number> => {
    const query = { q: name, sort: 'title', dir: 'asc', offset: 0, limit: 1 } as const;
    return (await services.library.list('vale', query)).total;
  };
  const begin = (name: string) => services.imports.openTable('vale', table(name), `${name}.csv`);
  const jobTold = (told: (doing: string) => void): RunningJob => ({
    signal: new AbortController().signal,
    progress: (_share, doing) => told(doing),
  });
  const rename = (name: string) => services.categories.createGroup(programAt('vale', 'anna'), name);

  it('let others write between two batches, and are undone the same way', async () => {
    const session = await begin('quick');
    const edits: Promise<unknown>[] = [];
    const job = jobTold((doing) => {
      if (doing.startsWith('Writing') && edits.length < 3) edits.push(rename(`Between ${edits.length}`));
    });
    const done = await services.imports.commit(session.id, 'anna', job);
    expect(await Promise.all(edits)).toHaveLength(3);
    expect(done.summary).toMatchObject({ added: ROWS, rejected: 0 });
    expect(await itemsNamed('quick')).toBe(ROWS);
    const labels = (await services.activity.latest(OWNER, { limit: 5 })).map(({ label }) => label);
    expect(labels).toEqual(expect.arrayContaining(['Import quick.csv']));
    expect(events).toContainEqual(
      expect.objectContaining({ type: 'changed', what: expect.arrayContaining(['library']) }),
    );
    const undone = await services.activity.undo(programAt('vale', 'anna'), OWNER, done.activityId!);
    expect(await itemsNamed('quick')).toBe(0);
    await expect(services.activity.undo(programAt('vale', 'anna'), OWNER, done.activityId!)).rejects.toMatchObject({
      code: 'CANNOT_UNDO',
    });
    await services.activity.undo(programAt('vale', 'anna'), OWNER, undone.activityId!);
    expect(await itemsNamed('quick')).toBe(ROWS);
  });

  it('that die halfway leave nothing behind and hold up nobody', async () => {
    const session = await begin('lost');
    let [reached, dead] = [() => {}, false];
    const halfway = new Promise<void>((resolve) => (reached = resolve));
    const lost = services.imports
      .commit(
        session.id,
        'anna',
        jobTold((doing) => doing.startsWith('Writing') && reached()),
      )
      .finally(() => (dead = true));
    const refused = expect(lost).rejects.toThrow();
    await halfway;
    expect(dead).toBe(false);
    await services.work.close();
    await refused;
    expect(await itemsNamed('lost')).toBe(0);
    expect((await services.activity.latest(OWNER, { limit: 1 }))[0]!.label).not.toBe('Import lost.csv');
    await rename('After');
    expect(
      (
        await services.imports.commit(
          session.id,
          'anna',
          jobTold(() => {}),
        )
      ).summary.added,
    ).toBe(ROWS);
  });

  it('stop when they are told to, and say what cannot be read', async () => {
    const stop = new AbortController();
    const session = await begin('stopped');
    const job: RunningJob = {
      signal: stop.signal,
      progress: (_share, doing) => doing.startsWith('Writing') && stop.abort(new Error('Cancelled.')),
    };
    await expect(services.imports.commit(session.id, 'anna', job)).rejects.toThrow('Cancelled.');
    expect(await itemsNamed('stopped')).toBe(0);
    await services.imports.configure(session.id, { ...session.settings!, mapping: [null, 'artist', 'duration'] });
    await expect(
      services.imports.dryRun(
        session.id,
        jobTold(() => {}),
      ),
    ).rejects.toMatchObject({
      code: 'INVALID',
      field: 'mapping',
    });
  });
});
