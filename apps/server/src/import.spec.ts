import { existsSync } from 'node:fs';
import { mkdir, readdir, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { endOfJob, testServer, type TestServer } from './testing/test-server.js';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

const items = async (query = '') => (await server.api.get(`/api/stations/vale/items${query}`).expect(200)).body;
const post = (what: string, body: object = {}) => server.api.post(`/api/${what}`).send(body);
const undo = (activityId: string) => server.api.post(`/api/activity/${activityId}/undo`).expect(200);
const run = async (id: string, what: 'dry-run' | 'commit') =>
  endOfJob(server, (await post(`imports/${id}/${what}`).expect(200)).body.id);

/** A second of silence, 8-bit mono at 8 kHz. */
function wav(seconds = 1): Buffer {
  const data = Buffer.alloc(8000 * seconds, 128);
  const head = Buffer.alloc(44);
  head.write('RIFF', 0);
  head.writeUInt32LE(36 + data.length, 4);
  head.write('WAVEfmt ', 8);
  head.writeUInt32LE(16, 16);
  head.writeUInt16LE(1, 20);
  head.writeUInt16LE(1, 22);
  head.writeUInt32LE(8000, 24);
  head.writeUInt32LE(8000, 28);
  head.writeUInt16LE(1, 32);
  head.writeUInt16LE(8, 34);
  head.write('data', 36);
  head.writeUInt32LE(data.length, 40);
  return Buffer.concat([head, data]);
}

describe('files dropped in the browser', () => {
  const begin = async (): Promise<string> => (await post('stations/vale/imports/dropped').expect(200)).body.id;
  const send = (id: string, place: string, file = wav()) =>
    server.api.post(`/api/imports/${id}/files`).field('path', place).attach('file', file, 'x.wav');

  it('are looked at where they lie, and move into the audio folder when confirmed', async () => {
    const id = await begin();
    await send(id, 'New Gold/Low Water.wav').expect(200);
    await send(id, 'Loose.wav').expect(200);
    await server.api
      .put(`/api/imports/${id}/options`)
      .send({ makeCategories: true, folderCategories: true })
      .expect(200);
    await run(id, 'dry-run');
    const { summary } = (await server.api.get(`/api/imports/${id}`).expect(200)).body;
    expect(summary).toMatchObject({ added: 2, rejected: 0, unknownCategories: ['New Gold'] });
    const { audio } = server.services.folders;
    expect(existsSync(path.join(audio, 'dropped'))).toBe(false);
    const { activityId } = await run(id, 'commit');
    expect(existsSync(path.join(audio, 'dropped/New Gold/Low Water.wav'))).toBe(true);
    expect((await items('?q=category:"new gold"')).rows).toMatchObject([{ title: 'Low Water', durationMs: 1000 }]);
    expect((await items('?q=loose')).rows).toMatchObject([{ categoryIds: [], hasFile: true }]);
    await undo(activityId!);
    expect((await items('?q=loose')).total).toBe(0);
  });

  it('sent again are the same items, and others of the same name are others', async () => {
    const again = await begin();
    await send(again, 'Loose.wav').expect(200);
    await run(again, 'commit');
    const same = await begin();
    await send(same, 'Loose.wav').expect(200);
    await run(same, 'dry-run');
    expect((await server.api.get(`/api/imports/${same}`)).body.summary).toMatchObject({ added: 0, unchanged: 1 });
    await server.api.delete(`/api/imports/${same}`).expect(200);
    const other = await begin();
    await send(other, 'Loose.wav', wav(2)).expect(200);
    await run(other, 'commit');
    expect((await items('?q=loose')).total).toBe(2);
    for (const id of [again, other]) await server.api.delete(`/api/imports/${id}`).expect(200);
    // The first import alone is open: its files, and what is known of it.
    expect(await readdir(server.services.folders.uploads)).toHaveLength(2);
  });

  it.each(['../../fuller.db', '/etc/passwd', 'song.exe', '', 'a\u0000.wav'])('refuse the name %j', async (place) => {
    const id = await begin();
    const answer = await send(id, place);
    // A leading slash is skipped, like any empty part of a path.
    expect([answer.status, answer.body.field]).toEqual([400, 'path']);
    await run(id, 'dry-run').then((job) => expect(job.state).toBe('failed'));
    await server.api.delete(`/api/imports/${id}`).expect(200);
  });
});

describe('a table', () => {
  const open = async (text: string) =>
    (await server.api.post('/api/stations/vale/imports').attach('file', Buffer.from(text), 's.csv').expect(200)).body;

  it('brings tags, telling which values are new, and changes those of items there are', async () => {
    await post('stations/vale/tag-families', { name: 'Mood' }).expect(200);
    const first = await open('title,cart,mood\nRéalta 1,C1,"calm, warm"\nNew One,N1,wild\n');
    expect(first.settings.mapping).toEqual(['title', 'cart', 'tag:Mood']);
    await run(first.id, 'dry-run');
    const { summary } = (await server.api.get(`/api/imports/${first.id}`)).body;
    expect(summary.newValues.map(({ value }: { value: string }) => value)).toEqual(['calm', 'warm', 'wild']);
    expect(summary.changedRows[0].changes).toEqual([{ field: 'Mood', before: [], after: ['calm', 'warm'] }]);
    const { activityId } = await run(first.id, 'commit');
    expect((await items('?q=mood:wild')).total).toBe(1);
    const [family] = (await server.api.get('/api/stations/vale/tag-families')).body;
    expect(family.values.map(({ value }: { value: string }) => value)).toEqual(['calm', 'warm', 'wild']);
    await undo(activityId!);
    expect((await server.api.get('/api/stations/vale/items/song1')).body.tags).toEqual({});
  });

  it('makes the categories it names when asked to, each with a code of its own', async () => {
    const { id } = await open('title,category\nOne,Gaslight\nTwo,gaslight\nThree,Ferns\nFour,Gold\n');
    await server.api.put(`/api/imports/${id}/options`).send({ makeCategories: true, folderCategories: false });
    await run(id, 'commit');
    const { categories } = (await server.api.get('/api/stations/vale/catalogue')).body;
    const made = categories.filter(({ name }: { name: string }) => ['Gaslight', 'Ferns'].includes(name));
    expect(made.map(({ code, items: count }: { code: string; items: number }) => [code, count])).toEqual([
      ['GA', 2],
      ['FE', 1],
    ]);
  });
});

describe('a watched folder', () => {
  it('brings new audio in by itself, into its category, until it is watched no more', async () => {
    const folder = path.join(server.services.folders.audio, 'inbox');
    await mkdir(folder, { recursive: true });
    // What an item plays already is left alone, whatever its tags say.
    await writeFile(path.join(folder, 'Old.wav'), wav());
    const { revision } = (await server.api.get('/api/stations/vale/items/song20')).body;
    await server.api.patch('/api/stations/vale/items/song20').send({ revision, file: 'inbox/Old.wav' }).expect(200);
    const watch = (body: object) => server.api.put('/api/stations/vale/watched-folder').send(body);
    expect((await watch({ folder: 'nowhere', categoryId: null }).expect(400)).body.message).toContain('nowhere');
    await watch({ folder: 'inbox', categoryId: 'fresh' }).expect(200);
    await writeFile(path.join(folder, 'Heron.wav'), wav());
    await writeFile(path.join(folder, 'readme.txt'), 'not audio');
    for (let tries = 0; tries < 1000 && (await items('?q=heron')).total === 0; tries++)
      await new Promise((resolve) => setTimeout(resolve, 100));
    expect((await items('?q=heron')).rows).toMatchObject([{ categoryIds: ['fresh'] }]);
    expect((await server.api.get('/api/stations/vale/items/song20')).body.title).toBe('Réalta 20');
    const { watched, fault } = (await server.api.get('/api/stations/vale/watched-folder')).body;
    expect([watched.folder, fault]).toEqual(['inbox', null]);
    const { body } = await server.api.delete('/api/stations/vale/watched-folder').expect(200);
    await undo(body.activityId);
    await writeFile(path.join(folder, 'Egret.wav'), wav());
    for (let tries = 0; tries < 1000 && (await items('?q=egret')).total === 0; tries++)
      await new Promise((resolve) => setTimeout(resolve, 100));
    expect((await items('?q=egret')).total).toBe(1);
    await server.api.delete('/api/stations/vale/watched-folder').expect(200);
    expect((await server.api.get('/api/stations/vale/watched-folder')).body.watched).toBeNull();
  });
});

describe('a table of songs without lengths', () => {
  it('takes them from files that are there, tells the others, and schedules none of these', async () => {
    await writeFile(path.join(server.services.folders.audio, 'three.wav'), wav(3));
    const table = 'title,artist,file\nHas audio,Someone,three.wav\nHas none,Someone,\n';
    const { body } = await server.api
      .post('/api/stations/vale/imports')
      .attach('file', Buffer.from(table), 'bare.csv')
      .expect(200);
    await run(body.id, 'dry-run');
    expect((await server.api.get(`/api/imports/${body.id}`)).body.summary).toMatchObject({
      added: 2,
      withoutLength: 1,
    });
    await run(body.id, 'commit');
    const rows = (await items('?q=Someone')).rows.map((row: { title: string; durationMs: number }) => [
      row.title,
      row.durationMs,
    ]);
    expect(rows).toEqual(
      expect.arrayContaining([
        ['Has audio', 3000],
        ['Has none', 0],
      ]),
    );
    const { gaps } = (await server.api.get('/api/stations/vale/tidy').expect(200)).body;
    expect(gaps).toContainEqual(expect.objectContaining({ name: 'Without a length, so nothing plays them' }));
  });

  it('is not kept when it is refused', async () => {
    const before = await readdir(server.services.folders.uploads);
    const refused = await server.api
      .post('/api/stations/vale/imports')
      .attach('file', Buffer.from([0x89, 0x50, 0, 0, 1, 2, 0]), 'picture.csv')
      .expect(422);
    expect(refused.body.code).toBe('NOT_A_TEXT');
    expect(await readdir(server.services.folders.uploads)).toEqual(before);
  });
});
