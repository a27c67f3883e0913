import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import type { Catalogue, CategoryRow, ClockRow, RuleRow, Sharing, Station } from '@fuller/contracts';
import { endOfJob, testServer, TOMORROW, type TestServer } from './testing/test-server.js';

/** Stations made, copied and archived; things shared and made own. */
let server: TestServer;
beforeEach(async () => {
  server = await testServer();
});
afterEach(() => server.close());

const ok = async <T>(request: PromiseLike<{ status: number; body: unknown }>): Promise<T> => {
  const { status, body } = await request;
  expect([status, status === 200 ? '' : body]).toEqual([200, '']);
  return body as T;
};
const post = <T = { id: string; activityId: string }>(path: string, body: object = {}): Promise<T> =>
  ok<T>(server.api.post(`/api${path}`).send(body));
const at = (station: string): Promise<Catalogue> => ok(server.api.get(`/api/stations/${station}/catalogue`));
const sharing = (station: string, kind: string, id: string): Promise<Sharing> =>
  ok(server.api.get(`/api/stations/${station}/sharing/${kind}/${id}`));
const undo = (activityId: string) => server.api.post(`/api/activity/${activityId}/undo`);
/** What plays on a day that is generated now, song by song. */
const generated = async (station: string): Promise<(string | null)[]> => {
  const { id } = await post(`/stations/${station}/generate`, { from: TOMORROW, days: 1, seed: 11 });
  expect((await endOfJob(server, id)).state).toBe('done');
  const view = await ok<{ log: { hours: { entries: { itemId?: string | null }[] }[] } }>(
    server.api.get(`/api/stations/${station}/logs/${TOMORROW}`),
  );
  return view.log.hours.flatMap(({ entries }) => entries.map(({ itemId }) => itemId ?? null));
};

describe('a station', () => {
  const like = (stationId: string, parts: string) => ({ stationId, parts });
  const made = (name: string, copyOf: object | null = null) =>
    post('/stations', { name, timeZone: 'Europe/Dublin', copyOf });

  it('is made empty, under a name of its own, and is one of the group then', async () => {
    const { id } = await made('Radio Weir');
    expect(await at(id)).toMatchObject({ station: { name: 'Radio Weir', archived: false }, clocks: [], rules: [] });
    const again = await server.api.post('/api/stations').send({ name: 'radio WEIR', timeZone: 'UTC' });
    expect(again.body).toMatchObject({ code: 'NAME_TAKEN', field: 'name' });
    const nowhere = await server.api.post('/api/stations').send({ name: 'X', timeZone: 'Europe/Atlantis' });
    expect(nowhere.body).toMatchObject({ code: 'INVALID', field: 'timeZone' });
    const unknown = { name: 'X', timeZone: 'UTC', copyOf: like('gone', 'everything') };
    expect((await server.api.post('/api/stations').send(unknown)).status).toBe(404);
    expect((await ok<Station[]>(server.api.get('/api/stations'))).map(({ name }) => name)).toHaveLength(3);
  });

  it('made like another one generates the very same day, from things of its own', async () => {
    await post('/stations/vale/shows', { name: 'Market', colour: '#224466', clockIds: ['day'], minutes: 60 });
    const { id } = await made('Copy', like('vale', 'everything'));
    const [copy, vale] = [await at(id), await at('vale')];
    expect(copy.categories.map(({ name, items }) => [name, items])).toEqual(
      vale.categories.map(({ name, items }) => [name, items]),
    );
    const ids = (one: Catalogue): string[] =>
      [...one.categories, ...one.clocks, ...one.shows, ...one.rules].map((row) => row.id);
    expect(ids(copy).filter((own) => ids(vale).includes(own))).toEqual([]);
    const played = await generated('vale');
    expect(played.filter(Boolean).length).toBeGreaterThan(300);
    expect(await generated(id)).toEqual(played);
  });

  it('can begin with clocks and rules alone: its categories are there, without songs', async () => {
    const { id, activityId } = await made('Bare', like('vale', 'clocks and rules'));
    const copy = await at(id);
    expect(copy.categories.map(({ name, items }: CategoryRow) => [name, items])).toEqual([
      ['Gold', 0],
      ['Fresh', 0],
    ]);
    const line = copy.clocks[0]!.lines[0]!;
    expect(line).toMatchObject({ kind: 'pick', categoryId: copy.categories[0]!.id });
    expect(copy.week.defaultClockId).toBe(copy.clocks[0]!.id);
    await undo(activityId).expect(200);
    expect((await server.api.get(`/api/stations/${id}/catalogue`)).status).toBe(404);
  });

  it('that has logs is not undone with them', async () => {
    const { id, activityId } = await made('Copy', like('vale', 'everything'));
    await generated(id);
    expect((await undo(activityId)).body).toMatchObject({ code: 'CANNOT_UNDO' });
    expect((await at(id)).clocks).toHaveLength(1);
  });

  it('can be looked at and not changed once archived, and be brought back', async () => {
    const archive = (id: string, revision: number, archived = true) =>
      server.api.patch(`/api/stations/${id}`).send({ revision, archived });
    await archive('vale', 1).expect(200);
    expect((await at('vale')).station.archived).toBe(true);
    const change = () => server.api.post('/api/stations/vale/rules').send({ shape: 'apart', tag: 'title', amount: 60 });
    expect((await change()).body).toMatchObject({ code: 'FORBIDDEN', message: expect.stringContaining('archived') });
    expect((await archive('night', 1)).body).toMatchObject({ code: 'IN_USE', field: 'archived' });
    const run = { from: TOMORROW, days: 1, seed: 1, stations: ['vale'] };
    const made = await server.api.post('/api/stations/night/generate').send(run);
    expect(made.body).toMatchObject({ code: 'FORBIDDEN', message: expect.stringContaining('archived') });
    expect((await archive('vale', 1, false)).body).toMatchObject({ code: 'CONFLICT' });
    await archive('vale', 2, false).expect(200);
    expect((await change()).status).toBe(200);
  });

  it('that is archived hands nothing over and follows no player, folder or request line', async () => {
    const { services } = server;
    await services.store.write({ clientId: 'test', stationId: 'vale', label: 'Set up' }, async (changes) => {
      await changes.insert('watchedFolder', [{ id: 'vale', folder: '/nowhere', categoryId: null }]);
      await changes.insert('onAirSettings', [
        { id: 'vale', revision: 1, playerUrl: 'http://127.0.0.1:9', lateMs: 60_000, acceptAll: false },
      ]);
      await changes.insert('trafficSettings', [
        { id: 'vale', revision: 1, toleranceMs: 60_000, layoutId: null, folder: 'spots', automatic: true },
      ]);
    });
    const running = async () => [
      (await services.onAirSettings.withPlayer()).length,
      (await services.trafficSettings.watching()).length,
    ];
    expect(await running()).toEqual([1, 1]);
    await server.api.patch('/api/stations/vale').send({ revision: 1, archived: true }).expect(200);
    expect(await running()).toEqual([0, 0]);
  });
});

describe('a thing made shared', () => {
  it('takes along what it names, and the day stays the same', async () => {
    const played = await generated('vale');
    expect(await sharing('vale', 'clock', 'day')).toMatchObject({
      scope: 'station',
      stations: [{ id: 'vale', uses: [{ kind: 'week', name: '' }] }],
      along: ['the category Gold'],
      refusal: null,
    });
    const { activityId } = await post('/stations/vale/sharing/clock/day/share');
    const night = await at('night');
    expect(night.clocks).toMatchObject([{ id: 'day', scope: 'group' }]);
    expect(night.categories).toMatchObject([{ id: 'gold', scope: 'group' }]);
    expect(await generated('vale')).toEqual(played);
    await undo(activityId).expect(200);
    expect((await at('night')).clocks).toEqual([]);
  });

  it('keeps the last undo from taking away what another station uses by now', async () => {
    const { activityId } = await post('/stations/vale/sharing/clock/day/share');
    const { week } = await at('night');
    await ok(server.api.put('/api/stations/night/week').send({ revision: week.revision, defaultClockId: 'day' }));
    expect((await undo(activityId)).body).toMatchObject({
      code: 'CANNOT_UNDO',
      message: 'Another station uses it by now, in the week.',
    });
  });

  it('needs a name that no station has for a thing of its own', async () => {
    const own = { name: 'Gold', code: 'X', colour: '#1F6FA8', music: true, groupId: null };
    await post('/stations/night/categories', own);
    const words = 'Radio night has a category named “Gold” already.';
    expect(await sharing('vale', 'category', 'gold')).toMatchObject({ refusal: words });
    expect(await sharing('vale', 'clock', 'day')).toMatchObject({ refusal: words });
    const refused = await server.api.post('/api/stations/vale/sharing/category/gold/share');
    expect(refused.body).toMatchObject({ code: 'NAME_TAKEN', message: words });
    const clock = await server.api.post('/api/stations/vale/sharing/clock/day/share');
    expect(clock.body).toMatchObject({ code: 'NAME_TAKEN' });
    expect((await at('vale')).clocks).toMatchObject([{ scope: 'station' }]);
  });

  it('names nothing that belongs to one station', async () => {
    await post('/stations/vale/sharing/clock/day/share');
    const { clocks } = await at('vale');
    const { revision, name, colour, lines } = clocks[0]!;
    const fresh = { id: 'more', kind: 'pick', categoryId: 'fresh', comment: '' };
    const saved = await server.api
      .put('/api/stations/night/clocks/day')
      .send({ revision, name, colour, lines: [...lines, fresh] });
    expect(saved.body).toMatchObject({ code: 'INVALID', field: 'lines.0.categoryId'.replace('0', `${lines.length}`) });
    const own = await server.api
      .post('/api/stations/night/clocks')
      .send({ name: 'Own', colour: '#D1862B', lines: [fresh] });
    expect(own.body).toMatchObject({ code: 'INVALID', message: expect.stringContaining('another station') });
  });

  it('cannot be a rule for a daypart or a show, which one station has', async () => {
    const { id: daypart } = await post('/stations/vale/dayparts', { name: 'Dawn', hours: '1'.repeat(168) });
    const places = [{ kind: 'daypart', id: daypart }];
    const { id } = await post('/stations/vale/rules', { shape: 'apart', tag: 'album', amount: 600, places });
    const told = await sharing('vale', 'rule', id);
    expect(told.refusal).toBe('It names the daypart Dawn, and a daypart belongs to one station.');
    expect(told.name).toContain('album');
    expect((await server.api.post(`/api/stations/vale/sharing/rule/${id}/share`)).body).toMatchObject({
      code: 'IN_USE',
    });
  });
});

describe('a shared thing made own', () => {
  it('moves where no other station needs it', async () => {
    await post('/stations/vale/sharing/clock/day/share');
    expect(await sharing('vale', 'clock', 'day')).toMatchObject({ scope: 'group', copies: false });
    const { id } = await post('/stations/vale/sharing/clock/day/own');
    expect(id).toBe('day');
    expect((await at('night')).clocks).toEqual([]);
    expect((await at('vale')).clocks).toMatchObject([{ id: 'day', scope: 'station' }]);
  });

  it('is a copy where others use it; what is the station’s goes over to it, and the day stays the same', async () => {
    await post('/stations/vale/sharing/category/gold/share');
    const line = { id: 'n1', kind: 'pick', categoryId: 'gold', comment: '', filter: 'category:G' };
    await post('/stations/night/clocks', { name: 'Late', colour: '#D1862B', lines: [line] });
    await ok(server.api.put('/api/stations/vale/rotation/gold/plan').send({ items: 40, slotsPerWeek: 2520 }));
    const { id: rule } = await post('/stations/vale/rules', {
      shape: 'apart',
      tag: 'album',
      amount: 600,
      exceptions: [{ kind: 'category', id: 'gold', amount: 60 }],
    });
    await post(`/stations/vale/sharing/rule/${rule}/share`);
    const played = await generated('vale');
    const told = await sharing('vale', 'category', 'gold');
    expect(told).toMatchObject({
      copies: true,
      stations: [
        {
          id: 'vale',
          uses: [
            { kind: 'clock', name: 'Day' },
            { kind: 'rotation plan', name: '' },
          ],
        },
        { id: 'night', uses: [{ kind: 'clock', name: 'Late' }] },
      ],
    });
    expect(told.shared).toHaveLength(1);
    const own = (body: object) => server.api.post('/api/stations/vale/sharing/category/gold/own').send(body);
    expect((await own({})).body).toMatchObject({ code: 'INVALID', field: 'name' });
    expect((await own({ name: 'gold', code: 'VG' })).body).toMatchObject({ code: 'NAME_TAKEN', field: 'name' });
    expect((await own({ name: 'Vale gold', code: 'g' })).body).toMatchObject({ code: 'NAME_TAKEN', field: 'code' });
    const { body } = await own({ name: 'Vale gold', code: 'VG' });
    const vale = await at('vale');
    expect(vale.categories.find(({ id }) => id === body.id)).toMatchObject({ scope: 'station', items: 55 });
    expect(vale.clocks[0]!.lines.every((one) => 'categoryId' in one && one.categoryId === body.id)).toBe(true);
    const extended = vale.rules.find(({ id }) => id === rule)!;
    expect(extended.exceptions.map(({ id }) => id)).toEqual(['gold', body.id]);
    // It can still be changed, here and there.
    const { revision } = extended;
    await ok(server.api.patch(`/api/stations/night/rules/${rule}`).send({ revision, note: 'Both' }));
    await ok(server.api.patch(`/api/stations/vale/rules/${rule}`).send({ revision: revision + 1, note: '' }));
    const late = (await at('night')).clocks.find(({ name }: ClockRow) => name === 'Late')!;
    expect(late.lines[0]).toMatchObject({ categoryId: 'gold' });
    expect(await generated('vale')).toEqual(played);
    await undo(body.activityId as string).expect(200);
    expect((await at('vale')).clocks[0]!.lines[0]).toMatchObject({ categoryId: 'gold' });
  });

  it('of a rule stands in place of the shared one at its station alone', async () => {
    await post('/stations/vale/sharing/rule/artist/share');
    const { id } = await post('/stations/vale/sharing/rule/artist/own');
    const rulesAt = async (station: string): Promise<(string | boolean)[][]> =>
      (await at(station)).rules.map((row: RuleRow) => [row.id === 'artist', row.scope]);
    expect(id).not.toBe('artist');
    expect([await rulesAt('vale'), await rulesAt('night')]).toEqual([[[false, 'station']], [[true, 'group']]]);
    const told = await sharing('night', 'rule', 'artist');
    expect([told.stations.map((one) => one.id), told.notAt]).toEqual([['night'], ['Radio vale']]);
    // A file that replaces the rules of one station leaves the others theirs.
    const file = { format: 'fuller-rules', version: 1, rules: [] };
    await ok(server.api.post('/api/stations/night/rules/file').send({ file, replace: true }));
    expect([await rulesAt('vale'), await rulesAt('night')]).toEqual([[[false, 'station']], []]);
  });
});

describe('a rule across stations', () => {
  /** Starts of each song by title on a generated day, epoch milliseconds. */
  const played = async (station: string): Promise<{ itemId: string; startMs: number }[]> =>
    server.services.reader.plays.between(station, TOMORROW, TOMORROW) as never;
  const withinMs = async (ms: number): Promise<number> => {
    const [here, there] = [await played('vale'), await played('night')];
    return here.filter((one) => there.some((other) => other.itemId === one.itemId && near(one, other, ms))).length;
  };
  const near = (one: { startMs: number }, other: { startMs: number }, ms: number): boolean =>
    Math.abs(one.startMs - other.startMs) < ms;

  beforeEach(async () => {
    await post('/stations/vale/sharing/clock/day/share');
    const { week } = await at('night');
    await ok(server.api.put('/api/stations/night/week').send({ revision: week.revision, defaultClockId: 'day' }));
  });

  it('keeps a day away from what another station has planned, and tells where an edit brings them together', async () => {
    await generated('night');
    await generated('vale');
    // The same seed, library and clock: often the same song at the same time.
    expect(await withinMs(60_000)).toBeGreaterThan(50);
    const { id } = await post('/stations/vale/rules', { shape: 'across', tag: 'title', amount: 600 });
    await generated('vale');
    expect(await withinMs(600_000)).toBe(0);
    const strains = async (): Promise<{ ruleId: string; entryId: string }[]> =>
      (
        await ok<{ strains: { ruleId: string; entryId: string }[] }>(
          server.api.get(`/api/stations/vale/logs/${TOMORROW}`),
        )
      ).strains;
    expect((await strains()).filter((one) => one.ruleId === id)).toEqual([]);
    // The other station changes its log: what was kept is not served again.
    const there = await ok<{ revision: number; log: { hours: { entries: { id: string }[] }[] } }>(
      server.api.get(`/api/stations/night/logs/${TOMORROW}`),
    );
    const [first] = await played('vale');
    await ok(
      server.api.post(`/api/stations/night/logs/${TOMORROW}/edits`).send({
        revision: there.revision,
        edit: { type: 'replace', entryId: there.log.hours[0]!.entries[0]!.id, itemId: first!.itemId },
      }),
    );
    const broken = (await strains()).filter((one) => one.ruleId === id);
    expect(broken.map(({ entryId }) => entryId)).toContain('p0-0');
  });

  it('holds for stations generated in one run, and only with those it names', async () => {
    const make = async (stationIds: string[]): Promise<void> => {
      const rule = { shape: 'across', tag: 'title', amount: 600, stationIds };
      const made = await post('/stations/vale/rules', rule);
      const { id } = await post('/stations/night/generate', { from: TOMORROW, days: 1, seed: 11, stations: ['vale'] });
      expect((await endOfJob(server, id)).state).toBe('done');
      await ok(server.api.delete(`/api/stations/vale/rules/${made.id}`));
    };
    await make(['night']);
    expect(await withinMs(600_000)).toBe(0);
    const { id: third } = await post('/stations', { name: 'Radio Weir', timeZone: 'Europe/Dublin' });
    await make([third]);
    expect(await withinMs(60_000)).toBeGreaterThan(50);
    const gone = { shape: 'across', tag: 'title', amount: 600, stationIds: ['gone'] };
    const refused = await server.api.post('/api/stations/vale/rules').send(gone);
    expect(refused.body).toMatchObject({ code: 'INVALID', field: 'stationIds' });
  });

  it('goes to a file and back with the names of its stations', async () => {
    await post('/stations/vale/rules', { shape: 'across', tag: 'artist', amount: 300, stationIds: ['night'] });
    const file = await ok<{ rules: { sentence: string; stations: string[] }[] }>(
      server.api.get('/api/stations/vale/rules/file'),
    );
    expect(file.rules.at(-1)).toMatchObject({
      sentence: 'Keep the same artist at least 5 min apart across stations',
      stations: ['Radio night'],
    });
    await ok(server.api.post('/api/stations/vale/rules/file').send({ file, replace: true }));
    expect((await at('vale')).rules.at(-1)).toMatchObject({ shape: 'across', stationIds: ['night'] });
  });
});

describe('a search over all stations', () => {
  it('finds words of names at the stations somebody may look at, shared things at the open one', async () => {
    const find = async (q: string, at?: string): Promise<string[]> => {
      const found = await ok<{ kind: string; name: string; stationId: string }[]>(
        server.api.get('/api/search').query({ q, ...(at ? { at } : {}) }),
      );
      return found.map(({ kind, name, stationId }) => `${kind} ${name} at ${stationId}`);
    };
    expect(await find('DAY')).toEqual(['clock Day at vale']);
    expect(await find('radio nig')).toEqual(['station Radio night at night']);
    expect(await find('')).toEqual([]);
    await post('/stations/vale/sharing/clock/day/share');
    expect(await find('day', 'night')).toEqual(['clock Day at night']);
    const only = await server.services.search.find('radio', (id) => id === 'night');
    expect(only.map(({ name }) => name)).toEqual(['Radio night']);
  });
});
