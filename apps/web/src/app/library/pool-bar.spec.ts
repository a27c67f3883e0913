import { describe, expect, it } from '@jest/globals';
import type { PoolRow } from '@fuller/contracts';
import { openPage } from '../testing/place';
import { PoolBar } from './pool-bar';

const OLD: PoolRow = {
  id: 'p1',
  revision: 4,
  scope: 'station',
  name: 'Old',
  filter: 'year:..1990',
  items: 9,
  fault: null,
};
const open = (inputs: object = {}, answers = {}) =>
  openPage(PoolBar, { text: 'year:..1990', pool: null, fault: null, found: 40, ...inputs }, { answers });
const buttons = (page: Awaited<ReturnType<typeof open>>) =>
  page.all('button').map((one) => (one.textContent ?? '').trim());

async function name(page: Awaited<ReturnType<typeof open>>, text: string): Promise<void> {
  page.find<HTMLInputElement>('f-name-form input').value = text;
  page.find('f-name-form form').dispatchEvent(new Event('submit', { cancelable: true }));
  await page.settle();
}

describe('the bar of a filter', () => {
  it('saves a filter as a pool under the name given', async () => {
    const page = await open();
    expect(buttons(page)).toEqual(['Save as pool']);
    await page.press('Save as pool');
    await name(page, 'Old ones');
    expect(page.server.asked('createPool').map(({ body }) => body)).toEqual([
      { name: 'Old ones', filter: 'year:..1990' },
    ]);
    expect(page.emitted).toEqual([['made', 'made']]);
    expect(page.all('f-name-form')).toEqual([]);
  });

  it('keeps the form open with the reason when a name is refused', async () => {
    const page = await open(
      {},
      { createPool: () => Promise.reject(new Error('There is a pool named “Old” already.')) },
    );
    await page.press('Save as pool');
    await name(page, 'Old');
    expect(page.text('[role="alert"]')).toBe('There is a pool named “Old” already.');
    expect(page.emitted).toEqual([]);
  });

  it('offers what a pool can have done to it, by whether its filter was changed', async () => {
    const page = await open({ pool: OLD });
    expect(buttons(page)).toEqual(['Rename', 'Delete pool']);
    await page.set('text', 'year:..1980');
    expect(buttons(page)).toEqual(['Change “Old” to this', 'Save as pool']);
    await page.press('Change “Old” to this');
    expect(page.server.asked('patchPool').map(({ body }) => body)).toEqual([{ revision: 4, filter: 'year:..1980' }]);
  });

  it('renames with the old name in the field, and deletes', async () => {
    const page = await open({ pool: OLD }, { patchPool: () => ({ activityId: 'a', label: 'Rename' }) });
    await page.press('Rename');
    expect(page.find<HTMLInputElement>('f-name-form input').value).toBe('Old');
    await name(page, 'Older');
    expect(page.server.asked('patchPool').map(({ body }) => body)).toEqual([{ revision: 4, name: 'Older' }]);
    await page.press('Delete pool');
    expect(page.emitted).toEqual([['gone', undefined]]);
  });

  it('stays with a pool that could not be deleted', async () => {
    const page = await open({ pool: OLD }, { deletePool: () => Promise.reject(new Error('A clock draws from it.')) });
    await page.press('Delete pool');
    expect(page.told).toEqual(['A clock draws from it.']);
    expect(page.emitted).toEqual([]);
  });

  it.each([
    [0, 'Nothing fits: a pool of this would leave its slots open.'],
    [1, 'Only 1 item: too few for a pool, they would repeat at once.'],
    [4, 'Only 4 items: too few for a pool, they would repeat at once.'],
  ])('warns of a filter that finds %i', async (found, words) => {
    expect((await open({ found })).text('[role="status"]')).toBe(words);
  });

  it.each([5, null])('does not warn of %p', async (found) => {
    expect((await open({ found })).all('[role="status"]')).toEqual([]);
  });

  it('offers nothing for a filter that cannot be read', async () => {
    const page = await open({ fault: 'Nothing is named “yera”.' });
    expect(page.text('[role="alert"]')).toBe('Nothing is named “yera”.');
    expect(buttons(page)).toEqual([]);
  });
});
