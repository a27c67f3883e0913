import { describe, expect, it } from '@jest/globals';
import type { ImportSession, JobView } from '@fuller/contracts';
import { JobWatch } from '../../state/job-watch';
import { openPage } from '../../testing/place';
import { filesOf } from './dropped-files';
import { ImportPage } from './import-page';

const SUMMARY = {
  read: 5,
  added: 2,
  changed: 1,
  unchanged: 0,
  rejected: 1,
  withoutLength: 0,
  unknownCategories: [],
  newValues: [
    { family: 'mood', value: 'dusky' },
    ...Array.from({ length: 9 }, (_, n) => ({ family: 'era', value: `19${n}0` })),
  ],
  addedRows: [{ row: 2, title: 'Ember', artist: 'Ada', durationMs: 200_000 }],
  changedRows: [
    {
      row: 3,
      title: 'Harbour',
      changes: [
        { field: 'durationMs', before: 180_000, after: 181_000 },
        { field: 'album', before: '', after: 'Coals' },
      ],
    },
  ],
  rejectedRows: [{ row: 4, column: '', why: '2 cells where the first row has 3' }],
} as unknown as NonNullable<ImportSession['summary']>;
const SESSION: ImportSession = {
  id: 'i1',
  source: 'table',
  format: 'table',
  name: 'songs.csv',
  settings: { encoding: 'utf-8', delimiter: ';', header: true, mapping: ['title', 'artist', null] },
  options: { makeCategories: false, folderCategories: false },
  columns: ['Song', 'By', 'Mood'],
  preview: [['Ember', 'Ada', 'dusky']],
  summary: SUMMARY,
  done: false,
};

const open = (session: Partial<ImportSession> | null = {}) =>
  openPage(ImportPage, session ? { session: 'i1' } : {}, {
    answers: {
      importSession: () => ({ ...SESSION, ...session }),
      families: () => [{ id: 'mood', name: 'mood' }],
      watchedFolder: () => ({ watched: { folder: '/new', categoryId: null }, fault: 'It is gone.' }),
      commitImport: () => ({ id: 'job', state: 'running' }),
      openFolder: () => ({ ...SESSION, source: 'folder' }),
      dryRun: () => ({ id: 'job', state: 'running' }),
    },
    providers: [{ provide: JobWatch, useValue: { end: async (job: JobView) => ({ ...job, state: 'done' }) } }],
  });

describe('the page of an import', () => {
  it('begins with a table, with audio, or with a folder', async () => {
    const page = await open(null);
    expect(page.all('input[type="file"]').length).toBeGreaterThanOrEqual(2);
    expect(page.text()).toContain('/new');
    expect(page.text()).toContain('It is gone.');
    const form = page.find<HTMLFormElement>('form');
    form.dispatchEvent(new Event('submit', { cancelable: true }));
    await page.settle();
    expect(page.text('[role="alert"]')).toBe('Write the folder’s name.');
    page.find<HTMLInputElement>('form input').value = ' incoming ';
    form.dispatchEvent(new Event('submit', { cancelable: true }));
    await page.settle();
    expect(page.server.asked('openFolder')[0]!.body).toEqual({ folder: 'incoming' });
    expect(page.gone.at(-1)?.[1]).toMatchObject({ queryParams: { session: 'i1' }, replaceUrl: true });
  });

  it('shows what would be added, changed and rejected, each in its tab', async () => {
    const page = await open();
    expect(page.text('.preview')).toContain('Ember');
    expect(page.text('p-tabpanels')).toContain('EmberAda3:20');
    await page.press('1 changed');
    expect(page.text('[role="tab"][aria-selected="true"]')).toBe('1 changed');
    expect(page.text('p-tabpanels')).toContain('length3:003:01');
    expect(page.text('p-tabpanels')).toContain('albumnothingCoals');
    await page.press('1 rejected');
    expect(page.text('[role="tab"][aria-selected="true"]')).toBe('1 rejected');
    expect(page.text('p-tabpanels')).toContain('whole row');
    expect(page.text('.warning')).toContain('mood dusky, era 1900');
    expect(page.text('.warning')).toContain('and 2 more');
  });

  it('is written only when it is confirmed, and not when nothing would be', async () => {
    const page = await open();
    expect(page.server.asked('commitImport')).toEqual([]);
    await page.press('Import 3 items');
    expect(page.server.asked('commitImport')).toHaveLength(1);
    const none = await open({ summary: { ...SUMMARY, added: 0, changed: 0 } });
    const write = none.all('button').find((one) => one.textContent?.includes('Import 0 items')) as HTMLButtonElement;
    expect(write.disabled).toBe(true);
  });

  it('asks for the column of the title', async () => {
    const page = await open({ settings: { ...SESSION.settings!, mapping: [null, 'artist', null] }, summary: null });
    expect(page.text('[role="alert"]')).toBe('Choose the column that holds the title.');
  });

  it('is left for another, and forgotten', async () => {
    const page = await open();
    await page.press('Choose another');
    expect(page.server.asked('closeImport')).toMatchObject([{ address: { id: 'i1' } }]);
    expect(page.all('.preview')).toEqual([]);
  });
});

describe('what is dropped on the page', () => {
  const file = (path: string): FileSystemEntry =>
    ({ isFile: true, fullPath: `/${path}`, file: (take: (one: File) => void) => take(new File(['x'], path)) }) as never;
  const folder = (...parts: FileSystemEntry[][]): FileSystemEntry =>
    ({
      isFile: false,
      createReader: () => ({ readEntries: (take: (entries: FileSystemEntry[]) => void) => take(parts.shift() ?? []) }),
    }) as never;

  it('is every file below its folders, which a browser tells in parts', async () => {
    const found = await filesOf(folder([file('a/1.wav'), folder([file('a/b/2.wav')])], [file('a/3.wav')]));
    expect(found.map(({ path }) => path)).toEqual(['a/1.wav', 'a/b/2.wav', 'a/3.wav']);
    expect(await filesOf(folder())).toEqual([]);
  });
});
