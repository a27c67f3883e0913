import { describe, expect, it } from '@jest/globals';
import type { StaleLog } from '@fuller/contracts';
import { GenerateRuns } from '../state/generate-runs';
import { openPage } from '../testing/place';
import { StaleLogs } from './stale-logs';

const hours = (...local: number[]) => local.map((localHour) => ({ index: localHour, localHour, clockName: 'Day' }));
const STALE: StaleLog[] = [
  { date: '2026-11-24', hours: hours(6, 7, 8, 14) },
  { date: '2026-11-25', hours: hours(23) },
];

async function stale(logs: StaleLog[] | Error = STALE, inputs: object = {}) {
  const runs: unknown[][] = [];
  const page = await openPage(
    StaleLogs,
    { ...inputs },
    {
      answers: { staleLogs: () => (logs instanceof Error ? Promise.reject(logs) : logs) },
      providers: [
        {
          provide: GenerateRuns,
          useValue: { hours: async (...args: unknown[]) => (runs.push(args), true), start: async () => {} },
        },
      ],
    },
  );
  return { ...page, runs };
}

describe('logs that no longer match their clocks', () => {
  it('are told with their hours, those that follow each other together', async () => {
    const page = await stale();
    expect(page.text('aside')).toContain('5 hours of existing logs no longer match the clocks');
    expect(page.text('aside')).toContain('Tue 24 Nov 2026 06–09, 14–15');
    expect(page.text('aside')).toContain('Wed 25 Nov 2026 23–24');
  });

  it('are those of one day where one day is looked at', async () => {
    const page = await stale(STALE, { date: '2026-11-25' });
    expect(page.text('aside')).toContain('1 hour of');
    expect((await stale(STALE, { date: '2026-11-26' })).all('aside')).toEqual([]);
  });

  it('are not spoken of where there are none, or nothing is known', async () => {
    expect((await stale([])).all('aside')).toEqual([]);
    expect((await stale(new Error('no answer'))).all('aside')).toEqual([]);
  });

  it('are looked for again when a clock or a log changes, once for a burst', async () => {
    const page = await stale();
    for (const what of ['catalogue', 'logs', 'library'] as const)
      page.events.next({ type: 'changed', stationId: null, clientId: 'x', what: [what], dataRevision: 2 });
    await page.settle(260);
    expect(page.server.asked('staleLogs')).toHaveLength(2);
  });
});
