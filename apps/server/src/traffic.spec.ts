import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import type { JobView, LogView, TrafficDay, TrafficOutcome, TrafficSetUp } from '@fuller/contracts';
import { endOfJob, testServer, TODAY, TOMORROW, type TestServer } from './testing/test-server.js';

let server: TestServer;
const log = async (date = TOMORROW): Promise<LogView> => (await server.api.get(`/api/stations/vale/logs/${date}`)).body;
const take = (text: string, more: object = {}, date = TOMORROW) =>
  server.api.post(`/api/stations/vale/logs/${date}/traffic`).send({ text, ...more });
const taken = async (text: string, more: object = {}): Promise<TrafficOutcome> =>
  (await take(text, more).expect(200)).body as TrafficOutcome;
const spotsOf = ({ log: { hours } }: LogView) =>
  hours.flatMap(({ entries }) => entries.flatMap((entry) => (entry.kind === 'break' && entry.spots ? [entry] : [])));

const breaks = [
  { entryId: 'h-one', start: '06:12:00' },
  { entryId: 'h-two', start: '07:12:00' },
] as const;
const file = (rows: readonly string[], date = TOMORROW): string => [`# TRADE DESK ${date}`, ...rows].join('\n');
const line = (start: string, cart: string, seconds: number, sponsor: string, title = 'Autumn'): string =>
  `${start}  ${cart.padEnd(9)}${String(seconds).padStart(2)}  ${sponsor.padEnd(24)}${title}`;

beforeAll(async () => {
  server = await testServer();
  const { body: job } = await server.api.post('/api/stations/vale/generate').send({ from: TOMORROW, days: 1 });
  await endOfJob(server, job.id);
  // The clock of the test station has no breaks; two are put in by hand.
  const { log: day, revision } = await log();
  const edits = breaks.map(({ entryId }, n) => ({
    type: 'insert',
    at: { hourIndex: 6 + n, beforeId: day.hours[6 + n]!.entries[3]!.id },
    entry: { id: entryId, kind: 'break', bookedAtMs: 720_000, durationMs: 120_000 },
  }));
  const edit = { revision, edit: { type: 'batch', edits } };
  await server.api.post(`/api/stations/vale/logs/${TOMORROW}/edits`).send(edit).expect(200);
});
afterAll(() => server.close());

describe('a traffic log', () => {
  it('is tried without writing anything, then books its spots; every line is told', async () => {
    const [one, two] = breaks;
    const text = file([
      line(one.start, 'SP10442', 30, 'CANAL ST BAKERY'),
      line(one.start, 'SP10517', 20, 'LOCKSIDE CYCLES'),
      line(two.start, 'SP10333', 45, 'VALE CREDIT UNION'),
      line('26:00:00', 'SP10001', 45, 'LATE SHOP'),
      line('03:33:00', 'SP10002', 45, 'NIGHT SHOP'),
    ]);
    const before = await log();
    const dry = await taken(text, { dryRun: true, toleranceMs: 60_000 });
    expect(dry).toMatchObject({ activityId: null, lines: 6, placed: 3, passed: 1, added: 3, removed: 0 });
    expect(dry.tray).toMatchObject([
      { line: 6, start: '03:33:00', cart: 'SP10002', sponsor: 'NIGHT SHOP', why: 'No break is booked near 03:33.' },
    ]);
    expect(dry.errors.map(({ line: at, why }) => `${at}: ${why}`)).toEqual(['5: “26:00:00” is not a time of day.']);
    expect((await log()).revision).toBe(before.revision);
    const done = await taken(text, { toleranceMs: 60_000 });
    expect(done.activityId).not.toBeNull();
    const booked = spotsOf(await log()).filter(({ spots }) => spots!.length > 0);
    expect(booked.map(({ id, spots }) => [id, spots!.map(({ cart }) => cart)])).toEqual([
      [one.entryId, ['SP10442', 'SP10517']],
      [two.entryId, ['SP10333']],
    ]);
    expect(done.breaks.find(({ entryId }) => entryId === one.entryId)).toMatchObject({
      bookedMs: 50_000,
      spots: [{ cart: 'SP10442' }, { cart: 'SP10517' }],
      marks: [],
    });
    // What is booked is what airs: breaks without a spot take no time.
    expect(spotsOf(await log()).length).toBe(done.breaks.length);
  });

  it('replaces what was booked before and says what changed; the same file once more changes nothing; undo gives all back', async () => {
    const [one] = breaks;
    const before = await log();
    const text = file([
      line(one.start, 'SP10442', 30, 'CANAL ST BAKERY'),
      line(one.start, 'SP2', 10, 'CANAL ST BAKERY', 'New'),
    ]);
    const done = await taken(text);
    expect(done).toMatchObject({ added: 1, removed: 2, tray: [], errors: [] });
    expect(done.breaks.flatMap(({ marks }) => marks)).toEqual(['CANAL ST BAKERY back to back']);
    const { revision } = await log();
    expect(await taken(`${text}\n\n`)).toMatchObject({ activityId: null, added: 0, removed: 0 });
    expect((await log()).revision).toBe(revision);
    await server.api.post(`/api/activity/${done.activityId}/undo`).expect(200);
    expect((await log()).log).toEqual(before.log);
  });

  it('keeps what is booked when the day is generated again', async () => {
    const before = spotsOf(await log());
    const { body: job } = await server.api
      .post('/api/stations/vale/generate')
      .send({ from: TOMORROW, days: 1, seed: 9 });
    await endOfJob(server, job.id);
    expect(spotsOf(await log()).map(({ id, spots }) => [id, spots])).toEqual(
      before.map(({ id, spots }) => [id, spots]),
    );
  });

  it('is refused, and nothing written, for another date, without a spot, by a bad layout, or for a day without a log', async () => {
    const [one] = breaks;
    const good = [line(one.start, 'SP10442', 30, 'CANAL ST BAKERY')];
    const { revision } = await log();
    const refused = async (text: string, more: object = {}): Promise<string> =>
      (await take(text, more).expect(400)).body.message as string;
    expect(await refused(file(good, TODAY))).toBe(`The file is for ${TODAY}, not for ${TOMORROW}.`);
    expect(await refused('Dear all,\nno log today.\n')).toMatch(/No column of the file holds times/);
    const { layout } = await taken(file(good), { dryRun: true });
    expect(await refused('soon  SP1', { layout })).toMatch(/Line 1: “soon  SP1” is not a time of day/);
    expect((await take(file(good), { layout: { ...layout, columns: [] } }).expect(400)).body.field).toMatch(/^layout/);
    expect((await log()).revision).toBe(revision);
    expect((await take(file(good), {}, '2027-06-01')).body.code).toBe('NO_LOG');
  });
});

describe('the tray of a day', () => {
  const [one, two] = breaks;
  const day = async (): Promise<TrafficDay> =>
    (await server.api.get(`/api/stations/vale/traffic/${TOMORROW}`).expect(200)).body;
  const carts = async () => {
    const { breaks: all, tray } = await day();
    const of = (id: string) => all.find(({ entryId }) => entryId === id)!.spots!.map(({ cart }) => cart);
    return [of(one.entryId), of(two.entryId), tray.map(({ cart }) => cart)];
  };
  const move = async (cart: string, toEntryId: string | null, at?: number) => {
    const { breaks: all, tray, revision } = await day();
    const spot = [...all.flatMap(({ spots }) => spots ?? []), ...tray].find((found) => found.cart === cart)!;
    return server.api
      .post(`/api/stations/vale/traffic/${TOMORROW}/move`)
      .send({ revision, spotId: spot.id, toEntryId, at });
  };

  it('holds what fits no break; a spot is moved in, on and out by hand, and each move is undone as a whole', async () => {
    const rows = [
      line(one.start, 'A1', 30, 'BAKERY'),
      line(one.start, 'A2', 20, 'SHOP'),
      line('03:33:00', 'A3', 45, 'NIGHT'),
    ];
    await taken(file([...rows, line('26:00:00', 'A4', 30, 'LATE')]), { fileName: 'tomorrow.txt' });
    expect(await carts()).toEqual([['A1', 'A2'], [], ['A3']]);
    expect(await day()).toMatchObject({
      file: { name: 'tomorrow.txt', lines: 5 },
      errors: [{ line: 5, why: '“26:00:00” is not a time of day.' }],
      waiting: [],
    });
    const placed = await move('A3', one.entryId, 1);
    expect(await carts()).toEqual([['A1', 'A3', 'A2'], [], []]);
    await move('A1', two.entryId);
    await move('A2', null);
    expect(await carts()).toEqual([['A3'], ['A1'], ['A2']]);
    expect((await day()).tray[0]).toMatchObject({ line: null, why: 'Taken out of its break by hand.' });
    await move('A2', one.entryId, 0);
    await move('A2', one.entryId, 1);
    expect(await carts()).toEqual([['A3', 'A2'], ['A1'], []]);
    expect((await move('A1', 'nowhere')).body.code).toBe('NOT_FOUND');
    const { body: activities } = await server.api.get('/api/activity?stationId=vale&limit=4');
    for (const { id } of activities) await server.api.post(`/api/activity/${id}/undo`).expect(200);
    expect(await carts()).toEqual([['A1', 'A3', 'A2'], [], []]);
    await server.api.post(`/api/activity/${placed.body.activityId}/undo`).expect(200);
    expect(await carts()).toEqual([['A1', 'A2'], [], ['A3']]);
  });

  it('refuses a move on a log that somebody else has changed meanwhile', async () => {
    const { tray, revision } = await day();
    const body = { revision: revision - 1, spotId: tray[0]!.id, toEntryId: one.entryId };
    expect((await server.api.post(`/api/stations/vale/traffic/${TOMORROW}/move`).send(body)).body.code).toBe(
      'CONFLICT',
    );
  });
});

describe('how a station takes traffic logs', () => {
  const setUp = async (): Promise<TrafficSetUp> =>
    (await server.api.get('/api/stations/vale/traffic-settings').expect(200)).body;
  const set = async (more: object) => {
    const { settings } = await setUp();
    return server.api.put('/api/stations/vale/traffic-settings').send({ ...settings, ...more });
  };

  it('keeps a tolerance and a layout by which the next file is read; neither leaves its folders', async () => {
    const text = `6:12 AM;:30;A1;BAKERY\n6:19 AM;:30;A2;SHOP\n`;
    const { layout } = await taken(text, { dryRun: true });
    const wrong = { ...layout, columns: layout.columns.filter(({ means }) => means !== 'length') };
    const keep = (id: string, name: string, of: object) =>
      server.api.put(`/api/stations/vale/layouts/${id}`).send({ name, layout: of, revision: 0 });
    expect((await keep('x', 'Desk', wrong).expect(400)).body.message).toContain('no column for the length');
    const other = { ...layout, columns: layout.columns.filter(({ means }) => means !== 'sponsor') };
    await keep('l1', 'Desk', other).expect(200);
    expect((await keep('l2', 'desk', other)).body.code).toBe('NAME_TAKEN');
    expect((await set({ layoutId: 'none' })).body.code).toBe('NOT_FOUND');
    expect((await set({ folder: '/etc' })).body).toMatchObject({ code: 'INVALID', field: 'folder' });
    expect((await set({ toleranceMs: 60_000, layoutId: 'l1' })).status).toBe(200);
    const narrow = await taken(text, { dryRun: true });
    expect([narrow.placed, narrow.tray.map(({ sponsor }) => sponsor)]).toEqual([1, ['']]);
    await server.api.delete('/api/stations/vale/layouts/l1').expect(200);
    expect((await setUp()).settings.layoutId).toBeNull();
  });

  it('imports files of its folder by itself, once, when their day has a log; others wait', async () => {
    const folder = server.services.folders.traffic;
    await server.services.trafficWatch.begin();
    expect((await set({ folder: '.', automatic: true, toleranceMs: 300_000 })).status).toBe(200);
    const [one] = breaks;
    await writeFile(path.join(folder, 'tomorrow.txt'), file([line(one.start, 'Z1', 30, 'BAKERY')]));
    await writeFile(path.join(folder, 'later.txt'), file([line(one.start, 'Z2', 30, 'BAKERY')], '2026-12-20'));
    await writeFile(path.join(folder, 'picture.txt'), Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 0, 0, 1]));
    const imports = async () =>
      ((await server.api.get('/api/jobs')).body as JobView[]).filter(({ kind }) => kind === 'import');
    await expectSoon(async () => (await imports()).some(({ state }) => state === 'done'));
    expect((await imports()).map(({ label, message }) => `${label}: ${message}`)).toEqual([
      expect.stringMatching(`Import traffic for ${TOMORROW}: tomorrow.txt: 1 spots placed`),
    ]);
    const { body } = await server.api.get(`/api/stations/vale/traffic/${TOMORROW}`);
    expect(body).toMatchObject({ file: { name: 'tomorrow.txt' }, waiting: [] });
    await expectSoon(async () => (await setUp()).fault !== null);
    expect((await setUp()).fault).toMatch(/^“picture\.txt” is no traffic log: The file is not a text/);
    expect((await set({ automatic: false })).status).toBe(200);
    await writeFile(path.join(folder, 'again.txt'), file([line(one.start, 'Z3', 30, 'BAKERY')]));
    const waiting = async () =>
      (await server.api.get(`/api/stations/vale/traffic/${TOMORROW}`)).body.waiting as string[];
    await expectSoon(async () => (await waiting()).includes('again.txt'));
    const ask = (fileName: string) =>
      server.api.post(`/api/stations/vale/traffic/${TOMORROW}/waiting`).send({ fileName });
    expect((await ask('../fuller.db')).body.code).toBe('NOT_FOUND');
    expect((await ask('again.txt').expect(200)).body.placed).toBe(1);
    expect(await waiting()).toEqual(['tomorrow.txt']);
    expect((await imports()).length).toBe(1);
  });
});

async function expectSoon(holds: () => Promise<boolean>): Promise<void> {
  for (let tries = 0; tries < 1500; tries++) {
    if (await holds()) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error('It has not come true.');
}
