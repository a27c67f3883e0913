import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import type { Announcement } from '@fuller/contracts';
import { ActivityChangeEntity, ActivityEntity, CategoryGroupEntity } from '../db/entities/index.js';
import { type Orm } from '../db/orm.js';
import { openDatabase } from '../db/open.js';
import type { ChangeSet } from './change-set.js';
import { EventHub } from './event-hub.js';
import { Kept } from './kept.js';
import { Revisions } from './revisions.js';
import { Store } from './store.js';
import { itOfFile } from '../testing/database.js';

const NOW = 1_800_000_000_000;
const ABOUT = { clientId: 'me', stationId: null, label: 'Change groups' };
const group = (id: string, name = id) => ({ id, name, position: 0 });

const dataDir = mkdtempSync(path.join(os.tmpdir(), 'fuller-store-'));
let orm: Orm;
let store: Store;
let told: Announcement[] = [];

beforeAll(async () => {
  orm = await openDatabase(dataDir);
});
afterAll(async () => {
  await orm.close();
  rmSync(dataDir, { recursive: true });
});
beforeEach(async () => {
  told = [];
  store = new Store(
    orm,
    () => NOW,
    (event) => told.push(event),
  );
  await store.quietly(async (em) => {
    await em.nativeDelete(ActivityChangeEntity, {});
    await em.nativeDelete(ActivityEntity, {});
    await em.nativeDelete(CategoryGroupEntity, {});
  });
});

const groups = async (): Promise<string[]> =>
  (await store.read.find(CategoryGroupEntity, {}, { orderBy: { id: 'asc' } })).map(({ name }) => name);
const make = (...ids: string[]) =>
  store.write(ABOUT, (changes) =>
    changes.insert(
      'categoryGroup',
      ids.map((id) => group(id)),
    ),
  );

describe('a write', () => {
  it('is one activity, told to all with what it changed', async () => {
    const { activityId, label } = await make('a', 'b');
    expect(label).toBe('Change groups');
    expect(await store.read.count(ActivityChangeEntity, { activityId: activityId! })).toBe(2);
    expect(told).toEqual([{ type: 'changed', stationId: null, clientId: 'me', what: ['catalogue'] }]);
  });

  it('that changes nothing leaves no trace', async () => {
    await make('a');
    told = [];
    const { activityId } = await store.write(ABOUT, (changes) => changes.update('categoryGroup', 'a', { name: 'a' }));
    expect([activityId, told, await store.read.count(ActivityEntity)]).toEqual([null, [], 1]);
  });

  it('is there whole or not at all', async () => {
    const broken = store.write(ABOUT, async (changes) => {
      await changes.insert('categoryGroup', [group('a')]);
      throw new Error('halfway');
    });
    await expect(broken).rejects.toThrow('halfway');
    expect([await groups(), told, await store.read.count(ActivityEntity)]).toEqual([[], [], 0]);
  });

  itOfFile('waits for the one before it', async () => {
    const order: string[] = [];
    const slow = store.quietly(async () => {
      order.push('begins');
      await new Promise((resolve) => setTimeout(resolve, 10));
      order.push('ends');
    });
    const next = store.quietly(async () => void order.push('next'));
    await Promise.all([slow, next]);
    expect(order).toEqual(['begins', 'ends', 'next']);
  });

  it('of a row that is gone says so', async () => {
    await expect(store.write(ABOUT, (changes) => changes.remove('categoryGroup', 'x'))).rejects.toMatchObject({
      code: 'NOT_FOUND',
    });
  });
});

describe('undo', () => {
  it('takes back what was made, changed and deleted, and redoes it', async () => {
    await make('a', 'b');
    const { activityId } = await store.write(ABOUT, async (changes: ChangeSet) => {
      await changes.update('categoryGroup', 'a', { name: 'Renamed' });
      await changes.remove('categoryGroup', 'b');
      await changes.insert('categoryGroup', [group('c')]);
    });
    const undone = await store.undoing.undo(activityId!, 'me');
    expect([await groups(), undone.label]).toEqual([['a', 'b'], 'Undo: Change groups']);
    const redone = await store.undoing.undo(undone.activityId!, 'me');
    expect([await groups(), redone.label]).toEqual([['Renamed', 'c'], 'Change groups']);
  });

  it('is refused where what it changed has been changed again, and changes nothing then', async () => {
    const { activityId } = await make('a', 'b');
    await store.write(ABOUT, (changes) => changes.update('categoryGroup', 'a', { name: 'Renamed' }));
    await expect(store.undoing.undo(activityId!, 'me')).rejects.toMatchObject({
      code: 'CANNOT_UNDO',
      message: expect.stringContaining('has been changed again since'),
    });
    expect(await groups()).toEqual(['Renamed', 'b']);
  });

  it('is refused a second time, and for what never was', async () => {
    const { activityId } = await make('a');
    await store.undoing.undo(activityId!, 'me');
    await expect(store.undoing.undo(activityId!, 'me')).rejects.toThrow('is undone already');
    await expect(store.undoing.undo('never', 'me')).rejects.toMatchObject({ code: 'NOT_FOUND' });
  });

  it('asks who knows how for what is no row', async () => {
    const seen: unknown[] = [];
    store.undoing.onRevert('log', async (changes, change, madeAtMs) => {
      seen.push([change.before, change.after, madeAtMs]);
      changes.leave('10:00 left as it is.');
    });
    const { activityId } = await store.write(ABOUT, async (changes) => {
      changes.record({ thing: 'log', thingId: 'l', before: { note: '' }, after: { note: 'Birthday' } });
    });
    const { left } = await store.undoing.undo(activityId!, 'me');
    expect([seen, left]).toEqual([[[{ note: '' }, { note: 'Birthday' }, NOW]], ['10:00 left as it is.']]);
  });
});

describe('a write in batches', () => {
  const inBatches = (...names: string[]) =>
    store.batches.write(ABOUT, async ({ batch }) => {
      for (const name of names)
        await batch(async (changes) => {
          if (name === 'stop') throw new Error('stopped');
          await changes.insert('categoryGroup', [group(name)]);
        });
    });

  it('is one activity in the end, and others have their turn between two', async () => {
    const writing = inBatches('a', 'b', 'c');
    const between = store.quietly((em) => em.insert(CategoryGroupEntity, group('x')));
    const { activityId } = await writing;
    await between;
    expect(await groups()).toEqual(['a', 'b', 'c', 'x']);
    await store.undoing.undo(activityId!, 'me');
    expect(await groups()).toEqual(['x']);
  });

  it('cannot be undone while it is going on', async () => {
    let going = '';
    await store.batches.write(ABOUT, async ({ batch }) => {
      await batch(async (changes) => {
        await changes.insert('categoryGroup', [group('a')]);
        going = changes.activityId;
      });
      await expect(store.undoing.undo(going, 'me')).rejects.toThrow('is still being written');
      expect(await store.batches.recover()).toEqual([]);
    });
    expect(await groups()).toEqual(['a']);
  });

  it('that fails is taken back, apart from what others have changed meanwhile', async () => {
    const failing = store.batches.write(ABOUT, async ({ batch }) => {
      await batch((changes) => changes.insert('categoryGroup', [group('a'), group('b')]));
      await store.write(ABOUT, (changes) => changes.update('categoryGroup', 'b', { name: 'Theirs' }));
      await batch(() => Promise.reject(new Error('stopped')));
    });
    await expect(failing).rejects.toThrow('stopped');
    expect(await groups()).toEqual(['Theirs']);
    expect((await store.read.find(ActivityEntity, {})).map(({ unfinished }) => unfinished)).toEqual([false]);
  });

  it('is taken back by the next process where this one ends', async () => {
    // As a process leaves it that is killed between two batches.
    await store.quietly(async (em) => {
      const set = new (await import('./change-set.js')).ChangeSet(em, { ...ABOUT, label: 'Import' }, NOW, 'killed');
      await set.begin(null, { unfinished: true });
      await set.insert('categoryGroup', [group('a'), group('b')]);
      await set.flush();
    });
    const next = new Store(
      orm,
      () => NOW,
      () => {},
    );
    expect(await next.batches.recover()).toEqual(['Import']);
    expect([await groups(), await store.read.count(ActivityEntity)]).toEqual([[], 0]);
    expect(await next.batches.recover()).toEqual([]);
  });

  it('that wrote nothing leaves nothing', async () => {
    const { activityId } = await inBatches();
    expect([activityId, told, await store.read.count(ActivityEntity)]).toEqual([null, [], 0]);
  });
});

describe('revisions', () => {
  it('tell what of a station may have changed', () => {
    const revisions = new Revisions();
    const before = [revisions.total, revisions.ground];
    revisions.note(new Set(['log']), [{ stationId: 'vale', date: '2026-11-24' }]);
    expect(revisions.total).toBe(before[0]! + 1);
    expect(revisions.ground).toBe(before[1]);
    expect(revisions.ofDate('vale', '2026-11-24')).toBe(revisions.total);
    expect(revisions.ofDate('vale', '2026-11-25')).toBe(0);
    expect(revisions.ofDate('overnight', '2026-11-24')).toBe(0);
    expect(revisions.ofDates('vale', '2026-11-20', '2026-11-30')).toBe(revisions.total);
    expect(revisions.ofDates('vale', '2026-11-25', '2026-11-30')).toBe(0);
    revisions.note(new Set(['worklist']), []);
    expect(revisions.ground).toBe(before[1]);
    revisions.note(new Set(['rule']), []);
    expect(revisions.ground).toBe(revisions.total);
  });

  it('take everything for changed where a write does not say what it changed', () => {
    const revisions = new Revisions(500);
    revisions.note(new Set(), []);
    expect([revisions.total, revisions.ground, revisions.ofDate('vale', '2026-01-01')]).toEqual([501, 501, 501]);
  });

  it('go with every event, the first of which says where the data stands', () => {
    const revisions = new Revisions(7);
    const hub = new EventHub(revisions);
    const heard: unknown[] = [];
    const stop = hub.listen((event) => heard.push([event.type, event.dataRevision]));
    revisions.note(new Set(['rule']), []);
    hub.announce({ type: 'changed', stationId: null, clientId: 'x', what: ['catalogue'] });
    stop();
    hub.announce({ type: 'changed', stationId: null, clientId: 'x', what: ['logs'] });
    expect(heard).toEqual([
      ['ready', 7],
      ['changed', 8],
    ]);
  });
});

describe('what is kept', () => {
  it('is worked out once for all who ask at the same time, and again where it failed', async () => {
    const kept = new Kept<number>(2);
    let worked = 0;
    const work = async () => ++worked;
    expect(await Promise.all([kept.get('a', work), kept.get('a', work)])).toEqual([1, 1]);
    await expect(kept.get('b', () => Promise.reject(new Error('no')))).rejects.toThrow('no');
    expect(await kept.get('b', work)).toBe(2);
  });

  it('forgets what was asked for least lately', async () => {
    const kept = new Kept<string>(2);
    for (const key of ['a', 'b', 'a', 'c']) await kept.get(key, async () => key);
    expect(await kept.get('a', async () => 'again')).toBe('a');
    expect(await kept.get('b', async () => 'again')).toBe('again');
    kept.put('a', 'put');
    expect(await kept.get('a', async () => 'again')).toBe('put');
  });
});
