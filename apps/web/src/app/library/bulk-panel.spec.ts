import { describe, expect, it } from '@jest/globals';
import type { BulkPreview, FamilyRow } from '@fuller/contracts';
import { openPage } from '../testing/place';
import { BulkPanel } from './bulk-panel';

const MOOD: FamilyRow = {
  id: 'mood',
  revision: 1,
  name: 'Mood',
  single: false,
  values: [{ value: 'bright', code: '', colour: null, items: 1 }],
};
const PREVIEW: BulkPreview = {
  changed: 2,
  same: 1,
  refused: [],
  rows: [
    { id: 's1', title: 'Ember', artist: 'Ada', before: '1998', after: '1999' },
    { id: 's2', title: 'Harbour', artist: 'Ada', before: '', after: '1999' },
  ],
} as unknown as BulkPreview;

async function panel(preview: Partial<BulkPreview> = {}) {
  const page = await openPage(
    BulkPanel,
    { ids: ['s1', 's2', 's3'], families: [MOOD] },
    { answers: { bulkPreview: () => ({ ...PREVIEW, ...preview }) } },
  );
  const typed = async (text: string) => {
    await page.type('.change input.field', text);
    await page.settle(280);
  };
  return { ...page, typed };
}

describe('changing many items at once', () => {
  it('shows what would change before it is changed, once the typing pauses', async () => {
    const page = await panel();
    for (const text of ['1', '19', '199', '1999']) await page.type('.change input.field', text);
    await page.settle(280);
    expect(page.server.asked('bulkPreview').map(({ body }) => body)).toEqual([
      { itemIds: ['s1', 's2', 's3'], edit: { do: 'set', field: 'year', value: 1999 } },
    ]);
    expect(page.text('.result')).toBe('2 items would change. 1 item stay as they are.');
    expect(page.all('li').map((one) => one.querySelector('s')?.textContent)).toEqual(['1998', 'nothing']);
    expect(page.server.asked('bulkWrite')).toEqual([]);
  });

  it('changes just what was shown, and looks again', async () => {
    const page = await panel();
    await page.typed('1999');
    page.server.answers['bulkPreview'] = () => ({ ...PREVIEW, changed: 0, same: 3, rows: [] });
    await page.press('Change 2 items');
    expect(page.server.asked('bulkWrite')[0]!.body).toEqual(page.server.asked('bulkPreview')[0]!.body);
    expect(page.text('.result')).toBe('Nothing would change.');
  });

  it('changes nothing where one of them cannot take it', async () => {
    const page = await panel({
      refused: [{ id: 's1', title: 'Ember', why: 'the intro is longer than the item' }] as never,
    });
    await page.typed('1999');
    expect(page.text('.result')).toBe('1 item cannot take it, so nothing can be changed.');
    expect(page.text()).toContain('“Ember”: the intro is longer than the item');
    expect(page.all('button').map((one) => one.textContent?.trim())).not.toContain('Change 2 items');
  });

  it('asks nothing of the server for what is no value of the fact', async () => {
    const page = await panel();
    await page.typed('next year');
    expect(page.find('.change input.field').getAttribute('aria-invalid')).toBe('true');
    expect(page.text('[role="alert"]')).not.toBe('');
    expect(page.server.asked('bulkPreview')).toEqual([]);
  });

  it('approves in somebody’s name, and never in nobody’s', async () => {
    const page = await panel();
    const approve = async (name: string) => {
      page.find<HTMLInputElement>('#bulk-who').value = name;
      page.find<HTMLFormElement>('form').dispatchEvent(new Event('submit', { cancelable: true }));
      await page.settle();
    };
    await approve('  ');
    await approve(' Maeve ');
    expect(page.server.asked('approve').map(({ body }) => body)).toEqual([
      { itemIds: ['s1', 's2', 's3'], by: 'Maeve' },
    ]);
  });

  it('puts them on the worklist, or takes them off it', async () => {
    const page = await panel();
    await page.press('Add to the worklist');
    await page.set('onWorklist', true);
    await page.press('Take off the worklist');
    expect(page.emitted).toEqual([
      ['collect', true],
      ['collect', false],
    ]);
  });

  it('forgets what it showed when other items are selected', async () => {
    const page = await panel();
    await page.typed('1999');
    await page.set('ids', []);
    await page.settle(280);
    expect(page.all('.result')).toEqual([]);
    expect(page.server.asked('bulkPreview')).toHaveLength(1);
  });
});
