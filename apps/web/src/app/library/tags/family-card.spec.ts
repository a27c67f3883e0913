import { describe, expect, it } from '@jest/globals';
import type { FamilyRow } from '@fuller/contracts';
import { openPage } from '../../testing/place';
import { FamilyCard } from './family-card';

const FAMILY: FamilyRow = {
  id: 'mood',
  revision: 3,
  name: 'Mood',
  single: false,
  values: [
    { value: 'wistful', code: 'WI', colour: null, items: 12 },
    { value: 'bright', code: '', colour: '#5C8A3A', items: 1 },
    { value: 'new, odd', code: '', colour: null, items: 0 },
  ],
};
async function card(family = FAMILY) {
  const page = await openPage(FamilyCard, { family });
  const patches = () => page.server.asked('patchFamily').map(({ body }) => body as { values?: object[]; gone: object });
  const order = () =>
    patches()
      .at(-1)!
      .values!.map((one) => (one as { value: string }).value);
  return { ...page, patches, order };
}

describe('the card of a tag family', () => {
  it('moves a value by its buttons, and not past the ends', async () => {
    const page = await card();
    await page.press('Move wistful down');
    expect(page.order()).toEqual(['bright', 'wistful', 'new, odd']);
    await page.press('Move new, odd up');
    expect(page.order()).toEqual(['wistful', 'new, odd', 'bright']);
    const ends = ['Move wistful up', 'Move new, odd down'].map((label) =>
      page.find<HTMLButtonElement>(`[aria-label="${label}"]`),
    );
    expect(ends.map(({ disabled }) => disabled)).toEqual([true, true]);
  });

  it('goes round the colours, from none to none', async () => {
    const page = await card();
    await page.press('Colour of wistful');
    await page.press('Colour of bright');
    const colours = page.patches().map(({ values }, at) => (values![at] as { colour: string | null }).colour);
    expect(colours).toEqual(['#1F6FA8', null]);
  });

  it('deletes at once what no item has, and asks what comes in place of what some have', async () => {
    const page = await card();
    await page.press('Delete new, odd');
    expect(page.patches()).toMatchObject([{ gone: {} }]);
    expect(page.order()).toEqual(['wistful', 'bright']);
    await page.press('Delete wistful');
    expect(page.text('[role="alertdialog"]')).toContain('wistful is on 12 items. In its place:');
    await page.press('Delete');
    expect(page.patches().at(-1)!.gone).toEqual({ wistful: null });
    expect(page.all('[role="alertdialog"]')).toEqual([]);
  });

  it('keeps a name or a value that is refused in its field, with the reason', async () => {
    const page = await card();
    page.server.answers['patchFamily'] = () =>
      Promise.reject(new Error('There is a tag family named “Voice” already.'));
    await page.type('input.name', 'Voice');
    expect(page.text('[role="alert"]')).toContain('There is a tag family named');
    await page.type('[aria-label="Value bright"]', '');
    expect(page.text('li [role="alert"]')).toBe('A value needs a text.');
  });

  it('adds a value, and leaves the field as it is where it is refused', async () => {
    const page = await card();
    const submit = async () => {
      page.find<HTMLFormElement>('form').dispatchEvent(new Event('submit', { cancelable: true }));
      await page.settle();
    };
    await page.type('form input', ' dusky ');
    await submit();
    expect(page.patches()[0]!.values!.at(-1)).toEqual({ value: 'dusky', code: '', colour: null, was: null });
    expect(page.find<HTMLInputElement>('form input').value).toBe('');
    await submit();
    page.server.answers['patchFamily'] = () => Promise.reject(new Error('There is a value “dusky” already.'));
    await page.type('form input', 'dusky');
    await submit();
    expect([page.find<HTMLInputElement>('form input').value, page.told]).toEqual([
      'dusky',
      ['There is a value “dusky” already.'],
    ]);
    expect(page.patches()).toHaveLength(2);
  });

  it('asks before the family goes, with how many items lose a value', async () => {
    const page = await card();
    await page.press('Delete the family Mood');
    expect(page.text('[role="alertdialog"]')).toContain('13 items would lose their value');
    await page.press('Cancel');
    expect(page.server.calls).toEqual([]);
    await page.press('Delete the family Mood');
    await page.press('Delete');
    expect(page.server.asked('deleteFamily')).toMatchObject([{ address: { id: 'mood', offItems: 'yes' } }]);
  });

  it('leads to the items with a value, however it is spelled', async () => {
    const page = await card();
    const links = page.all('a.count').map((one) => decodeURIComponent(one.getAttribute('href') ?? ''));
    expect(links.map((link) => link.split('q=')[1])).toEqual(['mood:wistful', 'mood:bright', 'mood:"new, odd"']);
  });
});
