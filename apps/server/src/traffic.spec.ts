import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { LogView, TrafficOutcome } from '@fuller/contracts';
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
    expect(dry.tray).toEqual([
      { line: 6, cart: 'SP10002', sponsor: 'NIGHT SHOP', why: 'No break is booked near 03:33.' },
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
      spots: 2,
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
