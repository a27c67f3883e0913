import { beforeAll, describe, expect, it } from '@jest/globals';
import type { RuleRow } from '@fuller/contracts';
import { openPage } from '../testing/place';
import { rulesGround, weighInProcess } from '../testing/rules-ground';
import { ruleRow as rule } from '../testing/rows';
import { RulesPage } from './rules-page';

const open = (...rules: RuleRow[]) => openPage(RulesPage, {}, { catalogue: { rules }, answers: { rulesGround } });

beforeAll(() => {
  weighInProcess();
  // The selects measure themselves.
  Object.assign(globalThis, {
    ResizeObserver: class {
      observe() {}
      unobserve() {}
      disconnect() {}
    },
  });
});

describe('the page of the rules', () => {
  it('tells where nothing is, column by column', async () => {
    const page = await open();
    expect(page.all('.column').map((one) => one.getAttribute('aria-label'))).toEqual([
      'Must',
      'First wish',
      'Second wish',
      'Third wish',
      'Resting',
    ]);
    expect(page.all('.none')).toHaveLength(5);
  });

  it('makes a rule of a sentence, and keeps in its field what is none', async () => {
    const page = await open();
    await page.type('#new-rule', 'play nice');
    await page.press('Add the rule');
    expect(page.find('#new-rule').getAttribute('aria-invalid')).toBe('true');
    expect(page.find('#new-rule-read').classList).toContain('error-text');
    await page.type('#new-rule', 'at least 2 h between the same title');
    await page.press('Add the rule');
    expect(page.server.asked('createRule')).toMatchObject([{ body: { shape: 'apart', tag: 'title', amount: 7200 } }]);
    expect(page.find<HTMLInputElement>('#new-rule').value).toBe('');
  });

  it('moves and deletes the card that has the keys, and no card while one types in it', async () => {
    const page = await open(rule('a'), rule('b', { tag: 'title', strength: 'soft', rank: 1 }));
    await page.key('[aria-label="Must"] f-rule-card', 'm');
    await page.key('[aria-label="First wish"] f-rule-card', 'M');
    await page.key('[aria-label="First wish"] f-rule-card', 'r');
    await page.key('[aria-label="First wish"] f-rule-card input', 'Delete');
    await page.key('[aria-label="First wish"] f-rule-card', 'Delete');
    expect(
      page.server.calls
        .filter(({ name }) => name !== 'rulesGround')
        .map(({ name, address, body }) => [name, address['id'], body]),
    ).toEqual([
      ['patchRule', 'a', { revision: 1, resting: false, strength: 'soft', rank: 1 }],
      ['patchRule', 'b', { revision: 1, resting: false, strength: 'hard', rank: 0 }],
      ['patchRule', 'b', { revision: 1, resting: true }],
      ['deleteRule', 'b', undefined],
    ]);
  });

  it('shows what the chosen rule comes to, and changes where it applies', async () => {
    const page = await open(rule('a', { exceptions: [{ kind: 'category', id: 'silver', amount: 60 }] }));
    await page.key('f-rule-card', 'Enter');
    await page.settle(250);
    expect(page.text('f-inspector')).toContain('Impossible');
    expect(page.text('f-inspector')).toContain('Broken 1 time in 7 days');
    expect(page.find('f-inspector li a').getAttribute('href')).toBe('/vale/logs/2026-11-23?at=1795426200000');
    await page.type('[aria-label^="Amount in"]', '2 h 30');
    await page.type('[aria-label^="Amount in"]', 'often');
    expect(page.text('f-inspector [role=alert]')).toContain('“often”');
    await page.press('Remove the amount in a deleted category');
    await page.type('textarea', 'Listeners ring in');
    await page.press('Rest');
    await page.press('Delete');
    expect(page.server.calls.filter(({ name }) => name !== 'rulesGround').map(({ body }) => body)).toEqual([
      { revision: 1, exceptions: [{ kind: 'category', id: 'silver', amount: 9000 }] },
      { revision: 1, exceptions: [] },
      { revision: 1, note: 'Listeners ring in' },
      { revision: 1, resting: true },
      undefined,
    ]);
  });

  it('tells of the statutory limits among the musts, and stops them', async () => {
    const page = await open();
    await page.press('Apply the statutory limits for web radio');
    page.load({ limits: { applies: true, strict: false, exemptAlbums: [], revision: 3 } });
    await page.settle();
    expect(page.text('[aria-label="Must"]')).toContain('3 of an album, 4 of an artist');
    await page.press('Stop');
    expect(page.server.asked('setLimits').map(({ body }) => body)).toEqual([
      { applies: true, strict: false, exemptAlbums: [], revision: 0 },
      { applies: false, strict: false, exemptAlbums: [], revision: 3 },
    ]);
  });

  it('makes, paints, renames and deletes dayparts', async () => {
    const page = await open();
    await page.press('Dayparts');
    await page.press('New daypart');
    page.load({ dayparts: [{ id: 'n', revision: 2, name: 'Night', hours: '1'.repeat(6).padEnd(168, '0') }] });
    await page.settle();
    await page.type('[aria-label="Name of the daypart Night"]', 'Small hours');
    await page.press('Hours');
    await page.key('f-week-grid [role=gridcell][tabindex="0"]', ' ');
    await page.press('Delete the daypart Night');
    const calls = page.server.calls.filter(({ name }) => name.includes('Daypart'));
    expect(calls.map(({ name, body }) => [name, body])).toEqual([
      ['createDaypart', { name: 'Night', hours: '111111'.padEnd(24, '0').repeat(7) }],
      ['patchDaypart', { revision: 2, name: 'Small hours' }],
      ['patchDaypart', { revision: 2, hours: `0${'1'.repeat(5)}`.padEnd(168, '0') }],
      ['deleteDaypart', undefined],
    ]);
  });
});
