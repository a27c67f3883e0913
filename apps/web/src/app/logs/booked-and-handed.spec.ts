import { describe, expect, it } from '@jest/globals';
import type { Spot } from '@fuller/core';
import { openPage } from '../testing/place';
import { HandedOver } from './handed-over';
import { SpotList } from './spot-list';

const spot = (id: string): Spot => ({ id, cart: id, sponsor: '', title: `Copy ${id}`, product: '', lengthMs: 30_000 });

describe('the spots of a break on the desk', () => {
  it('are moved up and down and removed, each a change of the whole break', async () => {
    const page = await openPage(SpotList, { spots: [spot('a'), spot('b'), spot('c')] });
    const orders = () => page.emitted.map(([, value]) => (value as Spot[]).map(({ id }) => id).join(''));
    await page.press('Move Copy a down');
    await page.press('Move Copy c up');
    await page.press('Remove Copy b');
    expect(orders()).toEqual(['bac', 'acb', 'ac']);
    expect(page.all('button[disabled]').map((one) => one.getAttribute('aria-label'))).toEqual([
      'Move Copy a up',
      'Move Copy c down',
    ]);
  });
});

describe('a log that the player has', () => {
  it('warns as soon as it is edited, and says nothing of one that was never handed over', async () => {
    let stale = false;
    const record = () => ({ id: 'r', atMs: Date.UTC(2026, 10, 24, 9, 5), stale });
    const page = await openPage(
      HandedOver,
      { date: '2026-11-24' },
      { answers: { handOver: () => ({ outputs: [], records: [record()], folder: '' }) } },
    );
    expect(page.text()).toBe('Handed over');
    stale = true;
    page.events.next({ type: 'log', stationId: 'vale', dataRevision: 2 } as never);
    await page.settle(400);
    expect(page.text('a.stale')).toBe('Hand over again');
    expect(page.told).toEqual(['The player has this log as it was at 09:05. Hand it over again.']);
    page.server.answers['handOver'] = () => ({ outputs: [], records: [], folder: '' });
    await page.set('date', '2026-11-25');
    await page.settle();
    expect(page.text()).toBe('Hand over');
    expect(page.told).toHaveLength(1);
  });
});
