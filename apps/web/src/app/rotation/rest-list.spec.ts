import { describe, expect, it } from '@jest/globals';
import type { CategoryRests } from '@fuller/contracts';
import { openPage } from '../testing/place';
import { RestList } from './rest-list';

const HOUR = 3_600_000;
type Item = CategoryRests['items'][number];
const item = (id: string, more: Partial<Item> = {}): Item => ({
  id,
  title: id.toUpperCase(),
  artist: 'Ada',
  weight: 1,
  bar: null,
  spread: 1,
  marks: [],
  sinceMs: 10 * HOUR,
  averageMs: 10 * HOUR,
  shortestMs: 8 * HOUR,
  plays: 5,
  state: 'even',
  ...more,
});
const RESTS: CategoryRests = {
  weeks: 8,
  expected: { averageMs: 10 * HOUR, shortestMs: 8 * HOUR, longestMs: 12 * HOUR },
  leftOver: ['X'],
  picks: [],
  items: [
    item('even', { plays: 9, spread: 0.9 }),
    item('behind', { state: 'left behind', sinceMs: null, averageMs: null, shortestMs: null, plays: 0, spread: null }),
    item('worn', { state: 'worn', plays: 12, sinceMs: 2 * HOUR }),
    item('barred', { state: 'left behind', bar: { because: 'paused' } as never, sinceMs: 30 * HOUR }),
  ],
};
const open = (rests: CategoryRests | Error = RESTS) =>
  openPage(
    RestList,
    { categoryId: 'gold' },
    {
      catalogue: { categories: [{ id: 'gold', name: 'Gold', position: 1 }] as never },
      answers: { categoryRests: () => (rests instanceof Error ? Promise.reject(rests) : rests) },
    },
  );
const order = (page: Awaited<ReturnType<typeof open>>) => page.all('tr[id]').map((one) => one.id.slice(5));
const marked = (page: Awaited<ReturnType<typeof open>>) => page.all('tr.marked').map((one) => one.id.slice(5));

describe('the rests of a category', () => {
  it('lists first what is left behind, longest rest first, and then what is worn', async () => {
    const page = await open();
    expect(order(page)).toEqual(['behind', 'barred', 'worn', 'even']);
    expect(page.text('header')).toContain('1 left behind, 1 worn');
    expect(page.text('header')).toContain('1 song get no turn in a week');
    expect(page.text('#rest-behind')).toContain('not in 8 weeks');
    expect(page.text('#rest-barred')).toContain('paused');
  });

  it('is sorted by plays or by spread as well', async () => {
    const page = await open();
    await page.press('Plays');
    expect(order(page)).toEqual(['worn', 'even', 'barred', 'behind']);
    await page.press('Spread');
    expect(order(page)[0]).toBe('even');
    expect(order(page).at(-1)).toBe('behind');
  });

  it('is selected by mouse and keys', async () => {
    const page = await open();
    page.find('#rest-barred').click();
    await page.settle();
    page.find('#rest-even').dispatchEvent(new MouseEvent('click', { bubbles: true, ctrlKey: true }));
    await page.settle();
    expect(marked(page)).toEqual(['barred', 'even']);
    await page.key('.scroll', 'Home');
    await page.key('.scroll', 'ArrowDown', { shiftKey: true });
    expect(marked(page)).toEqual(['behind', 'barred']);
    await page.key('.scroll', ' ');
    expect(marked(page)).toEqual(['behind']);
    await page.key('.scroll', 'ArrowUp');
    await page.key('.scroll', 'ArrowUp');
    expect(marked(page)).toEqual(['behind']);
  });

  it('pauses what is selected for a week, collects it, or splits it off', async () => {
    const page = await open();
    await page.key('.scroll', 'p');
    expect(page.server.asked('bulkWrite')).toEqual([]);
    await page.key('.scroll', 'ArrowDown');
    await page.key('.scroll', 'p');
    await page.key('.scroll', 'w');
    await page.press('Split off');
    expect(page.server.asked('bulkWrite')[0]!.body).toEqual({
      itemIds: ['behind'],
      edit: { do: 'set', field: 'pausedUntil', value: '2026-12-01' },
    });
    expect(page.server.asked('changeWorklist')[0]!.body).toEqual({ add: ['behind'] });
    expect(page.emitted).toEqual([['splitOff', ['behind']]]);
  });

  it('keeps of a selection what is still there when it is read again', async () => {
    const page = await open();
    page.find('#rest-worn').click();
    page.server.answers['categoryRests'] = () => ({ ...RESTS, items: RESTS.items.slice(0, 2) });
    await page.set('version', 2);
    expect([order(page), marked(page)]).toEqual([['behind', 'even'], []]);
  });

  it('says that nothing is in it, or why it cannot be read', async () => {
    expect((await open({ ...RESTS, items: [], expected: null })).text('.none')).toContain(
      'Nothing in this category yet',
    );
    expect((await open(new Error('There is no category “gold”.'))).text('.error-text')).toBe(
      'There is no category “gold”.',
    );
  });
});
