import { describe, expect, it } from '@jest/globals';
import { openPage } from '../../testing/place';
import { Finder, type Found } from './finder';

const FOUND: readonly Found[] = [
  { text: 'Low Tide', hint: 'Ann' },
  { text: 'Low Water', hint: 'Bo' },
];

// jsdom has none, and the list of offers asks for it.
window.matchMedia ??= () => ({ matches: false, addEventListener: () => {}, removeEventListener: () => {} }) as never;

async function open(fromLetters = 1) {
  const asked: string[] = [];
  const find = async (query: string) => {
    asked.push(query);
    return FOUND.filter(({ text }) => text.toLowerCase().includes(query.toLowerCase()));
  };
  const page = await openPage(Finder, { fieldId: 'finds', label: 'Find', find, fromLetters });
  const field = page.find<HTMLInputElement>('#finds');
  const type = async (text: string): Promise<void> => {
    field.focus();
    field.value = text;
    field.dispatchEvent(new Event('input', { bubbles: true }));
    await page.settle(120);
  };
  const offers = (): string[] =>
    [...document.querySelectorAll('.p-autocomplete-option')].map((one) => one.textContent.trim());
  return { page, field, type, offers, asked };
}

describe('the field that finds', () => {
  it('offers what fits, tells what was chosen with a click, and is empty again', async () => {
    const { page, field, type, offers } = await open();
    await type('low');
    expect(offers()).toEqual(['Low TideAnn', 'Low WaterBo']);
    document.querySelectorAll<HTMLElement>('.p-autocomplete-option')[1]!.click();
    await page.settle(20);
    expect(page.emitted).toEqual([['chosen', FOUND[1]]]);
    expect(field.value).toBe('');
  });

  it('takes the first with Enter before the answer is there', async () => {
    const { page, field, asked } = await open();
    field.focus();
    field.value = 'tide';
    field.dispatchEvent(new Event('input', { bubbles: true }));
    await page.key('#finds', 'Enter');
    await page.settle(150);
    expect([asked, page.emitted]).toEqual([['tide'], [['chosen', FOUND[0]]]]);
  });

  it('asks for nothing below the letters it needs', async () => {
    const { type, asked, offers } = await open(3);
    await type('lo');
    expect([asked, offers()]).toEqual([[], []]);
  });
});
