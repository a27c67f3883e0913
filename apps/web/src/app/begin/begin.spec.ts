import { describe, expect, it } from '@jest/globals';
import type { BeginView } from '@fuller/contracts';
import { openPage, openPlace } from '../testing/place';
import { BeginStore, type Axis } from './begin.store';
import { BorderPicture } from './border-picture';

const AXIS: Axis = {
  key: 'year',
  name: 'Year',
  why: 'The newest play most often',
  values: [10, 20, 30, 40].map((songs, n) => ({ label: String(2026 - n), songs })),
  proposed: [
    { name: 'Current', code: 'C', from: 0, to: 1 },
    { name: 'Gold', code: 'G', from: 1, to: 4 },
  ],
};
const view = (patch: Partial<BeginView> = {}): BeginView => ({
  songs: 100,
  withoutCategory: 100,
  withoutLength: 0,
  artists: 40,
  averageMs: 210_000,
  categories: [],
  clocks: 0,
  rules: 0,
  tomorrow: '2026-11-25',
  axes: [AXIS, { ...AXIS, key: 'folder', proposed: [{ name: 'All', code: 'A', from: 0, to: 4 }] }],
  ...patch,
});
const open = async (patch: Partial<BeginView> = {}) => {
  const place = openPlace(BeginStore, { answers: { begin: () => view(patch) } });
  await place.store.open('vale');
  return place;
};
const cut = ({ store }: Awaited<ReturnType<typeof open>>) =>
  store.cut().map(({ from, to, songs }) => [from, to, songs]);

describe('the beginning of a station', () => {
  it('goes on with the first step that is not taken', async () => {
    expect((await open({ songs: 0 })).store.nextStep()).toBe(1);
    expect((await open()).store.nextStep()).toBe(2);
    const categories = [{ id: 'c', name: 'Current', code: 'C', colour: '#1F6FA8', songs: 100 }];
    expect((await open({ categories })).store.nextStep()).toBe(3);
    expect((await open({ categories, clocks: 3 })).store.nextStep()).toBe(4);
  });

  it('cuts the songs as proposed until a border is moved, which leaves every part a value', async () => {
    const place = await open();
    expect(cut(place)).toEqual([
      [0, 1, 10],
      [1, 4, 90],
    ]);
    place.store.moveBorder(0, 3);
    expect(cut(place)).toEqual([
      [0, 3, 60],
      [3, 4, 40],
    ]);
    for (const wild of [99, -5]) {
      place.store.moveBorder(0, wild);
      expect(place.store.cut().every(({ from, to }) => to > from)).toBe(true);
    }
    place.store.moveBorder(7, 2);
    expect(place.store.cut()).toHaveLength(2);
    place.store.chooseAxis('folder');
    expect(cut(place)).toEqual([[0, 4, 100]]);
  });

  it('splits and joins parts, and small ones come round faster', async () => {
    const place = await open();
    place.store.split(1);
    expect(cut(place)).toEqual([
      [0, 1, 10],
      [1, 3, 50],
      [3, 4, 40],
    ]);
    expect(new Set(place.store.cut().map(({ code }) => code)).size).toBe(3);
    const [small, big] = place.store.cut();
    expect(small!.turnoverHours!).toBeLessThan(big!.turnoverHours!);
    place.store.split(0);
    expect(place.store.cut()).toHaveLength(3);
    place.store.join(2);
    place.store.join(0);
    expect(cut(place)).toEqual([
      [0, 1, 10],
      [1, 4, 90],
    ]);
  });

  it('makes the parts with the names they were given, and keeps them where that is refused', async () => {
    const place = await open();
    place.store.rename(0, { name: ' Fresh ', code: 'F' });
    expect(await place.store.makeCategories()).toBe(true);
    expect(place.server.asked('beginCategories')[0]!.body).toEqual({
      axis: 'year',
      parts: [
        { name: 'Fresh', code: 'F', from: 0, to: 1 },
        { name: 'Gold', code: 'G', from: 1, to: 4 },
      ],
    });
    expect(place.store.parts()).toBeNull();
    place.server.answers['beginCategories'] = () =>
      Promise.reject(new Error('There is a category named “Gold” already.'));
    place.store.rename(0, { name: 'Gold' });
    expect(await place.store.makeCategories()).toBe(false);
    expect([place.store.problem(), place.store.cut()[0]!.name]).toEqual([
      'There is a category named “Gold” already.',
      'Gold',
    ]);
  });
});

describe('the borders of categories', () => {
  it('are sliders that say what they divide, and move by arrows', async () => {
    const parts = AXIS.proposed.map((part, n) => ({
      ...part,
      colour: '#1F6FA8',
      songs: n ? 90 : 10,
      turnoverHours: 9,
    }));
    const page = await openPage(BorderPicture, { axis: AXIS, parts });
    const border = page.find('[role=slider]');
    expect(border.getAttribute('aria-label')).toBe('Border between Current and Gold');
    expect(border.getAttribute('aria-valuetext')).toBe('before 2025: 10 songs and 90 songs');
    for (const key of ['ArrowRight', 'PageUp', 'x']) border.dispatchEvent(new KeyboardEvent('keydown', { key }));
    expect(page.emitted).toEqual([
      ['moved', { after: 0, place: 2 }],
      ['moved', { after: 0, place: 6 }],
    ]);
    expect(page.all('rect')).toHaveLength(4);
  });
});
