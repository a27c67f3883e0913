import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it } from '@jest/globals';
import type { LogView } from '@fuller/contracts';
import { ApiError } from '../shared/api/api';
import { openPlace } from '../testing/place';
import { DeskDays } from './desk-days';
import { DeskEngine } from './desk-engine';
import { LogDesk } from './log-desk.store';
import { LogDocument } from './log-document';

const view = (date: string) =>
  ({
    revision: 1,
    log: {
      date,
      timeZone: 'UTC',
      hours: [0, 1].map((index) => ({
        index,
        localHour: index,
        startMs: Date.parse(date) + index * 3_600_000,
        durationMs: 3_600_000,
        clockId: 'day',
        clockName: 'Day',
        entries: [
          { id: `a-${index}`, kind: 'item', itemId: 's1', note: '' },
          { id: `b-${index}`, kind: 'item', itemId: 's2', note: '' },
        ],
      })),
    },
    items: [
      { id: 's1', title: 'Ember', artist: 'Ada', durationMs: 200_000, tags: {} },
      { id: 's2', title: 'Harbour', artist: 'Bea', durationMs: 200_000, tags: {} },
    ],
    strains: [],
  }) as unknown as LogView;

describe('days in view order on the desk', () => {
  let asked: string[];
  let days: DeskDays;
  let desk: InstanceType<typeof LogDesk>;
  let settle: () => Promise<void>;
  let tell: (event: object) => void;

  beforeEach(async () => {
    asked = [];
    const place = openPlace(LogDesk, {
      answers: {
        log: ({ date }: { date: string }) => {
          asked.push(date);
          return date === '2026-11-26' ? Promise.reject(new ApiError('NO_LOG', 'none', undefined)) : view(date);
        },
      },
      providers: [
        DeskDays,
        LogDocument,
        { provide: DeskEngine, useValue: { judge: async () => ({ strains: [], items: new Map() }), forget: () => {} } },
      ],
    });
    [desk, settle, tell] = [place.store, place.settle, (event) => place.events.next(event as never)];
    days = TestBed.inject(DeskDays);
    days.lay('vale', '2026-11-24', 'three', undefined);
    await desk.openDay('vale', '2026-11-24');
    await settle();
  });
  const heads = () =>
    days.list().flatMap((row) => (row.kind === 'day' ? [[row.date.slice(8), row.here, row.state]] : []));
  const ids = () => days.list().map(({ id }) => id);

  it('stand under each other: the one that is worked on with its own rows, the others read once', () => {
    expect(heads()).toEqual([
      ['24', true, 'log'],
      ['25', false, 'log'],
      ['26', false, 'none'],
    ]);
    expect(ids().slice(0, 4)).toEqual(['day-2026-11-24', 'hour-0', 'a-0', 'b-0']);
    expect(ids().slice(9, 12)).toEqual(['day-2026-11-25', '2026-11-25/hour-0', '2026-11-25/a-0']);
    expect(asked.sort()).toEqual(['2026-11-24', '2026-11-25', '2026-11-26']);
    expect(new Set(ids()).size).toBe(ids().length);
  });

  it('show of each day what the filter leaves', () => {
    desk.setFilter({ words: 'ember' });
    expect(days.list().filter(({ id }) => id.endsWith('b-0'))).toEqual([]);
    expect(ids()).toContain('2026-11-25/a-1');
  });

  it('are left at either end for the entry next to it in another day', () => {
    desk.choose('b-1');
    expect(days.beyond(1)).toEqual({ date: '2026-11-25', entryId: 'a-0' });
    desk.choose('a-0');
    expect(days.beyond(-1)).toBeNull();
  });

  it('stay when one of them is worked on, which is there at once; others begin a new view', async () => {
    days.keep('vale', desk.view());
    days.lay('vale', '2026-11-25', 'three', '2026-11-24');
    const opening = desk.openDay('vale', '2026-11-25', days.known('2026-11-25'));
    expect([desk.status(), heads().map(([, here]) => here)]).toEqual(['ready', [false, true, false]]);
    expect(ids()[3]).toBe('2026-11-24/b-0');
    await opening;
    desk.choose('a-0');
    expect(days.beyond(-1)).toEqual({ date: '2026-11-24', entryId: 'b-1' });
    days.lay('vale', '2026-12-24', 'three', '2026-11-24');
    expect(days.dates()).toEqual(['2026-12-24', '2026-12-25', '2026-12-26']);
  });

  it('are never those of another station', async () => {
    days.lay('hill', '2026-11-24', 'two', undefined);
    days.keep('vale', desk.view());
    expect(days.known('2026-11-24')).toBeNull();
  });

  it('are read again once something has changed, but for the one that is worked on', async () => {
    asked.length = 0;
    tell({ type: 'log', stationId: 'vale', date: '2026-11-25', clientId: 'other', revision: 2, edit: {}, items: [] });
    await new Promise((resolve) => setTimeout(resolve, 900));
    await settle();
    expect(asked.sort()).toEqual(['2026-11-25', '2026-11-26']);
  });
});
