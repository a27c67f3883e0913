import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { ENDPOINTS, RIGHTS_OF, ROLES, type AnyEndpoint, type Right, type Role, type RoleAt } from '@fuller/contracts';
import { pino } from 'pino';
import supertest from 'supertest';
import { createApp } from '../app.js';
import { NOW, testServer, TOMORROW, type TestServer } from '../testing/test-server.js';
import { Attempts } from './attempts.js';
import { COOKIE } from './access-service.js';
import { WITHOUT_ACCOUNTS, type AccessOptions } from './access-options.js';

const OPTIONS: AccessOptions = { ...WITHOUT_ACCOUNTS, accounts: true };
const DIRECTOR = { name: 'Nell', password: 'four lanes of rain' };
const everywhere = (role: Role): RoleAt[] => [{ stationId: null, role, showIds: [] }];

let server: TestServer;
type Browser = ReturnType<typeof supertest.agent>;
const appWith = (options: AccessOptions) =>
  createApp(server.services, { log: pino({ level: 'silent' }), webDir: null, checkAnswers: true, access: options });
/** A browser of its own, with cookies. */
const browser = (options = OPTIONS): Browser =>
  supertest.agent(appWith(options)).set('x-client', 'test') as unknown as Browser;
const signedIn = async (name: string, password: string): Promise<Browser> => {
  const one = browser();
  const answer = await one.post('/api/session').send({ name, password });
  expect([name, answer.status]).toEqual([name, 200]);
  return one;
};
/** An account whose owner has chosen a password. */
const person = async (director: Browser, name: string, roles: RoleAt[]): Promise<{ id: string; one: Browser }> => {
  const [given, own] = [`given to ${name} first`, `chosen by ${name} then`];
  const made = await director.post('/api/people').send({ name, password: given, roles });
  expect([made.status, made.body.message]).toEqual([200, undefined]);
  const one = await signedIn(name, given);
  const changed = await one.put('/api/session/password').send({ old: given, password: own });
  expect(changed.body.person.mustChange).toBe(false);
  return { id: made.body.id as string, one };
};

beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

describe('the first start', () => {
  it('lets nobody in, and asks whoever is at another computer for the code', async () => {
    const stranger = browser();
    expect((await stranger.get('/api/session')).body).toMatchObject({ state: 'set-up', mayBeOpen: true });
    expect((await stranger.get('/api/stations')).status).toBe(401);
    const away = browser({ ...OPTIONS, setUpCode: 'ABCDE12345' });
    const first = (code: string) =>
      away
        .post('/api/session/first')
        .set('x-forwarded-for', '10.1.2.3')
        .send({ ...DIRECTOR, code });
    expect((await first('WRONG')).body).toMatchObject({ status: 401, field: 'code' });
    expect((await first('')).status).toBe(401);
    expect((await away.get('/api/session')).body.state).toBe('set-up');
  });

  it('can do without accounts on one computer, until there is one', async () => {
    const reached = browser({ ...OPTIONS, loopback: false });
    expect((await reached.post('/api/session/open').send({})).status).toBe(403);
    const one = browser();
    // Whom a proxy on this computer speaks for is not at this computer.
    const passedOn = { 'x-forwarded-for': '203.0.113.9' };
    expect((await one.get('/api/session').set(passedOn)).body).toMatchObject({ mayBeOpen: false, demo: [] });
    expect((await one.post('/api/session/open').set(passedOn).send({})).status).toBe(403);
    expect((await one.post('/api/session/open').send({})).body.state).toBe('open');
    expect((await one.get('/api/stations')).body).toHaveLength(2);
    // Reached by others, or through a proxy, the same folder asks for an account again.
    expect((await one.get('/api/stations').set(passedOn)).status).toBe(401);
    expect((await reached.get('/api/stations')).status).toBe(401);
  });

  it('makes the first account a director of every station, once', async () => {
    const one = browser();
    const weak = await one.post('/api/session/first').send({ name: 'Nell Harrow', password: 'nell harrow' });
    expect(weak.body).toMatchObject({ code: 'INVALID', field: 'password' });
    const made = await one.post('/api/session/first').send(DIRECTOR);
    expect(made.body).toMatchObject({ state: 'signed-in', person: { name: 'Nell', mustChange: false } });
    expect(made.headers['set-cookie']?.[0]).toMatch(new RegExp(`^${COOKIE}=[\\w-]{43};.*HttpOnly; SameSite=Strict`));
    expect((await one.get('/api/stations')).body).toHaveLength(2);
    const second = await browser()
      .post('/api/session/first')
      .send({ ...DIRECTOR, name: 'Eve' });
    expect(second.body.code).toBe('CONFLICT');
    expect((await browser().post('/api/session/open').send({})).body.code).toBe('CONFLICT');
    expect((await browser().get('/api/session')).body.state).toBe('signed-out');
  });
});

describe('signing in', () => {
  it('tells nothing of whether the name or the password is wrong', async () => {
    const answers = [
      await browser().post('/api/session').send({ name: 'Nell', password: 'five lanes of rain' }),
      await browser().post('/api/session').send({ name: 'Nobody', password: 'five lanes of rain' }),
    ];
    expect(new Set(answers.map(({ body }) => JSON.stringify(body))).size).toBe(1);
    expect(answers[0]!.status).toBe(401);
    expect(answers[0]!.headers['set-cookie']).toBeUndefined();
  });

  it('waits longer and longer after failures, of one name from one address soonest', () => {
    let nowMs = 0;
    const attempts = new Attempts(() => nowMs);
    const waits = (name: string, address: string): boolean => {
      try {
        attempts.mustBeFree(name, address);
        return false;
      } catch {
        return true;
      }
    };
    for (let n = 0; n < 4; n++) attempts.failed('nell', 'a');
    expect(waits('nell', 'a')).toBe(false);
    attempts.failed('nell', 'a');
    expect([waits('nell', 'a'), waits('nell', 'b'), waits('tom', 'a')]).toEqual([true, false, false]);
    nowMs += 2_001;
    expect(waits('nell', 'a')).toBe(false);
    attempts.failed('nell', 'a');
    nowMs += 2_001;
    expect(waits('nell', 'a')).toBe(true);
    for (let n = 0; n < 40; n++) attempts.failed(`guess ${n}`, 'c');
    expect([waits('another', 'c'), waits('another', 'd')]).toEqual([true, false]);
    attempts.succeeded('nell', 'a');
    expect(waits('nell', 'a')).toBe(false);
    // Many work behind one address: those who are right hold up nobody, and take nothing off what others get wrong.
    for (let n = 0; n < 200; n++) {
      attempts.failed(`person ${n}`, 'office');
      attempts.succeeded(`person ${n}`, 'office');
      expect([n, waits('another', 'office')]).toEqual([n, false]);
    }
    for (let n = 0; n < 40; n++) attempts.failed(`guess ${n}`, 'office');
    expect(waits('another', 'office')).toBe(true);
  });

  it('ends everywhere else when the password is changed, and at once when told to', async () => {
    const [one, other] = [await signedIn(DIRECTOR.name, DIRECTOR.password), await signedIn('nell', DIRECTOR.password)];
    expect((await one.get('/api/session/list')).body.length).toBeGreaterThanOrEqual(2);
    const wrong = await one.put('/api/session/password').send({ old: 'not this one at all', password: 'x'.repeat(12) });
    expect(wrong.body).toMatchObject({ code: 'INVALID', field: 'old' });
    DIRECTOR.password = 'seven lanes of sun';
    await one.put('/api/session/password').send({ old: 'four lanes of rain', password: DIRECTOR.password });
    expect([(await one.get('/api/stations')).status, (await other.get('/api/stations')).status]).toEqual([200, 401]);
    const cookie = (await one.get('/api/session/list')).body as { id: string; own: boolean }[];
    expect(cookie).toEqual([expect.objectContaining({ own: true })]);
    expect((await one.delete('/api/session').send({})).body.state).toBe('signed-out');
    expect((await one.get('/api/stations')).status).toBe(401);
  });

  it('keeps no password and no secret where they could be read', async () => {
    const text = JSON.stringify([
      await server.services.store.read.execute('select * from activity'),
      await server.services.store.read.execute('select * from activity_change'),
      await server.services.store.read.execute('select * from session'),
      await server.services.store.read.execute('select * from credential'),
    ]);
    expect(text).toContain('scrypt$32768$8$1$');
    expect(text).not.toMatch(/lanes of/);
  });
});

describe('accounts', () => {
  let director: Browser;
  beforeAll(async () => {
    director = await signedIn(DIRECTOR.name, DIRECTOR.password);
  });

  it('ask for another password before anything else', async () => {
    await director
      .post('/api/people')
      .send({ name: 'New', password: 'given the first day', roles: everywhere('viewer') });
    const one = await signedIn('New', 'given the first day');
    expect((await one.get('/api/stations')).body).toMatchObject({ code: 'FORBIDDEN', message: /password/ });
    expect((await one.get('/api/session')).body.person.mustChange).toBe(true);
  });

  it('reset a password, which signs out, and always leave one director of every station', async () => {
    const { id, one } = await person(director, 'Ada', everywhere('director'));
    await director.put(`/api/people/${id}/password`).send({ password: 'another for the day' });
    expect((await one.get('/api/stations')).status).toBe(401);
    const [nell] = (await director.get('/api/people')).body.filter(({ name }: { name: string }) => name === 'Nell');
    await director.delete(`/api/people/${id}`).send({});
    const last = await director.patch(`/api/people/${nell.id}`).send({ revision: 1, roles: everywhere('viewer') });
    expect(last.body).toMatchObject({ code: 'IN_USE', message: /director of every station/ });
    expect((await director.delete(`/api/people/${nell.id}`).send({})).body.code).toBe('IN_USE');
    expect(
      (
        await director
          .post('/api/people')
          .send({ name: 'NELL', password: 'a b c d e f g', roles: everywhere('viewer') })
      ).body.code,
    ).toBe('NAME_TAKEN');
  });

  it('see their stations alone, in lists and in the activity', async () => {
    const roles: RoleAt[] = [{ stationId: 'night', role: 'director', showIds: [] }];
    const { one } = await person(director, 'Owl', roles);
    expect((await one.get('/api/stations')).body.map(({ id }: { id: string }) => id)).toEqual(['night']);
    expect((await one.get('/api/stations/vale/catalogue')).status).toBe(403);
    expect((await one.get('/api/people')).status).toBe(403);
    const both = await one.post('/api/stations/night/generate').send({ from: TOMORROW, days: 1, stations: ['vale'] });
    expect(both.status).toBe(403);
    await director.post('/api/stations/vale/pools').send({ name: 'Only Vale', filter: 'year:1980..' });
    const labels = (await one.get('/api/activity')).body.map(({ label }: { label: string }) => label);
    expect(labels.join()).not.toMatch(/Only Vale|account/i);
    const [made] = (await director.get('/api/activity?station=vale')).body;
    expect(made).toMatchObject({ personName: 'Nell' });
    expect((await one.post(`/api/activity/${made.id}/undo`).send({})).status).toBe(403);
  });

  it('let a presenter add and move within their shows, and nothing else', async () => {
    const { services } = server;
    await services.store.write({ clientId: 'seed', stationId: 'vale', label: 'A show' }, async () => {});
    const made = await director.post('/api/stations/vale/shows').send({
      ...{ name: 'Early', colour: '#224466', clockIds: ['day'], minutes: 60 },
    });
    const week = (await director.get('/api/stations/vale/catalogue')).body.week;
    await director.put('/api/stations/vale/week').send({
      revision: week.revision,
      blocks: [{ at: 24 * 60 + 6 * 60, minutes: 60, runs: 'show', id: made.body.id }],
    });
    await director.post('/api/stations/vale/generate').send({ from: TOMORROW, days: 1, seed: 1 });
    const view = async () => (await director.get(`/api/stations/vale/logs/${TOMORROW}`)).body;
    for (let n = 0; n < 1000 && (await view()).log === undefined; n++)
      await new Promise((done) => setTimeout(done, 50));
    const roles: RoleAt[] = [{ stationId: 'vale', role: 'presenter', showIds: [made.body.id as string] }];
    const { one } = await person(director, 'Maren', roles);
    const { log, revision } = await view();
    const own = log.hours.findIndex(({ showId }: { showId?: string }) => showId === made.body.id);
    expect(own).toBeGreaterThanOrEqual(0);
    const edit = async (change: object) =>
      (
        await one
          .post(`/api/stations/vale/logs/${TOMORROW}/edits`)
          .send({ revision: (await view()).revision, edit: change })
      ).body;
    const [first, second] = log.hours[own].entries as { id: string }[];
    const elsewhere = log.hours[own + 1].entries[0].id as string;
    const note = (entryId: string) => ({ type: 'note', entryId, note: 'Swap, please: played it at the fair' });
    expect((await edit(note(first!.id))).label).toMatch(/note/i);
    expect(await edit(note(elsewhere))).toMatchObject({ code: 'FORBIDDEN', message: /not in one of your shows/ });
    expect(await edit({ type: 'open', entryId: first!.id })).toMatchObject({ code: 'FORBIDDEN', message: /swap/ });
    const to = { hourIndex: own, beforeId: first!.id };
    const moved = await edit({ type: 'move', entryId: second!.id, to });
    expect(moved.revision).toBe(revision + 2);
    expect(await edit({ type: 'move', entryId: second!.id, to: { hourIndex: own + 1, beforeId: null } })).toMatchObject(
      { code: 'FORBIDDEN' },
    );
    const [mine] = (await one.get('/api/activity?station=vale')).body;
    expect((await one.post(`/api/activity/${mine.id}/undo`).send({})).status).toBe(200);
    const [theirs] = (await director.get('/api/activity')).body.filter(({ label }: { label: string }) =>
      /week/i.test(label),
    );
    expect((await one.post(`/api/activity/${theirs.id}/undo`).send({})).body).toMatchObject({
      code: 'FORBIDDEN',
      message: /somebody else/,
    });
  });

  it('give other programs the rights that were chosen, until the token ends', async () => {
    const made = await director
      .post('/api/tokens')
      .send({ name: 'Night run', rights: ['look', 'logs'], stationIds: ['vale'], days: 1 });
    const ask = (path: string, token = made.body.token as string) =>
      browser().get(path).set('authorization', `Bearer ${token}`);
    expect((await ask('/api/stations')).body.map(({ id }: { id: string }) => id)).toEqual(['vale']);
    expect((await ask('/api/stations/night/catalogue')).status).toBe(403);
    expect((await ask('/api/people')).status).toBe(403);
    expect((await ask('/api/stations', `${made.body.token as string}x`)).status).toBe(401);
    expect((await director.get('/api/tokens')).body).toEqual([
      expect.objectContaining({ name: 'Night run', madeBy: 'Nell', expiresMs: NOW + 86_400_000 }),
    ]);
    await director.delete(`/api/tokens/${made.body.id as string}`).send({});
    expect((await ask('/api/stations')).status).toBe(401);
  });
});

describe('every route', () => {
  const ALL = Object.entries(ENDPOINTS) as unknown as [string, AnyEndpoint][];
  const ANSWERED = new Set([200, 400, 404, 409, 422, 502]);
  const callers = new Map<string, { one: Browser; rights: readonly Right[] | 'none' }>();

  beforeAll(async () => {
    const director = await signedIn(DIRECTOR.name, DIRECTOR.password);
    for (const role of ROLES) {
      const { one } = await person(director, `Walker ${role}`, everywhere(role));
      callers.set(role, { one, rights: RIGHTS_OF[role] });
    }
    callers.set('a stranger', { one: browser(), rights: 'none' });
  });

  it.each(['a stranger', ...ROLES])('lets %s do what the role includes, and refuses the rest', async (who) => {
    const { one, rights } = callers.get(who)!;
    for (const [name, { method, path, right }] of ALL) {
      // These end the session that walks, or never end themselves.
      if (['signOut', 'events', 'endOwnSessions', 'signIn', 'signInDemo', 'goWithout', 'makeFirst'].includes(name))
        continue;
      const parts: Record<string, string> = { stationId: 'vale', date: '2026-12-24', kind: 'clock', report: 'songs' };
      const at = path.replaceAll(/:(\w+)/g, (_, key: string) => parts[key] ?? 'no-such-one');
      const { status } = await one[method](`/api${at}`).send(method === 'get' ? undefined : {});
      const allowed = right === 'anybody' || (rights !== 'none' && rights.includes(right));
      const expected = allowed ? ANSWERED.has(status) : status === (rights === 'none' ? 401 : 403);
      expect([name, status, expected]).toEqual([name, status, true]);
    }
  });
});
