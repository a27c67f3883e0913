import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it } from '@jest/globals';
import type { HandEdit, LogView } from '@fuller/contracts';
import { applyEdit, byHand, findEntry, type DailyLog } from '@fuller/core';
import { Api, ApiError } from '../shared/api/api';
import { Changes } from '../state/changes';
import { DeskEngine } from './desk-engine';
import { LogDocument } from './log-document';
import { allowed } from '../testing/role';

const slot = (id: string, itemId: string) =>
  ({ id, kind: 'pick', categoryId: 'gold', itemId, locked: false, origin: 'engine', open: null, note: '' }) as const;
const log: DailyLog = {
  date: '2026-11-24',
  timeZone: 'UTC',
  hours: [
    {
      index: 0,
      localHour: 0,
      startMs: 0,
      durationMs: 3_600_000,
      clockId: 'c',
      clockName: 'C',
      entries: ['a-0', 'b-0', 'c-0'].map((id) => slot(id, id)),
    },
  ],
};
const lock = (entryId: string, locked = true): HandEdit => ({ type: 'lock', entryId, locked });
const replace = (entryId: string, itemId: string): HandEdit => ({ type: 'replace', entryId, itemId });

/** A server with one log that answers late, and refuses a revision that is not its own. */
class Server {
  view: LogView = { revision: 1, log: log as LogView['log'], items: [], strains: [] };
  readonly got: HandEdit[] = [];

  log = async (): Promise<LogView> => this.view;

  editLog = async (_at: object, { revision, edit }: { revision: number; edit: HandEdit }): Promise<LogView> => {
    await new Promise((resolve) => setTimeout(resolve, 3));
    if (revision !== this.view.revision) throw new ApiError('CONFLICT', 'Somebody else changed this log.', undefined);
    this.got.push(edit);
    this.change(edit);
    return { ...this.view, activityId: `a${this.view.revision}`, label: 'Edit' } as LogView;
  };

  change(edit: HandEdit): void {
    const outcome = applyEdit(this.view.log as DailyLog, byHand(edit));
    if (outcome.ok) this.view = { ...this.view, revision: this.view.revision + 1, log: outcome.log as LogView['log'] };
  }
}

describe('the log of the desk', () => {
  let server: Server;
  let document: LogDocument;
  let told: string[];
  let sent: Promise<unknown>[];
  const entry = (id: string) => findEntry(document.view()!.log as DailyLog, id) as ReturnType<typeof slot>;
  const settled = async (): Promise<unknown> => Promise.all(sent);

  beforeEach(async () => {
    server = new Server();
    told = [];
    sent = [];
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        LogDocument,
        allowed(),
        { provide: Api, useValue: server },
        { provide: DeskEngine, useValue: { judge: async () => ({ strains: [], items: new Map() }), forget: () => {} } },
        {
          provide: Changes,
          useValue: {
            remember: () => {},
            tell: (error: Error) => told.push(error.message),
            follow: (change: Promise<unknown>) => sent.push(change),
          },
        },
      ],
    });
    document = TestBed.inject(LogDocument);
    await document.open('vale', '2026-11-24');
  });

  it('shows edits at once and sends them one after the other, each to the entry it was made for', async () => {
    for (const id of ['a-0', 'b-0', 'c-0']) document.edit(lock(id));
    expect(['a-0', 'b-0', 'c-0'].map((id) => entry(id).locked)).toEqual([true, true, true]);
    expect(server.got).toEqual([]);
    await settled();
    expect(server.got).toEqual([lock('a-0'), lock('b-0'), lock('c-0')]);
    expect([document.view()!.revision, told]).toEqual([4, []]);
  });

  it.each([
    [['look'], /changes nothing/],
    [['look', 'present'], /ask for a swap/],
  ] as const)('shows no edit that the role of %j does not allow, and sends none', async (rights, why) => {
    TestBed.resetTestingModule();
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        LogDocument,
        allowed(rights, ['early']),
        { provide: Api, useValue: server },
        { provide: DeskEngine, useValue: {} },
        { provide: Changes, useValue: { tell: (error: Error) => told.push(error.message) } },
      ],
    });
    document = TestBed.inject(LogDocument);
    await document.open('vale', '2026-11-24');
    document.edit(lock('a-0'));
    expect([entry('a-0').locked, server.got, told]).toEqual([false, [], [expect.stringMatching(why)]]);
  });

  it('carries an edit on where another person changed another entry, and gives way where it was the same', async () => {
    server.change(replace('c-0', 'theirs'));
    document.edit(lock('a-0'));
    await settled();
    expect([entry('a-0').locked, entry('c-0').itemId, told]).toEqual([true, 'theirs', []]);
    server.change(replace('b-0', 'theirs'));
    document.edit(replace('b-0', 'mine'));
    await settled();
    expect([entry('b-0').itemId, told]).toEqual([
      'theirs',
      ['Somebody else changed this entry first: something else stands there now. Your change was not made.'],
    ]);
  });

  it('takes over what somebody else did from what the event tells', () => {
    const asked = server.log;
    let reads = 0;
    server.log = () => (reads++, asked());
    const event = {
      type: 'log',
      stationId: 'vale',
      clientId: 'other',
      date: '2026-11-24',
      bindings: [],
      items: [],
      strains: [],
      open: 0,
    } as const;
    document.take({ ...event, revision: 2, edit: replace('a-0', 'theirs') });
    expect([entry('a-0').itemId, document.view()!.revision, reads]).toEqual(['theirs', 2, 0]);
    // One was missed in between: then it is read again.
    document.take({ ...event, revision: 4, edit: replace('b-0', 'theirs') });
    expect(reads).toBe(1);
  });

  it('goes on sending the edits of a day that is left, and shows them when it is opened again', async () => {
    const asked: string[] = [];
    const edit = server.editLog;
    server.editLog = (at, body) => (asked.push((at as { date: string }).date), edit(at, body));
    for (const id of ['a-0', 'b-0', 'c-0']) document.edit(lock(id));
    await document.open('vale', '2026-11-25');
    await document.open('vale', '2026-11-24');
    expect(['a-0', 'b-0', 'c-0'].map((id) => entry(id).locked)).toEqual([true, true, true]);
    await settled();
    expect([server.got.length, asked, told]).toEqual([3, Array(3).fill('2026-11-24'), []]);
  });

  it('shows a log that is known at once, and takes over the newer one when it has been read', async () => {
    const known = server.view;
    server.change(replace('a-0', 'newer'));
    const opening = document.open('vale', '2026-11-25', known);
    expect([document.state(), entry('a-0').itemId]).toEqual(['ready', 'a-0']);
    await opening;
    expect(entry('a-0').itemId).toBe('newer');
  });

  it('says of a date that does not exist that it is none', async () => {
    expect(await document.open('vale', '2026-13-45')).toBe(false);
    expect([document.state(), document.message()]).toEqual(['failed', '“2026-13-45” is not a date.']);
  });
});
