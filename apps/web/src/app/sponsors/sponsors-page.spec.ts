import { describe, expect, it } from '@jest/globals';
import type { PromiseShortfall, SponsorPatch, SponsorRow, SponsorWeek } from '@fuller/contracts';
import { openPage } from '../testing/place';
import { belowOnDay, brokenWords, keptInWeek, promiseWords, shortfallWords } from './sponsor-words';
import { SponsorsPage } from './sponsors-page';

const week = (count: number): number[] => Array<number>(7).fill(count);
const BUSES: SponsorRow = {
  id: 's1',
  revision: 3,
  name: 'Osier Buses',
  product: 'TRAV',
  startDate: null,
  endDate: null,
  messages: 2,
  promises: [
    { count: 5, per: 'day', daypartId: 'early', asked: [5, 5, 5, 5, 5, 0, 0], placed: [5, 4, 4, 5, 5, 0, 0] },
    { count: 20, per: 'week', daypartId: null, asked: [3, 3, 3, 3, 3, 3, 2], placed: week(3) },
  ],
  placed: [6, 5, 5, 6, 6, null, null],
  aired: [5, null, null, null, null, null, null],
};
const BAKERY: SponsorRow = { ...BUSES, id: null, revision: 0, name: 'Bakery', promises: [] };
const WEEK: SponsorWeek = {
  monday: '2026-11-23',
  settings: { revision: 0, apartMs: 0 } as never,
  days: week(0).map((_, n) => ({ date: `2026-11-${23 + n}`, from: n < 5 ? 'log' : 'plan', slots: 24 })),
  sponsors: [BUSES, BAKERY],
};
const daypart = (): string => 'weekday breakfast';

describe('what was promised, in words', () => {
  it('names the daypart, and counts by the promise that stays furthest below', () => {
    expect(BUSES.promises.map((one) => promiseWords(one, daypart))).toEqual([
      '5 a day in weekday breakfast',
      '20 a week',
    ]);
    expect(keptInWeek(BUSES, WEEK)).toEqual({ asked: 20, placed: 15 });
    expect([belowOnDay(BUSES, 0), belowOnDay(BUSES, 1)]).toEqual([null, { asked: 5, placed: 4 }]);
  });

  it('says what is not kept, and whether a log or the plan shows it', () => {
    expect(brokenWords(BUSES, WEEK, daypart)).toEqual(['5 a day in weekday breakfast: 2 not placed on 2 days.']);
    const planned = { ...WEEK, days: WEEK.days.map((day) => ({ ...day, from: 'plan' as const })) };
    expect(brokenWords(BUSES, planned, daypart)[0]).toContain('2 cannot be placed');
    expect(brokenWords(BAKERY, WEEK, daypart)).toEqual([]);
  });

  it('says with numbers what a run could not keep', () => {
    const one: PromiseShortfall = {
      date: '2026-11-24',
      sponsor: 'Osier Buses',
      count: 5,
      per: 'day',
      daypartId: 'early',
      asked: 5,
      placed: 4,
      slots: 4,
    };
    expect(shortfallWords(one, daypart)).toBe(
      'Osier Buses is promised 5 a day in weekday breakfast. Weekday breakfast has 4 slots for messages, and 4 of 5 can go there.',
    );
  });
});

describe('the page of sponsors', () => {
  const open = (patched: SponsorPatch[] = []) =>
    openPage(
      SponsorsPage,
      {},
      {
        catalogue: { dayparts: [{ id: 'early', name: 'weekday breakfast' } as never] },
        answers: {
          sponsorWeek: () => WEEK,
          patchSponsor: (_: object, body: SponsorPatch) => (patched.push(body), { activityId: 'a', label: 'Change' }),
        },
      },
    );

  it('shows promised, placed and aired, and marks the days that stay below', async () => {
    const page = await open();
    await page.settle(20);
    expect(page.text()).toContain('2 sponsors, 1 with a promise');
    const [buses] = page.all('tbody tr');
    expect(buses!.textContent).toMatch(/4\/5.*15 of 20\s*5$/s);
    expect(buses!.querySelectorAll('.below')).toHaveLength(2);
    expect([...buses!.querySelectorAll('[title]')].map((cell) => cell.getAttribute('title')).join()).toContain(
      '5 in the log; promised: 4 of 5, 3 of 3',
    );
  });

  it('changes an agreement with the revision it was seen at, and the other promises stay as they are', async () => {
    const patched: SponsorPatch[] = [];
    const page = await open(patched);
    await page.settle(20);
    await page.press('Osier Buses');
    await page.press('Add a promise');
    expect(patched).toEqual([
      {
        revision: 3,
        promises: [
          { count: 5, per: 'day', daypartId: 'early' },
          { count: 20, per: 'week', daypartId: null },
          { count: 1, per: 'day', daypartId: null },
        ],
      },
    ]);
  });
});
