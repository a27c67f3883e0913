import { describe, expect, it } from '@jest/globals';
import type { ItemRow } from '@fuller/contracts';
import { TidyCount } from '../shared/tidy-count';
import { openPage } from '../testing/place';
import { LibraryPage } from './library-page';

const row = (n: number): ItemRow =>
  ({
    id: `s${n}`,
    kind: 'song',
    title: `Song ${n}`,
    artist: 'Ada',
    album: '',
    year: 1999,
    durationMs: 200_000,
    introMs: null,
    categoryIds: ['gold'],
    hasFile: true,
    lastPlayedMs: null,
  }) as ItemRow;

function open(inputs: object = {}, total = 3) {
  return openPage(
    LibraryPage,
    { ...inputs },
    {
      catalogue: {
        categories: [
          { id: 'gold', name: 'Gold', code: 'G', colour: '#1F6FA8', groupId: null, position: 1, items: 3 },
        ] as never,
        items: 3,
      },
      answers: {
        items: () => ({ total, offset: 0, rows: Array.from({ length: total }, (_, n) => row(n)) }),
        filterWords: () => ({ categories: [{ id: 'gold', code: 'G', name: 'Gold' }], families: {} }),
        pools: () => [
          { id: 'p1', revision: 1, scope: 'station', name: 'Old ones', filter: 'year:..1990', items: 2, fault: null },
        ],
        families: () => [],
        worklist: () => ({ itemIds: ['s1'] }),
      },
      providers: [{ provide: TidyCount, useValue: { matters: () => 14, follow: () => {} } }],
    },
  );
}
const params = (page: Awaited<ReturnType<typeof open>>) =>
  (page.gone.at(-1)?.[1] as { queryParams: object }).queryParams;

describe('the page of the library', () => {
  it('asks for what the address says', async () => {
    const page = await open({ q: 'ember', category: 'gold', sort: 'year', dir: 'desc' });
    expect(page.server.asked('items')[0]!.address).toMatchObject({
      stationId: 'vale',
      q: 'ember',
      category: 'gold',
      sort: 'year',
      dir: 'desc',
      offset: 0,
    });
    expect(page.text('h1')).toBe('Gold');
    expect(page.text('section .count')).toBe('3 items');
  });

  it.each([
    [{ category: 'none' }, 'Without category'],
    [{ category: 'worklist' }, 'Worklist'],
    [{ artist: 'a1', artistName: 'Ada' }, 'Songs of Ada'],
    [{ pool: 'p1', q: 'year:..1990' }, 'Old ones'],
    [{}, 'All items'],
  ])('is headed by what is asked for: %j', async (inputs, heading) =>
    expect((await open(inputs)).text('h1')).toBe(heading),
  );

  it('waits with a filter until it is known what its fields name, and says what cannot be read', async () => {
    const page = await open({ q: 'voice:female' });
    expect(page.server.asked('items')).toEqual([]);
    expect(page.text('f-pool-bar')).toContain('voice');
    await page.set('q', 'category:g');
    expect(page.server.asked('items')).toHaveLength(1);
  });

  it.each([
    [{ q: 'zzz' }, 'Nothing matches “zzz”'],
    [{ category: 'worklist' }, 'The worklist is empty'],
    [{ category: 'gold' }, 'Nothing here'],
    [{}, 'The library is empty'],
  ])('says why nothing is shown: %j', async (inputs, words) =>
    expect((await open(inputs, 0)).text('f-empty')).toContain(words),
  );

  it('goes where a category, a pool, or all is pressed, and drops the rest of the question', async () => {
    const page = await open({ artist: 'a1', artistName: 'Ada' });
    await page.press('All artists');
    expect(params(page)).toEqual({ category: null, artist: null, artistName: null, item: null });
    const pool = page.all('f-category-tree button').find((one) => one.textContent?.includes('Old ones'))!;
    pool.click();
    await page.settle();
    expect(params(page)).toEqual({ pool: 'p1', q: 'year:..1990' });
  });

  it('searches by a key, unless one is typing', async () => {
    const page = await open();
    await page.key('h1', '/');
    expect(document.activeElement?.tagName).toBe('INPUT');
    expect(page.server.asked('changeWorklist')).toEqual([]);
    await page.key('input', 'w');
    expect(page.server.asked('changeWorklist')).toEqual([]);
  });

  it('reads again what a change on the server touched', async () => {
    const page = await open();
    page.events.next({ type: 'changed', stationId: null, clientId: 'x', what: ['catalogue'], dataRevision: 2 });
    page.events.next({ type: 'changed', stationId: null, clientId: 'x', what: ['library'], dataRevision: 3 });
    await page.settle(90);
    expect(page.server.asked('items')).toHaveLength(2);
    expect(page.server.asked('pools')).toHaveLength(2);
  });
});
