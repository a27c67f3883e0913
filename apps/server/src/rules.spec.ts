import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { PLACE_KINDS, type Rule } from '@fuller/core';
import { endOfJob, testServer, TOMORROW, type TestServer } from './testing/test-server.js';

let server: TestServer;
const base = '/api/stations/vale';
const HOURS = '1'.repeat(6).padEnd(168, '0');
const catalogue = async () => (await server.api.get(`${base}/catalogue`).expect(200)).body;
const ruleOf = async (id: string): Promise<Rule> => (await catalogue()).rules.find((rule: Rule) => rule.id === id);
const undo = (activityId: string) => server.api.post(`/api/activity/${activityId}/undo`).expect(200);
const daypart = async (name: string): Promise<string> =>
  (await server.api.post(`${base}/dayparts`).send({ name, hours: HOURS }).expect(200)).body.id;
const newRule = async (rule: object): Promise<string> =>
  (
    await server.api
      .post(`${base}/rules`)
      .send({ shape: 'streak', tag: 'artist', amount: 2, ...rule })
      .expect(200)
  ).body.id;

beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

describe('dayparts', () => {
  it('are named once, have hours, and take their amounts out of rules when they go; undone whole', async () => {
    const id = await daypart('Night');
    expect((await server.api.post(`${base}/dayparts`).send({ name: 'NIGHT', hours: HOURS })).status).toBe(409);
    expect(
      (await server.api.post(`${base}/dayparts`).send({ name: 'None', hours: '0'.repeat(168) })).body.message,
    ).toContain('at least one hour');
    expect((await server.api.post(`${base}/dayparts`).send({ name: 'Odd', hours: '11' })).body.field).toBe('hours');
    expect(
      (await server.api.patch(`/api/stations/night/dayparts/${id}`).send({ revision: 1, name: 'Mine' })).status,
    ).toBe(404);
    const only = await newRule({ places: [{ kind: 'daypart', id }] });
    const own = await newRule({ exceptions: [{ kind: 'daypart', id, amount: 1 }] });
    const gone = await server.api.delete(`${base}/dayparts/${id}`).expect(200);
    expect([await ruleOf(only), (await ruleOf(own)).exceptions]).toEqual([undefined, []]);
    await undo(gone.body.activityId);
    expect([(await ruleOf(only)).places, (await ruleOf(own)).exceptions]).toEqual([
      [{ kind: 'daypart', id }],
      [{ kind: 'daypart', id, amount: 1 }],
    ]);
  });
});

describe('rules', () => {
  it('of one place are copied to another of its kind in one step', async () => {
    const [from, to] = [await daypart('Day'), await daypart('Evening')];
    const id = await newRule({
      places: [{ kind: 'daypart', id: from }],
      exceptions: [{ kind: 'daypart', id: from, amount: 4 }],
    });
    const other = await newRule({ places: [{ kind: 'category', id: 'gold' }] });
    const copy = (ids: object) => server.api.post(`${base}/rules/copy`).send({ kind: 'daypart', ...ids });
    const { body } = await copy({ from, to }).expect(200);
    expect(await ruleOf(id)).toMatchObject({
      places: [{ id: from }, { id: to }],
      exceptions: [{ id: from }, { id: to, amount: 4 }],
    });
    expect((await ruleOf(other)).places).toHaveLength(1);
    expect((await copy({ from: to, to: 'ghost' })).body.message).toContain('no daypart “ghost”');
    await undo(body.activityId);
    expect((await copy({ from: to, to: from })).body.message).toContain('No rule is for Evening');
  });

  it('about a category go with it, and are refused for what is not there', async () => {
    const { body: made } = await server.api
      .post(`${base}/categories`)
      .send({ name: 'Brief', code: 'B', colour: '#112233', music: true, groupId: null });
    const id = await newRule({ tag: 'category', value: made.id });
    await server.api.delete(`${base}/categories/${made.id}`).expect(200);
    expect(await ruleOf(id)).toBeUndefined();
    const refused = (rule: object) =>
      server.api.post(`${base}/rules`).send({ shape: 'streak', tag: 'artist', amount: 2, ...rule });
    expect((await refused({ tag: 'category', value: made.id })).body).toMatchObject({ field: 'value' });
    expect((await refused({ value: 'Oona' })).body.message).toContain('takes no value');
    expect((await refused({ tag: 'mood' })).body.message).toContain('no tag “mood”');
    for (const kind of PLACE_KINDS)
      expect((await refused({ places: [{ kind, id: 'ghost' }] })).body.message).toBe(`There is no ${kind} “ghost”.`);
  });
});

describe('a rules file', () => {
  const take = (rules: object[], replace = false) =>
    server.api.post(`${base}/rules/file`).send({ file: { format: 'fuller-rules', version: 1, rules }, replace });

  it('comes back in as it went out, whole', async () => {
    await newRule({
      shape: 'apart',
      tag: 'album',
      amount: 5400,
      strength: 'soft',
      rank: 3,
      note: 'Calm',
      resting: true,
    });
    const told = ({ rules }: { rules: Rule[] }) =>
      rules.map(({ id, ...rule }) => ({ ...rule, position: 0, revision: 0, id: void id }));
    const before = told(await catalogue());
    const { body: file } = await server.api.get(`${base}/rules/file`).expect(200);
    const { body } = await server.api.post(`${base}/rules/file`).send({ file, replace: true }).expect(200);
    expect(told(await catalogue())).toEqual(before);
    await undo(body.activityId);
    expect((await ruleOf('artist')).amount).toBe(1800);
  });

  it('is taken in whole or not at all, its fault told by rule', async () => {
    const count = (await catalogue()).rules.length;
    const good = { sentence: 'Keep the same title at least 4 h apart' };
    const faults: [object, string][] = [
      [{ sentence: 'be nice' }, 'Rule 2, “be nice”: Say one of title'],
      [{ ...good, places: [{ kind: 'clock', name: 'Moon' }] }, 'there is no clock “Moon” here'],
      [{ ...good, exceptions: [{ kind: 'clock', name: 'DAY', amount: 'soon' }] }, '“soon” is not a time'],
      [{ ...good, exceptions: [{ kind: 'category', name: 'gold', amount: '90 days' }] }, 'at most 28 days'],
      [{ sentence: 'at most 4000 of the same artist an hour' }, 'out of range'],
    ];
    for (const [fault, why] of faults) {
      const refused = await take([good, fault]);
      expect([refused.status, refused.body.message]).toEqual([400, expect.stringContaining(why)]);
    }
    expect((await catalogue()).rules).toHaveLength(count);
    await take([good, { sentence: 'at least 1 of the same artist an hour' }]).expect(200);
    expect((await catalogue()).rules.at(-1)).toMatchObject({ shape: 'atLeast', strength: 'soft', rank: 1 });
  });
});

describe('rules off for one run', () => {
  it('are not kept in it, and stay readable with it', async () => {
    const id = await newRule({ shape: 'apart', tag: 'artist', amount: 2 * 3600 });
    const run = async (rulesOff: string[], more: object = {}) => {
      const { body: job } = await server.api
        .post(`${base}/generate`)
        .send({ from: TOMORROW, days: 1, seed: 7, rulesOff, ...more })
        .expect(200);
      return (await endOfJob(server, job.id)).result as { days: { open: unknown[] }[] };
    };
    await run([id]);
    const [kept, off] = [await run([], { hours: [9, 10] }), await run([id], { hours: [9, 10] })];
    // Twenty artists cannot fill fifteen slots an hour with two hours between their songs.
    expect(kept.days[0]!.open.length - off.days[0]!.open.length).toBeGreaterThan(5);
    const { body: runs } = await server.api.get(`${base}/logs/${TOMORROW}/runs`).expect(200);
    expect(runs).toMatchObject([
      { seed: 7, only: 'hours', hours: [9, 10], rulesOff: ['Keep the same artist at least 2 h apart'], undone: false },
      { rulesOff: [] },
      { only: 'all', hours: null },
    ]);
    const ghost = await server.api.post(`${base}/generate`).send({ from: TOMORROW, rulesOff: ['ghost'] });
    expect(ghost.body).toMatchObject({ field: 'rulesOff', message: 'There is no rule “ghost”.' });
    await server.api.delete(`${base}/rules/${id}`).expect(200);
  });
});
