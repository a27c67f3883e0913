import { describe, expect, it } from '@jest/globals';
import type { ItemPage, ItemRow } from '@fuller/contracts';
import { ItemPages } from './item-pages';

const page =
  (total: number, mark = '') =>
  (offset: number, limit: number): Promise<ItemPage> =>
    Promise.resolve({
      total,
      offset,
      rows: Array.from(
        { length: Math.min(limit, total - offset) },
        (_, index) => ({ id: `${mark}${offset + index}` }) as ItemRow,
      ),
    });
const settled = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));

describe('a long list of items', () => {
  it('fetches a page when one of its rows is looked at, once', async () => {
    const pages = new ItemPages();
    const asked: number[] = [];
    await pages.ask((offset, limit) => {
      asked.push(offset);
      return page(1000)(offset, limit);
    });
    expect(pages.rowAt(5)?.id).toBe('5');
    expect(pages.rowAt(555)).toBeUndefined();
    pages.rowAt(556);
    await settled();
    expect(pages.rowAt(555)?.id).toBe('555');
    expect(asked).toEqual([0, 500]);
  });

  it('fetches every page of a range', async () => {
    const pages = new ItemPages();
    await pages.ask(page(1000));
    const rows = await pages.range(90, 210);
    expect(rows.map((row) => row.id)).toEqual(Array.from({ length: 121 }, (_, index) => String(90 + index)));
  });

  it('forgets answers to questions that are not asked any more', async () => {
    const pages = new ItemPages();
    let answer: (value: ItemPage) => void = () => undefined;
    const slow = pages.ask(() => new Promise((resolve) => (answer = resolve)));
    await pages.ask(page(3, 'new'));
    answer(await page(9, 'old')(0, 100));
    await slow;
    expect(pages.total()).toBe(3);
    expect(pages.rowAt(0)?.id).toBe('new0');
  });

  it('says why it could not be read, and tries again', async () => {
    const pages = new ItemPages();
    await pages.ask(() => Promise.reject(new Error('The server does not answer.')));
    expect(pages.failed()).toBe('The server does not answer.');
    await pages.ask(page(1));
    expect(pages.failed()).toBeNull();
  });
});
