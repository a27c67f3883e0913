import { mkdtemp, rm, readFile } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { afterAll, afterEach, beforeAll, describe, expect, it } from '@jest/globals';
import type { AsRunDay, AsRunOutcome, OnAir } from '@fuller/contracts';
import { allEntries, formatAirTime, writeCsv, type DailyLog } from '@fuller/core';
import { Playout } from '@fuller/standins/playout';
import { startStream } from '@fuller/standins/stream';
import { rowsOf } from './db/queries/query.js';
import { endOfJob, testServer, TOMORROW, type TestServer } from './testing/test-server.js';

const STATION = '/api/stations/vale';
const DAY = `${STATION}/as-run/${TOMORROW}`;
const ZONE = 'Europe/Dublin';
const SPOT = { cart: 'SP1', sponsor: 'BAKERY', title: 'Loaves', product: '', lengthMs: 30_000 };

let server: TestServer;
let stops: (() => Promise<void>)[] = [];
beforeAll(async () => {
  server = await testServer();
  const begun = await server.api.post(`${STATION}/generate`).send({ from: TOMORROW, days: 1, seed: 3 });
  expect((await endOfJob(server, begun.body.id as string)).state).toBe('done');
});
afterEach(async () => {
  for (const stop of stops.reverse()) await stop();
  stops = [];
});
afterAll(() => server.close());

const logOf = async (): Promise<{ revision: number; log: DailyLog }> =>
  (await server.api.get(`${STATION}/logs/${TOMORROW}`)).body as { revision: number; log: DailyLog };
const playsOf = (date: string): Promise<{ itemId: string; startMs: number }[]> =>
  rowsOf(
    server.services.store.read,
    `select item_id as "itemId", start_ms as "startMs" from play where station_id = 'vale' and "date" = ? order by start_ms`,
    [date],
  );
const dayNow = async (): Promise<AsRunDay> => (await server.api.get(DAY)).body as AsRunDay;
const take = async (text: string, more: object = {}): Promise<AsRunOutcome> => {
  const answer = await server.api.post(DAY).send({ text, fileName: 'day.csv', layout: null, dryRun: false, ...more });
  expect([answer.status, answer.status === 200 ? '' : answer.body]).toEqual([200, '']);
  return answer.body as AsRunOutcome;
};
const until = async <T>(find: () => Promise<T | null>): Promise<T> => {
  for (let tries = 0; tries < 4000; tries++) {
    const found = await find();
    if (found !== null) return found;
    await new Promise((resolve) => setTimeout(resolve, 25));
  }
  throw new Error('it did not come about');
};

/** The log of tomorrow as an as-run file; some of its rows otherwise. */
function asRunFile(
  plays: readonly { itemId: string; startMs: number }[],
  change: (rows: string[][]) => string[][],
): string {
  const rows = plays.map(({ itemId, startMs }) => {
    const n = Number(itemId.slice(4));
    return [formatAirTime(startMs, ZONE), String(200 + n), `Artist ${n % 20}`, `Réalta ${n}`];
  });
  return writeCsv(['time', 'duration', 'artist', 'title'], change(rows));
}

describe('what aired', () => {
  it('is tried, imported once, decided one by one, counted by history, and undone', async () => {
    const planned = await playsOf(TOMORROW);
    const [lost, late] = [planned[2]!, planned[6]!];
    // The eighth song is left out too: the seventh takes two minutes of its time, and another song the rest.
    const gap = planned[7]!.startMs;
    const text = asRunFile(planned.slice(0, 40), (rows) => {
      const moved = [formatAirTime(late.startMs + 120_000, ZONE), ...rows[6]!.slice(1)];
      const call = [formatAirTime(lost.startMs, ZONE), '20', '', 'Phone call'];
      const own = [formatAirTime(gap + 125_000, ZONE), '60', 'Artist 18', 'Réalta 58'];
      return rows.flatMap((row, n) => (n === 2 ? [call] : n === 6 ? [moved] : n === 7 ? [own] : [row]));
    });
    await server.api.put(`${STATION}/on-air`).send({ revision: 0, playerUrl: null, lateMs: 60_000, acceptAll: false });

    const tried = await take(text, { dryRun: true });
    expect(tried.rows).toBe(40);
    expect((await dayNow()).known).toBeNull();

    const taken = await take(text);
    const differences = (day: AsRunDay) => day.lines.filter(({ is }) => is !== 'as planned' && is !== 'unknown');
    expect(differences(taken.day)).toEqual(differences(tried.day));
    expect(
      differences(taken.day)
        .map(({ is }) => is)
        .sort(),
    ).toEqual(['added', 'added', 'late', 'not aired', 'not aired']);
    const again = await take(text);
    expect([again.known, again.activityId]).toEqual([40, null]);
    expect((await dayNow()).lines).toHaveLength(planned.length + 2);
    // The unknown title is shown as not in the library; nothing is decided, so history is as it was, but for the seconds.
    expect(differences(taken.day).find(({ aired }) => aired?.title === 'Phone call')?.aired?.known).toBe(false);
    expect((await playsOf(TOMORROW)).map(({ itemId }) => itemId)).toEqual(planned.map(({ itemId }) => itemId));

    const key = (is: string): string => taken.day.lines.find((line) => line.is === is)!.key;
    const one = await server.api.put(`${DAY}/decisions`).send({
      revision: (await dayNow()).revision,
      single: { [key('not aired')]: 'accepted', [key('late')]: 'dismissed' },
    });
    expect(one.status).toBe(200);
    expect((await playsOf(TOMORROW)).some(({ startMs }) => startMs === lost.startMs)).toBe(false);
    expect((await playsOf(TOMORROW)).some(({ startMs }) => startMs === late.startMs)).toBe(true);

    const all = await server.api.put(`${DAY}/decisions`).send({ revision: (await dayNow()).revision, all: 'accepted' });
    const counted = await playsOf(TOMORROW);
    expect(counted).toContainEqual({ itemId: 'song58', startMs: gap + 125_000 });
    expect(counted.some(({ itemId, startMs }) => itemId === late.itemId && startMs === late.startMs + 120_000)).toBe(
      true,
    );
    const stale = await server.api.put(`${DAY}/decisions`).send({ revision: 1, all: 'dismissed' });
    expect(stale.status).toBe(409);

    // What aired stays counted whatever is done to the log afterwards.
    const { revision, log } = await logOf();
    const entryId = allEntries(log).at(-1)!.id;
    await server.api.post(`${STATION}/logs/${TOMORROW}/edits`).send({ revision, edit: { type: 'open', entryId } });
    expect(await playsOf(TOMORROW)).toHaveLength(counted.length - 1);

    for (const { activityId } of [all.body, one.body, taken] as { activityId: string }[])
      expect((await server.api.post(`/api/activity/${activityId}/undo`).send()).status).toBe(200);
    expect((await dayNow()).known).toBeNull();
    expect((await playsOf(TOMORROW)).some(({ startMs }) => startMs === lost.startMs)).toBe(true);
  });

  it('of a day without a log becomes its plays, and undoing brings back what was known of it', async () => {
    const date = '2026-11-20';
    const known = { itemId: 'song5', startMs: Date.UTC(2026, 10, 20, 10), stationId: 'vale', date, logId: null };
    const { PlayEntity } = await import('./db/entities/index.js');
    await server.services.store.writeUnrecorded((em) => em.insertMany(PlayEntity, [known] as never[]));
    const text = 'start,duration,artist,title\n09:58:00,120,Artist 1,Réalta 1\n10:01:00,200,Artist 2,Realta 2\n';
    const answer = await server.api
      .post(`${STATION}/as-run/${date}`)
      .send({ text, fileName: 'old.csv', layout: null, dryRun: false });
    expect((await playsOf(date)).map(({ itemId }) => itemId)).toEqual(['song1', 'song2']);
    const undone = await server.api.post(`/api/activity/${(answer.body as AsRunOutcome).activityId}/undo`).send();
    expect([undone.status, undone.body]).toEqual([200, expect.anything()]);
    expect((await playsOf(date)).map(({ itemId }) => itemId)).toEqual(['song5']);
  });

  it.each([
    ['', 'fileName'],
    ['a,b\n1,2\n', 'No column is named'],
    ['start,title\n99:00,x\n', 'Line 2'],
    ['{"format": "fuller-as-run"', 'not JSON'],
  ])('that cannot be read is refused in words, and nothing is written: %j', async (text, words) => {
    const answer = await server.api.post(DAY).send({ text, fileName: 'x', layout: null, dryRun: false });
    expect(answer.status).toBe(400);
    if (text) expect((answer.body as { message: string }).message).toContain(words);
    expect((await dayNow()).known).toBeNull();
  });
});

describe('a player', () => {
  /** A player of the log of tomorrow, from 6 in the morning, and a stream. */
  async function player(
    rate: number,
  ): Promise<{ folder: string; start: () => Promise<() => Promise<void>>; url: () => string }> {
    const folder = await mkdtemp(path.join(os.tmpdir(), 'fuller-playout-'));
    const stream = await startStream({ port: 0, controlPort: 0, password: 'swan' });
    const settings = {
      date: TOMORROW,
      pattern: '{HH}.xspf',
      format: 'xspf',
      hourly: true,
      withoutAudio: 'keep with cart',
      cues: true,
    };
    const written = await server.api.post(`${STATION}/hand-over`).send(settings);
    expect([written.status, written.body]).toEqual([200, expect.objectContaining({})]);
    const files = (written.body as { folder: string }).folder;
    let url = '';
    let port = 0;
    const start = async () => {
      const playout = new Playout({
        files,
        folder: path.join(folder, 'player'),
        port,
        token: 'lock',
        timeZone: ZONE,
        station: 'Vale',
        rate,
        atMs: Date.UTC(2026, 10, 24, 6),
        stream: {
          host: '127.0.0.1',
          port: stream.port,
          password: 'swan',
          name: 'Vale',
          description: '',
          reconnectMs: 1000,
        },
      });
      const running = await playout.start();
      url = running.url;
      port = Number(new URL(url).port);
      return running.stop;
    };
    stops.push(
      () => rm(folder, { recursive: true, force: true }),
      () => stream.stop(),
    );
    return { folder, start, url: () => url };
  }

  it('is followed as it plays, over its own end and a new start of Fuller, and nothing is counted twice', async () => {
    const made = await player(3600);
    let stop = await made.start();
    stops.push(() => stop());
    const { revision } = (await server.api.get(`${STATION}/on-air`)).body.settings as { revision: number };
    const form = { revision, playerUrl: made.url(), token: 'lock', lateMs: 60_000, acceptAll: true };
    expect((await server.api.put(`${STATION}/on-air`).send(form)).status).toBe(200);
    await server.services.onAir.begin();
    const view = async (): Promise<OnAir['player']> =>
      ((await server.api.get(`${STATION}/on-air`)).body as OnAir).player;
    await until(async () => ((await view()).view?.stream?.state === 'connected' ? true : null));
    const own = await server.api.post(`${STATION}/on-air/commands`).send({ do: 'play-item', itemId: 'song58' });
    expect(own.status).toBe(200);
    await until(async () => ((await dayNow()).lines.filter(({ aired }) => aired).length > 12 ? true : null));
    await stop();
    await until(async () => ((await view()).state === 'unreachable' ? true : null));
    stop = await made.start();
    await until(async () => ((await view()).state === 'connected' ? true : null));
    await until(async () => ((await dayNow()).known!.untilMs > Date.UTC(2026, 10, 24, 12) ? true : null));

    const { lines } = await dayNow();
    const added = lines.filter(({ is }) => is === 'added');
    expect(added.map(({ aired }) => aired!.title)).toEqual(['Réalta 58']);
    const aired = lines.flatMap((line) => (line.aired ? [`${line.aired.title} ${line.aired.startMs}`] : []));
    expect(new Set(aired).size).toBe(aired.length);
    const journal = await readFile(path.join(made.folder, 'player', 'events.jsonl'), 'utf8');
    const told = journal
      .split('\n')
      .flatMap((line) => (line ? [JSON.parse(line) as { type: string; row: { entryId: string } }] : []));
    const ended = told.filter(({ type }) => type === 'aired').map(({ row }) => row.entryId);
    expect(new Set(ended).size).toBe(ended.length);
    expect((await playsOf(TOMORROW)).some(({ itemId }) => itemId === 'song58')).toBe(true);

    const refused = await server.api.post(`${STATION}/on-air/commands`).send({ do: 'go' });
    expect([refused.status, (refused.body as { message: string }).message]).toEqual([
      502,
      'The player does not wait for anybody.',
    ]);
  });

  it('that is not there, or does not let Fuller in, is told in words', async () => {
    const made = await player(1);
    stops.push(await made.start());
    const set = async (playerUrl: string | null, token: string) => {
      const { revision } = (await server.api.get(`${STATION}/on-air`)).body.settings as { revision: number };
      return server.api.put(`${STATION}/on-air`).send({ revision, playerUrl, token, lateMs: 60_000, acceptAll: true });
    };
    await set(made.url(), 'wrong');
    const wrong = await server.api.post(`${STATION}/on-air/commands`).send({ do: 'skip' });
    expect((wrong.body as { message: string }).message).toContain('does not accept the token');
    await set('http://127.0.0.1:9', 'lock');
    const gone = await server.api.post(`${STATION}/on-air/live`).send({ name: '', password: 'x' });
    expect((gone.body as { message: string }).message).toBe('Nobody answers at http://127.0.0.1:9.');
    expect((await set('ftp://x/y', 'lock')).status).toBe(400);
    await set(null, '');
  });
});

describe('the spots of a sponsor', () => {
  it('are proved from what aired, as a table and on paper', async () => {
    const { revision, log } = await logOf();
    const entry = { kind: 'break', id: 'br1', bookedAtMs: 0, durationMs: 60_000, note: '' };
    const { entries } = log.hours[8]!;
    const put = { type: 'insert', at: { hourIndex: 8, beforeId: entries[2]!.id }, entry };
    const spots = {
      type: 'spots',
      entryId: 'br1',
      spots: [
        { ...SPOT, id: 's1' },
        { ...SPOT, id: 's2', cart: 'SP2' },
      ],
    };
    const edited = await server.api
      .post(`${STATION}/logs/${TOMORROW}/edits`)
      .send({ revision, edit: { type: 'batch', edits: [put, spots] } });
    expect([edited.status, edited.body]).toEqual([200, expect.anything()]);
    await take(
      'start,length,cart,title,kind\n08:00:00,10,zz,ID,liner\n08:07:00,30,SP1,Loaves,spot\n08:50:00,30,X1,Other,song\n',
    );
    const span = `from=${TOMORROW}&to=${TOMORROW}`;
    expect((await server.api.get(`${STATION}/sponsors?${span}`)).body).toEqual(['BAKERY']);
    const proof = await server.api.get(`${STATION}/sponsor-proof?sponsor=bakery&${span}`);
    expect((proof.body as { rows: object[] }).rows).toMatchObject([
      { cart: 'SP1', aired: '08:07:00', durationMs: 30_000 },
      { cart: 'SP2', aired: null },
    ]);
    const csv = await server.api.get(`${STATION}/sponsor-proof.csv?sponsor=BAKERY&${span}`);
    expect(csv.text).toContain('not aired,SP2');
    const pdf = await server.api.get(`${STATION}/sponsor-proof.pdf?sponsor=BAKERY&${span}`);
    expect((pdf.body as Buffer).subarray(0, 4).toString()).toBe('%PDF');
    expect((await server.api.get(`${STATION}/sponsors?from=2026-01-01&to=2026-12-31`)).status).toBe(400);
  });
});
