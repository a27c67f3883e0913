import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from '@jest/globals';

/** The files an engineer copies: what they start is started here as they say it, in folders of the test. */
const UNIT = readFileSync('docs/running/fuller.service', 'utf8');
const CONTAINERFILE = readFileSync('docs/running/Containerfile', 'utf8');
const folder = mkdtempSync(path.join(os.tmpdir(), 'fuller-running-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const has = (...command: string[]): boolean => spawnSync(command[0]!, command.slice(1)).status === 0;

interface Started {
  readonly url: string;
  readonly child: ChildProcess;
  readonly ended: Promise<number | null>;
}

/** Starts a server by the words of a command line, on any port. */
async function started(words: readonly string[], env: Record<string, string>): Promise<Started> {
  const port = words.indexOf('--port');
  const args = [...words.slice(1, port), '--port', '0', '--json', ...words.slice(port + 2)];
  const child = spawn(process.execPath, args, {
    env: { ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const ended = new Promise<number | null>((resolve) => child.on('exit', resolve));
  const url = await new Promise<string>((resolve, reject) => {
    child.stdout!.on('data', (part: Buffer) => {
      const found = /"url":"([^"]+)"/.exec(part.toString());
      if (found) resolve(found[1]!.replace('0.0.0.0', '127.0.0.1'));
    });
    void ended.then((code) => reject(new Error(`it ended with ${code}`)));
  });
  return { url, child, ended };
}

/** Whether the server is well, and how it ends when it is told to, within some seconds. */
async function isWellAndEnds(
  { url, child, ended }: Started,
  seconds: number,
): Promise<[boolean, number | null | 'late']> {
  const { ok } = (await (await fetch(`${url}/healthz`)).json()) as { ok: boolean };
  child.kill('SIGTERM');
  const late = new Promise<'late'>((resolve) => setTimeout(resolve, seconds * 1000, 'late').unref());
  return [ok, await Promise.race([ended, late])];
}

describe('the service of systemd', () => {
  const setting = (name: string): string => new RegExp(`^${name}=(.*)$`, 'm').exec(UNIT)![1]!;
  const state = path.join(folder, 'state');

  it('starts a server on an empty state folder, and ends it in time when it is stopped', async () => {
    // A state folder is there before the service is, and its parent cannot be written.
    mkdirSync(state);
    const words = setting('ExecStart')
      .replace('/opt/fuller', process.cwd())
      .replace('/var/lib/fuller', state)
      .split(' ');
    expect(words[0]).toBe('/usr/bin/node');
    const server = await started(words, { NODE_ENV: 'production', FULLER_EXCHANGE_ROOTS: '' });
    expect(await isWellAndEnds(server, Number(setting('TimeoutStopSec')))).toEqual([true, 0]);
    expect(existsSync(path.join(state, 'data/fuller.db'))).toBe(true);
  });

  (has('systemd-analyze', '--version') ? it : it.skip)('is a unit that systemd finds nothing wrong with', () => {
    const copy = path.join(folder, 'fuller.service');
    writeFileSync(copy, UNIT.replace('/usr/bin/node', process.execPath).replaceAll('/opt/fuller', process.cwd()));
    const { stdout, stderr } = spawnSync('systemd-analyze', ['verify', '--man=no', copy], { encoding: 'utf8' });
    expect(`${stdout}${stderr}`.split('\n').filter((line) => line.includes('fuller.service'))).toEqual([]);
  });
});

describe('the container', () => {
  const words = (instruction: string): string[] =>
    JSON.parse(new RegExp(`^(?:HEALTHCHECK .*)?${instruction} (\\[.*\\])$`, 'm').exec(CONTAINERFILE)![1]!) as string[];

  it('runs a server on its volume, whose health is asked by its own command', async () => {
    const volume = path.join(folder, 'volume');
    mkdirSync(volume);
    const command = /^CMD (\[.*\])$/m.exec(CONTAINERFILE)![1]!;
    const server = await started(
      (JSON.parse(command) as string[]).map((word) => word.replace('/data/', `${volume}/`)),
      {},
    );
    const health = words('CMD').map((word) => word.replace('http://127.0.0.1:4600', server.url));
    expect(spawnSync(process.execPath, health.slice(1)).status).toBe(0);
    expect(await isWellAndEnds(server, 30)).toEqual([true, 0]);
    expect(spawnSync(process.execPath, health.slice(1)).status).toBe(1);
  });

  it('copies only what is there', () => {
    const copied = [...CONTAINERFILE.matchAll(/^COPY --from=build \/fuller\/(\S+)/gm)].map(([, name]) => name!);
    expect(copied.length).toBeGreaterThan(5);
    expect(copied.filter((name) => !existsSync(name))).toEqual([]);
  });

  (has('docker', 'image', 'inspect', 'node:20-slim') ? it : it.skip)(
    'is built and answers, where an engine and the image are at hand',
    () => {
      expect(has('docker', 'build', '-q', '-f', 'docs/running/Containerfile', '-t', 'fuller-test', '.')).toBe(true);
      const run = ['run', '--rm', 'fuller-test', 'node', 'bin/fuller', '--help'];
      expect(spawnSync('docker', run, { encoding: 'utf8' }).stdout).toContain('Music scheduling');
    },
    600_000,
  );
});
