import { describe, expect, it } from '@jest/globals';
import { handOverSettings, type HandOverPreview, type HandOverSettings, type Output } from '@fuller/contracts';
import { ApiError } from '../shared/api/api';
import { openPlace } from '../testing/place';
import { HandOverStore } from './hand-over.store';

const PREVIEW: HandOverPreview = {
  files: [
    { name: 'vale_00.m3u8', entries: 20, head: '#EXTM3U' },
    { name: 'vale_01.m3u8', entries: 18, head: '#EXTM3U' },
  ],
  heldBack: [
    { hourIndex: 0, entryId: 'a', why: 'no file', title: 'Ember' },
    { hourIndex: 1, entryId: 'b', why: 'no file', title: 'Ember' },
    { hourIndex: 1, entryId: 'c', why: 'break', title: '' },
  ],
  silences: [],
  missingLetters: [],
  changedPaths: 0,
  cut: 0,
  folder: '/out/vale',
};
const outputOf = (id: string, more: Partial<Output> = {}): Output => ({
  id,
  revision: 3,
  name: id,
  files: handOverSettings({ pattern: '{station}_{date}.m3u8', hourly: false }),
  target: { kind: 'folder', folder: null },
  nightly: null,
  hasPassword: false,
  ...more,
});
const record = {
  id: 'r',
  date: '2026-11-24',
  outputId: 'one',
  stale: true,
  atMs: 0,
  folder: '',
  files: [],
  entries: 0,
};

async function place(outputs: readonly Output[] = [outputOf('one'), outputOf('two')]) {
  const opened = openPlace(HandOverStore, {
    answers: {
      handOver: () => ({ outputs, records: [record], folder: '/out/vale' }),
      handOverChanges: () => ({ known: true, total: 1, rows: [{ hourIndex: 3, before: 'A', after: 'B' }] }),
      previewHandOver: (_: object, { pattern }: HandOverSettings) => {
        if (pattern === '') throw new ApiError('INVALID', 'The name of the files is empty.', 'pattern');
        return PREVIEW;
      },
      writeOutput: () => ({ id: 'job' }),
    },
  });
  await opened.store.openDay('vale', '2026-11-24');
  return opened;
}

describe('handing over', () => {
  it('shows the first output, what it would write, what it leaves out, and what has changed since', async () => {
    const { store } = await place();
    expect([store.draft()?.id, store.total()]).toEqual(['one', 38]);
    expect(store.held()).toEqual([
      { why: 'no file', count: 2, titles: ['Ember'] },
      { why: 'break', count: 1, titles: [''] },
    ]);
    expect(store.changed()?.rows).toHaveLength(1);
    await store.showOutput('two');
    expect([store.draft()?.id, store.last(), store.changed()]).toEqual(['two', null, null]);
  });

  it('puts the hour into the names of hourly files, unless it is there; a format brings its ending', async () => {
    const { store } = await place();
    expect(store.hourlyPatch(true).files?.pattern).toBe('{station}_{date}_{HH}.m3u8');
    store.type({ files: { pattern: '{hh:upper}{a}.m3u8', encoding: 'ascii' } });
    expect(store.hourlyPatch(true).files?.pattern).toBe('{hh:upper}{a}.m3u8');
    expect(store.formatPatch('xspf').files).toEqual({ format: 'xspf', pattern: '{hh:upper}{a}.xspf', encoding: null });
    expect(store.formatPatch('pls').files).toMatchObject({ pattern: '{hh:upper}{a}.pls', encoding: 'ascii' });
  });

  it('shows what is typed when it pauses, keeps it over a reload, and saves it with the next change', async () => {
    const { store, settle, server, events } = await place();
    for (const pattern of ['a', 'ab', '']) store.type({ files: { pattern } });
    await settle(200);
    expect(server.asked('previewHandOver')).toHaveLength(2);
    expect(store.problem()).toEqual({ code: 'INVALID', text: 'The name of the files is empty.', field: 'pattern' });
    expect(store.preview()).not.toBeNull();
    store.type({ files: { pattern: 'ok' } });
    events.next({ type: 'log', stationId: 'vale', dataRevision: 2 } as never);
    await settle(300);
    expect([store.problem(), store.draft()?.files.pattern]).toEqual([null, 'ok']);
    await store.save({ files: { zip: true } });
    expect(server.asked('saveOutput')[0]).toMatchObject({
      address: { id: 'one' },
      body: { revision: 3, files: { pattern: 'ok', zip: true } },
    });
    expect(server.asked('saveOutput')[0]!.body).not.toHaveProperty('hasPassword');
    expect([store.draft()?.revision, store.isTyped()]).toEqual([4, false]);
    await store.save({ password: 'weir' });
    expect(server.asked('saveOutput')[1]!.body).toMatchObject({ revision: 4, password: 'weir' });
    expect(store.draft()?.hasPassword).toBe(true);
  });

  it('says what is refused and keeps what was typed', async () => {
    const { store, server } = await place();
    server.answers['saveOutput'] = () => {
      throw new ApiError('NAME_TAKEN', 'There is an output “two” already.', 'name');
    };
    await store.save({ name: 'two' });
    expect([store.refused()?.field, store.draft()?.name, store.isTyped()]).toEqual(['name', 'two', true]);
  });

  it('adds an output beside the standard one, which is then kept too', async () => {
    const { store, server } = await place([outputOf('playlist-vale', { revision: 0 })]);
    await store.add('new');
    expect(server.asked('saveOutput').map(({ address }) => address['id'])).toEqual(['playlist-vale', 'new']);
    expect(store.draft()).toMatchObject({ id: 'new', name: 'Output 2', revision: 1 });
  });

  it('writes with what was just typed, and not at all where that was refused', async () => {
    const { store, server } = await place();
    let answer: (value: unknown) => void = () => {};
    server.answers['saveOutput'] = () => new Promise((resolve) => (answer = resolve));
    const saving = store.save({ files: { pattern: 'new.m3u8' } });
    const writing = store.write();
    await new Promise((resolve) => setTimeout(resolve));
    expect(server.asked('writeOutput')).toEqual([]);
    answer({ activityId: 'a', label: 'Change' });
    await Promise.all([saving, writing]);
    expect(server.asked('writeOutput')).toHaveLength(1);
    server.answers['saveOutput'] = () => {
      throw new ApiError('INVALID', 'No.', 'pattern');
    };
    await store.save({ files: { pattern: '{moon}' } });
    await store.write();
    expect(server.asked('writeOutput')).toHaveLength(1);
  });

  it('shows nothing of a day that has no log, and the file that is there when there are fewer', async () => {
    const { store, server } = await place();
    store.showFile(1);
    server.answers['previewHandOver'] = () => ({ ...PREVIEW, files: PREVIEW.files.slice(0, 1) });
    await store.look();
    expect(store.shownFile()).toBe(0);
    server.answers['previewHandOver'] = () => {
      throw new ApiError('NO_LOG', 'There is no log for 2026-11-25 yet.', undefined);
    };
    await store.openDay('vale', '2026-11-25');
    expect([store.preview(), store.problem()?.code, store.total()]).toEqual([null, 'NO_LOG', 0]);
  });

  it('is looked at again with every edit of a log, and follows the job that writes', async () => {
    const { store, events, server, settle } = await place();
    events.next({ type: 'log', stationId: 'vale', dataRevision: 2 } as never);
    await settle(120);
    expect(server.asked('handOver')).toHaveLength(2);
    await store.write();
    expect([server.asked('writeOutput')[0]?.address, store.jobId()]).toEqual([
      { stationId: 'vale', date: '2026-11-24', id: 'one' },
      'job',
    ]);
  });
});
