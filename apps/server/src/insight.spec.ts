import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { ReportAnswer } from '@fuller/contracts';
import { REPORT_KINDS, type ReportKind } from '@fuller/core';
import { programAt } from './actor.js';
import { rowOf, rowsOf } from './db/queries/query.js';
import { NOW, testServer, TODAY, TOMORROW, type TestServer } from './testing/test-server.js';

const RUNNING = { progress: () => {}, signal: new AbortController().signal };
const VALE = '/api/stations/vale';
const WEEK = { from: '2026-11-20', to: '2026-11-26' };
let server: TestServer;

beforeAll(async () => {
  server = await testServer();
  await server.services.generate.run(
    programAt('vale', 'test'),
    { from: TODAY, days: 2, seed: 1, only: 'all' },
    RUNNING,
  );
});
afterAll(() => server.close());

const report = async (kind: ReportKind, query: Record<string, string> = WEEK): Promise<ReportAnswer> =>
  (await server.api.get(`${VALE}/reports/${kind}`).query(query).expect(200)).body as ReportAnswer;
const total = ({ rows, columns }: ReportAnswer, label: string): number => {
  const at = columns.findIndex((column) => column.label === label);
  return rows.reduce((all, { cells }) => all + Number(cells[at] ?? 0), 0);
};
const count = async (sql: string, ...parameters: unknown[]): Promise<number> =>
  (await rowOf<{ n: number }>(server.services.store.read, `select count(*) as n from ${sql}`, parameters)).n;

describe('reports', () => {
  it('count what the database holds: planned of two days, aired until now', async () => {
    const songs = await report('songs');
    expect(total(songs, 'Planned')).toBe(await count('play'));
    const aired = await count('play where start_ms <= ?', NOW);
    expect(aired).toBeGreaterThan(100);
    expect([total(songs, 'Aired'), total(await report('categories'), 'Aired')]).toEqual([aired, aired]);
    expect(total(await report('artists'), 'Aired')).toBe(
      await count('play p join credit c on c.item_id = p.item_id where p.start_ms <= ?', NOW),
    );
    expect(total(await report('hours'), 'All days')).toBe(aired);
    expect(songs.sentence).toContain(`aired ${aired} times`);
  });

  it('follow an edit at once, and keep its figures when nobody waits for them', async () => {
    const stored = () => rowsOf<{ date: string }>(server.services.store.read, 'select "date" from day_figures');
    expect(await stored()).toEqual([]);
    await server.services.figuresKeeper.catchUp();
    expect((await stored()).map(({ date }) => date).sort()).toEqual([TODAY, TOMORROW]);
    const before = await report('strains');
    const { body: view } = await server.api.get(`${VALE}/logs/${TOMORROW}`);
    const entry = view.log.hours[3].entries[2];
    const edit = { type: 'open', entryId: entry.id };
    await server.api.post(`${VALE}/logs/${TOMORROW}/edits`).send({ revision: view.revision, edit }).expect(200);
    const openOf = ({ rows }: ReportAnswer): unknown => rows.find(({ cells }) => cells[0] === 'Open slots')?.cells[1];
    const after = await report('strains');
    expect([openOf(before), openOf(after)]).toEqual([0, 1]);
    expect(await count('stale_figures')).toBe(1);
    await server.services.figuresKeeper.catchUp();
    expect([await count('stale_figures'), (await report('strains')).rows]).toEqual([0, after.rows]);
  });

  it('keep a day stale that changes while its figures are worked out', async () => {
    const { store, figuresKeeper, figures } = server.services;
    const touch = () =>
      store.write({ clientId: 'test', stationId: 'vale', label: 'Touch' }, async (changes) => {
        changes.touchLog('vale', TODAY);
      });
    await touch();
    const workOut = figures.workOut.bind(figures);
    figures.workOut = async (stationId, date) => {
      const made = await workOut(stationId, date);
      figures.workOut = workOut;
      await touch();
      return made;
    };
    await figuresKeeper.catchUp();
    expect(await count('stale_figures')).toBe(0);
    expect(await count('day_figures')).toBe(2);
  });

  it('name what was renamed as it is called now', async () => {
    const { body: item } = await server.api.get(`${VALE}/items/song1`);
    await server.api.patch(`${VALE}/items/song1`).send({ revision: item.revision, artist: 'Renamed Band' }).expect(200);
    const { rows } = await report('artists');
    expect(rows.some(({ cells }) => cells[0] === 'Renamed Band')).toBe(true);
  });

  it('take moving ranges, dayparts and further stations, and say what of a question is wrong', async () => {
    const { from, to, beforeFrom, beforeTo } = await report('time', { range: 'last week' });
    expect([from, to, beforeFrom, beforeTo]).toEqual(['2026-11-16', '2026-11-22', '2026-11-09', '2026-11-15']);
    const both = await report('songs', { ...WEEK, stations: 'night' });
    expect(both.stations).toEqual(['Radio vale', 'Radio night']);
    const ask = (query: object, kind = 'songs') => server.api.get(`${VALE}/reports/${kind}`).query(query);
    for (const [query, words] of [
      [{}, /names a range, or both/],
      [{ from: '2026-11-24', to: '2026-11-23' }, /ends before it begins/],
      [{ from: '2024-01-01', to: '2026-01-01' }, /366 days at most/],
      [{ range: 'last century' }, /range/i],
      [{ ...WEEK, stations: 'a,../b' }, /is not an id/],
    ] as const) {
      const { status, body } = await ask(query);
      expect([status, body.code]).toEqual([400, 'INVALID']);
      expect(body.message).toMatch(words);
    }
    expect((await ask({ ...WEEK, daypart: 'none' })).status).toBe(404);
    expect((await ask({ ...WEEK, stations: 'nowhere' })).status).toBe(404);
    expect((await ask(WEEK, 'everything')).status).toBe(400);
  });

  it('come as CSV and as PDF, every one of them', async () => {
    for (const kind of REPORT_KINDS) {
      const { text, headers } = await server.api.get(`${VALE}/reports/${kind}/csv`).query(WEEK).expect(200);
      expect(headers['content-disposition']).toContain(`${kind} 2026-11-20 to 2026-11-26.csv`);
      const { rows } = await report(kind);
      expect(text.trim().split('\n').length).toBe(rows.length + 1);
      const { body } = await server.api.get(`${VALE}/reports/${kind}/pdf`).query(WEEK).responseType('blob').expect(200);
      expect((body as Buffer).subarray(0, 5).toString()).toBe('%PDF-');
    }
  });

  it('are kept under a name, once whatever its case, and changes of them are undone', async () => {
    const asked = { range: 'last week', daypartId: null, stationIds: [], categoryId: 'gold', family: null };
    const made = await server.api
      .post(`${VALE}/kept-reports`)
      .send({ name: 'Gold', report: 'hours', asked })
      .expect(200);
    const again = await server.api.post(`${VALE}/kept-reports`).send({ name: 'GOLD ', report: 'songs', asked });
    expect([again.status, again.body.code, again.body.field]).toEqual([409, 'NAME_TAKEN', 'name']);
    const list = async () => (await server.api.get(`${VALE}/kept-reports`)).body;
    expect(await list()).toEqual([{ id: made.body.id, revision: 1, name: 'Gold', report: 'hours', asked }]);
    const one = `${VALE}/kept-reports/${made.body.id}`;
    await server.api.patch(one).send({ revision: 1, name: 'Gold by hours' }).expect(200);
    expect((await server.api.patch(one).send({ revision: 1, name: 'Old' })).body.code).toBe('CONFLICT');
    const { body: gone } = await server.api.delete(one).expect(200);
    expect(await list()).toEqual([]);
    await server.api.post(`/api/activity/${gone.activityId}/undo`).send({}).expect(200);
    expect((await list())[0].name).toBe('Gold by hours');
    expect((await server.api.get('/api/stations/night/kept-reports')).body).toEqual([]);
    expect((await server.api.delete(one.replace('vale', 'night'))).status).toBe(404);
  });
});
