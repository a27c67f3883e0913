import { type ChildProcess, spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { AsRunDay, HandOverPreview, LogView, OnAir, PlayerState } from '@fuller/contracts';
import { addDays, hoursOfDay, itemOf, type AiredRow, type DailyLog } from '@fuller/core';
import { trafficFile, type Contract } from '@fuller/standins/traffic';
import { startServer, ROOT, type RunningServer } from './support/fuller.js';
import { scene } from './support/scene.js';

const ZONE = 'Europe/Dublin';
const stage = scene(0);
const today = new Date().toLocaleDateString('sv', { timeZone: ZONE });
const date = addDays(today, 1);
const START = hoursOfDay(date, ZONE)[0]!.startMs;
const END = hoursOfDay(addDays(date, 1), ZONE)[0]!.startMs;
const KILLS = Number(process.env['FULLER_KILLS'] ?? 8) / 2;

let server: () => RunningServer;
const api = async <T>(method: string, address: string, body?: object): Promise<T> => {
  const answer = await fetch(`${server().url}/api/stations/osier-vale${address}`, {
    method,
    headers: { 'content-type': 'application/json', 'x-client': 'test' },
    ...(body ? { body: JSON.stringify(body) } : {}),
  });
  const json = (await answer.json()) as T;
  if (!answer.ok) throw new Error(`${method} ${address}: ${JSON.stringify(json)}`);
  return json;
};
const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
const until = async (holds: () => Promise<boolean>, tries = 1200): Promise<void> => {
  for (let n = 0; n < tries; n++) {
    if (await holds().catch(() => false)) return;
    await pause(100);
  }
  throw new Error('it did not come about');
};
const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as AddressInfo;
      probe.close(() => resolve(port));
    });
  });
const player = async (): Promise<PlayerState | null> => (await api<OnAir>('GET', '/on-air')).player.view;
const generated = async (from: string): Promise<DailyLog> => {
  const job = await api<{ id: string }>('POST', '/generate', { from, days: 1, seed: 5 });
  let state = '';
  await until(async () => {
    const jobs = (await (await fetch(`${server().url}/api/jobs`)).json()) as { id: string; state: string }[];
    state = jobs.find(({ id }) => id === job.id)?.state ?? '';
    return state !== 'running';
  });
  expect(state).toBe('done');
  return (await api<{ log: DailyLog }>('GET', `/logs/${from}`)).log;
};

/** As Fuller starts them: they make little garbage at a time. */
const SMALL = ['--max-semi-space-size=1', '--max-old-space-size=96'];
/** The stand-ins as real processes, on ports of their own. */
const processes: ChildProcess[] = [];
const run = (script: string, ...args: string[]): ChildProcess => {
  const child = spawn(process.execPath, [...SMALL, path.join(ROOT, 'dist', `${script}.js`), ...args], {
    stdio: ['pipe', 'ignore', 'inherit'],
  });
  processes.push(child);
  return child;
};
const ports = { player: 0, stream: 0, control: 0 };
let files = '';
const startPlayer = (): ChildProcess =>
  run(
    'standin-playout',
    ...['--files', files, '--folder', path.join(stage.dataDir, 'player'), '--port', String(ports.player)],
    ...['--token', 'lock', '--zone', ZONE, '--station', 'Vale', '--clock', new Date(START).toISOString()],
    ...['--stream-port', String(ports.stream), '--stream-password', 'swan', '--reconnect', '10'],
  );
const residentMb = ({ pid }: ChildProcess): number =>
  Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1]) / 1024;

beforeAll(async () => {
  server = () => stage.server;
  for (const name of ['player', 'stream', 'control'] as const) ports[name] = await freePort();
});
afterAll(() => {
  for (const child of processes) child.kill('SIGKILL');
});

describe('a day on the air', () => {
  let log: DailyLog;
  let lost = '';
  let silencesPlanned = 0;
  let playout: ChildProcess;
  let stream: ChildProcess;

  stage.act(
    'is generated, booked, handed over, and taken by a player that is connected by its address',
    async (desk) => {
      log = await generated(date);
      const contract = JSON.parse(
        readFileSync(path.join(stage.dataDir, 'traffic', '.contract.json'), 'utf8'),
      ) as Contract;
      await api('POST', `/logs/${date}/traffic`, {
        text: trafficFile(contract, date),
        fileName: 'spots.txt',
        dryRun: false,
      });
      const settings = {
        date,
        pattern: '{date}.xspf',
        format: 'xspf',
        hourly: false,
        withoutAudio: 'keep with cart',
        cues: true,
      };
      silencesPlanned = (await api<HandOverPreview>('POST', '/hand-over/preview', settings)).silences.length;
      files = (await api<{ folder: string }>('POST', '/hand-over', settings)).folder;
      stream = run(
        'standin-stream',
        '--port',
        String(ports.stream),
        '--control-port',
        String(ports.control),
        '--password',
        'swan',
      );
      playout = startPlayer();
      await desk.goto('/osier-vale/on-air');
      await desk.clickOn('#player-address');
      await desk.press('Control+a');
      await desk.type(`http://127.0.0.1:${ports.player}`);
      await desk.clickOn('#player-token');
      await desk.type('lock');
      await desk.press('Enter');
      await desk.sees('.now .title', /\w/);
      await desk.sees('f-device-panel', 'Stream Connected since');
      await desk.sees('.queue', '00:0');
    },
  );

  stage.act(
    'loses a file, is given a song by the presenter, loses its stream twice, and plays to its end',
    async (desk) => {
      await desk.click('Try what happens');
      lost = (await player())!.next.find(({ kind }) => kind === 'song')!.title;
      await desk.click('Lose the file of the next song');
      await desk.clickOn('#play-next');
      await desk.type('lantern');
      await desk.page.waitForSelector('.p-autocomplete-option', { visible: true });
      await desk.press('Enter');
      await desk.sees('.queue tbody tr', /\d\d:\d\d:\d\d/);
      await until(async () => {
        const { next, playing } = (await player())!;
        return [playing, next[0]].some((row) => row?.by === 'presenter');
      });
      await desk.choose('#rate', '3,600 times as fast');
      for (const n of [1, 2]) {
        await pause(2500);
        await desk.click('Drop the stream');
        await until(
          async () =>
            (await player())!.stream!.sinceMs > START + n * 1000 && (await player())!.stream!.state === 'connected',
        );
      }
      await until(async () => ((await player())?.nowMs ?? 0) > END + 600_000);
      expect(residentMb(playout)).toBeLessThan(120);
      expect(residentMb(stream)).toBeLessThan(120);
    },
  );

  stage.act('aired as planned but for what was done to it, and each difference is named', async (desk) => {
    const day = await api<AsRunDay>('GET', `/as-run/${date}`);
    const differences = day.lines.filter(({ is }) => is !== 'as planned' && is !== 'unknown');
    expect(differences.map(({ is, why, planned }) => [is, why, planned?.title ?? ''])).toEqual(
      expect.arrayContaining([
        ['not aired', 'file missing', lost],
        ['added', '', ''],
      ]),
    );
    // Whatever else differs had no time left before a hard start, or was cut by it, as the added song takes time,
    // or moved by no more than the two songs differ in length.
    const others = differences.filter(({ is, why }) => is !== 'added' && why !== 'file missing');
    const lengthOf = (key: string): number =>
      differences.find(({ is, why }) => is === key || why === key)?.[key === 'added' ? 'aired' : 'planned']
        ?.durationMs ?? 0;
    const differenceMs = Math.abs(lengthOf('added') - lengthOf('file missing'));
    const explained = others.filter(
      ({ is, why, byMs }) =>
        is === 'cut short' ||
        why === 'no time left before a hard start' ||
        ((is === 'early' || is === 'late') && Math.abs(byMs) <= differenceMs + 1000),
    );
    expect(explained).toEqual(others);
    expect(differences.length).toBeLessThan(8);
    // Every hard start of the day was met within a second.
    const hard = new Map(
      log.hours.flatMap(({ entries }) =>
        entries.flatMap(({ id, mark }) => (mark?.hard ? [[`${date}/${id}`, mark.atMs]] : [])),
      ),
    );
    const journal = readFileSync(path.join(stage.dataDir, 'player', 'events.jsonl'), 'utf8')
      .trim()
      .split('\n');
    const aired = journal
      .map((line) => JSON.parse(line) as { type: string; row: AiredRow })
      .filter(({ type }) => type === 'aired')
      .map(({ row }) => row);
    for (const { entryId, startMs } of aired)
      if (hard.has(entryId)) expect(Math.abs(startMs - hard.get(entryId)!)).toBeLessThan(1000);
    const own = aired.filter(({ startMs }) => startMs >= START && startMs < END).sort((a, b) => a.startMs - b.startMs);
    const silences = own
      .slice(1)
      .map(({ startMs }, n) => startMs - Math.max(...own.slice(0, n + 1).map(({ endMs }) => endMs)));
    // The lost song leaves its time open before the next mark, and nothing else does but what the log leaves open.
    expect(silences.filter((ms) => ms > 2000).length).toBeLessThanOrEqual(silencesPlanned + 1);
    expect(silencesPlanned).toBeLessThan(12);

    await desk.goto(`/osier-vale/on-air/as-run/${date}`);
    await desk.sees('table', 'not aired: file missing');
    await desk.sees('table', 'added by the presenter');
    const before = (await api<AsRunDay>('GET', `/as-run/${date}`)).lines.length;
    await (await desk.page.$('input[type=file]'))!.uploadFile(
      path.join(stage.dataDir, 'player', `as-run-${date}.json`) as never,
    );
    await desk.sees('.incoming', /([\d,]+) plays, \1 of them known already/);
    await desk.click('Import', '.incoming');
    await desk.sees('.sum', 'Known from 00:00');
    expect((await api<AsRunDay>('GET', `/as-run/${date}`)).lines).toHaveLength(before);
  });

  stage.act('is what the day after it is kept apart from', async () => {
    const next = addDays(date, 1);
    const firstSongs = async (made: DailyLog): Promise<{ title: string; artist: string }[]> => {
      const { items } = await api<LogView>('GET', `/logs/${next}`);
      const byId = new Map(items.map((item) => [item.id, item]));
      const entries = made.hours.slice(0, 2).flatMap((hour) => hour.entries);
      return entries.flatMap((entry) => byId.get(itemOf(entry) ?? '') ?? []).filter(({ kind }) => kind === 'song');
    };
    const [song] = await firstSongs(await generated(next));
    const csv = `start,duration,artist,title\n23:50:00,200,"${song!.artist}","${song!.title}"\n`;
    await api('POST', `/as-run/${date}`, { text: csv, fileName: 'call.csv', layout: null, dryRun: false });
    const titles = (await firstSongs(await generated(next))).map(({ title }) => title);
    expect(titles.length).toBeGreaterThan(15);
    expect(titles).not.toContain(song!.title);
  });

  it('goes on whenever Fuller or the player is killed: nothing airs twice, nothing is lost', async () => {
    await api('POST', '/on-air/commands', { do: 'rate', rate: 60 });
    for (let n = 0; n < KILLS; n++) {
      await pause(300 + Math.random() * 1500);
      if (n % 2 === 0) {
        playout.kill('SIGKILL');
        await pause(100);
        playout = startPlayer();
      } else {
        await stage.server.kill();
        stage.server = await startServer(stage.dataDir);
      }
      await until(async () => (await player()) !== null);
    }
    const journal = readFileSync(path.join(stage.dataDir, 'player', 'events.jsonl'), 'utf8')
      .trim()
      .split('\n');
    const rows = journal.map((line) => JSON.parse(line) as { type: string; row: AiredRow });
    const aired = rows.filter(({ type }) => type === 'aired').map(({ row }) => row);
    expect(new Set(aired.map(({ entryId }) => entryId)).size).toBe(aired.length);
    // Everything the player has logged is known to Fuller, once.
    await until(async () => {
      const dates = [date, addDays(date, 1)];
      const days = await Promise.all(dates.map((one) => api<AsRunDay>('GET', `/as-run/${one}`)));
      // A sweeper over an intro starts with its song: a play is its start and its title.
      const nameOf = (play: { startMs: number; title: string }): string => `${play.startMs} ${play.title}`;
      const known = days.flatMap(({ lines }) => lines.flatMap((line) => (line.aired ? [nameOf(line.aired)] : [])));
      expect(new Set(known).size).toBe(known.length);
      return aired.filter(({ startMs }) => startMs >= START).every((row) => known.includes(nameOf(row)));
    });
  });
});
