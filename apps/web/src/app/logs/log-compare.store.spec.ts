import { TestBed } from '@angular/core/testing';
import { describe, expect, it } from '@jest/globals';
import type { LogVersion, LogView, PreviewDay } from '@fuller/contracts';
import { ApiError } from '../shared/api/api';
import { openPlace } from '../testing/place';
import { DeskEngine } from './desk-engine';
import { LogCompare } from './log-compare.store';
import { LogDocument } from './log-document';

const log = (first: string | null, date = '2026-11-24') => ({
  date,
  timeZone: 'UTC',
  hours: [0, 1].map((index) => ({
    index,
    localHour: index,
    startMs: index * 3_600_000,
    durationMs: 3_600_000,
    clockId: 'day',
    clockName: 'Day',
    entries: [
      {
        id: `a-${index}`,
        kind: 'pick',
        categoryId: 'gold',
        itemId: index === 0 ? first : 's2',
        locked: false,
        origin: 'engine',
        open: null,
        note: '',
      },
    ],
  })),
});
const viewOf = (revision: number, first: string | null) =>
  ({ revision, log: log(first), items: [], strains: [] }) as unknown as LogView;
const preview = (revision: number | null, first: string, more: object = {}): PreviewDay =>
  ({
    date: '2026-11-24',
    stationId: 'vale',
    revision,
    log: log(first),
    items: [],
    strains: [],
    ...more,
  }) as unknown as PreviewDay;
const VERSION = { id: 'v1', atMs: 0, revision: 3, reasons: ['generated'], slots: 2, open: 0 } as LogVersion;

async function compare(answers: Record<string, (...args: never[]) => unknown>, now = viewOf(4, 's1')) {
  let view = now;
  const place = openPlace(LogCompare, {
    answers: { log: () => view, ...answers },
    providers: [LogDocument, { provide: DeskEngine, useValue: { forget: () => {} } }],
  });
  const document = TestBed.inject(LogDocument);
  await document.open('vale', '2026-11-24');
  place.store.begin('vale', '2026-11-24');
  return { ...place, document, change: async (next: LogView) => ((view = next), document.reload()) };
}

describe('two logs side by side', () => {
  it('show what a run would write; what is taken names the log as it was seen', async () => {
    const { store, server, change } = await compare({ previewDays: () => [preview(4, 's9')] });
    await store.showPreview('job');
    expect([store.comparison()!.hours, store.changedSince()]).toEqual([[0], false]);
    await change(viewOf(5, 's3'));
    expect(store.changedSince()).toBe(true);
    store.turnHour(0);
    await store.take();
    expect(server.asked('acceptPreview')[0]).toMatchObject({
      address: { stationId: 'vale', id: 'job' },
      body: { date: '2026-11-24', revision: 5, hours: [0] },
    });
    expect(store.beside()).toBeNull();
  });

  it('stay side by side after a conflict, with the log as it is now', async () => {
    const { store, told, change } = await compare({
      previewDays: () => [preview(4, 's9')],
      acceptPreview: () => Promise.reject(new ApiError('CONFLICT', 'Somebody else changed the log.', undefined)),
    });
    await store.showPreview('job');
    await change(viewOf(6, 's7'));
    await store.take();
    expect([told, store.beside()?.kind, store.now()?.revision]).toEqual([
      ['Somebody else changed the log.'],
      'preview',
      6,
    ]);
  });

  it('show each day of a longer run beside its own log, and all of them are written at once', async () => {
    const other = preview(2, 's8', { date: '2026-11-25', log: log('s8', '2026-11-25') });
    const { store, server } = await compare({
      previewDays: () => [preview(4, 's9'), other, preview(null, 's1', { date: '2026-11-26' })],
    });
    await store.showPreview('job');
    store.showDay(1);
    expect(store.now()?.revision).toBe(4);
    store.showDay(2);
    // A day without a log differs in everything.
    expect([store.now(), store.comparison()!.differing]).toEqual([null, 2]);
    await store.take();
    expect(server.asked('acceptPreview')[0]!.body).toEqual({});
  });

  it('put a version back, whole or by the hour, and are closed without a change', async () => {
    const restored = viewOf(5, 's5');
    const { store, server, document } = await compare({
      version: () => ({ ...VERSION, log: log('s5'), items: [] }),
      restoreVersion: () => ({ ...restored, activityId: 'a', label: 'Restore' }),
    });
    await store.showVersion(VERSION);
    store.drop();
    expect([store.beside(), server.asked('dropPreview')]).toEqual([null, []]);
    await store.showVersion(VERSION);
    store.turnHour(1);
    store.turnHour(1);
    await store.take();
    expect(server.asked('restoreVersion')[0]!.body).toEqual({ revision: 4, versionId: 'v1' });
    expect(document.view()!.revision).toBe(5);
  });

  it('forget a preview that is dropped', async () => {
    const { store, server } = await compare({ previewDays: () => [preview(4, 's9')] });
    await store.showPreview('job');
    store.drop();
    expect(server.asked('dropPreview')[0]!.address).toEqual({ stationId: 'vale', id: 'job' });
  });
});
