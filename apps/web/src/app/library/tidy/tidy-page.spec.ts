import { describe, expect, it } from '@jest/globals';
import type { TidyView } from '@fuller/contracts';
import { openPage } from '../../testing/place';
import { TidyPage } from './tidy-page';

const song = (id: string, plays: number) => ({
  id,
  title: 'Ember',
  artist: 'Ada',
  durationMs: 200_000,
  year: 1999,
  categoryId: 'gold',
  plays,
});
const VIEW: TidyView = {
  artists: [],
  songs: [
    { key: 'k1', title: 'same', artist: 'same', members: [song('s1', 9), song('s2', 1)] },
    { key: 'k2', title: 'slip', artist: 'same', members: [song('s3', 4), song('s4', 0), song('s5', 0)] },
  ],
  albums: [],
  gaps: [{ name: 'Songs without a file', filter: 'kind:song file:none', items: 1204 }],
  refused: 0,
};
const open = (view: TidyView | Error = VIEW) =>
  openPage(TidyPage, {}, { answers: { tidy: () => (view instanceof Error ? Promise.reject(view) : view) } });

describe('the page of what to tidy', () => {
  it('lists findings with what speaks for them, and what else is worth a look', async () => {
    const page = await open();
    expect(page.text('header')).toContain('2 to review');
    expect(page.all('li.matter').map((one) => one.tabIndex)).toEqual([0, -1]);
    expect(page.text('.gaps')).toContain('Songs without a filekind:song file:none1,204');
  });

  it('is settled by keys: Enter keeps the first, a figure another, x says they differ', async () => {
    const page = await open();
    await page.key('li.matter.active', 'Enter');
    await page.key('ul', 'ArrowDown');
    await page.key('li.matter.active', '2');
    await page.key('li.matter.active', '9');
    await page.key('li.matter.active', 'x');
    await page.key('li.matter.active', 'x', { ctrlKey: true });
    expect(page.server.asked('place').map(({ body }) => body)).toEqual([
      { itemIds: ['s2'], categoryId: null },
      { itemIds: ['s3', 's5'], categoryId: null },
    ]);
    expect(page.server.asked('refuseDoubles').map(({ body }) => body)).toEqual([{ keys: ['k2'] }]);
  });

  it('says that there is nothing to review, or why nothing can be found', async () => {
    expect((await open({ ...VIEW, songs: [], gaps: [] })).text()).toContain('No duplicates found');
    const failed = await open(new Error('The server does not answer.'));
    expect(failed.text('f-empty')).toContain('The server does not answer.');
  });
});
