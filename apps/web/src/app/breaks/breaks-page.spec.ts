import { describe, expect, it } from '@jest/globals';
import type { MoveSpot, TrafficBreak, TrafficDay } from '@fuller/contracts';
import { ApiError } from '../shared/api/api';
import { openPage } from '../testing/place';
import { BreaksPage } from './breaks-page';

const spot = (id: string, lengthMs = 30_000) => ({
  id,
  cart: id,
  sponsor: `Sponsor ${id}`,
  title: '',
  product: '',
  lengthMs,
});
const breakOf = (entryId: string, hourIndex: number, more: Partial<TrafficBreak> = {}): TrafficBreak => ({
  entryId,
  hourIndex,
  start: `${String(hourIndex).padStart(2, '0')}:12:00`,
  pastHourMs: 720_000,
  plannedMs: 60_000,
  bookedMs: 30_000,
  spots: [spot(`${entryId}1`)],
  marks: [],
  aired: false,
  ...more,
});
const DAY: TrafficDay = {
  revision: 7,
  hours: [5, 6, 7].map((localHour) => ({ index: localHour, localHour })),
  breaks: [
    breakOf('a', 5, { aired: true }),
    breakOf('b', 6, { bookedMs: 90_000, spots: [spot('b1'), spot('b2', 60_000)], marks: ['Sponsor back to back'] }),
    breakOf('c', 7, { bookedMs: 0, spots: [] }),
  ],
  tray: [{ ...spot('t1'), line: 9, start: '10:20:00', why: 'No break is booked near 10:20.' }],
  errors: [{ line: 4, why: '“25:00” is not a time of day.', text: '25:00 X' }],
  file: { name: 'spots.txt', atMs: 0, lines: 12 },
  waiting: ['late.txt'],
};
const SET_UP = {
  settings: { revision: 2, toleranceMs: 300_000, layoutId: null, folder: null, automatic: false },
  layouts: [],
  folder: '/data/traffic',
  fault: null,
};
const open = (answers: Record<string, (address: never, body: never) => unknown> = {}) =>
  openPage(
    BreaksPage,
    { date: '2026-11-24' },
    { answers: { traffic: () => DAY, trafficSetUp: () => SET_UP, ...answers } },
  );

describe('the breaks of a day', () => {
  it('are shown as booked against planned, with the tray, the errors and what waits', async () => {
    const page = await open();
    expect(
      page
        .all('.bar')
        .map((bar) => bar.className.split(' ').filter((name) => /full|over|under|empty|aired/.test(name))),
    ).toEqual([['under', 'aired'], ['over'], ['empty']]);
    expect(page.find('[data-break="b"]').getAttribute('aria-label')).toBe(
      'Break at 06:12: 2 spots, 1:30 booked, 1:00 planned. Sponsor back to back',
    );
    expect(page.text('f-spot-tray')).toContain('10:20Sponsor t10:30');
    expect(page.text('f-inspector')).toContain('4 “25:00” is not a time of day.');
    await page.press('Import');
    expect(page.server.asked('importWaiting')[0]?.body).toEqual({ fileName: 'late.txt' });
  });

  it('take a spot from the tray by keys: chosen, led to its break, placed; not into one that has aired', async () => {
    const page = await open();
    const moves = () => page.server.asked('moveSpot').map(({ body }) => body as MoveSpot);
    page.find('f-spot-tray button').click();
    await page.settle();
    expect(document.activeElement?.getAttribute('data-break')).toBe('b');
    await page.key('[data-break="b"]', 'ArrowUp');
    expect(document.activeElement?.getAttribute('data-break')).toBe('a');
    page.find('[data-break="a"]').click();
    await page.settle();
    expect(moves()).toEqual([]);
    page.find('[data-break="c"]').click();
    await page.settle();
    expect(moves()).toEqual([{ revision: 7, spotId: 't1', toEntryId: 'c' }]);
    expect(page.text('f-inspector h2')).toBe('07:12');
  });

  it('let a chosen spot go with Escape', async () => {
    const page = await open();
    page.find('f-spot-tray button').click();
    await page.key('[data-break="b"]', 'Escape');
    page.find('[data-break="b"]').click();
    await page.settle();
    expect(page.server.asked('moveSpot')).toEqual([]);
  });

  it('have their spots moved within a break, one move after the other', async () => {
    const page = await open();
    page.find('[data-break="b"]').click();
    await page.settle();
    await page.press('Move Sponsor b1 down');
    expect(page.server.asked('moveSpot')[0]?.body).toEqual({ revision: 7, spotId: 'b1', toEntryId: 'b', at: 1 });
    expect(page.server.asked('traffic')).toHaveLength(2);
  });

  it('say what to do where there is no log, and keep wrong settings with their reason', async () => {
    const none = await open({
      traffic: () => {
        throw new ApiError('NO_LOG', 'There is no log.', undefined);
      },
    });
    expect(none.find<HTMLAnchorElement>('f-empty a').getAttribute('href')).toBe('/vale/logs/2026-11-24');
    const page = await open();
    await page.type('#tolerance', '45');
    expect([page.text('.form .error-text'), page.server.asked('setTraffic')]).toEqual([
      'Write minutes from 0 to 30.',
      [],
    ]);
    await page.type('#tolerance', '2,5');
    expect(page.server.asked('setTraffic')[0]?.body).toMatchObject({ toleranceMs: 150_000, revision: 2 });
  });

  it('show what a file would book before it is imported, and nothing can be moved there', async () => {
    const outcome = { placed: 1, added: 1, removed: 0, passed: 0, tray: [], errors: [], breaks: [DAY.breaks[1]] };
    const page = await open({ importTraffic: () => outcome });
    const text = '06:12:00;:30;SP1;BAKERY\n06:27:00;:30;SP2;SHOP\n';
    const file = Object.assign(new File([], 'spots.txt'), {
      arrayBuffer: async () => new TextEncoder().encode(text).buffer,
    });
    const field = page.find<HTMLInputElement>('input[type=file]');
    Object.defineProperty(field, 'files', { value: [file] });
    field.dispatchEvent(new Event('change'));
    await page.settle(20);
    expect(page.text('f-import-panel dl')).toContain('Placed1');
    await page.press('The day');
    expect(page.all('.bar')).toHaveLength(1);
    page.find('.bar').click();
    await page.settle();
    expect([page.text('f-inspector h2'), page.server.asked('moveSpot')]).toEqual(['spots.txt', []]);
    await page.press('Cancel');
    expect(page.all('.bar')).toHaveLength(3);
  });
});
