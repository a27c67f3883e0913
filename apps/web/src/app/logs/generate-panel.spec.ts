import { describe, expect, it } from '@jest/globals';
import { signal } from '@angular/core';
import type { PromiseShortfall } from '@fuller/contracts';
import { openPage } from '../testing/place';
import { AttendedDesk } from './attended.store';
import { GeneratePanel } from './generate-panel';
import { LogDesk } from './log-desk.store';

const DATE = '2026-11-24';
const hours = [0, 1].map((index) => ({ index, localHour: index, entries: [] }));
const rule = (id: string, strength: string, resting = false) => ({ id, strength, resting });

interface More {
  readonly status?: string;
  readonly begin?: (asked: unknown) => boolean;
  readonly shortfalls?: PromiseShortfall[];
  /** Of each move that is to come, whether its date is only expected. */
  readonly moves?: readonly boolean[];
}

async function panel(more: More = {}) {
  const begun: unknown[] = [];
  const shown: string[] = [];
  const desk = {
    log: signal({ hours }),
    status: signal(more.status ?? 'ready'),
    questions: signal(['Which decade?']),
    rules: signal({ must: rule('must', 'hard'), wish: rule('wish', 'soft'), rests: rule('rests', 'soft', true) }),
    rulesOff: signal(['off']),
    view: signal(more.status === 'none' ? null : { revision: 7 }),
    show: (side: string) => shown.push(side),
  };
  const attended = {
    busy: signal(null),
    begin: async (asked: unknown) => (begun.push(asked), more.begin?.(asked) ?? true),
  };
  const page = await openPage(
    GeneratePanel,
    { date: DATE },
    {
      answers: {
        promiseShortfalls: () => more.shortfalls ?? [],
        moves: () => ({ moves: (more.moves ?? []).map((expected) => ({ expected })) }),
      },
      providers: [
        { provide: LogDesk, useValue: desk },
        { provide: AttendedDesk, useValue: attended },
      ],
    },
  );
  const component = page.component as GeneratePanel;
  const runs = () => page.emitted.map(([, value]) => value);
  return { page, component, runs, begun, shown };
}
type Open = {
  [
    K in
      | 'scope'
      | 'ask'
      | 'manner'
      | 'until'
      | 'hoursChosen'
      | 'categoriesChosen'
      | 'stationsChosen'
      | 'replaceByHand'
      | 'seed'
  ]: { set(value: unknown): void };
};
const inside = (component: GeneratePanel): Open => component as unknown as Open;

describe('setting up a run', () => {
  it('is over the day that is open where nothing is changed, written or shown first', async () => {
    const { page, runs } = await panel();
    await page.press('Generate');
    await page.press('Preview first');
    const request = { from: DATE, days: 1, only: 'all' };
    expect(runs()).toEqual([
      { preview: false, request },
      { preview: true, request },
    ]);
  });

  it('says how many songs move on by its last day, those alone whose date is sure', async () => {
    const { page } = await panel({ moves: [false, false, true] });
    await page.settle(10);
    expect(page.text()).toContain('2 songs are due to move to another category by then');
  });

  it('says which promises to sponsors it could not keep, before it runs, each once', async () => {
    const one = { sponsor: 'Buses', count: 5, per: 'day' as const, daypartId: null, asked: 5, placed: 4, slots: 4 };
    const { page } = await panel({
      shortfalls: [
        { ...one, date: DATE },
        { ...one, date: '2026-11-25' },
      ],
    });
    const words = 'Buses is promised 5 a day. The day has 4 slots for messages, and 4 of 5 can go there.';
    expect(page.text().split(words)).toHaveLength(2);
    expect(page.server.asked('promiseShortfalls')[0]!.address).toMatchObject({ from: DATE, to: DATE });
  });

  it('names the days, the scope, other stations, the seed, and what is answered', async () => {
    const { page, component, runs } = await panel();
    const set = inside(component);
    await page.press('Seven days');
    set.scope.set('categories');
    set.categoriesChosen.set(['gold']);
    set.stationsChosen.set(['night']);
    set.seed.set(42);
    set.replaceByHand.set(true);
    await page.settle();
    await page.type('#ask-0', 'year:1990..1999');
    await page.press('Generate');
    expect(runs()).toEqual([
      {
        preview: false,
        request: {
          from: DATE,
          days: 7,
          only: 'all',
          categories: ['gold'],
          stations: ['night'],
          seed: 42,
          answers: { 'Which decade?': 'year:1990..1999' },
          replaceByHand: true,
        },
      },
    ]);
  });

  it('says what is missing, and begins nothing until it is there', async () => {
    const { page, component, runs } = await panel();
    const set = inside(component);
    set.scope.set('hours');
    await page.settle();
    expect(page.text('.error-text')).toBe('Choose the hours.');
    await page.press('Generate');
    set.hoursChosen.set([1]);
    await page.settle();
    await page.press('Generate');
    expect(runs()).toMatchObject([{ request: { hours: [1] } }]);
    set.scope.set('all');
    set.until.set('2027-02-01');
    await page.settle();
    expect(page.text('.error-text')).toBe('A run takes 31 days at most.');
  });

  it('begins an attended run that stops where it was told to, and shows the entry then', async () => {
    const { page, component, begun, shown } = await panel();
    const set = inside(component);
    set.manner.set('attended');
    set.ask.set('rules');
    await page.settle();
    await page.press('Begin');
    expect(begun).toEqual([
      {
        scope: 'all',
        ask: { everySlot: false, categories: [], rules: ['wish'] },
        rulesOff: ['off'],
        answers: {},
        revision: 7,
      },
    ]);
    expect([shown, page.emitted]).toEqual([[], [['begun', undefined]]]);
  });

  it('offers only the whole day where there is no log, and stays where a run was refused', async () => {
    const { page, component, begun, shown } = await panel({ status: 'none', begin: () => false });
    inside(component).manner.set('attended');
    await page.settle();
    await page.press('Begin');
    expect([begun, shown]).toEqual([[expect.objectContaining({ revision: null })], []]);
  });
});
