import { describe, expect, it } from '@jest/globals';
import type { HandOverPreview } from '@fuller/contracts';
import { ApiError } from '../shared/api/api';
import { openPage } from '../testing/place';
import { HandOverPage } from './hand-over-page';

const PREVIEW: HandOverPreview = {
  files: [{ name: 'vale_2026-11-24.m3u8', entries: 310, head: '#EXTM3U\n#EXTINF:221,Ada - Ember' }],
  heldBack: [{ hourIndex: 0, startMs: 0, why: 'no file', title: 'Harbour' }] as unknown as HandOverPreview['heldBack'],
  silences: [{ hourIndex: 3, startMs: Date.UTC(2026, 10, 24, 3, 40), durationMs: 95_000 }],
  folder: '/out/vale',
};
const record = (stale: boolean) => ({
  id: stale ? 'old' : 'new',
  date: '2026-11-24',
  atMs: Date.UTC(2026, 10, 24, 9),
  folder: '/out/vale',
  files: ['vale_2026-11-24.m3u8'],
  entries: 310,
  heldBack: 1,
  stale,
});
const open = (answers: Record<string, () => unknown> = {}) =>
  openPage(
    HandOverPage,
    { date: '2026-11-24' },
    {
      answers: {
        handOver: () => ({
          settings: { pattern: '{station}_{date}.m3u8', hourly: false },
          records: [record(false), record(true)],
        }),
        previewHandOver: () => PREVIEW,
        writeHandOver: () => record(false),
        ...answers,
      },
    },
  );

describe('the page of the hand-over', () => {
  it('shows the file, what is left out of it, and where it would be silent', async () => {
    const page = await open();
    expect(page.text('h1')).toContain('24');
    expect(page.text('pre')).toBe('#EXTM3U #EXTINF:221,Ada - Ember');
    expect(page.text('f-inspector')).toContain('1 entry');
    expect(page.text('f-inspector')).toContain('1 items without a file');
    expect(page.text('f-inspector')).toContain('03:40:00, 1:35');
    expect(page.all('.record').map((one) => one.textContent?.includes('The log has changed'))).toEqual([false, true]);
  });

  it('says beside the name what is wrong with it', async () => {
    const page = await open({
      previewHandOver: () => {
        throw new ApiError('INVALID', '“{artist}” is not a word a file name may have.', 'pattern');
      },
    });
    expect(page.text('#pattern-words')).toBe('“{artist}” is not a word a file name may have.');
    expect(page.find('#pattern').getAttribute('aria-invalid')).toBe('true');
    expect(page.all('.files')).toEqual([]);
  });

  it('leads to the log of a day that has none', async () => {
    const page = await open({
      previewHandOver: () => {
        throw new ApiError('NO_LOG', 'There is no log for 2026-11-24 yet.', undefined);
      },
    });
    expect(page.text('f-empty')).toContain('There is nothing to hand over yet');
    expect(page.find<HTMLAnchorElement>('f-empty a').getAttribute('href')).toBe('/vale/logs/2026-11-24');
  });

  it('writes the files and says where, and does not when there is nothing to write', async () => {
    const page = await open();
    await page.press('Write to the folder');
    expect(page.told).toEqual(['1 file written to /out/vale']);
    const none = await open({ previewHandOver: () => ({ ...PREVIEW, files: [{ ...PREVIEW.files[0], entries: 0 }] }) });
    const write = none
      .all('button')
      .find((one) => one.textContent?.includes('Write to the folder')) as HTMLButtonElement;
    expect(write.disabled).toBe(true);
  });

  it('goes to the day before and after', async () => {
    const page = await open();
    await page.press('The day before');
    await page.press('The day after');
    expect(page.gone.map(([path]) => (path as string[]).at(-1))).toEqual(['2026-11-23', '2026-11-25']);
  });
});
