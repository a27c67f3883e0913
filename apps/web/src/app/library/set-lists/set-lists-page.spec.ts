import { describe, expect, it } from '@jest/globals';
import type { SetListContent } from '@fuller/contracts';
import { openPage } from '../../testing/place';
import { SetListsPage } from './set-lists-page';
import type { SetListsStore } from './set-lists.store';

const LIST: SetListContent = {
  id: 'l',
  revision: 4,
  scope: 'group',
  name: 'Sunday',
  wantedMs: 600_000,
  rows: 3,
  totalMs: 580_000,
  standardDeviationMs: 30_000,
  uses: ['the week of Vale'],
  content: [
    { id: 'a', itemId: 'one' },
    { id: 'b', categoryId: 'gold' },
    { id: 'c', itemId: 'one' },
  ],
  items: [{ id: 'one', title: 'Low Tide', artist: 'Ann', kind: 'song', durationMs: 200_000, hasFile: true }],
};

const VOCABULARY = { categories: [], families: {} };

async function open(list: Partial<SetListContent> = {}, lists: SetListContent[] = [{ ...LIST, ...list }]) {
  const page = await openPage(
    SetListsPage,
    { listId: lists.length > 0 ? 'l' : undefined },
    {
      catalogue: {
        categories: [{ id: 'gold', name: 'Gold', code: 'G', averageMs: 180_000, standardDeviationMs: 30_000 } as never],
      },
      answers: {
        setLists: () => lists,
        setList: () => lists[0],
        filterWords: () => VOCABULARY,
        pools: () => [],
        families: () => [],
        worklist: () => ({ itemIds: [] }),
      },
    },
  );
  await page.settle(20);
  return page;
}

describe('the page of a set list', () => {
  it('always says how long the list is, how sure that is, and how far from what is wanted', async () => {
    const page = await open();
    expect(page.text('.total')).toBe('9:40 ± 0:30 0:20 under 10:00');
    expect(page.all('.far')).toHaveLength(0);
    const far = await open({ wantedMs: 300_000 });
    expect([far.text('.total'), far.all('.far').length]).toEqual(['9:40 ± 0:30 4:40 over 5:00', 1]);
    const free = await open({ wantedMs: null });
    expect(free.text('.total')).toBe('9:40 ± 0:30');
  });

  it('says who sees it, where it is played, and what becomes of its picks', async () => {
    const page = await open();
    expect(page.text('nav.list')).toContain('Sunday3 rows, 9:40');
    expect(page.text('f-inspector')).toContain('Played by the week of Vale.');
    expect(page.text('f-inspector')).toContain('One row is a pick');
    expect((await open({ uses: [] })).text('f-inspector')).toContain('Played nowhere yet');
  });

  it('takes doubles out in one step, and rows by key, but never what is typed in a field', async () => {
    const page = await open();
    await page.press('Remove one double');
    expect(page.all('.tools button').some(({ textContent }) => textContent.includes('double'))).toBe(false);
    await page.key('input#add-row', 'Delete');
    expect(page.server.asked('editSetList')).toHaveLength(1);
    expect(page.server.asked('editSetList')[0]!.body).toMatchObject({
      revision: 4,
      edit: [{ at: 2, remove: 1, insert: [] }],
    });
  });

  it('narrows a pick by a search, and refuses one it cannot read', async () => {
    const page = await open();
    // The grid draws what its height shows, and here it has none.
    const { store } = page.component as { store: InstanceType<typeof SetListsStore> };
    store.go(1, { extend: false, toggle: false });
    await page.settle();
    expect(page.text('f-inspector')).toContain('Together 3:00 ± 0:30');
    await page.type('f-inspector f-inline-edit input', 'nowhere:1');
    expect(page.text('f-inspector [role=alert]')).toContain('nowhere');
    await page.type('f-inspector f-inline-edit input', 'year:1990..1999');
    expect(page.server.asked('editSetList').map(({ body }) => body)).toMatchObject([
      { edit: [{ at: 1, remove: 1, insert: [{ id: 'b', categoryId: 'gold', filter: 'year:1990..1999' }] }] },
    ]);
    expect(store.rows()[1]).toEqual({ id: 'b', categoryId: 'gold', filter: 'year:1990..1999' });
  });

  it('says what a set list is where there is none', async () => {
    const page = await open({}, []);
    expect(page.text()).toContain('No set lists yet');
  });
});
