import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, expect, it } from '@jest/globals';
import type { ServerEvent } from '@fuller/contracts';
import { ActivityEntity } from './db/entities/index.js';
import { inlineCompute } from './jobs/compute.js';
import { openServices, type Services } from './services.js';
import { describeShared } from './testing/database.js';
import { seedStations } from './testing/test-server.js';

const EDITS = 200;
const SOON_MS = 1_000;

async function until(what: () => boolean | Promise<boolean>, withinMs = 10_000): Promise<number> {
  const from = performance.now();
  while (!(await what())) {
    if (performance.now() - from > withinMs) throw new Error('it never came');
    await new Promise((resolve) => setTimeout(resolve, 5));
  }
  return performance.now() - from;
}

describeShared('two servers on one database', () => {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'fuller-two-'));
  const open = (): Promise<Services> => openServices({ dataDir: folder, compute: inlineCompute });
  let one: Services;
  let two: Services;
  const seen: ServerEvent[] = [];
  const rename = (at: Services, client: string, title: string, revision?: number) =>
    at.store.write({ clientId: client, stationId: 'vale', label: 'Rename' }, (changes) =>
      changes.update('item', 'song1', { title }, revision),
    );
  const song = (at: Services) => at.library.card('vale', 'song1');

  beforeAll(async () => {
    [one, two] = await Promise.all([open(), open()]);
    await seedStations(one);
    two.events.listen((event) => seen.push(event));
  });
  afterAll(async () => {
    await Promise.all([one.close(), two.close()]);
    rmSync(folder, { recursive: true });
  });

  it('tell each other what has changed, with who changed it, within a second', async () => {
    const before = two.revisions.total;
    await rename(one, 'anna', 'Told');
    const took = await until(() => seen.some((event) => event.type === 'changed' && event.clientId === 'anna'));
    expect(took).toBeLessThan(SOON_MS);
    expect(seen.at(-1)).toMatchObject({ type: 'changed', stationId: 'vale', what: ['library', 'catalogue'] });
    expect(two.revisions.total).toBeGreaterThan(before);
    expect((await song(two)).title).toBe('Told');
  });

  it(`lose none of ${EDITS} edits that both make at the same time, and refuse one that was made on something older`, async () => {
    const before = (await song(one)).revision;
    const refused: unknown[] = [];
    await Promise.all(Array.from({ length: EDITS }, (_, n) => rename(n % 2 ? one : two, `c${n % 2}`, `Edit ${n}`)));
    const { revision, title } = await song(two);
    expect([revision, await song(one)]).toEqual([before + EDITS, expect.objectContaining({ revision, title })]);
    await Promise.all(
      [one, two].map((at, n) =>
        rename(at, 'both', `Both ${n}`, revision).catch((error: unknown) => refused.push(error)),
      ),
    );
    expect(refused).toEqual([expect.objectContaining({ code: 'CONFLICT' })]);
    expect((await song(one)).revision).toBe(revision + 1);
  });

  it('let in who has signed in at the other, until they sign out there', async () => {
    const token = await one.sessions.begin('p1', '127.0.0.1', 'test');
    const session = await two.sessions.find(token);
    expect(session?.personId).toBe('p1');
    await one.sessions.endAllOf('p1');
    await until(async () => (await two.sessions.find(token)) === null, SOON_MS);
  });

  it('watch for each other: one has the duty, and the other takes it over', async () => {
    const gained: string[] = [];
    const dutyOf = (at: Services, name: string) =>
      at.dutyOf({
        gained: () => gained.push(name),
        lost: () => {},
        reportFault: (error) => gained.push(String(error)),
      });
    const [first, second] = [dutyOf(one, 'one'), dutyOf(two, 'two')];
    first.begin();
    await until(() => gained.length > 0);
    second.begin();
    await new Promise((resolve) => setTimeout(resolve, 200));
    expect(gained).toEqual(['one']);
    await first.close();
    await until(() => gained.length > 1);
    expect(gained).toEqual(['one', 'two']);
    await second.close();
  });

  it('leave alone what the other is writing, and take back what one left behind', async () => {
    let goOn = (): void => {};
    const held = new Promise<void>((resolve) => (goOn = resolve));
    const writing = one.store.batches.write(
      { clientId: 'anna', stationId: 'vale', label: 'Long' },
      async ({ batch }) => {
        await batch((changes) => changes.update('item', 'song2', { title: 'Half' }));
        await held;
      },
    );
    await until(async () => (await two.library.card('vale', 'song2')).title === 'Half');
    expect(await two.store.batches.recover()).toEqual([]);
    goOn();
    expect((await writing).activityId).not.toBeNull();
    // As a server leaves it that has ended in between.
    const left = await one.store.write({ clientId: 'anna', stationId: 'vale', label: 'Left' }, (changes) =>
      changes.update('item', 'song2', { title: 'Left' }),
    );
    await one.store.quietly((em) => em.nativeUpdate(ActivityEntity, { id: left.activityId! }, { unfinished: true }));
    expect(await two.store.batches.recover()).toEqual(['Left']);
    expect((await two.library.card('vale', 'song2')).title).toBe('Half');
  });

  it('leave backups to the tools of the database', async () => {
    await expect(one.backups.make()).rejects.toMatchObject({ code: 'CONFLICT' });
    expect([(await one.backups.list()).madeHere, await one.backups.makeDue()]).toEqual([false, null]);
  });

  it('hold up a station’s writes for the whole group, and no station for another', async () => {
    const order: string[] = [];
    const slow = (at: Services, stationId: string | null, name: string, ms: number) =>
      at.store.write({ clientId: 'x', stationId, label: name }, async () => {
        order.push(`${name} begins`);
        await new Promise((resolve) => setTimeout(resolve, ms));
        order.push(`${name} ends`);
      });
    await Promise.all([slow(one, 'vale', 'vale', 300), slow(two, 'night', 'night', 100)]);
    expect(order.slice(0, 2).every((words) => words.endsWith('begins'))).toBe(true);
    order.length = 0;
    const first = slow(one, 'vale', 'vale', 200);
    await until(() => order.length > 0);
    await Promise.all([first, slow(two, null, 'group', 10), slow(two, 'vale', 'again', 10)]);
    expect(order.slice(0, 2)).toEqual(['vale begins', 'vale ends']);
    expect(order.indexOf('group ends') - order.indexOf('group begins')).toBe(1);
  });
});
