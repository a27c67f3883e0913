import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { ItemCard, LogView } from '@fuller/contracts';
import type { BoundEntry, ClockLine } from '@fuller/core';
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { newItemRow } from './library/item-row.js';
import { endOfJob, seedStations, SONGS, testServer, TOMORROW, type TestServer } from './testing/test-server.js';

const base = '/api/stations/vale';
const log = `${base}/logs/${TOMORROW}`;
const pick = (n: number): ClockLine => ({ id: `p${n}`, kind: 'pick', categoryId: 'gold', comment: '' });
const LINES: readonly ClockLine[] = [
  { id: 't', kind: 'tease', target: { to: 'line', lineId: 'p3' }, comment: '' },
  pick(0),
  { id: 's', kind: 'sweeper', categoryId: 'fresh', comment: '' },
  ...[1, 2, 3, 4, 5].map(pick),
];

let server: TestServer;
beforeAll(async () => {
  server = await testServer(async (services) => {
    await seedStations(services);
    await services.store.write({ clientId: 'seed', stationId: null, label: 'Teases' }, async (changes) => {
      const plain = { artist: '', album: '', durationMs: 6000, file: 'tease.wav' };
      const teases = Array.from({ length: SONGS }, (_, n) => ({
        ...newItemRow({ ...plain, kind: 'tease', title: `RÉALTA ${n}`, artist: `artist ${n % 20}`, cart: `T${n}` }),
        id: `tease${n}`,
      }));
      const sweeper = { ...newItemRow({ ...plain, kind: 'sweeper', title: 'Whoosh', cart: 'W1' }), id: 'whoosh' };
      await changes.insert('item', [...teases, sweeper]);
      await changes.insert('placement', [{ id: 'place-whoosh', itemId: 'whoosh', categoryId: 'fresh' }]);
      for (let n = 0; n < SONGS; n++) await changes.update('item', `song${n}`, { introMs: n % 2 ? 9000 : 3000 });
    });
  });
  const { body } = await server.api.get(`${base}/catalogue`).expect(200);
  const { id, revision, name, colour } = body.clocks[0];
  await server.api.put(`${base}/clocks/${id}`).send({ revision, name, colour, lines: LINES }).expect(200);
  const run = await server.api.post(`${base}/generate`).send({ from: TOMORROW }).expect(200);
  await endOfJob(server, run.body.id);
});
afterAll(() => server.close());

const view = async (): Promise<LogView> => (await server.api.get(log).expect(200)).body;
const entryOf = ({ log: { hours } }: LogView, id: string) =>
  hours.flatMap(({ entries }) => entries).find((entry) => entry.id === id) as BoundEntry;
const edit = async (change: object) =>
  (
    await server.api
      .post(`${log}/edits`)
      .send({ revision: (await view()).revision, edit: change })
      .expect(200)
  ).body;
const card = async (id: string): Promise<ItemCard> => (await server.api.get(`${base}/items/${id}`).expect(200)).body;

describe('a tease in a log', () => {
  it('changes with every edit of what it announces, and everyone is told', async () => {
    const target = entryOf(await view(), 'p3-480');
    expect(entryOf(await view(), 't-480')).toMatchObject({
      boundTo: 'p3-480',
      itemId: target.itemId!.replace('song', 'tease'),
    });
    const events: { type: string }[] = [];
    const stop = server.services.events.listen((event) => events.push(event));
    const answer = await edit({ type: 'replace', entryId: 'p3-480', itemId: 'song57' });
    stop();
    expect(entryOf(answer, 't-480')).toMatchObject({ itemId: 'tease57' });
    expect(answer.items.map(({ id }: { id: string }) => id)).toContain('tease57');
    expect(events.find(({ type }) => type === 'log')).toMatchObject({
      bindings: [{ entryId: 't-480', itemId: 'tease57', boundTo: 'p3-480' }],
      items: expect.arrayContaining([expect.objectContaining({ id: 'tease57' })]),
    });
    // Undone, it announces again what comes.
    await server.api.post(`/api/activity/${answer.activityId}/undo`).expect(200);
    expect(entryOf(await view(), 't-480')).toMatchObject({ itemId: target.itemId!.replace('song', 'tease') });
  });

  it('plays nothing, and says why, where its song has gone', async () => {
    const answer = await edit({ type: 'open', entryId: 'p3-540' });
    expect(entryOf(answer, 't-540')).toMatchObject({ itemId: null, missing: 'no target' });
  });

  it('cannot be given another item by hand', async () => {
    const { revision } = await view();
    const { body } = await server.api
      .post(`${log}/edits`)
      .send({ revision, edit: { type: 'replace', entryId: 't-600', itemId: 'song1' } })
      .expect(400);
    expect(body.message).toContain('only a slot');
  });

  it('is true in the files even where the library has changed since', async () => {
    const { itemId } = entryOf(await view(), 't-660');
    const { revision } = await card(itemId!);
    await server.api.patch(`${base}/items/${itemId}`).send({ revision, endDate: '2026-01-01' }).expect(200);
    const files = {
      date: TOMORROW,
      pattern: '{date}',
      hourly: false,
      format: 'm3u8',
      cues: true,
      withoutAudio: 'keep with cart',
    };
    const { body } = await server.api.post(`${base}/hand-over`).send(files).expect(200);
    expect(entryOf(await view(), 't-660')).toMatchObject({ itemId: null, missing: 'no audio' });
    const text = await readFile(path.join(body.folder, body.files[0]), 'utf8');
    expect(text).not.toContain(`/t-660 `);
    const cues = text.split('\n').filter((line) => line.includes('kind=sweeper'));
    expect(cues.length).toBeGreaterThan(5);
    expect(cues.every((line) => line.includes(' over '))).toBe(true);
  });
});

describe('the card of a tease', () => {
  it('says what it announces and by what, and a song says its teases', async () => {
    expect((await card('tease7')).announces).toEqual({
      what: 'song',
      id: 'song7',
      name: '“Réalta 7” by Artist 7',
      tied: false,
    });
    expect((await card('song7')).teases).toEqual([{ id: 'tease7', title: 'RÉALTA 7' }]);
  });

  it('is tied to another song, and untied', async () => {
    const patch = async (announces: object | null) =>
      server.api.patch(`${base}/items/tease8`).send({ revision: (await card('tease8')).revision, announces });
    expect((await patch({ what: 'song', id: 'song9' })).status).toBe(200);
    expect((await card('tease8')).announces).toMatchObject({ id: 'song9', tied: true });
    expect((await card('song9')).teases.map(({ id }) => id).sort()).toEqual(['tease8', 'tease9']);
    expect((await card('song8')).teases).toEqual([]);
    expect((await patch({ what: 'song', id: 'nobody' })).body).toMatchObject({ code: 'NOT_FOUND' });
    expect((await patch({ what: 'artist', id: 'nobody' })).status).toBe(404);
    expect((await patch({ what: 'moon', id: 'x' })).status).toBe(400);
    expect((await patch(null)).status).toBe(200);
    expect((await card('tease8')).announces).toMatchObject({ id: 'song8', tied: false });
  });
});

it('names a category of a tease that is not there', async () => {
  const { body } = await server.api.get(`${base}/catalogue`).expect(200);
  const { id, revision, name, colour } = body.clocks[0];
  const lines = [{ id: 't', kind: 'tease', target: { to: 'pick', categoryId: 'nowhere' }, comment: '' }];
  const refused = await server.api.put(`${base}/clocks/${id}`).send({ revision, name, colour, lines }).expect(400);
  expect(refused.body.message).toBe('Line 1 names a category or pool that is not there.');
});
