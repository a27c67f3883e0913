import { describe, expect, it } from '@jest/globals';
import { openPage } from '../testing/place';
import { FilterBuilder } from './filter-builder';

const vocabulary = {
  categories: [{ id: 'gold', code: 'G', name: 'Gold' }],
  families: { tempo: ['1', '2'], 'time of day': ['morning'] },
};
const open = (text: string) => openPage(FilterBuilder, { text, vocabulary });

describe('building a filter', () => {
  it('offers every field the station has', async () => {
    const page = await open('');
    expect(page.all('.label').map((one) => one.textContent?.trim())).toEqual([
      'Category',
      'Kind',
      'Tempo',
      'Time of day',
      'Year',
      'Length',
      'Intro',
      'Rest',
    ]);
  });

  it('shows the ranges that are written, and writes those that are typed beside the words', async () => {
    const page = await open('harbour year:1990..1999 intro:0:10');
    const values = ['Year from', 'Year to', 'Intro from', 'Intro to', 'Length from'].map(
      (label) => page.find<HTMLInputElement>(`[aria-label="${label}"]`).value,
    );
    expect(values).toEqual(['1990', '1999', '0:10', '0:10', '']);
    await page.type('[aria-label="Year to"]', '2004');
    expect(page.emitted).toEqual([['changed', 'harbour intro:0:10 year:1990..2004']]);
  });

  it.each([
    ['3:00', '', 'length:3:00..'],
    ['', '4:00', 'length:..4:00'],
    ['3:30', '3:30', 'length:3:30'],
  ])('writes a length from %s to %s', async (low, high, text) => {
    const page = await open('');
    page.find<HTMLInputElement>('[aria-label="Length from"]').value = low;
    await page.type('[aria-label="Length to"]', high);
    expect(page.emitted.at(-1)).toEqual(['changed', text]);
  });

  it('takes a range away with both its ends', async () => {
    const page = await open('year:1990..1999 ember');
    page.find<HTMLInputElement>('[aria-label="Year from"]').value = '';
    await page.type('[aria-label="Year to"]', '');
    expect(page.emitted.at(-1)).toEqual(['changed', 'ember']);
  });

  it('shows no range where several are written: they stay as they are', async () => {
    const page = await open('year:1990..1999,2004');
    expect(page.find<HTMLInputElement>('[aria-label="Year from"]').value).toBe('');
  });
});
