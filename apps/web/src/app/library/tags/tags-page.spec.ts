import { describe, expect, it } from '@jest/globals';
import { openPage } from '../../testing/place';
import { TagsPage } from './tags-page';

const family = (id: string) => ({ id, revision: 1, name: id, single: false, values: [] });
const open = (families: () => unknown = () => [family('mood'), family('era')]) =>
  openPage(TagsPage, {}, { answers: { families } });

describe('the page of tags', () => {
  it('has a card for each family', async () => {
    const page = await open();
    expect(page.all('f-family-card input.name').map((one) => (one as HTMLInputElement).value)).toEqual(['mood', 'era']);
  });

  it('makes a family, and keeps a name that is refused in its field', async () => {
    const page = await open();
    const add = async (name: string) => {
      page.find<HTMLInputElement>('header input').value = name;
      page.find<HTMLFormElement>('header form').dispatchEvent(new Event('submit', { cancelable: true }));
      await page.settle();
      return page.find<HTMLInputElement>('header input').value;
    };
    expect(await add('  ')).toBe('  ');
    expect(await add(' Voice ')).toBe('');
    expect(page.server.asked('createFamily').map(({ body }) => body)).toEqual([{ name: 'Voice' }]);
    page.server.answers['createFamily'] = () =>
      Promise.reject(new Error('There is a tag family named “mood” already.'));
    expect(await add('Mood')).toBe('Mood');
    expect(page.told).toEqual(['There is a tag family named “mood” already.']);
  });

  it('says that there are none, or why they cannot be read', async () => {
    expect((await open(() => [])).text('f-empty')).toContain('No tags yet');
    expect((await open(() => Promise.reject(new Error('no answer')))).text('f-empty')).toContain('no answer');
  });
});
