import { describe, expect, it } from '@jest/globals';
import type { CategoryRow, RotationRow } from '@fuller/contracts';
import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { catalogueActions } from '../state/catalogue.feature';
import { catalogueOf, openPage } from '../testing/place';
import { RotationPage } from './rotation-page';

const category = (id: string, position: number): CategoryRow => ({
  id,
  revision: 1,
  scope: position === 0 ? 'group' : 'station',
  name: id[0]!.toUpperCase() + id.slice(1),
  code: id.slice(0, 2).toUpperCase(),
  colour: '#1F6FA8',
  music: true,
  groupId: null,
  turnOrder: 'even',
  approvedOnly: false,
  coolOff: null,
  life: null,
  pool: false,
  position,
  items: 20,
  averageMs: 200_000,
  standardDeviationMs: 20_000,
  slotsPerWeek: 168,
  turnoverHours: 20,
});
const row = (categoryId: string, more: Partial<RotationRow> = {}): RotationRow => ({
  categoryId,
  items: 20,
  canPlay: 20,
  barred: [],
  averageMs: 200_000,
  slotsByDay: [24, 24, 24, 24, 24, 24, 24],
  slots: Array.from({ length: 168 }, (_, hour) => hour * 3600),
  rules: [],
  rests: [],
  spread: 1.25,
  plan: null,
  ...more,
});

const open = (rows: RotationRow[] = [row('gold'), row('fresh', { items: 0, canPlay: 0 })]) =>
  openPage(
    RotationPage,
    {},
    {
      catalogue: { categories: [category('gold', 0), category('fresh', 1)] },
      answers: {
        rotation: () => ({ weeks: 8, rows }),
        categoryRests: () => ({ weeks: 8, items: [], picks: [], leftOver: [], expected: null }),
      },
    },
  );

describe('the page of the rotation', () => {
  it('shows what each category promises, and what is wrong with one that is empty', async () => {
    const page = await open();
    expect(page.all('tr[id]').map((one) => one.id)).toEqual(['category-gold', 'category-fresh']);
    expect(page.text('#category-gold')).toContain('20.0 h – 20.0 h');
    expect(page.text('#category-gold')).not.toContain('shared');
    const stations = ['vale', 'weir'].map((id) => ({ ...catalogueOf({}).station, id }));
    TestBed.inject(Store).dispatch(catalogueActions.stationsLoaded({ stations }));
    await page.settle();
    expect(page.text('#category-gold')).toContain('shared');
    expect(page.text('#category-fresh')).toContain('empty, but asked for');
  });

  it('tries a number out in the row, and drops it again', async () => {
    const page = await open();
    await page.type('[aria-label="Items of Gold"]', '40');
    expect(page.find('#category-gold').classList).toContain('wished');
    expect(page.find<HTMLInputElement>('[aria-label="Plays of an item of Gold"]').value).toBe('4.2');
    await page.press('Drop');
    expect(page.find<HTMLInputElement>('[aria-label="Items of Gold"]').value).toBe('20');
    expect(page.server.asked('keepPlan')).toEqual([]);
  });

  it('puts back what was there where a number is none', async () => {
    const page = await open();
    await page.type('[aria-label="Items of Gold"]', 'many');
    expect(page.find<HTMLInputElement>('[aria-label="Items of Gold"]').value).toBe('20');
    expect(page.find('#category-gold').classList).not.toContain('wished');
  });

  it('shows a plan with what is missing for it', async () => {
    const page = await open([row('gold', { plan: { items: 26, slotsPerWeek: 150 } }), row('fresh')]);
    expect(page.text('.plan')).toContain('26 items, 150 slots a week 6 items to find');
    await page.press('Drop the plan');
    expect(page.server.asked('dropPlan')).toMatchObject([{ address: { id: 'gold' } }]);
  });

  it('is gone through by keys, though not while a number is typed', async () => {
    const page = await open();
    await page.key('.scroll', 'ArrowDown');
    await page.key('.scroll', 'End');
    await page.key('[aria-label="Items of Gold"]', 'Home');
    expect(
      page.gone.map(([, extras]) => (extras as { queryParams: { category: string } }).queryParams.category),
    ).toEqual(['gold', 'fresh']);
  });

  it('makes a category with a code of its own', async () => {
    const page = await open();
    await page.press('New category');
    await page.type('.new input.mono', 'GO');
    await page.type('f-name-form input:not(.mono)', 'Old gold');
    page.find<HTMLFormElement>('f-name-form form').dispatchEvent(new Event('submit', { cancelable: true }));
    await page.settle();
    expect(page.text('.new')).toContain('The code belongs to Gold.');
    expect(page.server.asked('createCategory')).toEqual([]);
  });

  it('says why it cannot be shown', async () => {
    const page = await openPage(
      RotationPage,
      {},
      { answers: { rotation: () => Promise.reject(new Error('The server does not answer.')) } },
    );
    expect(page.text('[role="alert"]')).toBe('The server does not answer.');
    expect(page.text()).toContain('No categories yet');
  });
});
