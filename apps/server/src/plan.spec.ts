import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { blocksOfCells } from './db/migrations/m004-air-plan.js';
import { endOfJob, testServer, type TestServer } from './testing/test-server.js';

let server: TestServer;
const base = '/api/stations/vale';
const catalogue = async () => (await server.api.get(`${base}/catalogue`).expect(200)).body;
const undo = (activityId: string) => server.api.post(`/api/activity/${activityId}/undo`);
const block = (at: number, minutes: number, id = 'day', runs = 'clock') => ({ at, minutes, runs, id });
const show = { name: 'Owls', colour: '#112233', clockIds: ['day'], minutes: 120 };
const day = async () => (await catalogue()).clocks.find((row: { id: string }) => row.id === 'day');
const putDay = async (lines: object[]) => {
  const { revision, name, colour, lengthMs } = await day();
  return server.api.put(`${base}/clocks/day`).send({ revision, name, colour, lengthMs, lines });
};
const pick = (id: string, more: object = {}) => ({ id, kind: 'pick', categoryId: 'gold', comment: '', ...more });

beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

describe('the week', () => {
  it('is painted, undone, and refuses clocks and shows that are not there', async () => {
    const { week } = await catalogue();
    const put = (revision: number, blocks: object[]) =>
      server.api.put(`${base}/week`).send({ revision, blocks, defaultClockId: 'day' });
    const { body } = await put(week.revision, [block(300, 65)]).expect(200);
    expect((await catalogue()).week.blocks).toEqual([block(300, 65)]);
    await undo(body.activityId).expect(200);
    const again = (await catalogue()).week;
    expect(again.blocks).toEqual([]);
    expect((await put(again.revision, [block(0, 5), block(5, 5, 'ghost')]).expect(400)).body.field).toBe('blocks.1');
    expect((await put(again.revision, [block(0, 5, 'ghost', 'show')]).expect(400)).body.field).toBe('blocks.0');
    await put(week.revision, []).expect(409);
  });

  it('that was kept by the hour becomes blocks that never cross midnight', () => {
    const cells = Array.from({ length: 168 }, (_, hour) => (hour >= 22 && hour < 26 ? 'a' : hour === 30 ? 'b' : null));
    expect(blocksOfCells(cells)).toEqual([block(1320, 120, 'a'), block(1440, 120, 'a'), block(1800, 60, 'b')]);
  });
});

describe('shows', () => {
  it('are made, changed, planned, and leave the week when they are deleted; all of it undone at once', async () => {
    const { body } = await server.api.post(`${base}/shows`).send(show).expect(200);
    const { week } = await catalogue();
    await server.api
      .put(`${base}/week`)
      .send({ revision: week.revision, blocks: [block(600, 120, body.id, 'show')] })
      .expect(200);
    await server.api
      .post(`${base}/shows`)
      .send({ ...show, name: 'OWLS' })
      .expect(409);
    await server.api.patch(`${base}/shows/${body.id}`).send({ revision: 1, end: 'exact', closerId: 'day' }).expect(200);
    const stale = await server.api.patch(`${base}/shows/${body.id}`).send({ revision: 1, end: 'soft' });
    expect(stale.status).toBe(409);
    expect((await server.api.delete(`${base}/clocks/day`)).body.message).toContain('belongs to Owls');
    const gone = await server.api.delete(`${base}/shows/${body.id}`).expect(200);
    expect((await catalogue()).week.blocks).toEqual([]);
    await undo(gone.body.activityId).expect(200);
    const back = await catalogue();
    expect(back.week.blocks).toHaveLength(1);
    expect(back.shows[0]).toMatchObject({ name: 'Owls', end: 'exact', closerId: 'day' });
  });

  it.each([
    [{ clockIds: ['ghost'] }, 'clockIds.0'],
    [{ announcementId: 'ghost' }, 'announcementId'],
    [{ openerId: 'ghost' }, 'openerId'],
    [{ minutes: 7 }, 'minutes'],
  ])('refuse what is not there or makes no sense: %j', async (wrong, field) => {
    const { body } = await server.api
      .post(`${base}/shows`)
      .send({ ...show, name: 'New', ...wrong })
      .expect(400);
    expect(body.field).toBe(field);
  });
});

describe('dates', () => {
  it('are planned, changed and let go', async () => {
    const feast = { name: 'Feast', start: '2026-12-24', repeat: 'FREQ=YEARLY', like: 6, blocks: [block(600, 60)] };
    const { body } = await server.api.post(`${base}/dates`).send(feast).expect(200);
    await server.api.patch(`${base}/dates/${body.id}`).send({ revision: 1, like: null, instead: true }).expect(200);
    expect((await catalogue()).dates).toEqual([{ ...feast, like: null, instead: true, id: body.id, revision: 2 }]);
    expect((await server.api.delete(`${base}/clocks/day`)).body.message).toMatch(/Owls|Feast/);
    await server.api.patch(`${base}/dates/${body.id}`).send({ revision: 2, repeat: 'FREQ=HOURLY' }).expect(400);
    await server.api.delete(`${base}/dates/${body.id}`).expect(200);
    expect((await catalogue()).dates).toEqual([]);
  });
});

describe('lines of clocks', () => {
  it('carry filters, which are counted and must be readable', async () => {
    const { lines } = await day();
    await putDay([...lines, pick('f', { filter: 'year:..1990' })]).then(({ status }) => expect(status).toBe(200));
    const { draws } = await catalogue();
    expect(draws).toEqual([expect.objectContaining({ categoryId: 'gold', filter: 'year:..1990', fault: null })]);
    expect(draws[0].items).toBeGreaterThan(5);
    const { body } = await putDay([pick('f', { filter: 'year:soon' })]);
    expect(body).toMatchObject({ code: 'INVALID', field: 'lines.0.filter' });
    const asked = await server.api
      .post(`${base}/draws`)
      .send({
        draws: [
          { categoryId: 'gold', filter: 'year:2200' },
          { categoryId: 'gold', filter: '' },
        ],
      })
      .expect(200);
    expect(asked.body.map(({ items }: { items: number }) => items)).toEqual([0, 55]);
    await putDay(lines);
  });

  it('ask for one more filter when a log is generated', async () => {
    const { lines } = await day();
    await putDay([...lines, pick('guest', { ask: 'Decade of the guest' })]);
    const generate = (answers: object) => server.api.post(`${base}/generate`).send({ from: '2026-11-26', answers });
    expect((await generate({ 'Decade of the guest': 'year:soon' })).status).toBe(400);
    const job = await generate({ 'Decade of the guest': 'year:1980..1984' }).expect(200);
    expect(await endOfJob(server, job.body.id)).toMatchObject({ state: 'done' });
    const { log, items } = (await server.api.get(`${base}/logs/2026-11-26`).expect(200)).body;
    const guests = log.hours.flatMap(({ entries }: { entries: { id: string; itemId: string | null }[] }) =>
      entries.filter(({ id }) => id.startsWith('guest-')),
    );
    expect(guests).toHaveLength(24);
    const titles = new Map(items.map((item: { id: string; title: string }) => [item.id, item.title]));
    for (const { itemId } of guests) {
      if (itemId === null) continue;
      const number = Number(String(titles.get(itemId)).split(' ')[1]);
      expect(number % 40).toBeLessThan(5);
    }
    await putDay(lines);
  });
});

describe('a clock that changes', () => {
  it('says which hours of coming logs it changes, and those alone are generated anew', async () => {
    const stale = async () => (await server.api.get(`${base}/stale-logs`).expect(200)).body;
    await endOfJob(server, (await server.api.post(`${base}/generate`).send({ from: '2026-11-25' })).body.id);
    expect((await stale()).map(({ date }: { date: string }) => date)).toEqual(['2026-11-26']);
    const { lines } = await day();
    const other = await server.api
      .post(`${base}/clocks`)
      .send({ name: 'Noon', colour: '#112233', lines: [...lines.slice(0, 14), pick('noon')] })
      .expect(200);
    const { week } = await catalogue();
    await server.api
      .put(`${base}/week`)
      .send({ revision: week.revision, blocks: [block(2 * 1440 + 720, 60, other.body.id)] })
      .expect(200);
    const [wednesday] = await stale();
    expect(wednesday).toEqual({ date: '2026-11-25', hours: [{ index: 12, localHour: 12, clockName: 'Day' }] });
    const before = (await server.api.get(`${base}/logs/2026-11-25`)).body.log.hours;
    const refused = await server.api.post(`${base}/generate`).send({ from: '2026-11-25', days: 2, hours: [12] });
    expect(refused.body).toMatchObject({ field: 'hours' });
    const job = await server.api.post(`${base}/generate`).send({ from: '2026-11-25', hours: [12] });
    await endOfJob(server, job.body.id);
    const after = (await server.api.get(`${base}/logs/2026-11-25`)).body.log.hours;
    expect(after[12].clockName).toBe('Noon');
    expect(after.filter((_: unknown, n: number) => n !== 12)).toEqual(
      before.filter((_: unknown, n: number) => n !== 12),
    );
    expect((await stale()).map(({ date }: { date: string }) => date)).toEqual(['2026-11-26']);
  });
});
