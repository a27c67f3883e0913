import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { fuller, fullerGiven } from '../testing/run-fuller.js';

const folder = mkdtempSync(path.join(os.tmpdir(), 'fuller-cli-care-'));
const at = (name: string): string => path.join(folder, name);
const data = at('data');
const table = at('songs.csv');
const tomorrow = new Date(Date.now() + 86_400_000).toISOString().slice(0, 10);

beforeAll(() => {
  expect(fuller('init', '--data', data, '--json').code).toBe(0);
  writeFileSync(table, 'title,artist,duration,file,cart\nHarbour,Nora Weir,3:10,harbour.mp3,C7001\n');
});
afterAll(() => rmSync(folder, { recursive: true }));

/** A connection kept open would be closed by the server while the command line runs in between. */
const ALONE = { connection: 'close' };

/** A server on the data, until it is stopped. */
async function served(): Promise<{ url: string; stop: () => Promise<void> }> {
  const args = ['bin/fuller', 'serve', '--data', data, '--port', '0', '--json'];
  const child: ChildProcess = spawn(process.execPath, args, { stdio: ['ignore', 'pipe', 'ignore'] });
  const url = await new Promise<string>((resolve) => {
    child.stdout!.on('data', (part: Buffer) => {
      const found = /"url":"([^"]+)"/.exec(part.toString());
      if (found) resolve(found[1]!);
    });
  });
  const gone = new Promise<void>((resolve) => child.on('exit', () => resolve()));
  return {
    url,
    async stop() {
      child.kill();
      await gone;
    },
  };
}

type Asks = (method: string, where: string, body?: object) => Promise<{ id: string; rows: { id: string }[] }>;

/** Asks a server as the owner of the data. */
function asOwner(url: string): Asks {
  const { token } = JSON.parse(readFileSync(path.join(data, 'owner.json'), 'utf8')) as { token: string };
  const headers = { 'content-type': 'application/json', 'x-client': 'test', 'x-owner': token, ...ALONE };
  return async (method, where, body) => {
    const answer = await fetch(`${url}/api/stations/station/${where}`, {
      method,
      headers,
      ...(body ? { body: JSON.stringify(body) } : {}),
    });
    expect([where, answer.status]).toEqual([where, 200]);
    return (await answer.json()) as never;
  };
}

/** What one song needs to fill a day: a category, a clock, a week. */
async function setUp(url: string): Promise<void> {
  const ask = asOwner(url);
  const { rows } = await ask('GET', 'items');
  const category = { name: 'Gold', code: 'G', colour: '#1F6FA8', music: true, groupId: null, turnOrder: 'random' };
  const { id: categoryId } = await ask('POST', 'categories', category);
  await ask('POST', 'placements', { itemIds: rows.map(({ id }) => id), categoryId });
  const lines = [{ id: 'one', kind: 'pick', categoryId, comment: '' }];
  const { id: defaultClockId } = await ask('POST', 'clocks', { name: 'Day', colour: '#D1862B', lines });
  await ask('PUT', 'week', { revision: 1, defaultClockId });
}

describe('looking after data by the command line', () => {
  it('backs up beside a running server, and restores over other data, which is kept', async () => {
    const server = await served();
    const out = at('kept/backup.db');
    const made = fuller('backup', '--data', data, '--out', out, '--json');
    expect([made.code, made.json()]).toEqual([0, expect.objectContaining({ file: out, items: 0 })]);
    expect(fuller('backup', '--data', data, '--out', out).err).toMatch(/is there already/);
    // Through the server that has the data, without an account.
    expect(fuller('import', 'library', table, '--data', data, '--json').json()).toMatchObject({ added: 1 });
    const refused = fuller('restore', out, '--data', data);
    expect([refused.code, refused.err]).toEqual([2, expect.stringMatching(/stop it first/)]);
    await server.stop();
    const restored = fuller('restore', out, '--data', data, '--json');
    expect([restored.code, restored.json()['items']]).toEqual([0, 0]);
    const kept = readdirSync(path.join(data, 'backups')).filter((name) => name.startsWith('before-restore-'));
    expect(kept).toHaveLength(1);
    const back = fuller('restore', path.join(data, 'backups', kept[0]!), '--data', at('new'), '--json');
    expect([back.code, back.json()['items']]).toEqual([0, 1]);
    expect(existsSync(at('new/fuller.db'))).toBe(true);
  });

  it('works on a server anywhere with a token, as far as its rights go', async () => {
    const server = await served();
    const token = async (...rights: string[]): Promise<string> => {
      const body = JSON.stringify({ name: 'Night', rights, stationIds: null, days: 1 });
      const owner = JSON.parse(readFileSync(path.join(data, 'owner.json'), 'utf8')) as { token: string };
      const headers = { 'content-type': 'application/json', 'x-client': 'test', 'x-owner': owner.token, ...ALONE };
      const made = await fetch(`${server.url}/api/tokens`, { method: 'POST', headers, body });
      return ((await made.json()) as { token: string }).token;
    };
    const run = (...args: string[]) => fuller(...args, '--data', server.url, '--json');
    expect(run('verify')).toMatchObject({ code: 2, out: expect.stringMatching(/FULLER_TOKEN/) });
    process.env['FULLER_TOKEN'] = await token('look', 'library');
    expect(run('import', 'library', table).json()).toMatchObject({ read: 1 });
    expect(run('verify').json()).toMatchObject({ error: { code: 'FORBIDDEN' } });
    expect(run('export', '--date', tomorrow, '--out', at('far')).json()).toMatchObject({
      error: { code: 'FORBIDDEN' },
    });
    process.env['FULLER_TOKEN'] = await token('care');
    expect(run('verify').json()).toHaveProperty('findings');
    // A day from nothing to files, by tokens alone, written on this computer.
    await setUp(server.url);
    process.env['FULLER_TOKEN'] = await token('look', 'logs', 'hand-over');
    const day = ['--date', tomorrow];
    const name = `my-station_${tomorrow}.m3u8`;
    expect(run('generate', '--from', tomorrow).json()['days']).toMatchObject([{ filled: 24, open: [] }]);
    const taken = run('export', ...day, '--out', at('far'), '--keep-carts');
    expect(taken.json()).toMatchObject({ folder: at('far'), entries: 24, files: [name] });
    expect(readdirSync(at('far')).sort()).toEqual([name, `${name}.manifest.json`]);
    expect(readFileSync(at(`far/${name}`), 'utf8')).toContain('C7001');
    const asked = { range: 'this week', daypartId: null, stationIds: [], categoryId: null, family: null };
    await asOwner(server.url)('POST', 'kept-reports', { name: 'Monday report', report: 'categories', asked });
    const report = run(
      'report',
      '--kept',
      'monday REPORT',
      ...['--from', tomorrow],
      '--to',
      tomorrow,
      '--out',
      at('week.pdf'),
    );
    expect(report.json()).toMatchObject({ report: 'categories', from: tomorrow, file: at('week.pdf') });
    expect(readFileSync(at('week.pdf')).subarray(0, 5).toString()).toBe('%PDF-');
    process.env['FULLER_TOKEN'] = 'fuller_nothing-of-ours-at-all';
    expect(run('verify').json()).toMatchObject({ error: { code: 'SIGN_IN' } });
    delete process.env['FULLER_TOKEN'];
    await server.stop();
  });

  it('refuses what is no backup and writes nothing', () => {
    writeFileSync(at('text.db'), 'nothing of ours');
    const done = fuller('restore', at('text.db'), '--data', at('nowhere'), '--json');
    expect([done.code, existsSync(at('nowhere'))]).toEqual([2, false]);
    expect(done.json()).toMatchObject({ error: { message: expect.stringMatching(/cannot be restored/) } });
  });

  it('finds a missing file, and says so by its exit code', () => {
    const done = fuller('verify', '--data', at('new'), '--json');
    expect(done.code).toBe(4);
    expect(done.json()['findings']).toEqual([
      expect.objectContaining({ what: 'items whose file is missing', examples: ['Harbour: harbour.mp3'] }),
    ]);
    fuller('init', '--data', at('empty'));
    expect(fuller('verify', '--data', at('empty'))).toMatchObject({ code: 0, out: 'Everything adds up.\n' });
  });

  it('gives an account another password, beside a server too', async () => {
    const server = await served();
    const headers = { 'content-type': 'application/json', 'x-client': 'test' };
    const ask = (method: string, where: string, body: object): Promise<Response> =>
      fetch(`${server.url}/api/${where}`, { method, headers, body: JSON.stringify(body) });
    await ask('POST', 'session/first', { name: 'Nell', password: 'four lanes of rain' });
    expect(fullerGiven('three lanes of mist\n', 'password', 'nell', '--data', data).code).toBe(0);
    expect((await ask('POST', 'session', { name: 'Nell', password: 'four lanes of rain' })).status).toBe(401);
    const signedIn = await ask('POST', 'session', { name: 'Nell', password: 'three lanes of mist' });
    expect(await signedIn.json()).toMatchObject({ person: { mustChange: true } });
    const unknown = fullerGiven('three lanes of mist\n', 'password', 'Nobody', '--data', data);
    expect([unknown.code, unknown.err]).toEqual([2, expect.stringMatching(/there are Nell/)]);
    await server.stop();
    expect(fullerGiven('short\n', 'password', 'Nell', '--data', data)).toMatchObject({ code: 2 });
  });
});
