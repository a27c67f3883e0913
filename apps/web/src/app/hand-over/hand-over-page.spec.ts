import { describe, expect, it } from '@jest/globals';
import { TestBed } from '@angular/core/testing';
import { handOverSettings, type HandOverPreview } from '@fuller/contracts';
import { Store } from '@ngrx/store';
import { ApiError } from '../shared/api/api';
import { jobsActions } from '../state/jobs.feature';
import { openPage } from '../testing/place';
import { HandOverPage } from './hand-over-page';

const PREVIEW: HandOverPreview = {
  files: [{ name: 'vale_2026-11-24.m3u8', entries: 310, head: '#EXTM3U\n#EXTINF:221,Ada - Ember' }],
  heldBack: [{ hourIndex: 0, entryId: 'a', why: 'no file', title: 'Harbour' }],
  silences: [{ hourIndex: 3, startMs: Date.UTC(2026, 10, 24, 3, 40), durationMs: 95_000 }],
  missingLetters: ['é', 'Ø'],
  changedPaths: 2,
  cut: 0,
  folder: '/out/vale',
};
const record = (stale: boolean) => ({
  id: stale ? 'old' : 'new',
  date: '2026-11-24',
  atMs: Date.UTC(2026, 10, 24, 9),
  outputId: 'one',
  outputName: 'Playlist',
  folder: '/out/vale',
  files: ['vale_2026-11-24.m3u8'],
  entries: 310,
  heldBack: 1,
  stale,
});
const output = {
  id: 'one',
  revision: 1,
  name: 'Playlist',
  files: handOverSettings({ pattern: '{station}_{date}.m3u8', hourly: false }),
  target: { kind: 'folder', folder: null },
  nightly: null,
  hasPassword: false,
};
const open = (answers: Record<string, () => unknown> = {}) =>
  openPage(
    HandOverPage,
    { date: '2026-11-24' },
    {
      answers: {
        handOver: () => ({ outputs: [output], records: [record(true), record(false)], folder: '/out/vale' }),
        handOverChanges: () => ({ known: true, total: 1, rows: [{ hourIndex: 6, before: 'Oak - Ash', after: null }] }),
        trafficSetUp: () => ({ layouts: [], settings: {}, folder: '', fault: null }),
        previewHandOver: () => PREVIEW,
        writeOutput: () => ({ id: 'job' }),
        ...answers,
      },
    },
  );

describe('the page of the hand-over', () => {
  it('shows the file, what is left out of it, where it would be silent, and what has changed', async () => {
    const page = await open();
    expect(page.text('h1')).toContain('24');
    expect(page.text('pre')).toBe('#EXTM3U #EXTINF:221,Ada - Ember');
    const inspector = page.text('f-inspector');
    for (const words of ['1 item without a file', '03:40:00, 1:35', 'é Ø', '2 paths', '06hOak - Ash'])
      expect(inspector).toContain(words);
    expect(page.all('.record').map((one) => one.textContent?.includes('The log has changed'))).toEqual([true, false]);
  });

  it('says beside the name what is wrong with it', async () => {
    const page = await open({
      previewHandOver: () => {
        throw new ApiError('INVALID', '“{artist}” is not known.', 'pattern');
      },
    });
    expect(page.text('#pattern-words')).toBe('“{artist}” is not known.');
    expect(page.find('#pattern').getAttribute('aria-invalid')).toBe('true');
    expect(page.all('.files')).toEqual([]);
  });

  it('saves what is chosen and what is typed, with paths, target and time', async () => {
    const page = await open();
    const saved = () => page.server.asked('saveOutput').map(({ body }) => body as typeof output);
    await page.type('#pattern', '{date}.m3u8');
    await page.type('[aria-label="Beginning of paths to replace"]', '/srv/');
    await page.type('[aria-label="Folder"]', 'player');
    expect(saved().at(-1)).toMatchObject({
      files: { pattern: '{date}.m3u8', prefixes: [{ from: '/srv/', to: '' }] },
      target: { kind: 'folder', folder: 'player' },
    });
    page.find('[value="http"] input').click();
    await page.settle();
    // Without an address there is nothing to save yet.
    expect(saved()).toHaveLength(3);
    await page.type('[aria-label="Address"]', 'https://playout/logs');
    expect(saved().at(-1)?.target).toEqual({ kind: 'http', url: 'https://playout/logs', user: '' });
    expect(page.text('.place-head:not(.side *)')).toContain('Send');
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

  it('writes, says how it goes, and does not when there is nothing to write', async () => {
    const page = await open();
    await page.press('Write');
    const job = {
      id: 'job',
      kind: 'hand-over',
      label: '',
      stationId: 'vale',
      clientId: '',
      progress: 0.5,
      doing: 'Sending a.m3u8',
    };
    const tell = async (more: object): Promise<void> => {
      TestBed.inject(Store).dispatch(jobsActions.changed({ job: { ...job, ...more } as never }));
      await page.settle();
    };
    await tell({ state: 'running', message: null });
    expect(page.text('.job')).toBe('Sending a.m3u8');
    await tell({ state: 'failed', message: 'The machine refused a.m3u8: 401.' });
    expect(page.text('.job.error-text')).toBe('The machine refused a.m3u8: 401.');
    const none = await open({ previewHandOver: () => ({ ...PREVIEW, files: [{ ...PREVIEW.files[0], entries: 0 }] }) });
    const write = none.all('button').find((one) => one.textContent?.trim() === 'Write') as HTMLButtonElement;
    expect(write.disabled).toBe(true);
  });

  it('goes to the day before and after', async () => {
    const page = await open();
    await page.press('The day before');
    await page.press('The day after');
    expect(page.gone.map(([path]) => (path as string[]).at(-1))).toEqual(['2026-11-23', '2026-11-25']);
  });
});
