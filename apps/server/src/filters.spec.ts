import type { PoolRow } from '@fuller/contracts';
import { matchesFilter, parseFilter, type FilterableItem } from '@fuller/core';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { PlayEntity } from './db/entities/index.js';
import { idsFound } from './db/queries/item-list.js';
import { keepFamilies } from './tags/family-service.js';
import { newItemRow } from './library/item-row.js';
import { NOW, SONGS, testServer, TODAY, type TestServer } from './testing/test-server.js';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

const WORDS = ['Réalta', 'the', 'Øystein', 'low-tide', 'tide', '1994', 'مرحبا', 'naïve', "O'Hara", 'ß'];
const some = <T>(values: readonly T[]) => fc.constantFrom(...values);
const text = fc.array(some(WORDS), { maxLength: 3 }).map((words) => words.join(' '));
const item = fc.record({
  title: text,
  artist: text,
  album: text,
  notes: text,
  label: fc.option(text),
  approved: fc.boolean(),
  kind: some(['song', 'sweeper', 'station ID'] as const),
  year: fc.option(fc.integer({ min: 1990, max: 1999 })),
  durationMs: fc.integer({ min: 179_000, max: 182_000 }),
  introMs: fc.option(fc.integer({ min: 0, max: 3000 })),
  cart: fc.option(fc.uuid()),
  file: fc.option(some(['a.wav'])),
  tags: fc.record({ tempo: fc.subarray(['1', '2', '3']), mood: fc.subarray(['Dorcha', 'geal']) }, { requiredKeys: [] }),
  rested: fc.option(fc.integer({ min: 0, max: 300 })),
  category: fc.option(some(['gold', 'current'])),
});
const span = some(['1h', '90min', '3d', '10d']);
const term = fc.oneof(
  some(WORDS),
  fc
    .tuple(some(['title', 'artist', 'album', 'notes', 'label']), some([...WORDS, 'none']))
    .map(([f, w]) => `${f}:"${w}"`),
  fc
    .tuple(fc.integer({ min: 1990, max: 1994 }), fc.integer({ min: 1994, max: 1999 }))
    .map(([a, b]) => `year:${a}..${b}`),
  some(['length:3:00', 'length:..3:00', 'length:3:01..', 'intro:none', 'intro:0:01..0:02', 'year:none,1994']),
  fc.tuple(span, some(['', '..'])).map(([s, dots]) => `rested:${dots}${s}`),
  some(['rested:never', 'rested:never,..1h', 'rested:1h..3d']),
  some([
    'kind:song',
    'kind:"station id",sweeper',
    'file:any',
    'file:none',
    'approved:any',
    'approved:none',
    'cart:none',
    'cart:a,B,0',
  ]),
  some(['tempo:1', 'tempo:2,3', 'tempo:none', 'mood:dorcha', 'mood:geal,none']),
  some(['category:G', 'category:none', 'category:G,none']),
);
const filter = fc
  .array(fc.tuple(fc.boolean(), term), { minLength: 1, maxLength: 3 })
  .map((terms) => terms.map(([not, one]) => (not ? `-${one}` : one)).join(' '));

describe('filters', () => {
  it('find in the database just what they find in memory', async () => {
    const { store, pools } = server.services;
    const made = fc.sample(item, { numRuns: 250, seed: 7 });
    const expected: (FilterableItem & { id: string })[] = [];
    await store.write({ clientId: 'test', stationId: null, label: 'Items' }, async (changes) => {
      await keepFamilies(changes, { tempo: ['1', '2', '3'], mood: ['Dorcha', 'geal'] });
      for (const { rested, category, approved, ...fields } of made) {
        const row = newItemRow({ ...fields, label: fields.label ?? null, approvedAtMs: approved ? NOW : null });
        await changes.insert('item', [row]);
        const lastPlayedMs = rested === null ? null : NOW - rested * 3_600_000;
        if (lastPlayedMs !== null)
          await changes.em.insert(PlayEntity, {
            stationId: 'vale',
            itemId: row.id,
            startMs: lastPlayedMs,
            date: TODAY,
          } as never);
        if (category === 'gold')
          await changes.insert('placement', [{ id: row.id, itemId: row.id, categoryId: 'gold' }]);
        const categoryIds = category === 'gold' ? ['gold'] : [];
        expected.push({
          ...(fields as FilterableItem),
          approved,
          id: row.id,
          outroMs: null,
          categoryIds,
          lastPlayedMs,
        });
      }
    });
    const vocabulary = await pools.vocabulary('vale');
    const ids = new Set(expected.map((one) => one.id));
    let found = 0;
    await fc.assert(
      fc.asyncProperty(filter, async (written) => {
        const parsed = parseFilter(written, vocabulary);
        if (!parsed.ok) throw new Error(`${written}: ${parsed.fault.why}`);
        const rows = await idsFound(store.read, 'vale', parsed.filter, NOW);
        const inMemory = expected.filter((one) => matchesFilter(parsed.filter, one, NOW)).map((one) => one.id);
        found += inMemory.length;
        expect(rows.filter((id) => ids.has(id)).sort()).toEqual(inMemory.sort());
      }),
      { numRuns: 300 },
    );
    expect(found).toBeGreaterThan(1000);
  });

  it('search the library through the API, and say what is wrong with one', async () => {
    const list = (q: string) => server.api.get(`/api/stations/vale/items?q=${encodeURIComponent(q)}`);
    expect((await list('category:G realta 17').expect(200)).body.total).toBeGreaterThan(0);
    const { body } = await list('realta yeer:1994').expect(400);
    expect(body).toMatchObject({ code: 'INVALID', field: 'q', message: expect.stringContaining('no field “yeer”') });
  });
});

describe('pools', () => {
  const pools = async (): Promise<PoolRow[]> => (await server.api.get('/api/stations/vale/pools').expect(200)).body;
  const make = (body: object) => server.api.post('/api/stations/vale/pools').send(body);

  it('are saved filters whose count follows the library, changed, deleted and brought back', async () => {
    const { body: made } = await make({ name: 'Gold ones', filter: 'category:G title:realta' }).expect(200);
    const before = (await pools()).find((pool) => pool.id === made.id)!;
    expect(before).toMatchObject({ items: expect.any(Number), fault: null });
    expect(before.items).toBeGreaterThanOrEqual(SONGS - 5);
    await server.api
      .post('/api/stations/vale/placements')
      .send({ itemIds: ['song1'], categoryId: null })
      .expect(200);
    expect((await pools())[0]!.items).toBe(before.items - 1);
    await server.api
      .patch(`/api/stations/vale/pools/${made.id}`)
      .send({ revision: 1, filter: 'title:nothing' })
      .expect(200);
    expect((await pools())[0]).toMatchObject({ revision: 2, items: 0 });
    await server.api.patch(`/api/stations/vale/pools/${made.id}`).send({ revision: 1, name: 'Late' }).expect(409);
    const { body: gone } = await server.api.delete(`/api/stations/vale/pools/${made.id}`).expect(200);
    expect(await pools()).toEqual([]);
    await server.api.post(`/api/activity/${gone.activityId}/undo`).expect(200);
    expect(await pools()).toHaveLength(1);
  });

  it.each([
    [{ name: 'gold ONES', filter: 'year:1994' }, 409, 'a pool named'],
    [{ name: 'Bad', filter: 'tempo:99' }, 400, 'no tempo “99”'],
    [{ name: 'All', filter: '***' }, 400, 'asks for everything'],
    [{ name: ' ', filter: 'realta' }, 400, 'is empty'],
  ])('refuse %j', async (body, status, message) => {
    expect((await make(body).expect(status)).body.message).toContain(message);
  });
});
