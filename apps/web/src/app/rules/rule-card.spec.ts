import { beforeAll, describe, expect, it } from '@jest/globals';
import type { Catalogue, RuleRow } from '@fuller/contracts';
import { openPage, type Page } from '../testing/place';
import { ruleRow } from '../testing/rows';
import { RuleCard } from './rule-card';
import type { RuleChange } from './rule-change';

const families = [{ id: 'Tempo', name: 'Tempo', values: ['slow', 'fast'], codes: {} }];
const categories = [
  { id: 'gold', name: 'Gold', music: true, pool: false, position: 1 },
] as unknown as Catalogue['categories'];
const show = (more: Partial<RuleRow> = {}): Promise<Page> =>
  openPage(RuleCard, { rule: ruleRow('a', more) }, { catalogue: { families, categories } });
const changes = (page: Page): RuleChange[] =>
  page.emitted.filter(([output]) => output === 'changed').map(([, change]) => change as RuleChange);
const subject = (page: Page): string | undefined =>
  page
    .all('p-select')
    .map((one) => one.textContent?.trim())
    .join(' / ');

beforeAll(() => {
  // The select measures itself.
  Object.assign(globalThis, {
    ResizeObserver: class {
      observe() {}
      unobserve() {}
      disconnect() {}
    },
  });
});

describe('the card of a rule', () => {
  it.each([
    [{}, 'Keep the same artist at least 90 min apart', 'the same artist'],
    [{ shape: 'streak', tag: 'Tempo', value: 'slow', amount: 2 }, 'At most 2 of tempo slow in a row', 'tempo slow'],
    [{ shape: 'atMost', amount: 2, windowSeconds: 10_800 }, 'At most 2 of the same artist in 3 h', 'the same artist'],
    [
      { shape: 'atLeast', tag: 'category', value: 'gold', amount: 1 },
      'At least 1 of category Gold an hour',
      'category Gold',
    ],
    [
      { shape: 'handOff', tag: 'Tempo', value: 'slow', followedBy: 'fast', amount: 0 },
      'No tempo fast right after tempo slow',
      'tempo fast / tempo slow',
    ],
    [
      { shape: 'otherHour', tag: 'title', amount: 3 },
      'Keep the same title out of the same hour for 3 days',
      'the same title',
    ],
  ] as [Partial<RuleRow>, string, string][])(
    'tells %j as a sentence of words and parts',
    async (rule, sentence, chosen) => {
      const page = await show(rule);
      expect(page.host.getAttribute('aria-label')).toBe(sentence);
      expect(subject(page)).toBe(chosen);
    },
  );

  it('takes an amount as people type it, and keeps what is none in its field with the reason', async () => {
    const page = await show();
    await page.type('[aria-label="Amount"]', '2 h');
    await page.type('[aria-label="Amount"]', 'soonish');
    expect(changes(page)).toEqual([{ amount: 7200 }]);
    expect(page.find<HTMLInputElement>('[aria-label="Amount"]').value).toBe('soonish');
    expect(page.text('[role=alert]')).toContain('“soonish” is not a time');
  });

  it.each([
    ['streak', '0', 'out of range'],
    ['streak', '10000', 'out of range'],
    ['streak', 'many', 'not a number'],
    ['otherHour', '90 days', 'out of range'],
    ['apart', '29 days', 'at most 28 days'],
  ] as const)('refuses for %s the amount “%s”', async (shape, text, why) => {
    const page = await show({ shape, amount: 3 });
    await page.type('[aria-label="Amount"]', text);
    expect([changes(page), page.text('[role=alert]')]).toEqual([[], expect.stringContaining(why)]);
  });

  it('takes a stretch of time, or the hour of the clock', async () => {
    const page = await show({ shape: 'atMost', amount: 2, windowSeconds: 10_800 });
    await page.type('[aria-label="In which stretch of time"]', 'in 90 min');
    await page.type('[aria-label="In which stretch of time"]', 'an hour');
    await page.type('[aria-label="In which stretch of time"]', 'a while');
    expect(changes(page)).toEqual([{ windowSeconds: 5400 }, { windowSeconds: null }]);
    expect(page.text('[role=alert]')).toContain('a while');
  });

  it('tells where it applies, what differs where, and why it is there', async () => {
    const gold = { kind: 'category' as const, id: 'gold' };
    const page = await show({
      places: [gold],
      exceptions: [
        { ...gold, amount: 1800 },
        { kind: 'clock', id: 'ghost', amount: 60 },
      ],
      note: 'Calm',
    });
    expect(page.all('.where').map((one) => one.textContent)).toEqual([
      'Only in Gold',
      'In Gold 30 min',
      'In a deleted clock 1 min',
    ]);
    expect(page.text('.note')).toBe('Calm');
  });
});
