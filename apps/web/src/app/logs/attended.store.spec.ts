import { TestBed } from '@angular/core/testing';
import { describe, expect, it } from '@jest/globals';
import type { AttendedRun } from '@fuller/contracts';
import { ApiError } from '../shared/api/api';
import { openPlace } from '../testing/place';
import { AttendedDesk } from './attended.store';
import { DeskEngine } from './desk-engine';
import { LogDocument } from './log-document';

const run = (more: Partial<AttendedRun> = {}): AttendedRun =>
  ({
    id: 'run',
    state: 'open',
    stop: { entryId: 'p-1' },
    decisions: [],
    skipped: [],
    rulesOff: [],
    ...more,
  }) as AttendedRun;
const view = (revision: number) => ({ revision, log: { date: '2026-11-24', hours: [] }, items: [], strains: [] });

async function attended(answers: Record<string, (...args: never[]) => unknown>) {
  const place = openPlace(AttendedDesk, {
    answers: { attended: () => ({ run: run() }), log: () => view(1), ...answers },
    providers: [
      LogDocument,
      { provide: DeskEngine, useValue: { forget: () => {}, judge: async () => ({ strains: [], items: new Map() }) } },
    ],
  });
  const document = TestBed.inject(LogDocument);
  await document.open('vale', '2026-11-24');
  await place.store.open('vale', '2026-11-24');
  return { ...place, document };
}

describe('an attended run on the desk', () => {
  it('is there again after a reload, and a decision names how many came before it', async () => {
    const { store, server, document } = await attended({
      stepAttended: () => ({
        run: run({ stop: { entryId: 'p-2' } as never, decisions: [{} as never] }),
        view: view(2),
        activityId: null,
        label: '',
      }),
    });
    expect(store.stop()!.entryId).toBe('p-1');
    expect(await store.step({ do: 'take', itemId: 's1', rulesOff: ['r'] })).toBe(true);
    expect(server.asked('stepAttended')[0]).toMatchObject({
      address: { stationId: 'vale', id: 'run' },
      body: { do: 'take', itemId: 's1', rulesOff: ['r'], decisions: 0 },
    });
    expect([store.stop()!.entryId, document.view()!.revision, store.busy()]).toEqual(['p-2', 2, null]);
  });

  it('reads where it stands again when somebody else has decided first', async () => {
    let reads = 0;
    const { store, told } = await attended({
      attended: () => ({ run: run(++reads > 1 ? { stop: { entryId: 'p-9' } as never } : {}) }),
      stepAttended: () => Promise.reject(new ApiError('CONFLICT', 'Somebody else has decided.', undefined)),
    });
    expect(await store.step({ do: 'skip', rulesOff: [] })).toBe(false);
    expect([store.stop()!.entryId, told]).toEqual(['p-9', ['Somebody else has decided.']]);
  });

  it('takes one step at a time, and is gone once it has ended', async () => {
    const { store, server } = await attended({
      stepAttended: () => ({ run: run({ state: 'ended', stop: null }), view: view(2), activityId: null, label: '' }),
    });
    const first = store.step({ do: 'end' });
    expect(await store.step({ do: 'back' })).toBe(false);
    await first;
    expect([store.run(), server.asked('stepAttended').length]).toEqual([null, 1]);
    expect(await store.step({ do: 'back' })).toBe(false);
  });
});
