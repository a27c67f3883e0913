import { readdir, readFile, writeFile } from 'node:fs/promises';
import path from 'node:path';
import type { DeskData } from '@fuller/contracts';
import { LogInspector, StationModel, type DailyLog } from '@fuller/core';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { endOfJob, testServer, TODAY, TOMORROW, type TestServer } from './testing/test-server.js';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

interface Entry {
  id: string;
  kind: string;
  itemId: string | null;
  locked: boolean;
}
const view = async (date = TOMORROW) => (await server.api.get(`/api/stations/vale/logs/${date}`).expect(200)).body;
const slots = (body: { log: { hours: { entries: Entry[] }[] } }): Entry[] =>
  body.log.hours.flatMap((hour) => hour.entries);
const generate = async (body: object) =>
  endOfJob(server, (await server.api.post('/api/stations/vale/generate').send(body).expect(200)).body.id);
const edit = (revision: number, change: object, date = TOMORROW) =>
  server.api.post(`/api/stations/vale/logs/${date}/edits`).send({ revision, edit: change });
const undo = (activityId: string) => server.api.post(`/api/activity/${activityId}/undo`).expect(200);

describe('generating', () => {
  it('makes days in a row, and undo takes them all away', async () => {
    await server.api.get(`/api/stations/vale/logs/${TOMORROW}`).expect(404);
    const ended = await generate({ from: TODAY, days: 3 });
    expect(ended).toMatchObject({ state: 'done', message: '3 days: every slot filled.' });
    const days = (await server.api.get(`/api/stations/vale/days?from=${TODAY}&count=4`).expect(200)).body;
    expect(days.map((day: { state: string; slots: number }) => [day.state, day.slots])).toEqual([
      ['complete', 360],
      ['complete', 360],
      ['complete', 360],
      ['none', 0],
    ]);
    await undo(ended.activityId!);
    await server.api.get(`/api/stations/vale/logs/${TOMORROW}`).expect(404);
    const [redo] = (await server.api.get('/api/activity?limit=1')).body;
    await undo(redo.id);
    expect(slots(await view())).toHaveLength(360);
  });

  it('is refused for days that have passed, too many days, and a station without clocks', async () => {
    const past = await server.api.post('/api/stations/vale/generate').send({ from: '2026-11-22' }).expect(400);
    expect(past.body).toMatchObject({ field: 'from', message: expect.stringContaining('has aired') });
    await server.api.post('/api/stations/vale/generate').send({ from: TODAY, days: 32 }).expect(400);
    const { body } = await server.api.post('/api/stations/night/generate').send({ from: TODAY }).expect(200);
    expect(await endOfJob(server, body.id)).toMatchObject({
      state: 'failed',
      message: expect.stringContaining('No clock runs'),
    });
  });

  it('leaves nothing behind when it is cancelled', async () => {
    const { body } = await server.api
      .post('/api/stations/vale/generate')
      .send({ from: '2026-12-10', days: 20 })
      .expect(200);
    await server.api.delete(`/api/jobs/${body.id}`).expect(200);
    expect(await endOfJob(server, body.id)).toMatchObject({ state: 'cancelled' });
    const days = (await server.api.get('/api/stations/vale/days?from=2026-12-10&count=20')).body;
    expect(days.every((day: { state: string }) => day.state === 'none')).toBe(true);
  });
});

describe('editing by hand', () => {
  it('replaces, marks the strain, and undoes', async () => {
    const before = await view();
    const [first, second] = slots(before);
    const sameArtist = `song${(Number(first!.itemId!.slice(4)) + 20) % 60}`;
    const { body } = await edit(before.revision, { type: 'replace', entryId: second!.id, itemId: sameArtist }).expect(
      200,
    );
    const strained = body.strains.filter((strain: { entryId: string }) => strain.entryId === second!.id);
    expect(strained).toMatchObject([{ ruleId: 'artist' }]);
    await undo(body.activityId);
    expect(slots(await view())[1]!.itemId).toBe(second!.itemId);
  });

  it('refuses a stale edit, an item that is not there, and a locked entry', async () => {
    const { revision, log } = await view();
    const entry = slots({ log })[10]!;
    expect((await edit(revision - 1, { type: 'lock', entryId: entry.id, locked: true }).expect(409)).body.code).toBe(
      'CONFLICT',
    );
    await edit(revision, { type: 'replace', entryId: entry.id, itemId: 'ghost' }).expect(404);
    const locked = await edit(revision, { type: 'lock', entryId: entry.id, locked: true }).expect(200);
    const { body } = await edit(locked.body.revision, { type: 'replace', entryId: entry.id, itemId: 'song1' }).expect(
      400,
    );
    expect(body.message).toContain('the entry is locked');
  });

  it('is kept by a new run where it is locked, and undone with it', async () => {
    const before = await view();
    const kept = slots(before).find((entry) => entry.locked)!;
    const ended = await generate({ from: TOMORROW, seed: 77 });
    const after = await view();
    expect(slots(after).find((entry) => entry.id === kept.id)).toMatchObject({ itemId: kept.itemId, locked: true });
    expect(slots(after).map((entry) => entry.itemId)).not.toEqual(slots(before).map((entry) => entry.itemId));
    await undo(ended.activityId!);
    expect((await view()).log).toEqual(before.log);
  });

  it('tells a desk all it needs to judge the log as the server does', async () => {
    const shown = await view();
    const { body } = await server.api.get(`/api/stations/vale/logs/${TOMORROW}/desk`).expect(200);
    const model = new StationModel((body as DeskData).data);
    expect(new LogInspector(model, shown.log as DailyLog).strains()).toEqual(shown.strains);
    const entry = slots(shown)[30]!;
    const ranked = new LogInspector(model, shown.log as DailyLog).candidates(entry.id);
    expect(ranked).toHaveLength(55);
    expect(ranked[0]!.breaks).toEqual([]);
    expect(ranked.at(-1)!.breaks[0]).toMatchObject({ ruleId: 'artist' });
    expect((body as DeskData).items.find((item) => item.id === ranked[0]!.itemId)).toMatchObject({ kind: 'song' });
  });

  it('re-marks the strains when a rule is changed', async () => {
    const { body: rule } = await server.api
      .post('/api/stations/vale/rules')
      .send({ shape: 'apart', tag: 'title', amount: 20 * 86_400 });
    expect((await view()).strains.length).toBeGreaterThan(50);
    await server.api.delete(`/api/stations/vale/rules/${rule.id}`).expect(200);
    expect((await view()).strains).toEqual([]);
  });
});

describe('handing over', () => {
  const settings = { pattern: '{station}_{date}_{hour}.m3u8', hourly: true };

  it('writes whole files, keeps a record, and says when the log has changed since', async () => {
    for (let index = 0; index < 10; index++)
      await writeFile(path.join(server.services.folders.audio, `song${index}.wav`), 'RIFF');
    const { body } = await server.api
      .post('/api/stations/vale/hand-over')
      .send({ date: TOMORROW, ...settings })
      .expect(200);
    expect(body.files).toHaveLength(24);
    expect(body.entries + body.heldBack).toBe(360);
    expect(body.entries).toBeGreaterThan(30);
    expect((await readdir(body.folder)).filter((name) => !name.endsWith('.manifest.json')).sort()).toEqual(
      [...body.files].sort(),
    );
    const text = await readFile(path.join(body.folder, body.files[0]), 'utf8');
    expect(text.startsWith('#EXTM3U\n')).toBe(true);
    const stale = async () => (await server.api.get(`/api/stations/vale/hand-over/${TOMORROW}`)).body.records[0].stale;
    expect(await stale()).toBe(false);
    const { revision, log } = await view();
    await edit(revision, { type: 'note', entryId: slots({ log })[3]!.id, note: 'hello' }).expect(200);
    expect(await stale()).toBe(true);
  });

  it.each(['../escape_{hour}', 'a/b_{hour}', 'same'])('refuses the pattern %s', async (pattern) => {
    const { body } = await server.api
      .post('/api/stations/vale/hand-over/preview')
      .send({ date: TOMORROW, hourly: true, pattern })
      .expect(400);
    expect(body.field).toBe('pattern');
  });

  it('has nothing to hand over without a log', async () => {
    expect(
      (
        await server.api
          .post('/api/stations/vale/hand-over/preview')
          .send({ date: '2027-01-01', ...settings })
          .expect(404)
      ).body.code,
    ).toBe('NO_LOG');
  });
});
