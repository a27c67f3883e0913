import { TestBed } from '@angular/core/testing';
import { describe, expect, it } from '@jest/globals';
import type { ClockRow, HandEdit, LogView } from '@fuller/contracts';
import { applyEdit, byHand, type DailyLog, type LogEntry } from '@fuller/core';
import { ApiError } from '../shared/api/api';
import { openPlace } from '../testing/place';
import { DeskEdits } from './desk-edits';
import { DeskEngine } from './desk-engine';
import { LogDesk } from './log-desk.store';
import { LogDocument } from './log-document';
import { allowed } from '../testing/role';

const HOUR_MS = 3_600_000;
const pick = (id: string, itemId: string | null, more: object = {}): LogEntry =>
  ({
    id,
    kind: 'pick',
    categoryId: 'gold',
    itemId,
    locked: false,
    origin: 'engine',
    open: itemId === null ? { reason: 'nothing fits' } : null,
    note: '',
    ...more,
  }) as unknown as LogEntry;
const hour = (index: number, entries: LogEntry[]) => ({
  index,
  localHour: index,
  startMs: index * HOUR_MS,
  durationMs: HOUR_MS,
  clockId: 'day',
  clockName: 'Day',
  entries,
});
const LOG: DailyLog = {
  date: '2026-11-24',
  timeZone: 'UTC',
  hours: [
    hour(0, [pick('a-0', 's1'), pick('b-0', 's2'), pick('c-0', null)]),
    hour(1, [pick('a-60', 's3', { locked: true }), pick('b-60', 's1')]),
  ],
};
const item = (id: string) => ({
  id,
  title: id.toUpperCase(),
  artist: 'Ada',
  kind: 'song',
  durationMs: 200_000,
  introMs: null,
  segueMs: null,
  hasFile: true,
  album: '',
  tags: {},
});

/** The desk over a server that carries edits out. */
async function desk(log: DailyLog | null = LOG) {
  let view = {
    revision: 1,
    log,
    items: ['s1', 's2', 's3'].map(item),
    strains: [{ entryId: 'b-60', ruleId: 'artist', by: 600 }],
  } as unknown as LogView;
  const off: (readonly string[])[] = [];
  const place = openPlace(LogDesk, {
    catalogue: {
      rules: [
        {
          id: 'artist',
          shape: 'apart',
          tag: 'artist',
          value: null,
          amount: 5400,
          strength: 'hard',
          exceptions: [],
          places: [],
        },
      ] as never,
    },
    answers: {
      log: () => (log ? view : Promise.reject(new ApiError('NO_LOG', 'There is no log for it yet.', undefined))),
      editLog: (_at: object, { edit }: { edit: HandEdit }) => {
        const outcome = applyEdit(view.log as DailyLog, byHand(edit));
        if (outcome.ok) view = { ...view, revision: view.revision + 1, log: outcome.log as LogView['log'] };
        return { ...view, activityId: 'e', label: 'Edit' };
      },
      aired: () => [{ startMs: 5, itemId: 's1', title: 'S1', artist: 'Ada' }],
    },
    providers: [
      DeskEdits,
      LogDocument,
      allowed(),
      {
        provide: DeskEngine,
        useValue: {
          judge: async () => ({ strains: [], items: new Map() }),
          forget: () => {},
          turnOff: async (ids: readonly string[]) => void off.push(ids),
        },
      },
    ],
  });
  await place.store.openDay('vale', '2026-11-24');
  const edits = () => place.server.asked('editLog').map(({ body }) => (body as { edit: HandEdit }).edit);
  return { ...place, act: TestBed.inject(DeskEdits), edits, off };
}

describe('the log desk', () => {
  it('counts what there is to review', async () => {
    const { store } = await desk();
    expect(store.status()).toBe('ready');
    expect(store.tally()).toMatchObject({ slots: 5, open: 1, strained: 1, wishes: 0 });
  });

  it('leaves the marks of a rule that is off out at once, and the rule out of a run that is started', async () => {
    const { store, server, off, settle } = await desk();
    expect(store.ruleChoices()).toEqual([
      { id: 'artist', words: 'Keep the same artist at least 90 min apart', on: true },
    ]);
    store.turnRule('artist', false);
    expect([store.tally().strained, store.ruleChoices()[0]!.on]).toEqual([0, false]);
    void store.generate({ only: 'all' });
    await settle();
    expect(server.asked('generate')).toMatchObject([{ body: { from: '2026-11-24', rulesOff: ['artist'] } }]);
    store.turnRule('artist', true);
    expect([store.tally().strained, off]).toEqual([1, [['artist'], []]]);
    server.answers['logRuns'] = () => [{ seed: 3 }];
    await store.readRuns();
    expect(store.runs()).toEqual([{ seed: 3 }]);
  });

  it('swaps two slots by a mark, moves entries over the border of an hour, and removes what is not locked', async () => {
    const { act, store, edits, settle } = await desk();
    store.choose('c-0');
    act.swap();
    expect(store.swapId()).toBeNull();
    store.choose('a-0');
    act.swap();
    expect(store.swapId()).toBe('a-0');
    store.choose('b-0');
    act.swap();
    expect([store.swapId(), store.chosen()?.item?.id]).toEqual([null, 's1']);
    act.move(1);
    act.move(1);
    expect(store.log()?.hours.map(({ entries }) => entries.map(({ id }) => id))).toEqual([
      ['a-0', 'c-0'],
      ['b-0', 'a-60', 'b-60'],
    ]);
    act.remove();
    // What comes after it is locked, and stays.
    expect(store.chosen()?.id).toBe('a-60');
    act.remove();
    await settle();
    expect(edits().map(({ type }) => type)).toEqual(['swap', 'move', 'move', 'remove']);
    expect(store.log()?.hours[1]?.entries).toHaveLength(2);
  });

  it('goes from entry to entry past the heads of hours, and stays at the ends', async () => {
    const { store } = await desk();
    store.choose('c-0');
    expect(store.currentHour()).toBe(0);
    expect(store.entryAway(1)?.id).toBe('a-60');
    expect(store.entryAway(-1)?.id).toBe('b-0');
    expect(store.entryAway(40)?.id).toBe('b-60');
    store.choose('a-0');
    // The head of the first hour stands above it: there is no entry that way.
    expect(store.entryAway(-1)?.id).toBe('a-0');
  });

  it('goes round what is to review', async () => {
    const { store } = await desk();
    const next = (from: string | null) => {
      store.choose(from);
      return store.nextMatter()?.id;
    };
    expect([next(null), next('c-0'), next('b-60')]).toEqual(['c-0', 'b-60', 'c-0']);
  });

  it('knows what is on the air at an instant', async () => {
    const { store } = await desk();
    expect(store.entryAt(HOUR_MS + 10_000)?.id).toBe('a-60');
    expect(store.entryAt(-1)).toBeNull();
  });

  it('does to the chosen entry what a key says, where it can be done', async () => {
    const { act, store, edits, settle } = await desk();
    act.toggleLock();
    store.choose('a-60');
    act.openSlot();
    expect(edits()).toEqual([]);
    act.toggleLock();
    await settle(5);
    act.openSlot();
    await settle(5);
    store.choose('c-0');
    act.toggleLock();
    act.replace('s3');
    await settle(5);
    expect(edits()).toEqual([
      { type: 'lock', entryId: 'a-60', locked: false },
      { type: 'open', entryId: 'a-60' },
      { type: 'replace', entryId: 'c-0', itemId: 's3' },
    ]);
    expect(store.tally()).toMatchObject({ open: 1 });
  });

  it('shows a day without a log by what it has played', async () => {
    const { store } = await desk(null);
    expect([store.status(), store.rows(), store.aired().map(({ title }) => title)]).toEqual(['none', [], ['S1']]);
    await store.openDay('vale', '2026-12-24');
    expect([store.past(), store.aired()]).toEqual([false, []]);
    await store.openDay('vale', '24 November');
    expect([store.status(), store.message()]).toEqual(['failed', '“24 November” is not a date.']);
  });

  it('asks what the clocks of the day ask, each question once', async () => {
    const { store, load } = await desk(null);
    expect(store.questions()).toEqual([]);
    const asking = (id: string, ask?: string) => ({
      id,
      kind: 'pick',
      categoryId: 'gold',
      filter: '',
      comment: '',
      ...(ask ? { ask } : {}),
    });
    const clock = { id: 'day', revision: 1, scope: 'station', name: 'Day', colour: '#000000', lengthMs: HOUR_MS };
    const lines = [asking('l1', 'Which decade?'), asking('l2'), asking('l3', 'Which decade?')];
    load({
      clocks: [{ ...clock, lines } as unknown as ClockRow],
      week: {
        revision: 1,
        blocks: [],
        defaultClockId: 'day',
        framing: { hourOpenerId: null, hourCloserId: null, showOpenerId: null, showCloserId: null, momentsId: null },
      },
    });
    expect(store.questions()).toEqual(['Which decade?']);
  });

  it('takes over what another desk did, and reads again what was generated', async () => {
    const { store, events, server, settle } = await desk();
    events.next({
      type: 'log',
      stationId: 'vale',
      clientId: 'other',
      date: '2026-11-24',
      revision: 2,
      edit: { type: 'note', entryId: 'a-0', note: 'Birthday' },
      bindings: [],
      items: [],
      strains: [],
      open: 1,
      dataRevision: 2,
    });
    store.choose('a-0');
    expect(store.chosen()?.entry).toMatchObject({ note: 'Birthday' });
    expect(server.asked('log')).toHaveLength(1);
    events.next({ type: 'changed', stationId: 'vale', clientId: 'other', what: ['logs'], dataRevision: 3 });
    await settle(90);
    expect(server.asked('log')).toHaveLength(2);
  });

  it('does to several entries what it does to one, as one edit', async () => {
    const { act, store, edits, settle } = await desk();
    store.choose('a-0');
    store.pickTo('c-0');
    expect(store.pickedRows().map(({ id }) => id)).toEqual(['a-0', 'b-0', 'c-0']);
    act.toggleLock();
    act.openSlot();
    await settle();
    expect(edits()).toMatchObject([
      {
        type: 'batch',
        edits: [
          { entryId: 'a-0', locked: true },
          { entryId: 'b-0', locked: true },
        ],
      },
    ]);
    act.toggleLock();
    store.pickAlso('b-0');
    expect(store.pickedRows().map(({ id }) => id)).toEqual(['a-0', 'c-0']);
    act.move(1);
    await settle();
    expect(store.allRows().flatMap((row) => (row.kind === 'entry' ? [row.id] : []))).toEqual([
      'b-0',
      'a-0',
      'c-0',
      'a-60',
      'b-60',
    ]);
    act.moveTo({ hourIndex: 0, beforeId: 'b-0' });
    act.remove();
    await settle();
    expect(store.allRows().flatMap((row) => (row.kind === 'entry' ? [row.id] : []))).toEqual(['b-0', 'a-60', 'b-60']);
    expect(store.pickedRows()).toEqual([]);
    store.choose('b-0');
    expect(store.chosen()!.id).toBe('b-0');
  });

  it('cuts and pastes into another day, puts items and notes in, and draws from another category', async () => {
    const { act, store, edits, settle } = await desk();
    store.choose('a-0');
    expect([act.paste(), act.copy()]).toEqual([0, 1]);
    await store.openDay('vale', '2026-11-25');
    store.choose('b-60');
    expect(act.paste()).toBe(1);
    act.insert(item('s9') as never);
    expect(store.chosen()).toMatchObject({ item: { title: 'S9' }, entry: { kind: 'item' } });
    act.insertNote('Fair at noon');
    store.choose('b-0');
    act.drawFrom('fresh');
    act.fixLength(60_000);
    await settle();
    expect(edits().map(({ type }) => type)).toEqual(['insert', 'insert', 'insert', 'batch']);
    store.choose('a-0');
    act.fixLength(60_000);
    act.swapWith('b-60');
    act.carryOut('b-60', { type: 'replace', itemId: 's2' });
    await settle();
    expect(
      edits()
        .slice(4)
        .map(({ type }) => type),
    ).toEqual(['length', 'swap', 'replace']);
  });

  it('shows what is to be reviewed alone, hides hours, and opens the hour of the next matter', async () => {
    const { store } = await desk();
    store.setFilter({ show: 'matters' });
    expect(store.rows().map(({ id }) => id)).toEqual(['hour-0', 'c-0', 'hour-1', 'b-60']);
    expect(store.tally().slots).toBe(5);
    store.setFilter({ show: 'all' });
    store.turnAllHours();
    expect(store.rows().map(({ kind }) => kind)).toEqual(['hour', 'hour']);
    expect(store.nextMatter()!.id).toBe('c-0');
    expect(store.collapsed()).toEqual([1]);
    store.turnHour(0);
    store.turnAllHours();
    expect(store.collapsed()).toEqual([]);
    store.show('print');
    store.show('print');
    expect(store.side()).toBe('entry');
  });
});
