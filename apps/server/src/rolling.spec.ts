import { mkdtemp, rm } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { OnAir, Rolling, SongRequest, SongRequests } from '@fuller/contracts';
import { allEntries, type DailyLog } from '@fuller/core';
import { Playout } from '@fuller/standins/playout';
import { startRequestLine, type RequestLine } from '@fuller/standins/requests';
import { endOfJob, NOW, testServer, TODAY, type TestServer } from './testing/test-server.js';

const STATION = '/api/stations/vale';
const SETTINGS = { loopClockId: null, depthUnit: 'minutes', depth: 40, perListener: 2, perHour: 6, requestsUrl: null };

let server: TestServer;
let playout: Playout;
let folder: string;
let stopPlayer: () => Promise<void>;
let url: string;
let line: RequestLine;

const player = async (port: number) => {
  playout = new Playout({
    files: path.join(folder, 'none'),
    folder: path.join(folder, 'player'),
    port,
    token: 'lock',
    timeZone: 'Europe/Dublin',
    station: 'Vale',
    stream: null,
    rate: 600,
    atMs: NOW,
  });
  const running = await playout.start();
  stopPlayer = running.stop;
  return running.url;
};

beforeAll(async () => {
  server = await testServer();
  folder = await mkdtemp(path.join(os.tmpdir(), 'fuller-rolling-'));
  url = await player(0);
  line = await startRequestLine({
    port: 0,
    perHour: 0,
    list: { songs: [{ title: 'Réalta 1', artist: '' }], listeners: ['Una'], unknown: [] },
  });
  await server.api
    .put(`${STATION}/on-air`)
    .send({ revision: 0, playerUrl: url, token: 'lock', lateMs: 60_000, acceptAll: true });
  await server.services.onAir.begin();
  server.services.requests.begin();
});
afterAll(async () => {
  await server.close();
  await stopPlayer();
  await line.stop();
  await rm(folder, { recursive: true, force: true });
});

const set = async (more: object): Promise<number> => {
  const { settings } = (await server.api.get(`${STATION}/rolling`)).body as Rolling;
  const { revision } = settings;
  return (await server.api.put(`${STATION}/rolling`).send({ ...SETTINGS, ...more, revision })).status;
};
const rolling = async (): Promise<Rolling> => (await server.api.get(`${STATION}/rolling`)).body as Rolling;
const view = async (): Promise<OnAir['player']> => ((await server.api.get(`${STATION}/on-air`)).body as OnAir).player;
const requests = async (): Promise<SongRequests> => (await server.api.get(`${STATION}/requests`)).body as SongRequests;
const until = async <T>(find: () => Promise<T | null | false>): Promise<T> => {
  for (let tries = 0; tries < 5000; tries++) {
    const found = await find();
    if (found !== null && found !== false) return found;
    await new Promise((resolve) => setTimeout(resolve, 25));
  }
  throw new Error('it did not come about');
};

describe('a station that runs from a live queue', () => {
  it('is off at first; a request goes into the coming hours of the log then, and its answer names the time', async () => {
    const begun = await server.api.post(`${STATION}/generate`).send({ from: TODAY, days: 1, seed: 1 });
    await endOfJob(server, begun.body.id as string);
    const asked = await server.api
      .post(`${STATION}/requests`)
      .send({ listener: 'Una', title: 'realta 17', artist: 'artist 17' });
    const { told, state } = asked.body as SongRequest;
    const { log } = (await server.api.get(`${STATION}/logs/${TODAY}`)).body as { log: DailyLog };
    if (state === 'placed') {
      expect(told[0]!.words).toMatch(/^Will play about \d\d:\d\d\.$/);
      const entry = allEntries(log).find(({ note }) => note === 'Request of Una');
      const planned = allEntries(log).some((one) => one.kind === 'pick' && one.itemId === 'song17');
      expect(entry !== undefined || planned).toBe(true);
    } else expect(told[0]!.words).toMatch(/free at|no place/);
    // Another listener’s song takes another slot.
    const second = await server.api
      .post(`${STATION}/requests`)
      .send({ listener: 'Piet', title: 'realta 9', artist: '' });
    const { log: now } = (await server.api.get(`${STATION}/logs/${TODAY}`)).body as { log: DailyLog };
    const there = new Set(allEntries(now).flatMap((entry) => (entry.kind === 'pick' ? [entry.itemId] : [])));
    if (state === 'placed') expect(there.has('song17')).toBe(true);
    if ((second.body as SongRequest).state === 'placed') expect(there.has('song9')).toBe(true);
    // More than an hour may hold waits its turn.
    await set({ mode: 'off', perHour: 0 });
    const third = await server.api
      .post(`${STATION}/requests`)
      .send({ listener: 'Gwil', title: 'Raelta 27', artist: '' });
    expect((third.body as SongRequest).told[0]!.words).toContain('There is no place');
    const unknown = await server.api
      .post(`${STATION}/requests`)
      .send({ listener: 'Ivo', title: 'Nobody has this', artist: '' });
    expect((unknown.body as SongRequest).told[0]!.words).toBe('Not in our library.');
  });

  it('fills the queue as deep as asked and lets the player play from it, over an end of the player', async () => {
    expect(await set({ mode: 'loop' })).toBe(400);
    expect(await set({ mode: 'clocks' })).toBe(200);
    const first = await until(async () => {
      const { rows } = await rolling();
      return rows.length > 5 && rows;
    });
    expect(first.reduce((sum, { durationMs }) => sum + durationMs, 0)).toBeGreaterThanOrEqual(40 * 60_000);
    await until(async () => (await view()).view?.source === 'queue' && (await view()).view?.playing);
    const heard = new Set<string>();
    await until(async () => {
      const playing = (await view()).view?.playing;
      if (playing) heard.add(playing.id);
      return heard.size > 4;
    });
    await stopPlayer();
    await until(async () => (await view()).state === 'unreachable');
    await player(Number(new URL(url).port));
    await until(async () => (await view()).view?.source === 'queue' && (await view()).view?.playing);
    const { rows } = await rolling();
    expect(rows.some(({ id }) => heard.has(id))).toBe(false);
    expect(new Set(rows.map(({ id }) => id)).size).toBe(rows.length);
  });

  it('is edited while it runs: added to, moved, taken from', async () => {
    await server.api.post(`${STATION}/on-air/commands`).send({ do: 'rate', rate: 20 });
    const { rows } = await rolling();
    const added = await server.api
      .post(`${STATION}/rolling/queue`)
      .send({ do: 'add', itemId: 'song59', beforeId: rows[3]!.id });
    const own = (added.body as Rolling).rows.find(({ itemId }) => itemId === 'song59')!;
    expect(own.by).toBe('hand');
    await server.api.post(`${STATION}/rolling/queue`).send({ do: 'move', id: own.id, by: 1 });
    await until(async () => (await view()).view!.next.some(({ id }) => id === own.id));
    await server.api.post(`${STATION}/rolling/queue`).send({ do: 'remove', id: own.id });
    await until(async () => !(await view()).view!.next.some(({ id }) => id === own.id));
    const gone = await server.api.post(`${STATION}/rolling/queue`).send({ do: 'remove', id: own.id });
    expect(gone.status).toBe(404);
  });

  it('answers a request line at once, limits one listener, and tells what became of each', async () => {
    await set({ mode: 'clocks', requestsUrl: line.url, perListener: 1, depth: 60 });
    await until(async () => (await requests()).line.state === 'connected');
    line.maker.add(0, { listener: 'Una M', title: 'Reatla 33', artist: 'Artist 13' });
    line.maker.add(0, { listener: 'Una M', title: 'Réalta 44', artist: '' });
    await until(async () => line.told.size === 2);
    expect(line.told.get(1)![0]).toMatch(/^(Will play about|Played .* free at|Cannot play yet|There is no place)/);
    expect(line.told.get(2)![0]).toMatch(/^You have asked often enough; ask again at \d\d:\d\d\.$/);
    // Asked again after a new start, nothing is taken twice.
    const before = (await requests()).requests.length;
    await new Promise((resolve) => setTimeout(resolve, 1500));
    expect((await requests()).requests).toHaveLength(before);
    await server.api.post(`${STATION}/on-air/commands`).send({ do: 'rate', rate: 600 });
    await until(async () => {
      const one = (await requests()).requests.find(({ title }) => title === 'Reatla 33')!;
      if (one.state !== 'aired') return false;
      // What was told last came true.
      const last = one.told.at(-1)!;
      expect(last.words).toContain('Will play about');
      return true;
    });
  });

  it('goes back to the player’s files when it is switched off', async () => {
    expect(await set({ mode: 'off' })).toBe(200);
    await until(async () => (await view()).view?.source === 'files');
  });
});

describe('votes', () => {
  it('of listeners add to the weight of a song, once for each request', async () => {
    const other = await testServer();
    for (const [listener, title] of [
      ['Una', 'Réalta 33'],
      ['Ivo', 'realta 33'],
      ['Ivo', 'Réalta 44'],
    ] as const)
      await other.api.post(`${STATION}/requests`).send({ listener, title, artist: '' });
    const { items } = await other.services.reader.ground('vale');
    const weights = new Map(items.map(({ id, weight }) => [id, weight]));
    expect([weights.get('song33'), weights.get('song44'), weights.get('song20')]).toEqual([3, 2, 1]);
    await other.close();
  });
});
