import { describe, expect, it } from '@jest/globals';
import type { HandOverPreview, HandOverSettings } from '@fuller/contracts';
import { ApiError } from '../shared/api/api';
import { openPlace } from '../testing/place';
import { HandOverStore } from './hand-over.store';

const PREVIEW: HandOverPreview = {
  files: [
    { name: 'vale_00.m3u8', entries: 20, head: '#EXTM3U' },
    { name: 'vale_01.m3u8', entries: 18, head: '#EXTM3U' },
  ],
  heldBack: [
    { hourIndex: 0, startMs: 0, why: 'no file', title: 'Ember' },
    { hourIndex: 1, startMs: 1, why: 'no file', title: 'Ember' },
    { hourIndex: 1, startMs: 2, why: 'break', title: '' },
  ] as unknown as HandOverPreview['heldBack'],
  silences: [],
  folder: '/out/vale',
};

async function output() {
  const place = openPlace(HandOverStore, {
    answers: {
      handOver: () => ({ settings: { pattern: '{station}_{date}.m3u8', hourly: false }, records: [] }),
      previewHandOver: (_: object, { pattern }: HandOverSettings) => {
        if (pattern === '') throw new ApiError('INVALID', 'The name of the files is empty.', 'pattern');
        return PREVIEW;
      },
      writeHandOver: () => ({ id: 'h', files: ['a'], folder: '/out/vale' }),
    },
  });
  await place.store.openDay('vale', '2026-11-24');
  return place;
}

describe('handing over', () => {
  it('shows what would be written, and what is left out by why, each title once', async () => {
    const { store } = await output();
    expect(store.total()).toBe(38);
    expect(store.held()).toEqual([
      { why: 'no file', count: 2, titles: ['Ember'] },
      { why: 'break', count: 1, titles: [''] },
    ]);
    expect(store.url()).toBe('/api/downloadHandOver');
  });

  it('puts the hour into the names of hourly files, unless it is there', async () => {
    const { store } = await output();
    store.setHourly(true);
    expect(store.settings()?.pattern).toBe('{station}_{date}_{hour}.m3u8');
    store.setHourly(false);
    store.setPattern('{hour}-{date}');
    store.setHourly(true);
    expect(store.settings()?.pattern).toBe('{hour}-{date}');
  });

  it('keeps what it found while a name that cannot be is typed, and says what is wrong', async () => {
    const { store, settle, server } = await output();
    for (const pattern of ['a', 'ab', '']) store.setPattern(pattern);
    await settle(200);
    // Typing is answered once, when it pauses.
    expect(server.asked('previewHandOver')).toHaveLength(2);
    expect(store.problem()).toEqual({ code: 'INVALID', text: 'The name of the files is empty.' });
    expect(store.preview()).not.toBeNull();
    store.setPattern('ok');
    await settle(200);
    expect(store.problem()).toBeNull();
  });

  it('shows nothing of a day that has no log', async () => {
    const { store, server } = await output();
    server.answers['previewHandOver'] = () => {
      throw new ApiError('NO_LOG', 'There is no log for 2026-11-25 yet.', undefined);
    };
    await store.openDay('vale', '2026-11-25');
    expect([store.preview(), store.problem()?.code, store.total()]).toEqual([null, 'NO_LOG', 0]);
  });

  it('shows a file that is there when there are fewer', async () => {
    const { store, server } = await output();
    store.showFile(1);
    server.answers['previewHandOver'] = () => ({ ...PREVIEW, files: PREVIEW.files.slice(0, 1) });
    await store.look();
    expect(store.shownFile()).toBe(0);
  });

  it('is looked at again with every edit of a log, and tells that it is being written', async () => {
    const { store, events, server, settle } = await output();
    events.next({ type: 'log', stationId: 'vale', dataRevision: 2 } as never);
    await settle(120);
    expect(server.asked('handOver')).toHaveLength(2);
    const writing = store.write();
    expect(store.writing()).toBe(true);
    expect(await writing).toMatchObject({ folder: '/out/vale' });
    expect(store.writing()).toBe(false);
  });
});
