import { describe, expect, it } from '@jest/globals';
import type { Spot } from '@fuller/core';
import { openPage } from '../../testing/place';
import { SpotList } from './spot-list';

const spot = (id: string): Spot => ({ id, cart: id, sponsor: '', title: `Copy ${id}`, product: '', lengthMs: 30_000 });
const spots = ['a', 'b', 'c'].map(spot);

describe('the spots of a break', () => {
  it('are moved up and down and removed; the first and the last go no further', async () => {
    const page = await openPage(SpotList, { spots });
    await page.press('Move Copy a down');
    await page.press('Move Copy c up');
    await page.press('Remove Copy b');
    expect(page.emitted).toEqual([
      ['moved', { spot: spots[0], to: 1 }],
      ['moved', { spot: spots[2], to: 1 }],
      ['removed', spots[1]],
    ]);
    expect(page.all('button[disabled]').map((one) => one.getAttribute('aria-label'))).toEqual([
      'Move Copy a up',
      'Move Copy c down',
    ]);
  });

  it('stay where their break has aired, and go elsewhere where there is an elsewhere', async () => {
    expect((await openPage(SpotList, { spots, fixed: true })).all('button')).toEqual([]);
    const page = await openPage(SpotList, { spots, places: [{ value: 'tray', label: 'The tray' }] });
    expect(page.all('f-choice')).toHaveLength(3);
    expect(page.all('[aria-label^=Remove]')).toEqual([]);
  });
});
