import { describe, expect, it } from '@jest/globals';
import { openPage } from '../testing/place';
import { HandedOver } from './handed-over';

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
