import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { SET_LIST_FORMATS, type LogView, type SetListContent, type SetListInfo } from '@fuller/contracts';
import {
  doubleRows,
  readPlayerRows,
  removeRows,
  type LogEntry,
  type SetListRow,
  type SetListSplice,
} from '@fuller/core';
import { endOfJob, testServer, TOMORROW, type TestServer } from './testing/test-server.js';

const base = '/api/stations/vale';
let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

const lists = async (): Promise<SetListInfo[]> => (await server.api.get(`${base}/set-lists`).expect(200)).body;
const one = async (id: string): Promise<SetListContent> =>
  (await server.api.get(`${base}/set-lists/${id}`).expect(200)).body;
const make = async (name: string): Promise<string> =>
  (await server.api.post(`${base}/set-lists`).send({ name }).expect(200)).body.id;
const edit = async (id: string, splices: readonly SetListSplice[]) =>
  server.api.post(`${base}/set-lists/${id}/edits`).send({ revision: (await one(id)).revision, edit: splices });
const song = (n: number, of = n): SetListRow => ({ id: `r${n}`, itemId: `song${of}` });
const put = (insert: readonly SetListRow[], at = 0): SetListSplice[] => [{ at, remove: 0, insert }];
const entries = async (date: string): Promise<LogEntry[]> => {
  const view: LogView = (await server.api.get(`${base}/logs/${date}`).expect(200)).body;
  return view.log.hours.flatMap((hour) => hour.entries as LogEntry[]);
};
const generate = async (from: string, days = 1) =>
  endOfJob(server, (await server.api.post(`${base}/generate`).send({ from, days }).expect(200)).body.id);

describe('a set list', () => {
  let id = '';
  it('has a name of its own whatever the case, and a length that adds up', async () => {
    id = await make('Sunday morning');
    const taken = await server.api.post(`${base}/set-lists`).send({ name: ' SUNDAY Morning' }).expect(409);
    expect(taken.body).toMatchObject({ code: 'NAME_TAKEN', field: 'name' });
    await edit(id, put([song(1), song(2), { id: 'p', categoryId: 'gold' }]));
    const [info] = await lists();
    expect(info).toMatchObject({ name: 'Sunday morning', scope: 'station', rows: 3, uses: [] });
    // 3:21 and 3:22, and what Gold takes on average.
    expect(info!.totalMs).toBe(201_000 + 202_000 + 227_000);
    expect(info!.standardDeviationMs).toBeGreaterThan(10_000);
  });

  it('is changed by edits that are undone in their order', async () => {
    const first = await edit(id, [{ at: 0, remove: 1, insert: [] }, ...put([song(1)], 2)]);
    expect((await one(id)).content.map((row) => row.id)).toEqual(['r2', 'p', 'r1']);
    const second = await edit(id, put([song(3)], 3));
    const refused = await server.api.post(`/api/activity/${first.body.activityId}/undo`).expect(409);
    expect(refused.body.message).toContain('changed since');
    await server.api.post(`/api/activity/${second.body.activityId}/undo`).expect(200);
    const undone = await server.api.post(`/api/activity/${first.body.activityId}/undo`).expect(200);
    expect((await one(id)).content.map((row) => row.id)).toEqual(['r1', 'r2', 'p']);
    await server.api.post(`/api/activity/${undone.body.activityId}/undo`).expect(200);
    expect((await one(id)).content.map((row) => row.id)).toEqual(['r2', 'p', 'r1']);
  });

  it('refuses what is not there, a row twice, and an older state', async () => {
    expect((await edit(id, put([song(90, 900)]))).body).toMatchObject({ code: 'NOT_FOUND' });
    expect((await edit(id, put([{ id: 'q', categoryId: 'nowhere' }]))).status).toBe(400);
    expect((await edit(id, put([song(1)]))).body.message).toContain('twice');
    expect((await edit(id, [{ at: 9, remove: 1, insert: [] }])).body.message).toContain('no such place');
    const stale = { revision: 1, edit: put([song(8)]) };
    expect((await server.api.post(`${base}/set-lists/${id}/edits`).send(stale)).body.code).toBe('CONFLICT');
  });

  it.each(SET_LIST_FORMATS)('is written as %s, in order and without times of a day it has not', async (format) => {
    const { body, headers } = await server.api.get(`${base}/set-lists/${id}/file?format=${format}`).expect(200);
    expect(headers['content-disposition']).toContain(`Sunday morning.${format}`);
    const text = String(body);
    const about = { date: '2026-11-24', timeZone: 'UTC', fromMs: 0, layout: null };
    const read = readPlayerRows(text, about);
    if (!read.ok) throw new Error(read.why);
    expect(read.rows.map(({ file }) => file.split('/').at(-1))).toEqual(['song2.wav', 'song1.wav']);
    expect(read.rows.map(({ startMs, durationMs }) => [startMs, durationMs])).toEqual([
      [0, 202_000],
      [202_000, 201_000],
    ]);
    expect(text).not.toContain('1970');
  });

  it('knows the rows of a playlist by cart, file, or title and artist', async () => {
    const rows = [
      { title: '', artist: '', cart: 'C4', file: '' },
      { title: '', artist: '', cart: '', file: 'C:\\music\\SONG3.WAV' },
      { title: 'RÉALTA 20', artist: 'artist 0', cart: '', file: '' },
      { title: 'Nobody', artist: 'knows', cart: '', file: '' },
    ];
    const { body } = await server.api.post(`${base}/set-lists/match`).send({ rows }).expect(200);
    expect(body.items.map((item: { id: string } | null) => item?.id ?? null)).toEqual([
      'song4',
      'song3',
      'song20',
      null,
    ]);
  });

  it('plays in a clock, goes on over days of one run and of another, and cannot be deleted then', async () => {
    const { body } = await server.api.get(`${base}/catalogue`).expect(200);
    const { id: clockId, revision, name, colour } = body.clocks[0];
    const lines = [{ id: 'l', kind: 'set list', setListId: id, take: 1, from: 'next', comment: '' }];
    await server.api.put(`${base}/clocks/${clockId}`).send({ revision, name, colour, lines }).expect(200);
    await generate(TOMORROW, 2);
    await generate('2026-11-26');
    const played: (string | undefined)[] = [];
    for (const date of [TOMORROW, '2026-11-25', '2026-11-26'])
      played.push(...(await entries(date)).map(({ listPlace }) => listPlace?.rowId));
    expect(played).toEqual(Array.from({ length: 72 }, (_, n) => ['r2', 'p', 'r1'][n % 3]));
    const refused = await server.api.delete(`${base}/set-lists/${id}`).expect(409);
    expect(refused.body.message).toContain('the clock Day');
    // The logs are as the clocks would make them, so none is stale.
    expect((await server.api.get(`${base}/stale-logs`).expect(200)).body).toEqual([]);
  });

  it('is painted onto the week, as a category and a pool are', async () => {
    const { body } = await server.api.get(`${base}/catalogue`).expect(200);
    const blocks = [
      { at: 5 * 1440 + 600, minutes: 60, runs: 'set list', id },
      { at: 5 * 1440 + 720, minutes: 120, runs: 'draw', id: 'gold' },
    ];
    await server.api.put(`${base}/week`).send({ revision: body.week.revision, blocks }).expect(200);
    await generate('2026-11-28');
    const view: LogView = (await server.api.get(`${base}/logs/2026-11-28`).expect(200)).body;
    const names = view.log.hours.map(({ clockName }) => clockName);
    expect(names.slice(9, 15)).toEqual(['Day', 'Sunday morning', 'Day', 'Gold', 'Gold', 'Day']);
    const hour = view.log.hours[12]!.entries as LogEntry[];
    expect(hour.filter(({ out }) => !out).every((entry) => entry.kind === 'pick' && entry.itemId !== null)).toBe(true);
    const unknown = [{ at: 0, minutes: 60, runs: 'draw', id: 'nowhere' }];
    const refused = await server.api.put(`${base}/week`).send({ revision: body.week.revision + 1, blocks: unknown });
    expect(refused.body.message).toContain('a category or pool that is not there');
  });

  it('takes thirty thousand rows, loses their doubles in one step, and gets them back', async () => {
    const long = await make('Everything');
    const rows = Array.from({ length: 30_000 }, (_, n) => song(n, n % 60));
    expect((await edit(long, put(rows))).status).toBe(200);
    const { content } = await one(long);
    const gone = await edit(long, removeRows(content, new Set(doubleRows(content))));
    expect((await one(long)).rows).toBe(60);
    await server.api.post(`/api/activity/${gone.body.activityId}/undo`).expect(200);
    expect((await one(long)).rows).toBe(30_000);
    await server.api.delete(`${base}/set-lists/${long}`).expect(200);
  });

  it('is renamed, shared, and given a length it is to have', async () => {
    const { revision } = await one(id);
    const patch = { revision, name: 'Sunday', wantedMs: 3_600_000 };
    await server.api.patch(`${base}/set-lists/${id}`).send(patch).expect(200);
    expect(await one(id)).toMatchObject({ name: 'Sunday', wantedMs: 3_600_000 });
    await server.api.post(`${base}/sharing/set%20list/${id}/share`).expect(200);
    expect((await server.api.get('/api/stations/night/set-lists').expect(200)).body).toHaveLength(1);
  });
});
