import { describe, expect, it } from '@jest/globals';
import type { CategoryRow, ItemLife, MoveRow, Moves } from '@fuller/contracts';
import { CardLife } from '../library/card/card-life';
import { openPage } from '../testing/place';
import { LifeEditor } from './life-editor';
import { lifeWords, moveWords, whyWords } from './move-words';
import { MovesPage } from './moves-page';

const category = (id: string, name: string, patch: Partial<CategoryRow> = {}): CategoryRow => ({
  id,
  revision: 3,
  scope: 'station',
  name,
  code: name[0]!,
  colour: '#1F6FA8',
  music: true,
  groupId: null,
  turnOrder: 'even',
  approvedOnly: false,
  coolOff: null,
  life: null,
  pool: false,
  position: 0,
  items: 20,
  averageMs: 200_000,
  standardDeviationMs: 0,
  slotsPerWeek: 100,
  turnoverHours: 30,
  ...patch,
});
const CATEGORIES = [category('fresh', 'Fresh'), category('current', 'Current'), category('gold', 'Gold')];
const move = (patch: Partial<MoveRow>): MoveRow => ({
  itemId: 'a',
  title: 'Harbour Light',
  artist: 'Ann',
  from: 'fresh',
  to: 'current',
  date: '2026-11-24',
  since: '2026-10-27',
  plays: 0,
  expected: false,
  byHand: false,
  ...patch,
});
const MOVES: Moves = {
  today: '2026-11-24',
  until: '2026-12-22',
  moves: [move({}), move({ itemId: 'b', title: 'Later', date: '2026-12-01', expected: true, plays: 12, to: null })],
  effects: [
    { categoryId: 'fresh', leave: 2, come: 0, songs: { today: 20, then: 18 }, turnoverHours: { today: 30, then: 72 } },
  ],
};
const press = (page: { find(selector: string): HTMLElement }, selector: string): void => page.find(selector).click();

describe('moves in words', () => {
  it('say how long, where and why', () => {
    const names = (id: string) => id.toUpperCase();
    expect(lifeWords({ after: 1, unit: 'weeks', to: 'gold' }, names)).toBe('1 week, then GOLD');
    expect(lifeWords({ after: 40, unit: 'plays', to: null }, names)).toBe('40 plays, then out of rotation');
    const next = { to: 'gold', date: '2026-12-10', expected: true, byHand: false };
    expect(moveWords(next, names)).toBe('To GOLD about Thu 10 Dec 2026');
    expect([whyWords(move({ byHand: true })), whyWords(move({ expected: true, plays: 3 }))]).toEqual([
      'by hand',
      '3 plays so far',
    ]);
  });
});

describe('the moves of a station', () => {
  const open = () =>
    openPage(
      MovesPage,
      { stationId: 'vale' },
      { catalogue: { categories: CATEGORIES }, answers: { moves: () => MOVES } },
    );

  it('show what is due apart from what is to come, and both turnovers', async () => {
    const page = await open();
    await page.settle(10);
    expect(page.text('.told')).toContain('1 song due today, 1 to come');
    expect(page.text('tbody')).toContain('Due');
    expect(page.text('tbody')).toContain('about Tue 1 Dec 2026');
    expect(page.text('tbody')).toContain('Out of rotation');
    expect(page.text('f-inspector')).toContain('20 → 18');
    expect(page.text('f-inspector')).toContain('30 h → 3.0 days');
  });

  it('are made all at once by a key or a button, one by one, or never', async () => {
    const page = await open();
    await page.settle(10);
    document.dispatchEvent(new KeyboardEvent('keydown', { key: 'm' }));
    await page.settle(10);
    press(page, '[aria-label="Move now: Later"]');
    press(page, '[aria-label="Keep here: Later"]');
    await page.settle(10);
    expect(page.server.asked('carryOutMoves').map(({ body }) => body)).toEqual([{}, { itemIds: ['b'] }]);
    expect(page.server.asked('planMove')[0]).toMatchObject({
      address: { id: 'b' },
      body: { planned: { kind: 'stays' } },
    });
  });
});

describe('the life of a category', () => {
  it('is set, told in words and taken away', async () => {
    const page = await openPage(LifeEditor, { category: CATEGORIES[0]! }, { catalogue: { categories: CATEGORIES } });
    expect(page.text()).toContain('Not set');
    press(page, 'button');
    await page.settle(10);
    page.find<HTMLFormElement>('form').dispatchEvent(new Event('submit'));
    expect(page.emitted).toEqual([['changed', { after: 4, unit: 'weeks', to: 'current' }]]);
    await page.set('category', category('fresh', 'Fresh', { life: { after: 6, unit: 'plays', to: null } }));
    expect(page.text()).toContain('6 plays, then out of rotation');
    page.find<HTMLElement>('button:last-of-type').click();
    expect(page.emitted.at(-1)).toEqual(['changed', null]);
  });
});

describe('the plan of a song on its card', () => {
  const LIFE: ItemLife = {
    categoryId: 'fresh',
    since: '2026-11-20',
    plays: 0,
    planned: null,
    next: { to: 'current', date: '2026-12-18', expected: false, byHand: false },
  };

  it('says since when and what comes, and plans a move by weeks as a date', async () => {
    const page = await openPage(
      CardLife,
      { stationId: 'vale', itemId: 'a' },
      { catalogue: { categories: CATEGORIES }, answers: { itemLife: () => LIFE } },
    );
    await page.settle(10);
    expect(page.text()).toContain('Since Fri 20 Nov 2026, 4 days. To Current on Fri 18 Dec 2026.');
    press(page, 'button');
    await page.settle(10);
    const card = page.component as { manner: { set(value: string): void }; to: { set(value: string): void } };
    card.manner.set('weeks');
    card.to.set('gold');
    await page.settle(10);
    page.find<HTMLFormElement>('form').dispatchEvent(new Event('submit'));
    await page.settle(10);
    expect(page.server.asked('planMove')[0]!.body).toEqual({
      planned: { kind: 'on', date: '2026-12-22', to: 'gold' },
    });
    expect(page.host.querySelector('form')).toBeNull();
  });
});
