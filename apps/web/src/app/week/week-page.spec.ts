import { describe, expect, it } from '@jest/globals';
import type { CategoryRow, DatePlanRow } from '@fuller/contracts';
import { NO_FRAMES, openPage } from '../testing/place';
import { clockRow as clock } from '../testing/rows';
import { DatesPage } from './dates-page';
import { WeekPage } from './week-page';
import { ShowsPage } from './shows-page';

const gold = {
  id: 'gold',
  name: 'Gold',
  code: 'G',
  colour: '#1F6FA8',
  items: 84,
  averageMs: 200_000,
  standardDeviationMs: 0,
  music: true,
  pool: false,
  position: 1,
} as CategoryRow;
const night = { at: 60, minutes: 180, runs: 'clock' as const, id: 'night' };
const catalogue = {
  categories: [gold],
  clocks: [clock('day', 10), clock('night', 5)],
  week: { revision: 3, blocks: [night], defaultClockId: 'day', framing: NO_FRAMES },
};
const answers = { staleLogs: () => [] };

describe('the page of the week', () => {
  it('leads to the clocks where there is nothing to paint with', async () => {
    const page = await openPage(WeekPage, {}, { answers });
    expect(page.text('f-empty')).toContain('There is nothing to paint with yet');
    expect(page.all('f-plan-grid')).toEqual([]);
  });

  it('tells what is under the cursor and what the week asks for, and takes a time as it is typed', async () => {
    const page = await openPage(WeekPage, {}, { catalogue, answers });
    expect(page.text('f-inspector')).toContain('By default, as nothing is painted here.');
    expect(page.text('f-inspector table')).toContain('Gold 1,665');
    await page.key('f-plan-grid .grid', 'ArrowDown');
    expect(page.find('f-inspector h2').textContent).toContain('night');
    expect(page.all('f-inspector a').map((one) => one.getAttribute('href'))).toEqual(['/vale/clocks/night']);
    const until = page.all('f-inspector f-inline-edit input')[1] as HTMLInputElement;
    expect(until.value).toBe('04:00');
    until.id = 'until';
    await page.type('#until', 'late');
    expect(page.text('f-inspector')).toContain('Write a time like 06:30');
    await page.type('#until', '03:30');
    expect(page.server.asked('saveWeek')).toMatchObject([
      { body: { revision: 3, blocks: [{ at: 60, minutes: 150 }] } },
    ]);
    expect(page.text('f-inspector')).toContain('the effect of your last change');
  });
});

describe('the page of dates that differ', () => {
  const eve: DatePlanRow = {
    id: 'eve',
    revision: 1,
    name: 'Christmas Eve',
    start: '2026-12-24',
    repeat: 'FREQ=YEARLY',
    like: null,
    instead: false,
    blocks: [{ at: 1080, minutes: 240, runs: 'clock', id: 'night' }],
  };
  const open = (inputs: object = { dateId: 'eve' }) =>
    openPage(DatesPage, { ...inputs }, { catalogue: { ...catalogue, dates: [eve] }, answers });

  it('shows a plan with when it comes, and its blocks', async () => {
    const page = await open();
    expect(page.text('nav')).toContain('Christmas Eve');
    expect(page.text('.words')).toContain('Next on Thu 24 Dec 2026, ');
    expect(page.text('.blocks')).toBe('18:00–22:00 night');
  });

  it('goes to the first where none is asked for, and says where one is gone', async () => {
    const page = await open({});
    expect(page.gone).toEqual([[['/', 'vale', 'week', 'dates', 'eve'], { replaceUrl: true }]]);
    expect((await open({ dateId: 'gone' })).text('f-empty')).toContain('There is no such plan');
  });

  it('keeps a name that is empty in its field', async () => {
    const page = await open();
    const name = page.find('f-inspector f-inline-edit input');
    name.id = 'plan-name';
    await page.type('#plan-name', '  ');
    expect(page.text('f-inspector')).toContain('It needs a name.');
    await page.type('#plan-name', 'The eve ');
    expect(page.server.asked('patchDate')).toMatchObject([{ body: { revision: 1, name: 'The eve' } }]);
  });

  it('is begun anew where it is asked for by name', async () => {
    const page = await open({ dateId: 'eve', new: '1' });
    expect(page.all('f-name-form')).toHaveLength(1);
  });
});

describe('the page of shows', () => {
  const show = {
    id: 'brunch',
    revision: 2,
    name: 'Brunch',
    colour: '#D1862B',
    clockIds: ['day', 'night'],
    minutes: 120,
    start: 'soft',
    end: 'exact',
    toleranceMs: 5000,
    after: 'next',
    presenter: '',
    announcementId: null,
    openerId: null,
    closerId: null,
    hourOpenerId: null,
  } as never;
  const open = (showId = 'brunch') =>
    openPage(ShowsPage, { showId }, { catalogue: { ...catalogue, shows: [show] }, answers });

  it('shows the clocks of a show, and takes one out', async () => {
    const page = await open();
    expect(page.text('nav')).toContain('not in the week');
    await page.press('Take out clock 1');
    expect(page.server.asked('patchShow')).toMatchObject([{ body: { revision: 2, clockIds: ['night'] } }]);
    expect(page.all('.clocks li')).toHaveLength(1);
  });

  it('takes a length as it is typed, in steps of five minutes', async () => {
    const page = await open();
    const [, length] = page.all('section f-inline-edit input') as HTMLInputElement[];
    expect(length!.value).toBe('2:00');
    length!.id = 'length';
    await page.type('#length', '2:03');
    expect(page.text('section')).toContain('in steps of five minutes');
    await page.type('#length', '90');
    expect(page.server.asked('patchShow')).toMatchObject([{ body: { minutes: 90 } }]);
  });

  it('frames every hour by a clock, one choice for each place', async () => {
    const page = await open('every-hour');
    expect(page.all('section f-choice')).toHaveLength(5);
    expect(page.text('section')).toContain('Opens every hour');
  });
});
