import type {
  KeptLog,
  AttendedAnswer,
  AttendedRun,
  JobView,
  LogRun,
  LogVersion,
  LogView,
  PreviewDay,
} from '@fuller/contracts';
import { compareLogs, openSlots, slotsOf, type DailyLog } from '@fuller/core';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { createApp } from './app.js';
import { inlineCompute } from './jobs/compute.js';
import { openServices } from './services.js';
import { endOfJob, NOW, testServer, TODAY, TOMORROW, type TestServer } from './testing/test-server.js';
import { pino } from 'pino';
import supertest from 'supertest';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

const AT = `/api/stations/vale/logs/${TOMORROW}`;
const get = async <T>(url: string): Promise<T> => (await server.api.get(url).expect(200)).body as T;
const post = async <T>(url: string, body: object, status = 200): Promise<T> =>
  (await server.api.post(url).send(body).expect(status)).body as T;
const view = (date = TOMORROW) => get<LogView>(`/api/stations/vale/logs/${date}`);
const logOf = (of: { log: unknown }) => of.log as DailyLog;
const slots = (of: { log: unknown }) => slotsOf(logOf(of));
const edit = async (change: object, date = TOMORROW) =>
  post<LogView & { activityId: string }>(`/api/stations/vale/logs/${date}/edits`, {
    revision: (await view(date)).revision,
    edit: change,
  });
const generate = async (body: object): Promise<JobView> =>
  (await endOfJob(
    server,
    (await post<JobView>('/api/stations/vale/generate', { from: TOMORROW, ...body })).id,
  )) as unknown as JobView;
/** Takes the first song out of every hour. */
const openHours = async (date = TOMORROW) => {
  const log = logOf(await view(date));
  const edits = log.hours.map((hour) => ({ type: 'open', entryId: slotsOf({ ...log, hours: [hour] })[0]!.id }));
  return edit({ type: 'batch', edits }, date);
};
const differing = (a: { log: unknown }, b: { log: unknown }) => compareLogs(logOf(a), logOf(b)).differing;

describe('edits of several entries', () => {
  it('are made whole or not at all, told with their items, and undone as one', async () => {
    await generate({});
    const before = await view();
    const [one, two, three] = slots(before);
    const batch = [
      { type: 'lock', entryId: one!.id, locked: true },
      { type: 'remove', entryId: two!.id },
      { type: 'insert', at: { hourIndex: 2, beforeId: null }, entry: { id: 'h-1', kind: 'item', itemId: 'song9' } },
    ];
    const done = await edit({ type: 'batch', edits: batch });
    expect(done.items.map(({ id }) => id)).toContain('song9');
    expect(logOf(done).hours[2]!.entries.at(-1)).toMatchObject({ id: 'h-1', placed: 'hand' });
    const { revision } = done;
    const wrong = (edits: object[], status: number, message: string) =>
      server.api
        .post(`${AT}/edits`)
        .send({ revision, edit: { type: 'batch', edits } })
        .expect(status)
        .then(({ body }) => expect(body.message).toContain(message));
    await wrong(
      [
        { type: 'remove', entryId: three!.id },
        { type: 'open', entryId: one!.id },
      ],
      400,
      'locked',
    );
    await wrong(
      [{ type: 'insert', at: batch[2]!.at, entry: { id: 'h-2', kind: 'item', itemId: 'ghost' } }],
      404,
      'ghost',
    );
    await wrong(
      [{ type: 'insert', at: batch[2]!.at, entry: { id: 'h-2', kind: 'pick', categoryId: 'ghost', itemId: null } }],
      404,
      'ghost',
    );
    expect((await view()).revision).toBe(revision);
    await post(`/api/activity/${done.activityId}/undo`, {});
    expect((await view()).log).toEqual(before.log);
  });
});

describe('versions of a log', () => {
  it('are kept at each run, and one that is restored is the same byte by byte', async () => {
    await generate({ seed: 5 });
    const first = await view();
    await edit({ type: 'replace', entryId: slots(first)[3]!.id, itemId: 'song1' });
    await edit({ type: 'remove', entryId: slots(first)[4]!.id });
    const edited = await view();
    await generate({ seed: 6, replaceByHand: true });
    const versions = await get<LogVersion[]>(`${AT}/versions`);
    const all = await Promise.all(versions.map(({ id }) => get<KeptLog>(`${AT}/versions/${id}`)));
    const keptOf = (of: LogView) => all.find(({ log }) => JSON.stringify(log) === JSON.stringify(of.log))!;
    const [made, byHand] = [keptOf(first), keptOf(edited)];
    expect(made.reasons).toContain('generated');
    expect(byHand).toMatchObject({ reasons: ['before generating'], revision: edited.revision });
    for (const [version, saved] of [
      [byHand, edited],
      [made, first],
    ] as const) {
      const { revision } = await view();
      const restored = await post<LogView>(`${AT}/restore`, { revision, versionId: version.id });
      expect(JSON.stringify(restored.log)).toBe(JSON.stringify(saved.log));
    }
    await post(`${AT}/restore`, { revision: 1, versionId: made.id }, 409);
    await post(`${AT}/restore`, { revision: (await view()).revision, versionId: 'ghost' }, 404);
  });

  it('come back by the hour, and can be kept by hand once', async () => {
    const before = await view();
    const kept = await post<LogVersion>(`${AT}/versions`, {});
    expect((await post<LogVersion>(`${AT}/versions`, {})).id).toBe(kept.id);
    const { revision } = await openHours();
    const restored = await post<LogView>(`${AT}/restore`, { revision, versionId: kept.id, hours: [4, 5] });
    const { hours } = compareLogs(logOf(before), logOf(restored));
    expect(hours).toEqual(Array.from({ length: 24 }, (_, hour) => hour).filter((hour) => hour !== 4 && hour !== 5));
  });

  it('leave what has aired as it is', async () => {
    await generate({ from: TODAY, seed: 1 });
    const kept = await post<LogVersion>(`/api/stations/vale/logs/${TODAY}/versions`, {});
    const before = await view(TODAY);
    const [aired, coming] = [logOf(before).hours[3]!, logOf(before).hours[18]!];
    const open = (hour: typeof aired) => ({
      type: 'open',
      entryId: slotsOf({ ...logOf(before), hours: [hour] })[0]!.id,
    });
    await edit({ type: 'batch', edits: [open(aired), open(coming)] }, TODAY);
    const { revision } = await view(TODAY);
    const restored = await post<LogView>(`/api/stations/vale/logs/${TODAY}/restore`, { revision, versionId: kept.id });
    expect(compareLogs(logOf(before), logOf(restored)).hours).toEqual([3]);
  });
});

describe('a preview', () => {
  const preview = async (body: object): Promise<{ id: string; days: PreviewDay[] }> => {
    const job = await generate({ preview: true, ...body });
    expect(job).toMatchObject({ state: 'done', activityId: null, result: { preview: true } });
    return { id: job.id, days: await get<PreviewDay[]>(`/api/stations/vale/previews/${job.id}`) };
  };
  const accept = (id: string, body: object, status = 200) =>
    post<{ message?: string }>(`/api/stations/vale/previews/${id}/accept`, body, status);

  it('writes nothing until it is accepted, and then just what it showed', async () => {
    const before = await openHours();
    const { id, days } = await preview({ seed: 21, replaceByHand: true });
    expect((await view()).log).toEqual(before.log);
    expect(differing(before, days[0]!)).toBeGreaterThan(20);
    await accept(id, {});
    expect((await view()).log).toEqual(days[0]!.log);
    await accept(id, {}, 404);
  });

  it('is refused over the edit of somebody else, taken by the hour beside it, and dropped', async () => {
    await openHours();
    const { id, days } = await preview({ seed: 22, replaceByHand: true });
    const theirs = await edit({ type: 'note', entryId: slots(await view())[0]!.id, note: 'Theirs' });
    expect((await accept(id, {}, 409)).message).toContain('Somebody else changed');
    await accept(id, { date: TOMORROW, revision: theirs.revision, hours: [7] });
    const { hours } = compareLogs(logOf(theirs), logOf(await view()));
    expect(hours).toEqual([7]);
    expect((await get<LogRun[]>(`${AT}/runs`)).find(({ seed }) => seed === 22)).toMatchObject({
      hours: [7],
      only: 'hours',
    });
    expect(compareLogs(logOf(days[0]!), logOf(await view())).hours).not.toContain(7);
    await server.api.delete(`/api/stations/vale/previews/${id}`).expect(200);
    await accept(id, {}, 404);
    await server.api.get('/api/stations/night/previews/ghost').expect(404);
  });

  it('of one category chooses again just that one; what was asked for is told', async () => {
    const before = await view();
    const fresh = slots(before).filter(({ categoryId }) => categoryId === 'fresh');
    const category = fresh.length > 0 ? 'fresh' : 'gold';
    await generate({ seed: 3, categories: [category], hours: [9, 10] });
    const after = compareLogs(logOf(before), logOf(await view()));
    for (const { after: entry, differs } of after.rows)
      if (differs) expect(entry).toMatchObject({ categoryId: category });
    expect(after.hours.every((hour) => [9, 10].includes(hour))).toBe(true);
    const [run] = await get<LogRun[]>(`${AT}/runs`);
    expect(run).toMatchObject({ only: 'categories', hours: [9, 10], categories: [expect.any(String)], seed: 3 });
    await post('/api/stations/vale/generate', { from: TOMORROW, categories: ['ghost'] }, 400);
    await post('/api/stations/vale/generate', { from: TOMORROW, categories: ['gold'], only: 'open' }, 400);
  });

  it('several stations are generated as one job, which fails whole where one of them cannot be', async () => {
    const failed = await generate({ stations: ['night'] });
    expect(failed).toMatchObject({ state: 'failed', message: expect.stringContaining('No clock runs') });
    await post('/api/stations/vale/generate', { from: TOMORROW, stations: ['ghost'] }, 404);
  });
});

describe('an attended run', () => {
  const DAY = '2026-11-27';
  const day = `/api/stations/vale/logs/${DAY}`;
  const step = (run: AttendedRun, body: object, status = 200) =>
    post<AttendedAnswer>(
      `/api/stations/vale/attended/${run.id}/steps`,
      {
        decisions: run.decisions.length,
        ...(['back', 'end'].includes((body as { do: string }).do) ? {} : { rulesOff: run.rulesOff }),
        ...body,
      },
      status,
    );

  it('asks at each slot it was told to, takes and skips, goes back, and goes on in a new server', async () => {
    let { run, view: now } = await post<AttendedAnswer>(`${day}/attended`, {
      scope: 'all',
      revision: null,
      ask: { everySlot: true },
    });
    const all = slots(now);
    expect(run).toMatchObject({ state: 'open', stop: { entryId: all[0]!.id, because: 'asked' }, left: all.length });
    ({ run, view: now } = await step(run, { do: 'take', itemId: run.stop!.suggested! }));
    expect(slots(now)[0]).toMatchObject({ itemId: expect.any(String), origin: 'hand' });
    // The same artist at once: taken although it breaks a must, and told.
    const first = Number(slots(now)[0]!.itemId!.slice(4));
    ({ run, view: now } = await step(run, { do: 'take', itemId: `song${(first + 20) % 60}` }));
    expect(run.decisions[1]!.breaks).toEqual([expect.stringContaining('artist')]);
    expect(now.strains.map(({ entryId }) => entryId)).toContain(all[1]!.id);
    ({ run, view: now } = await step(run, { do: 'skip' }));
    expect(run).toMatchObject({ skipped: [all[2]!.id], stop: { entryId: all[3]!.id } });
    await step({ ...run, decisions: [] }, { do: 'skip' }, 409);
    ({ run, view: now } = await step(run, { do: 'back' }));
    ({ run, view: now } = await step(run, { do: 'back' }));
    expect(run).toMatchObject({ skipped: [], stop: { entryId: all[1]!.id } });
    expect(slots(now)[1]!.itemId).toBeNull();
    ({ run } = await step(run, { do: 'skip' }));
    // A second server on the same folder, as after a restart.
    await server.services.close();
    const services = await openServices({ dataDir: server.dataDir, now: () => NOW, compute: inlineCompute });
    const app = createApp(services, { log: pino({ level: 'silent' }), webDir: null, checkAnswers: true });
    server = {
      ...server,
      app,
      services,
      api: supertest.agent(app).set('x-client', 'second') as unknown as TestServer['api'],
      close: () => services.close(),
    };
    const again = (await get<{ run: AttendedRun }>(`${day}/attended`)).run;
    expect(again).toEqual(run);
    ({ run, view: now } = await step(again, { do: 'go on', ask: { everySlot: false } }));
    expect(run).toMatchObject({ state: 'done', stop: null, left: 0 });
    expect(openSlots(logOf(now)).map(({ id }) => id)).toEqual([all[1]!.id]);
    const [told] = await get<LogRun[]>(`${day}/runs`);
    expect(told!.decisions!.map(({ title, entryId }) => [title === null, entryId])).toEqual([
      [false, all[0]!.id],
      [true, all[1]!.id],
    ]);
    ({ run } = await step(run, { do: 'end' }));
    expect((await get<{ run: AttendedRun | null }>(`${day}/attended`)).run).toBeNull();
    await step(run, { do: 'skip' }, 409);
  });

  it('fills the open slots alone, stops where nothing may go until the rule is off, and forgets what is undone', async () => {
    const made = await view(DAY);
    const [one, two] = [slots(made)[20]!, slots(made)[21]!];
    await edit(
      {
        type: 'batch',
        edits: [
          { type: 'open', entryId: one.id },
          { type: 'open', entryId: two.id },
        ],
      },
      DAY,
    );
    const starved = await post<{ id: string; activityId: string }>('/api/stations/vale/rules', {
      shape: 'apart',
      tag: 'item',
      amount: 27 * 86_400,
    });
    const { revision } = await view(DAY);
    let answer = await post<AttendedAnswer>(`${day}/attended`, { scope: 'open', revision });
    expect(answer.run.stop).toMatchObject({ because: 'no candidate', suggested: null });
    answer = await step(answer.run, { do: 'go on', rulesOff: [starved.id] });
    expect(answer.run).toMatchObject({ left: 0, state: 'done' });
    expect(openSlots(logOf(answer.view))).toEqual([]);
    await post(`${day}/attended`, { scope: 'open', revision: 1 }, 409);
    await post(`${day}/attended`, { scope: 'all', revision: answer.view.revision, rulesOff: ['ghost'] }, 400);
  });
});

describe('presence', () => {
  it('is told to whoever listens, with where somebody is', async () => {
    const heard: unknown[] = [];
    const stop = server.services.events.listen((event) => heard.push(event));
    await post('/api/stations/vale/presence', { date: TOMORROW, entryId: 'p0-0' });
    await post('/api/stations/vale/presence', { date: 'no', entryId: null }, 400);
    stop();
    expect(heard.slice(1)).toMatchObject([{ type: 'presence', stationId: 'vale', date: TOMORROW, entryId: 'p0-0' }]);
  });
});
