import { randomBytes } from 'node:crypto';
import { once } from 'node:events';
import { Agent, createServer, request, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, expect, it } from '@jest/globals';
import { ENDPOINTS, type AnyEndpoint } from '@fuller/contracts';
import { pino } from 'pino';
import { createApp } from '../app.js';
import { testServer, type TestServer } from '../testing/test-server.js';
import { WITHOUT_ACCOUNTS } from './access-options.js';
import { COOKIE } from './access-service.js';

const REQUESTS = 10_000;
const AT_ONCE = 20;
const ALL = (Object.entries(ENDPOINTS) as unknown as [string, AnyEndpoint][]).filter(
  ([, { right }]) => right !== 'anybody',
);

let server: TestServer;
let listening: Server;
let port: number;
/** A session of somebody who directs the other station alone. */
let nightSession = '';
const agent = new Agent({ keepAlive: false, maxSockets: AT_ONCE });

beforeAll(async () => {
  server = await testServer();
  const { people, sessions } = server.services;
  const actor = { personId: null, clientId: 'test', stationId: null };
  await people.first('test', 'Nell', 'four lanes of rain');
  const roles = [{ stationId: 'night', role: 'director' as const, showIds: [] }];
  const { value } = await people.create(actor, { name: 'Owl', password: 'three lanes of mist', roles }, true);
  nightSession = await sessions.begin(value, '127.0.0.1', 'test');
  const app = createApp(server.services, {
    log: pino({ level: 'silent' }),
    webDir: null,
    hosts: ['127.0.0.1'],
    access: { ...WITHOUT_ACCOUNTS, accounts: true },
  });
  listening = createServer(app).listen(0, '127.0.0.1');
  await once(listening, 'listening');
  port = (listening.address() as AddressInfo).port;
});
afterAll(async () => {
  agent.destroy();
  listening.closeAllConnections();
  listening.close();
  await server.close();
});

function ask(method: string, path: string, more: Record<string, string>): Promise<number> {
  const headers = method === 'get' ? more : { ...more, 'content-length': '2' };
  return new Promise((resolve, reject) => {
    const asking = request(
      { host: '127.0.0.1', port, method: method.toUpperCase(), path, headers, agent },
      (answer) => {
        answer.resume();
        answer.on('end', () => resolve(answer.statusCode ?? 0));
      },
    );
    asking.on('error', (error) => reject(new Error(`${method} ${path}: ${error.message}`)));
    asking.end(method === 'get' ? undefined : '{}');
  });
}

const json = { 'content-type': 'application/json', 'x-client': 'test' };
const noise = (): string => randomBytes(32).toString('base64url');
const flipped = (text: string): string => {
  const at = Math.floor(Math.random() * text.length);
  return text.slice(0, at) + (text[at] === 'A' ? 'B' : 'A') + text.slice(at + 1);
};
/** What somebody tries who may not be let in; `at` is the station they ask for. */
const FORGERIES: readonly (() => { at: string; headers: Record<string, string> })[] = [
  () => ({ at: 'vale', headers: {} }),
  () => ({ at: 'vale', headers: { cookie: `${COOKIE}=${noise()}` } }),
  () => ({ at: 'night', headers: { cookie: `${COOKIE}=${flipped(nightSession)}` } }),
  () => ({ at: 'night', headers: { cookie: `${COOKIE}=j:{"$ne":""}` } }),
  () => ({ at: 'vale', headers: { authorization: `Bearer fuller_${noise()}` } }),
  () => ({ at: 'vale', headers: { 'x-owner': noise() } }),
  () => ({ at: 'vale', headers: { 'x-owner': '' } }),
  () => ({ at: 'vale', headers: { cookie: `${COOKIE}=${nightSession}` } }),
  () => ({ at: 'night', headers: { cookie: `${COOKIE}=${nightSession}`, host: 'evil.example' } }),
  () => ({ at: 'vale', headers: { 'x-forwarded-for': '127.0.0.1', 'x-forwarded-host': '127.0.0.1' } }),
];
/** With a good session, but from a page of another site: reading is the browser’s business, changing is refused. */
const FROM_ELSEWHERE: readonly Record<string, string>[] = [
  { origin: 'https://evil.example' },
  { origin: 'null' },
  { 'sec-fetch-site': 'cross-site' },
  { 'sec-fetch-site': 'same-site' },
];

it(`lets none of ${REQUESTS.toLocaleString('en-GB')} forged requests in`, async () => {
  const letIn: string[] = [];
  let asked = 0;
  const one = async (): Promise<void> => {
    while (asked < REQUESTS) {
      const n = asked++;
      const [name, { method, path }] = ALL[n % ALL.length]!;
      const foreign = method !== 'get' && n % 5 === 0;
      const { at, headers }: { at: string; headers: Record<string, string> } = foreign
        ? {
            at: 'night',
            headers: { cookie: `${COOKIE}=${nightSession}`, ...FROM_ELSEWHERE[n % FROM_ELSEWHERE.length]! },
          }
        : FORGERIES[Math.floor(Math.random() * FORGERIES.length)]!();
      // Of the other station alone: what names no station is theirs to ask for.
      const ownSession = headers['cookie'] === `${COOKIE}=${nightSession}`;
      if (ownSession && !foreign && headers['host'] === undefined && !path.includes(':stationId')) continue;
      const parts: Record<string, string> = { stationId: at, date: '2026-11-24', kind: 'clock', report: 'songs' };
      const url = path.replaceAll(/:(\w+)/g, (_, key: string) => parts[key] ?? ['day', 'gold', 'song1'][n % 3]!);
      const status = await ask(method, `/api${url}`, { ...json, ...headers });
      if (![401, 403, 429].includes(status)) letIn.push(`${name} ${status} ${JSON.stringify(headers)}`);
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, one));
  expect(letIn).toEqual([]);
});

it('hands out or changes nothing of one station under the name of another', async () => {
  const headers = { ...json, cookie: `${COOKIE}=${nightSession}` };
  const things = ['clocks/day', 'categories/gold', 'items/song57', 'shows/none', 'rules/none', 'pools/none'];
  for (const thing of things)
    for (const method of ['patch', 'put', 'delete']) {
      const status = await ask(method, `/api/stations/night/${thing}`, headers);
      expect([method, thing, status < 300]).toEqual([method, thing, false]);
    }
  const clocks = (await server.services.catalogue.catalogue('vale')).clocks.map(({ id }) => id);
  expect(clocks).toContain('day');
});
