import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { cpSync, existsSync, readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { addDays } from '@fuller/core';
import { fuller, PROGRAM, removeFolder, startServer, temporaryFolder, type RunningServer } from './support/fuller.js';

const today = new Date().toLocaleDateString('sv', { timeZone: 'Europe/Dublin' });
const ROWS = 30_000;
const KILLS = Number(process.env['FULLER_KILLS'] ?? 5);
let dataDir: string;
let server: RunningServer;

const get = async <T>(address: string): Promise<T> => (await (await fetch(`${server.url}/api${address}`)).json()) as T;
const send = async <T>(address: string, body: object | FormData): Promise<T> => {
  const form = body instanceof FormData;
  const answer = await fetch(`${server.url}/api${address}`, {
    method: 'POST',
    body: form ? body : JSON.stringify(body),
    headers: { 'x-client': 'test', ...(form ? {} : { 'content-type': 'application/json' }) },
  });
  return (await answer.json()) as T;
};
const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

beforeAll(async () => {
  dataDir = temporaryFolder();
  expect(fuller('init', '--data', dataDir, '--demo', '--weeks', '0').status).toBe(0);
  server = await startServer(dataDir);
});
afterAll(async () => {
  await server.stop();
  removeFolder(dataDir);
});

/** Kills the server as it works, and starts it again on the same data. */
async function killAndRestart(): Promise<void> {
  await server.kill();
  server = await startServer(dataDir);
}

describe('after being killed in the middle', () => {
  it.each([60, 250, 600])(
    '%d ms into writing an import, all of it is there or nothing',
    async (ms) => {
      const csv = [
        'Title,Artist,Cart',
        ...Array.from({ length: ROWS }, (_, index) => `Crash${ms}x ${index},Act ${index},K${ms}-${index}`),
      ].join('\n');
      const form = new FormData();
      form.append('file', new Blob([csv]), 'crash.csv');
      const session = await send<{ id: string }>('/stations/osier-vale/imports', form);
      const job = await send<{ id: string }>(`/imports/${session.id}/commit`, {});
      for (;;) {
        const state = (await get<{ id: string; doing: string; state: string }[]>('/jobs')).find(
          (one) => one.id === job.id,
        )!;
        if (state.doing.startsWith('Writing') || state.state !== 'running') break;
        await pause(5);
      }
      await pause(ms);
      await killAndRestart();
      const { total } = await get<{ total: number }>(
        `/stations/osier-vale/items?q=${encodeURIComponent(`crash${ms}x`)}`,
      );
      expect([0, ROWS]).toContain(total);
      const { items } = await get<{ items: number }>('/stations/osier-vale/catalogue');
      expect((items - 1708) % ROWS).toBe(0);
    },
    90_000,
  );

  it('of a week’s generation, no log of it is there', async () => {
    const from = addDays(today, 20);
    await send('/stations/osier-vale/generate', { from, days: 7 });
    await pause(900);
    await killAndRestart();
    const days = await get<{ state: string }[]>(`/stations/osier-vale/days?from=${from}&count=7`);
    expect(new Set(days.map((day) => day.state))).toEqual(new Set(['none']));
  });

  it.each([0, 3, 12])(
    '%d ms into a hand-over, no file is half-written',
    async (ms) => {
      const body = { date: today, pattern: '{date}_{hour}.m3u8', hourly: true };
      void send('/stations/osier-vale/hand-over', body).catch(() => null);
      await pause(ms);
      await server.kill();
      const folder = path.join(dataDir, 'hand-over/osier-vale-radio');
      server = await startServer(dataDir);
      for (const name of existsSync(folder) ? readdirSync(folder) : [])
        expect(name).toMatch(/^\d{4}-\d\d-\d\d_\d\d\.m3u8(?:\.manifest\.json)?$/);
      expect((await fetch(`${server.url}/api/health`)).status).toBe(200);
    },
    60_000,
  );
});

describe('hand-overs that are killed at any moment', () => {
  it(`leave no half file under its name and no manifest that disagrees, ${KILLS} times`, async () => {
    const data = temporaryFolder();
    cpSync(path.join(process.env['FULLER_E2E_DEMO']!, '0'), data, { recursive: true });
    const out = path.join(data, 'player');
    const args = (n: number): string[] => {
      const to = ['export', '--data', data, '--date', addDays(today, 1), '--out', out, '--hourly', '--json'];
      return [PROGRAM, ...to, '--pattern', '{HH}.m3u8', ...(n % 2 === 0 ? ['--crlf'] : [])];
    };
    let [whole, cut] = [0, 0];
    for (let n = 0; n < KILLS; n++) {
      const child = spawn(process.execPath, args(n), {
        stdio: 'ignore',
        env: { ...process.env, FULLER_LOG: 'silent' },
      });
      const ended = new Promise((resolve) => child.on('exit', (_code, signal) => resolve(signal)));
      // Most of the time goes into starting; what is written falls into the last part of it.
      await Promise.race([ended, pause(350 + Math.random() * 900)]);
      child.kill('SIGKILL');
      if ((await ended) === null) whole++;
      else cut++;
      const names = existsSync(out) ? readdirSync(out).filter((name) => !name.includes('fuller-part')) : [];
      for (const name of names.filter((one) => one.endsWith('.m3u8')))
        expect(readFileSync(path.join(out, name), 'utf8')).toMatch(/^#EXTM3U\r?\n(?:#EXTINF:.*\r?\n[^#\n]+\n)*$/);
      for (const name of names.filter((one) => one.endsWith('.manifest.json'))) {
        const { files } = JSON.parse(readFileSync(path.join(out, name), 'utf8')) as {
          files: { name: string; sha256: string }[];
        };
        for (const file of files) {
          const bytes = readFileSync(path.join(out, file.name));
          expect(createHash('sha256').update(bytes).digest('hex')).toBe(file.sha256);
        }
      }
    }
    process.stderr.write(`${cut} killed, ${whole} had ended before\n`);
    expect(spawnSync(process.execPath, args(1), { encoding: 'utf8' }).status).not.toBeNull();
    expect(readdirSync(out).sort()).toHaveLength(25);
    removeFolder(data);
  });
});

describe('a file that is too large', () => {
  it('is refused with its limit, and nothing of it stays', async () => {
    // Imports that were open when the server was killed are open still.
    const before = readdirSync(path.join(dataDir, 'uploads')).sort();
    const form = new FormData();
    form.append('file', new Blob([Buffer.alloc(200 * 1024 * 1024, 65)]), 'big.csv');
    const answer = await send<{ code: string; message: string }>('/stations/osier-vale/imports', form);
    expect(answer).toMatchObject({ code: 'TOO_LARGE', message: expect.stringContaining('64 MB') });
    await pause(200);
    expect(readdirSync(path.join(dataDir, 'uploads')).sort()).toEqual(before);
  });
});
