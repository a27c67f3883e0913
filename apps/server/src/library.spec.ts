import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import { endOfJob, SONGS, testServer, type TestServer } from './testing/test-server.js';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

const items = async (query = '') => (await server.api.get(`/api/stations/vale/items${query}`).expect(200)).body;
const card = async (id: string) => (await server.api.get(`/api/stations/vale/items/${id}`).expect(200)).body;
const undo = (activityId: string) => server.api.post(`/api/activity/${activityId}/undo`).expect(200);

describe('the table', () => {
  it('comes in pages, sorted either way', async () => {
    const page = await items('?sort=duration&dir=desc&offset=10&limit=5');
    expect(page).toMatchObject({ total: SONGS, offset: 10 });
    expect(page.rows.map((row: { durationMs: number }) => row.durationMs)).toEqual([
      249_000, 248_000, 247_000, 246_000, 245_000,
    ]);
    for (const sort of ['title', 'artist', 'album', 'year', 'category', 'lastPlayed'])
      expect((await items(`?sort=${sort}`)).rows).toHaveLength(SONGS);
  });

  it.each([
    ['realta 17', 4],
    ['RÉALTA', 60],
    ['artist 3', 15],
    ['17 real', 4],
    ['"; drop table item; --', 0],
    ['réalta nothing', 0],
    ['***', 60],
  ])('is searched for %j by the beginnings of words', async (q, total) => {
    expect((await items(`?q=${encodeURIComponent(q)}`)).total).toBe(total);
  });

  it('is filtered by category and by artist', async () => {
    expect((await items('?category=gold')).total).toBe(55);
    expect((await items('?category=none')).total).toBe(5);
    const { credits } = await card('song7');
    expect((await items(`?artist=${credits[0].artistId}`)).total).toBe(3);
  });

  it.each(['?sort=mood', '?limit=501', '?offset=-1', '?dir=up'])('refuses %s', async (query) => {
    expect((await server.api.get(`/api/stations/vale/items${query}`).expect(400)).body.code).toBe('INVALID');
  });

  it('downloads as CSV what a filter finds', async () => {
    const { text, headers } = await server.api.get('/api/stations/vale/items.csv?q=title:17').expect(200);
    expect(headers['content-disposition']).toContain('library.csv');
    const [head, ...rows] = text.trim().split('\r\n');
    expect(head).toBe('category,title,artist,album,kind,year,duration,intro,last played');
    expect(rows).toHaveLength((await items('?q=title:17')).total);
    expect(rows[0]).toMatch(/17.*,song,/);
  });

  it('knows no station that is not there', async () => {
    await server.api.get('/api/stations/ghost/items').expect(404);
  });
});

describe('the card', () => {
  it('is changed field by field, found under its new words, and undone', async () => {
    const before = await card('song1');
    const { body } = await server.api
      .patch('/api/stations/vale/items/song1')
      .send({ revision: before.revision, title: 'Gaoth Fhada', artist: 'Nuala feat. Piers' })
      .expect(200);
    expect((await items('?q=gaoth')).total).toBe(1);
    expect((await card('song1')).credits).toMatchObject([
      { name: 'Nuala', role: 'main' },
      { name: 'Piers', role: 'featured' },
    ]);
    await undo(body.activityId);
    expect((await items('?q=gaoth')).total).toBe(0);
    expect((await card('song1')).credits).toMatchObject([{ name: 'Artist 1' }]);
  });

  it.each([
    [{ title: '' }, 400, 'title'],
    [{ year: 99 }, 400, 'year'],
    [{ introMs: 999_999 }, 400, 'introMs'],
    [{ startDate: '2026-02-30' }, 400, 'startDate'],
    [{ cart: 'C5' }, 409, 'cart'],
    [{ colour: 'red' }, 400, 'colour'],
  ])('refuses %j', async (patch, status, field) => {
    const { revision } = await card('song2');
    const { body } = await server.api
      .patch('/api/stations/vale/items/song2')
      .send({ revision, ...patch })
      .expect(status);
    expect(body.field).toBe(field);
  });
});

describe('categories', () => {
  it('take items over from one another, and undo gives them back', async () => {
    const { body } = await server.api
      .post('/api/stations/vale/placements')
      .send({ itemIds: ['song0', 'song1', 'song59'], categoryId: 'fresh' })
      .expect(200);
    expect(body.moved).toBe(3);
    expect((await items('?category=fresh')).total).toBe(3);
    expect((await items('?category=gold')).total).toBe(53);
    await undo(body.activityId);
    expect((await items('?category=fresh')).total).toBe(0);
    expect((await items('?category=gold')).total).toBe(55);
  });

  it('take nothing when one of the items is not there', async () => {
    await server.api
      .post('/api/stations/vale/placements')
      .send({ itemIds: ['song0', 'ghost'], categoryId: 'fresh' })
      .expect(404);
    expect((await items('?category=fresh')).total).toBe(0);
  });
});

describe('audio', () => {
  it('is heard only from the audio folder', async () => {
    await writeFile(path.join(server.services.folders.audio, 'song0.wav'), 'RIFF');
    await server.api.get('/api/items/song0/audio').expect(200);
    await server.api.get('/api/items/song1/audio').expect(404);
    for (const file of ['/etc/passwd', '../fuller.db']) {
      const { revision: now } = await card('song3');
      await server.api.patch('/api/stations/vale/items/song3').send({ revision: now, file }).expect(200);
      await server.api.get('/api/items/song3/audio').expect(404);
    }
  });
});

describe('import', () => {
  const upload = (text: string | Buffer, name = 'songs.csv') =>
    server.api.post('/api/stations/vale/imports').attach('file', Buffer.from(text as string), name);
  let total = 0;
  beforeEach(async () => {
    total = (await items()).total;
  });

  async function dryRun(text: string | Buffer) {
    const { body: session } = await upload(text).expect(200);
    const { body: job } = await server.api.post(`/api/imports/${session.id}/dry-run`).expect(200);
    const ended = await endOfJob(server, job.id);
    return { session, ended, summary: (await server.api.get(`/api/imports/${session.id}`)).body.summary };
  }

  it('shows what it would do, does it, and takes it all back', async () => {
    const { session, summary } = await dryRun(
      'Title,Artist,Length,Cart,Category\nNew one,Nuala & Piers,3:10,N1,Fresh\nRéalta 5,Artist 5,9:59,C5,\nBad,X,99:99,N2,Gold\nShort row\nLost,Y,3:00,N3,Nowhere\n',
    );
    expect(summary).toMatchObject({ read: 5, added: 2, changed: 1, rejected: 2, unknownCategories: ['Nowhere'] });
    expect(summary.rejectedRows).toEqual([
      { row: 4, column: 'duration', why: '“99:99” is not a length between 0:00.001 and 24 hours' },
      { row: 5, column: '', why: '1 cells where the first row has 5' },
    ]);
    expect((await items()).total).toBe(total);
    const { body: job } = await server.api.post(`/api/imports/${session.id}/commit`).expect(200);
    const ended = await endOfJob(server, job.id);
    expect(ended).toMatchObject({ state: 'done', message: '2 new, 1 changed, 0 unchanged, 2 rejected.' });
    expect((await items()).total).toBe(total + 2);
    expect((await items('?category=fresh')).rows[0].title).toBe('New one');
    expect((await card('song5')).durationMs).toBe(599_000);
    await undo(ended.activityId!);
    expect((await items()).total).toBe(total);
    expect((await card('song5')).durationMs).toBe(205_000);
    expect((await items('?q=piers')).total).toBe(0);
  });

  it('of the same table again changes nothing', async () => {
    const text = 'Title,Artist,Cart\nOnce,Nuala,ONCE\n';
    const first = await dryRun(text);
    await endOfJob(server, (await server.api.post(`/api/imports/${first.session.id}/commit`)).body.id);
    const second = await dryRun(text);
    expect(second.summary).toMatchObject({ added: 0, changed: 0, unchanged: 1 });
  });

  it('remembers what the columns meant', async () => {
    const text = 'Werk,Wer\nEins,Nuala\n';
    const { body: session } = await upload(text).expect(200);
    expect(session.settings.mapping).toEqual([null, null]);
    await server.api
      .put(`/api/imports/${session.id}/settings`)
      .send({ ...session.settings, header: true, mapping: ['title', 'artist'] })
      .expect(200);
    await endOfJob(server, (await server.api.post(`/api/imports/${session.id}/commit`)).body.id);
    expect((await items('?q=eins')).total).toBe(1);
    expect((await upload(text).expect(200)).body.columns).toHaveLength(2);
  });

  it.each([
    ['an empty file', Buffer.alloc(0), 'The file is empty.'],
    ['a picture with another ending', Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 0, 0, 1]), 'not a text'],
    ['a quote that never closes', Buffer.from('Title,Artist\n"open,a\n'), 'quoted cell'],
  ])('refuses %s', async (_name, bytes, why) => {
    const { body } = await upload(bytes).expect(422);
    expect(body.code).toBe('NOT_A_TEXT');
    expect(body.message).toContain(why);
    expect((await items()).total).toBe(total);
  });

  it('tells rows in another encoding one by one', async () => {
    const mixed = Buffer.concat([
      Buffer.from('Title,Artist\nÉté,Nuala\nRéalta Nua,Réiltín\n'),
      Buffer.from([0xc9, 0x74, 0xe9, 0x2c, 0x58, 0x0a]),
    ]);
    const { summary } = await dryRun(mixed);
    expect(summary).toMatchObject({ added: 2, rejected: 1 });
    expect(summary.rejectedRows).toEqual([
      { row: 4, column: 'title', why: 'holds bytes that are not in the encoding of the file' },
    ]);
  });

  it('asks for the title’s column before anything is read', async () => {
    const { body: session } = await upload('a,b\nc,d\n').expect(200);
    const ended = await endOfJob(server, (await server.api.post(`/api/imports/${session.id}/dry-run`)).body.id);
    expect(ended).toMatchObject({ state: 'failed', message: 'Choose the column that holds the title.' });
  });

  it('says that a folder is not there', async () => {
    const { body } = await server.api.post('/api/stations/vale/imports/folder').send({ folder: 'no/such' }).expect(400);
    expect(body).toMatchObject({ field: 'folder', message: 'There is no folder “no/such” on the server.' });
  });
});

describe('tags', () => {
  it('are changed on the card, found by filters at once, and undone', async () => {
    const { revision, tags } = await card('song9');
    const changed = await server.api
      .patch('/api/stations/vale/items/song9')
      .send({ revision, tags: { ...tags, mood: ['glad', 'Fada'] } })
      .expect(200);
    expect((await card('song9')).tags).toMatchObject({ mood: ['glad', 'Fada'] });
    expect((await items('?q=mood:fada')).rows.map((row: { id: string }) => row.id)).toEqual(['song9']);
    await undo(changed.body.activityId);
    expect((await server.api.get('/api/stations/vale/items?q=mood:fada').expect(400)).body.message).toContain('mood');
  });

  it.each([{ mood: [''] }, { mood: 'glad' }, { '': ['x'] }, { mood: ['x'.repeat(61)] }])('refuse %j', async (tags) => {
    const { revision } = await card('song9');
    await server.api.patch('/api/stations/vale/items/song9').send({ revision, tags }).expect(400);
  });
});

describe('a name that reads like several artists', () => {
  const say = (name: string, one: boolean) => server.api.post('/api/stations/vale/acts').send({ name, one });

  it('can be said to be one act, for every item that prints it, now and later; and undone', async () => {
    const credit = async (id: string, artist: string) => {
      const { revision } = await card(id);
      await server.api.patch(`/api/stations/vale/items/${id}`).send({ revision, artist }).expect(200);
    };
    await credit('song2', 'Marl & Daughter');
    await credit('song3', 'MARL & DAUGHTER feat. Ivo');
    expect(await card('song2')).toMatchObject({
      act: { name: 'Marl & Daughter', one: false, songs: 2 },
      credits: { length: 2 },
    });
    const { body } = await say('Marl & Daughter', true).expect(200);
    expect((await card('song2')).credits.map((one: { name: string }) => one.name)).toEqual(['Marl & Daughter']);
    expect((await card('song3')).credits).toMatchObject([{ songs: 2 }, { name: 'Ivo', role: 'featured' }]);
    await credit('song4', 'Piers & Marl & Daughter');
    expect((await card('song4')).credits.map((one: { name: string }) => one.name)).toEqual([
      'Piers',
      'Marl & Daughter',
    ]);
    await credit('song4', 'Piers');
    await undo(body.activityId);
    expect(await card('song3')).toMatchObject({ act: { one: false }, credits: { length: 3 } });
    expect((await say(' ', true).expect(400)).body.field).toBe('name');
  });
});
