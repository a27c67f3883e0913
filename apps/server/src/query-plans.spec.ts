import type { EventEmitter } from 'node:events';
import { afterAll, beforeAll, expect, it } from '@jest/globals';
import { programAt } from './actor.js';
import { testServer, TODAY, TOMORROW, type TestServer } from './testing/test-server.js';
import { rowsOf } from './db/queries/query.js';
import { describeOfFile } from './testing/database.js';

/** Tables that grow with the years or with the library. */
const BIG = ['item', 'credit', 'placement', 'play', 'activity', 'activity_change'];

/** Which tables a statement names, by the alias each has in it. */
function tablesByAlias(sql: string): Map<string, string> {
  const found = new Map<string, string>();
  const named =
    /\b(?:from|join|update|into)\s+["`]?(\w+)["`]?(?:\s+(?:as\s+)?["`]?(?!on\b|where\b|order\b|using\b|left\b|join\b|limit\b|group\b|set\b|values\b)(\w+)["`]?)?/gi;
  for (const [, table = '', alias] of sql.matchAll(named)) found.set(alias ?? table, table);
  return found;
}

describeOfFile('what is asked often', () => {
  let server: TestServer;
  let asked: { sql: string; params: unknown[] }[] = [];

  beforeAll(async () => {
    server = await testServer();
    const job = { signal: new AbortController().signal, progress: () => {} };
    await server.services.generate.run(programAt('vale', 'test'), { from: TODAY, days: 2, seed: 1, only: 'all' }, job);
    const connection = server.services.orm.em.getConnection() as unknown as { getKnex(): EventEmitter };
    connection.getKnex().on('query', ({ sql, bindings = [] }: { sql: string; bindings?: unknown[] }) => {
      if (!sql.startsWith('explain')) asked.push({ sql, params: bindings });
    });
  });
  afterAll(() => server.close());

  /** Steps of the plans of all that was asked that go through a whole big table. */
  const scans = async (work: () => Promise<unknown>): Promise<string[]> => {
    asked = [];
    await work();
    const found: string[] = [];
    for (const { sql, params } of asked) {
      if (!/^\s*(?:with|select|update|delete)\b/i.test(sql)) continue;
      const tables = tablesByAlias(sql);
      const plan = await rowsOf<{ detail: string }>(server.services.store.read, `explain query plan ${sql}`, params);
      for (const { detail } of plan) {
        // In the order of an index, and only so far as the first rows reach.
        if (/^SCAN activity USING INDEX activity_at$/.test(detail) && /limit (\?|\d+)$/.test(sql.trim())) continue;
        const alias = /^SCAN (\w+)/.exec(detail)?.[1];
        if (alias && BIG.includes(tables.get(alias) ?? alias)) found.push(`${detail}: ${sql.replace(/\s+/g, ' ')}`);
      }
    }
    expect(asked.length).toBeGreaterThan(0);
    return found;
  };

  const log = `/api/stations/vale/logs/${TOMORROW}`;
  it.each([
    ['a log', log],
    ['the days of the strip', '/api/stations/vale/days?from=2026-11-20&count=14'],
    ['what a past day aired', '/api/stations/vale/logs/2026-10-01/aired'],
    ['the list of what was done', '/api/activity?limit=40&station=vale'],
    ['what one client did', '/api/activity?limit=40&client=anna'],
    ['an item', '/api/stations/vale/items/song1'],
    ['the plays of an item', '/api/stations/vale/items/song1/plays'],
    ['a search', '/api/stations/vale/items?q=title&sort=title&dir=asc&limit=50'],
    ['a category', '/api/stations/vale/items?category=gold&sort=title&dir=asc&limit=50'],
    ['the hand-over', `/api/stations/vale/hand-over/${TOMORROW}`],
  ])('goes through no big table: %s', async (_what, place) => {
    expect(await scans(() => server.api.get(place).expect(200))).toEqual([]);
  });

  it('goes through no big table: an edit and its undo', async () => {
    const { body: view } = await server.api.get(log).expect(200);
    const entry = view.log.hours[3].entries.find(({ kind }: { kind: string }) => kind === 'pick');
    const edit = { revision: view.revision, edit: { type: 'lock', entryId: entry.id, locked: true } };
    expect(
      await scans(async () => {
        await server.api.post(`${log}/edits`).send(edit).expect(200);
        const { body: done } = await server.api.get('/api/activity?limit=1').expect(200);
        await server.api.post(`/api/activity/${done[0].id}/undo`).expect(200);
      }),
    ).toEqual([]);
  });
});
