import { describe, expect, it } from '@jest/globals';
import type { CategoryRow, RotationRow } from '@fuller/contracts';
import { openPage } from '../testing/place';
import { CategoryPanel } from './category-panel';
import { sheetView } from './sheet-view';

const CATEGORY: CategoryRow = {
  id: 'gold',
  revision: 4,
  scope: 'station',
  name: 'Gold',
  code: 'G',
  colour: '#1F6FA8',
  music: true,
  groupId: null,
  turnOrder: 'even',
  approvedOnly: false,
  coolOff: null,
  life: null,
  pool: false,
  position: 1,
  items: 20,
  averageMs: 200_000,
  standardDeviationMs: 0,
  slotsPerWeek: 168,
  turnoverHours: 20,
};
const ROW: RotationRow = {
  categoryId: 'gold',
  items: 20,
  canPlay: 18,
  barred: [{ because: 'paused', items: 2 }],
  averageMs: 200_000,
  slotsByDay: [24, 24, 24, 24, 24, 24, 24],
  slots: Array.from({ length: 168 }, (_, hour) => hour * 3600),
  rules: [],
  rests: [],
  spread: 1,
  plan: null,
};
const open = (more: Partial<CategoryRow> = {}) =>
  openPage(
    CategoryPanel,
    { view: sheetView({ ...CATEGORY, ...more }, ROW, {}, undefined) },
    {
      catalogue: {
        categories: [
          { ...CATEGORY, ...more },
          { ...CATEGORY, id: 'fresh', name: 'Fresh', code: 'F', position: 2 },
        ],
      },
      answers: {
        categoryUse: () => ({ items: 20, plays: 900, clocks: ['Day', 'Night'], pools: [], rules: 1 }),
        categoryRests: () => ({
          weeks: 8,
          expected: null,
          leftOver: [],
          items: [],
          picks: [{ id: 's1', title: 'Ember', artist: 'Ada' }],
        }),
      },
    },
  );
const patches = (page: Awaited<ReturnType<typeof open>>) => page.server.asked('patchCategory').map(({ body }) => body);

describe('the panel of a category', () => {
  it('shows what the week asks of it', async () => {
    const page = await open();
    expect(page.text('h2')).toBe('Gold');
    expect(page.text()).toContain('24');
    expect(page.text()).toMatch(/returns after/);
  });

  it('keeps names and codes that are taken in their fields', async () => {
    const page = await open();
    const [name, code] = page.all('f-inline-edit input') as HTMLInputElement[];
    name!.id = 'cat-name';
    code!.id = 'cat-code';
    await page.type('#cat-name', 'FRESH');
    expect(page.text()).toContain('Fresh');
    await page.type('#cat-code', 'f');
    expect(patches(page)).toEqual([]);
    await page.type('#cat-name', 'Old gold');
    expect(patches(page)).toMatchObject([{ revision: 4, name: 'Old gold' }]);
  });

  it('sets a cool-off only when it is whole', async () => {
    const page = await open();
    const fields = page.all('input[inputmode="numeric"]') as HTMLInputElement[];
    expect(fields).toHaveLength(3);
    await page.press('Set');
    expect(page.all('[role="alert"], .error-text').length).toBeGreaterThan(0);
    for (const [at, value] of ['12', '7', '3'].entries()) fields[at]!.value = value;
    await page.press('Set');
    expect(patches(page)).toMatchObject([{ coolOff: { plays: 12, days: 7, rest: 3 } }]);
  });

  it('tells what hangs on it before it goes', async () => {
    const page = await open();
    const remove = page.all('button').find((one) => /^Delete|^Merge/.test(one.textContent?.trim() ?? ''));
    expect(remove).toBeDefined();
    remove!.click();
    await page.settle();
    expect(page.server.asked('categoryUse')).toHaveLength(1);
    expect(page.text()).toContain('Day');
  });
});
