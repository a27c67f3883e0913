import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, expect, it } from '@jest/globals';
import type { ItemQuery } from '@fuller/contracts';
import fc from 'fast-check';
import { PlayEntity } from './db/entities/index.js';
import { inlineCompute } from './jobs/compute.js';
import { newItemRow } from './library/item-row.js';
import { openServices, type Services } from './services.js';
import { describeShared } from './testing/database.js';
import { NOW, seedStations } from './testing/test-server.js';

const ITEMS = 300;
/** Words as people type and print them: signs inside, numbers, accents, other scripts, nothing but signs. */
const WORDS = [
  ...[
    "Don't",
    'dont',
    'don',
    'Mi/Do',
    'mido',
    'half-tide',
    'half',
    'tide',
    '1,5',
    '15',
    '½',
    'naïve',
    'Naive',
    'Straße',
  ],
  ...[
    'Ночь',
    'ночью',
    '雨',
    '雨の歌',
    '!!!',
    '…',
    'a',
    'A.B.C.',
    'abc',
    'x_y',
    'x',
    'y',
    '100%',
    'ﬁne',
    'O’Hara',
    '(live)',
  ],
];
const SORTS: readonly ItemQuery['sort'][] = ['title', 'artist', 'album', 'year', 'duration', 'category', 'lastPlayed'];
const words = fc.array(fc.constantFrom(...WORDS), { minLength: 1, maxLength: 4 }).map((some) => some.join(' '));
const item = fc.record({
  title: words,
  artist: words,
  album: fc.oneof(words, fc.constant('')),
  notes: fc.oneof(words, fc.constant('')),
  year: fc.option(fc.integer({ min: 1960, max: 2026 })),
  durationMs: fc.integer({ min: 100_000, max: 400_000 }),
});
/** What a person types into the search, whole words and beginnings of them, with fields and without. */
const typed = fc
  .array(
    fc.record({
      field: fc.constantFrom('', '', '', 'title:', 'artist:', 'album:', 'notes:', '-'),
      word: fc.constantFrom(...WORDS, 'do', 'ha', 'ноч', 'n', 'ab'),
    }),
    { minLength: 1, maxLength: 3 },
  )
  .map((parts) => parts.map(({ field, word }) => field + word).join(' '));

describeShared('the library on both databases', () => {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'fuller-alike-'));
  let sides: [Services, Services];

  beforeAll(async () => {
    const open = (name: string, database?: string): Promise<Services> =>
      openServices({ dataDir: path.join(folder, name), database, now: () => NOW, compute: inlineCompute });
    sides = [await open('file', ''), await open(path.basename(folder))];
    const rows = fc.sample(item, { numRuns: ITEMS, seed: 20 }).map((one, n) => ({
      ...newItemRow({ kind: 'song', cart: null, file: null, ...one }),
      id: `i${n}`,
      tags: { Mood: [n % 2 ? 'calm' : 'bright'], ...(n % 3 ? {} : { Era: ['late', "o'clock"] }) },
    }));
    for (const side of sides) {
      await seedStations(side);
      await side.store.write({ clientId: 'x', stationId: 'vale', label: 'Add' }, async (changes) => {
        await changes.insert(
          'tagFamily',
          ['Mood', 'Era'].map((name, position) => {
            const values = name === 'Mood' ? ['calm', 'bright'] : ['late', "o'clock"];
            return {
              id: name,
              name,
              nameKey: name.toLowerCase(),
              single: false,
              values: values.map((value) => ({ value })),
              position,
            };
          }),
        );
        await changes.insert('item', rows);
        const placed = rows.filter((_, n) => n % 4 === 0);
        await changes.insert(
          'placement',
          placed.map(({ id }, n) => ({ id: `p${id}`, itemId: id, categoryId: n % 2 ? 'gold' : 'fresh' })),
        );
        await changes.em.insertMany(
          PlayEntity,
          rows.slice(0, 90).map(({ id }, n) => ({
            stationId: 'vale',
            itemId: id,
            startMs: NOW - (n % 31) * 3_600_000,
            date: '2026-11-22',
            logId: null,
          })),
        );
      });
    }
  });
  afterAll(async () => {
    for (const side of sides) await side.close();
    rmSync(folder, { recursive: true });
  });

  const both = async (query: ItemQuery): Promise<void> => {
    const [file, shared] = await Promise.all(sides.map((side) => side.library.list('vale', query).catch(String)));
    expect(shared).toEqual(file);
  };

  it('finds the same in the same order, whatever is typed and however it is sorted', async () => {
    await fc.assert(
      fc.asyncProperty(typed, fc.constantFrom(...SORTS), fc.constantFrom('asc', 'desc'), (q, sort, dir) =>
        both({ q, sort, dir, offset: 0, limit: 100 }),
      ),
      { numRuns: 300 },
    );
  });

  it.each([
    'mood:calm',
    '-mood:calm year:1990..2000',
    'era:late',
    'era:none mood:bright',
    'category:none',
    'category:G length:3:00..',
    'rested:5h',
    '-rested:..5h',
    'rested:never',
    'file:none year:none',
    'cart:C1',
    'approved:none kind:song',
  ])('finds the same by the filter %s', async (q) => {
    for (const sort of SORTS) await both({ q, sort, dir: 'asc', offset: 0, limit: 50 });
    expect(
      (await sides[1].library.list('vale', { q, sort: 'title', dir: 'asc', offset: 0, limit: 1 })).total,
    ).toBeGreaterThan(0);
  });

  it('counts the same values of families, and the same doubles', async () => {
    const all = async (side: Services): Promise<unknown> => [await side.families.list(), await side.tidy.view('vale')];
    const [file, shared] = await Promise.all(sides.map(all));
    expect(shared).toEqual(file);
  });
});
