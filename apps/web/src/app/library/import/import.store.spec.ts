import { describe, expect, it } from '@jest/globals';
import type { ImportSession, ImportSettings, JobView } from '@fuller/contracts';
import { JobWatch } from '../../state/job-watch';
import { openPlace } from '../../testing/place';
import { ImportStore } from './import.store';

const SETTINGS: ImportSettings = {
  encoding: 'utf-8',
  delimiter: ',',
  header: true,
  mapping: ['title', 'artist', null],
};
const SUMMARY = { added: 3, changed: 1, unchanged: 0, rejected: 2 } as NonNullable<ImportSession['summary']>;
const session = (more: Partial<ImportSession> = {}): ImportSession => ({
  id: 'i1',
  source: 'table',
  format: 'table',
  name: 'songs.csv',
  settings: SETTINGS,
  options: { makeCategories: false, folderCategories: false },
  columns: ['Song', 'By', 'Mood'],
  preview: [],
  summary: null,
  done: false,
  ...more,
});
const file = (name: string): File => new File(['x'], name);

function imports(ends: (job: JobView) => JobView = (job) => ({ ...job, state: 'done' })) {
  let current = session();
  const place = openPlace(ImportStore, {
    answers: {
      families: () => [{ id: 'Mood', name: 'Mood' }],
      watchedFolder: () => ({ watched: null, fault: null }),
      uploadTable: () => current,
      beginDropped: () => session({ source: 'dropped', settings: null }),
      dryRun: () => ({ id: 'job', state: 'running' }),
      commitImport: () => ({ id: 'job', state: 'running' }),
      importSession: () => ({ ...current, summary: SUMMARY }),
      configureImport: (_: object, settings: ImportSettings) => (current = session({ settings })),
      chooseOptions: (_: object, options: ImportSession['options']) => session({ options }),
    },
    providers: [{ provide: JobWatch, useValue: { end: async (job: JobView) => ends(job) } }],
  });
  const names = () => place.server.calls.map(({ name }) => name);
  return { ...place, names };
}

describe('an import', () => {
  it('is looked at as soon as its title is known, and shows first what it would add', async () => {
    const { store, names } = imports();
    await store.openStation('vale');
    await store.openTable(file('songs.csv'));
    expect(names()).toEqual(['families', 'watchedFolder', 'uploadTable', 'dryRun', 'importSession']);
    expect([store.writes(), store.part(), store.busy(), store.failure()]).toEqual([4, 'added', false, null]);
  });

  it('waits for the column of the title', async () => {
    const { store, server, names } = imports();
    server.answers['uploadTable'] = () => session({ settings: { ...SETTINGS, mapping: [null, 'artist', null] } });
    await store.openTable(file('songs.csv'));
    expect([store.titleMapped(), names()]).toEqual([false, ['uploadTable']]);
    await store.map(0, 'title');
    expect(names()).toEqual(['uploadTable', 'configureImport', 'dryRun', 'importSession']);
  });

  it('gives a meaning to one column at most', async () => {
    const { store, server } = imports();
    await store.openTable(file('songs.csv'));
    await store.map(2, 'artist');
    expect(server.asked('configureImport')[0]!.body).toMatchObject({ mapping: ['title', null, 'artist'] });
    await store.map(2, null);
    expect(server.asked('configureImport')[1]!.body).toMatchObject({ mapping: ['title', null, null] });
  });

  it('takes one step after another, and is busy until the last of them is done', async () => {
    const { store, names } = imports();
    const opened = store.openTable(file('songs.csv'));
    const mapped = opened.then(() => store.busy());
    await Promise.all([opened, store.configure({ header: false }), store.commit()]);
    expect(await mapped).toBe(true);
    expect(store.busy()).toBe(false);
    expect(names().filter((name) => name !== 'importSession')).toEqual([
      ...['uploadTable', 'dryRun'],
      ...['configureImport', 'dryRun'],
      'commitImport',
    ]);
  });

  it('sends dropped files one by one with their paths, and gives up the import where one cannot be sent', async () => {
    const { store, server } = imports();
    await store.openAudio([
      { path: 'a/1.wav', file: file('1.wav') },
      { path: 'a/2.wav', file: file('2.wav') },
    ]);
    expect(server.asked('sendFile').map(({ body }) => body)).toEqual([
      { file: '1.wav', path: 'a/1.wav' },
      { file: '2.wav', path: 'a/2.wav' },
    ]);
    server.answers['sendFile'] = () => Promise.reject(new Error('The file is too large.'));
    await store.openAudio([{ path: '3.wav', file: file('3.wav') }]);
    expect([store.failure(), store.sent(), server.asked('closeImport').length]).toEqual([
      'The file is too large.',
      null,
      1,
    ]);
  });

  it('says where what was dropped is nothing it can read', async () => {
    const { store } = imports();
    await store.openDropped(() => Promise.reject(new Error('There is no audio among what was dropped.')));
    expect([store.failure(), store.busy()]).toEqual(['There is no audio among what was dropped.', false]);
  });

  it('tells that nothing was written where it was cancelled', async () => {
    const { store, names } = imports((job) => ({ ...job, state: 'cancelled', message: null }) as JobView);
    await store.openTable(file('songs.csv'));
    expect(store.failure()).toBe('The dry run was cancelled.');
    await store.commit();
    expect(store.failure()).toBe('The import was cancelled; nothing was written.');
    expect(names().filter((name) => name === 'importSession')).toEqual([]);
  });

  it('is taken up from its address, once, and forgotten on both sides when it is closed', async () => {
    const { store, names } = imports();
    await store.take('i1');
    await store.take('i1');
    expect(names()).toEqual(['importSession']);
    await store.close();
    expect([store.session(), names()]).toEqual([null, ['importSession', 'closeImport']]);
    await store.commit();
    await store.dryRun();
    expect(names()).toHaveLength(2);
  });

  it('watches a folder, and tells in what state that is', async () => {
    const { store, server } = imports();
    await store.openStation('vale');
    await store.watchFolder('/new', 'gold');
    expect(server.asked('watchFolder')[0]!.body).toEqual({ folder: '/new', categoryId: 'gold' });
    expect(server.asked('watchedFolder')).toHaveLength(2);
    await store.unwatch();
    expect(server.asked('watchedFolder')).toHaveLength(3);
  });
});
