import { describe, expect, it } from '@jest/globals';
import type { RuleRow } from '@fuller/contracts';
import { openPage } from '../testing/place';
import { ruleRow as rule } from '../testing/rows';
import { RulesPage } from './rules-page';

const open = (...rules: RuleRow[]) => openPage(RulesPage, {}, { catalogue: { rules } });

describe('the page of the rules', () => {
  it('tells where nothing is, column by column', async () => {
    const page = await open();
    expect(page.all('.column').map((one) => one.getAttribute('aria-label'))).toEqual(['Must', 'Wish', 'Resting']);
    expect(page.all('.none')).toHaveLength(3);
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
    await page.key('[aria-label="Wish"] f-rule-card', 'm');
    await page.key('[aria-label="Wish"] f-rule-card input', 'Delete');
    await page.key('[aria-label="Wish"] f-rule-card', 'Delete');
    expect(page.server.calls.map(({ name, address, body }) => [name, address['id'], body])).toEqual([
      ['patchRule', 'a', { revision: 1, resting: false, strength: 'soft', rank: 1 }],
      ['patchRule', 'b', { revision: 1, resting: true }],
      ['deleteRule', 'b', undefined],
    ]);
  });
});
