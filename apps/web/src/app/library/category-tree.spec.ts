import { describe, expect, it } from '@jest/globals';
import { openPage } from '../testing/place';
import { CategoryTree } from './category-tree';

const category = (id: string, groupId: string | null, turnoverHours: number | null, items = 1200) =>
  ({
    id,
    name: `Name of ${id}`,
    code: id.toUpperCase(),
    colour: '#1F6FA8',
    groupId,
    items,
    turnoverHours,
    position: 1,
  }) as never;
const pool = (id: string, items: number, fault: string | null = null) => ({
  id,
  revision: 1,
  scope: 'station' as const,
  name: id,
  filter: 'year:..1990',
  items,
  fault,
});

const open = (inputs: object = {}) =>
  openPage(
    CategoryTree,
    { chosen: null, ...inputs },
    {
      catalogue: {
        groups: [
          { id: 'music', name: 'Music', position: 1 },
          { id: 'empty', name: 'Empty', position: 2 },
        ],
        categories: [category('a', 'music', 71.6), category('b', 'music', 200), category('c', null, null, 0)],
        items: 100_000,
        withoutCategory: 7,
      },
    },
  );

describe('the tree of categories', () => {
  it('has the categories in their groups, and no heading without one below it', async () => {
    const page = await open();
    expect(page.all('h3').map((one) => one.textContent)).toEqual(['Music', 'Other']);
  });

  it('counts in thousands and tells turnover in hours or days', async () => {
    const page = await open();
    expect(page.text('button')).toBe('All items100,000');
    expect(page.all('button[title]').map((one) => [one.querySelector('.turn')?.textContent, one.title])).toEqual([
      ['72h', 'Name of a: 1200 items, heard through once in 72 hours'],
      ['8.3d', 'Name of b: 1200 items, heard through once in 8.3 days'],
      ['', 'Name of c: 0 items, no slots in the week'],
    ]);
  });

  it('tells which is chosen, to the eye and to a screen reader', async () => {
    const page = await open({ chosen: 'b' });
    const pressed = page.all('[aria-pressed="true"]');
    expect(pressed.map((one) => [one.title.slice(0, 9), one.classList.contains('here')])).toEqual([
      ['Name of b', true],
    ]);
    pressed[0]?.click();
    expect(page.emitted).toEqual([['choose', 'b']]);
  });

  it('warns of a pool that holds nothing or cannot be read', async () => {
    const page = await open({ pools: [pool('full', 9), pool('bare', 0), pool('torn', 0, 'No category is named X.')] });
    expect(page.all('[role="img"]').map((one) => one.getAttribute('aria-label'))).toEqual([
      'holds nothing',
      'No category is named X.',
    ]);
  });

  it('shows how much there is to tidy and to work on, and nothing for none', async () => {
    const page = await open({ matters: 1234, collected: 12 });
    expect(page.text('[aria-label="1234 to review"]')).toBe('1,234');
    expect(page.text()).toContain('Worklist12');
    await page.set('collected', 0);
    await page.set('matters', null);
    expect(page.text()).toContain('WorklistSet listsTagsTidy');
  });
});
