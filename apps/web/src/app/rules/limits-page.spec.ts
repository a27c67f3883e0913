import { describe, expect, it } from '@jest/globals';
import type { LimitCheck } from '@fuller/contracts';
import { openPage } from '../testing/place';
import { LimitsPage } from './limits-page';

const PASS: LimitCheck = {
  pass: true,
  pack: 'web-radio',
  strict: false,
  entries: 40,
  violations: [],
  mend: { remove: [] },
  smallest: true,
  songs: [],
  withoutLength: 3,
  withoutAlbum: 0,
};
const FAIL: LimitCheck = {
  ...PASS,
  pass: false,
  violations: [
    {
      limit: 'album-2-in-a-row',
      value: 'Low',
      positions: [4, 5, 6],
      start: '2026-11-24T10:04:10',
      count: 3,
      allowed: 2,
    },
  ],
  mend: { remove: [6] },
  songs: [4, 5, 6].map((position) => ({
    position,
    start: '2026-11-24T10:04:10',
    title: `Song ${position}`,
    artist: 'Ash',
    album: 'Low',
  })),
};
const open = (answers: Record<string, () => unknown>) => openPage(LimitsPage, {}, { answers });

describe('the page of the statutory limits', () => {
  it('tells which songs of a log, where and since when, and mends it in one step', async () => {
    let check = FAIL;
    const page = await open({ checkDays: () => check });
    await page.press('Check');
    expect(page.server.asked('checkDays')[0]!.address).toMatchObject({
      from: '2026-11-24',
      days: '1',
      strict: 'false',
    });
    expect(page.text('h2.fail')).toBe('The log of 2026-11-24: fail');
    expect(page.text('article')).toContain('3 songs of one album in a row; 2 are allowed, since 2026-11-24 10:04:10.');
    expect(page.all('tr.goes').map((row) => row.textContent)).toEqual([expect.stringContaining('Song 6')]);
    check = PASS;
    await page.press('Replace the songs in the log');
    expect(page.server.asked('mendLimits')).toMatchObject([
      { address: { date: '2026-11-24' }, body: { strict: false } },
    ]);
    expect(page.text('h2.pass')).toContain('pass');
    expect(page.text('.check')).toContain('3 have no length');
  });

  it('says why a log cannot be mended, and a file cannot be read', async () => {
    const refuse = (why: string) => () => Promise.reject(new Error(why));
    const page = await open({
      checkDays: () => FAIL,
      mendLimits: refuse('One place stays over the limits.'),
      checkFile: refuse('Line 2, start: no.'),
    });
    await page.press('Check');
    await page.press('Replace the songs in the log');
    expect(page.text('[role=alert]')).toBe('One place stays over the limits.');
    const drop = new Event('drop', { bubbles: true, cancelable: true });
    const file = new File(['title,start\nOne,soon\n'], 'party.csv');
    file.arrayBuffer = async () => new TextEncoder().encode('title').buffer as ArrayBuffer;
    Object.assign(drop, { dataTransfer: { files: [file] } });
    page.find('.drop').dispatchEvent(drop);
    await page.settle(20);
    expect(page.server.asked('checkFile')[0]!.body).toEqual({
      name: 'party.csv',
      content: btoa('title'),
      strict: false,
    });
    expect(page.text('[role=alert]')).toBe('Line 2, start: no.');
    expect(page.all('article')).toHaveLength(0);
  });

  it('keeps the albums that do not count, each once', async () => {
    const limits = { applies: true, strict: false, exemptAlbums: ['Low'], revision: 4 };
    const page = await openPage(LimitsPage, {}, { catalogue: { limits } });
    const add = async (name: string): Promise<void> => {
      page.find<HTMLInputElement>('[aria-label="An album that does not count"]').value = name;
      await page.press('Add');
    };
    await add('High ');
    await add('Low');
    await add(' ');
    await page.press('Remove Low');
    expect(page.server.asked('setLimits').map(({ body }) => body)).toEqual([
      { ...limits, exemptAlbums: ['Low', 'High'] },
      { ...limits, exemptAlbums: [] },
    ]);
  });
});
