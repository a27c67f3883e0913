import { describe, expect, it } from '@jest/globals';
import type { ItemFit } from '@fuller/contracts';
import { PAUSED_FOR_GOOD } from '@fuller/core';
import { openPage } from '../../testing/place';
import { CardFit } from './card-fit';
import { CardPlays } from './card-plays';

const CARD = { id: 's1', title: 'Harbour' };
const RULE = {
  id: 'artist',
  shape: 'apart',
  tag: 'artist',
  value: null,
  amount: 5400,
  strength: 'hard',
  places: [],
  exceptions: [],
};
const at = (time: string, date = '2026-11-24'): number => Date.parse(`${date}T${time}:00Z`);
type Hour = ItemFit['hours'][number];
const hour = (localHour: number, state: Hour['state'], more: Partial<Hour> = {}): Hour => ({
  index: localHour,
  localHour,
  startMs: at(`${String(localHour).padStart(2, '0')}:00`),
  state,
  atMs: null,
  bar: null,
  clashes: [],
  ...more,
});
const clash = (by: number, other: { id: string; title: string }, otherMs: number, freeMs: number) => ({
  ruleId: 'artist',
  by,
  other: { ...other, artist: 'Ada' },
  otherMs,
  freeMs,
});

describe('whether an item fits the hours of a day', () => {
  const open = (hours: Hour[], hasLog = true) =>
    openPage(
      CardFit,
      { card: CARD },
      {
        catalogue: { rules: [RULE] as never },
        answers: { itemFit: ({ date }: { date: string }) => ({ date, hasLog, hours }) },
      },
    );
  const words = (page: Awaited<ReturnType<typeof open>>) =>
    page.all('.hours .what').map((one) => (one.textContent ?? '').trim());

  it('says of each hour what an item does in it', async () => {
    const page = await open([
      hour(6, 'plays', { atMs: at('06:12') }),
      hour(7, 'may', { atMs: at('07:03') }),
      hour(8, 'other slot'),
      hour(9, 'no slot'),
    ]);
    expect(words(page)).toEqual([
      'plays at 06:12',
      'may play, as at 07:03',
      'free, but no slot of its category',
      'no slot for music',
    ]);
    expect(page.text('.lead')).toBe('It plays in 1 of 4 hours and may play in 1 more, as its log now stands.');
  });

  it('says what is too near, before or after, and when it is free', async () => {
    const page = await open(
      [
        hour(6, 'held', { atMs: at('06:10'), clashes: [clash(720, CARD, at('05:00'), at('06:30'))] }),
        hour(7, 'held', {
          atMs: at('07:10'),
          clashes: [clash(60, { id: 'x', title: 'Tide' }, at('07:40'), at('09:10'))],
        }),
      ],
      false,
    );
    expect(words(page)[0]).toMatch(/^artist 12 min too soon after itself; free 06:30$/);
    expect(words(page)[1]).toMatch(/before “Tide” at 07:40; free 09:10$/);
    expect(page.text('.lead')).toBe('It may play in 0 of 2 hours, no log yet, judged against its clocks.');
  });

  it.each<[NonNullable<Hour['bar']>, string]>([
    [{ because: 'not yet', from: '2026-12-01' }, 'not on air before 2026-12-01'],
    [{ because: 'over', until: '2026-01-31' }, 'on air until 2026-01-31 only'],
    [{ because: 'paused', until: PAUSED_FOR_GOOD }, 'paused for good'],
    [{ because: 'paused', until: '2026-12-24' }, 'paused until 2026-12-24'],
    [{ because: 'cooling off', until: '2026-12-02' }, 'cooling off until 2026-12-02 after many plays'],
    [{ because: 'hour' }, 'not among its hours'],
  ])('says why it is barred: %j', async (bar, expected) => {
    expect(words(await open([hour(6, 'barred', { bar })]))).toEqual([expected]);
  });
});

describe('the plays of an item', () => {
  const cells = (...plays: [day: number, hour: number, count: number][]): number[] => {
    const all = new Array<number>(168).fill(0);
    for (const [day, at, count] of plays) all[day * 24 + at] = count;
    return all;
  };
  const open = (more: object = {}) =>
    openPage(
      CardPlays,
      { card: CARD },
      {
        catalogue: { rules: [RULE] as never },
        answers: { itemPlays: () => ({ weeks: 13, cells: cells(), past: [], coming: [], held: [], ...more }) },
      },
    );

  it('says in a sentence what the picture shows', async () => {
    const page = await open({ cells: cells([0, 7, 3], [4, 7, 2], [4, 22, 4]) });
    expect(page.text('p.small')).toBe('9 plays, most at 07:00 (5) and on Fridays (6); never at 22 hours of the day.');
    expect((await open()).text('p.small')).toBe('It has not played in these weeks.');
  });

  it('lists plays and what is to come by the station’s clock, each leading to its log', async () => {
    const page = await open({ past: [at('06:12'), at('23:50', '2026-11-23')], coming: [at('07:05', '2026-11-25')] });
    expect(page.all('li a').map((one) => [one.textContent, one.getAttribute('href')])).toEqual([
      ['today 06:12', '/vale/logs/2026-11-24'],
      ['yesterday 23:50', '/vale/logs/2026-11-23'],
      ['tomorrow 07:05', '/vale/logs/2026-11-25'],
    ]);
  });

  it('says what holds it back now, by itself or by another', async () => {
    const held = (id: string, title: string) => ({
      held: [{ ruleId: 'artist', other: { id, title, artist: 'Ada' }, endedMs: at('06:00'), freeMs: at('07:30') }],
    });
    expect((await open(held('x', 'Tide'))).text('.held')).toBe(
      'Too recent for artist: “Tide” ended today 06:00. Free today 07:30.',
    );
    expect((await open(held('s1', 'Harbour'))).text('.held')).toContain('It ended today 06:00.');
    expect((await open()).text('.free')).toBe('No recent play holds it back now.');
  });

  it('offers a proof of four weeks, and none of dates that are the wrong way round', async () => {
    const page = await open();
    expect(page.all('a[download]').map((one) => one.getAttribute('href'))).toEqual(['/api/proofPdf', '/api/proofCsv']);
    expect(page.find<HTMLInputElement>('#proof-from').value).toContain('27');
    await page.type('#proof-from', '24 Dec 2026');
    expect(page.text('[role="alert"]')).toBe('The first date is after the second.');
    expect(page.all('a[download]')).toEqual([]);
  });
});
