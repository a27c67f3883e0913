import { describe, expect, it } from '@jest/globals';
import type { Station } from '@fuller/contracts';
import type { DailyLog, LogEntry } from '@fuller/core';
import { openPage } from '../testing/place';
import { DeskEngine } from './desk-engine';
import { EntryPanel } from './entry-panel';
import type { EntryRow } from './log-model';

const STATION: Station = {
  id: 'vale',
  name: 'Vale',
  frequency: '',
  timeZone: 'UTC',
  today: '2026-11-24',
  revision: 1,
  archived: false,
  movesByItself: false,
};
const START = Date.UTC(2026, 10, 24, 18);
const LOG: DailyLog = { date: '2026-11-24', timeZone: 'UTC', hours: [] };
const song = (id: string, title: string, artist = 'Ada') =>
  ({
    id,
    title,
    artist,
    kind: 'song',
    durationMs: 200_000,
    introMs: null,
    segueMs: null,
    hasFile: true,
    album: '',
    tags: {},
  }) as const;
const pick = (more: object = {}): LogEntry =>
  ({
    id: 'p-0',
    kind: 'pick',
    categoryId: 'gold',
    itemId: 's1',
    locked: false,
    origin: 'engine',
    open: null,
    note: '',
    ...more,
  }) as unknown as LogEntry;
const rowOf = (entry: LogEntry, more: Partial<EntryRow> = {}): EntryRow =>
  ({
    kind: 'entry',
    id: entry.id,
    entry,
    hourIndex: 18,
    startMs: START,
    durationMs: 200_000,
    cutMs: 0,
    item: entry.kind === 'pick' && entry.itemId ? song('s1', 'Ember') : null,
    category: { id: 'gold', name: 'Gold', code: 'G', colour: '#1F6FA8' },
    strains: [],
    flow: { from: null, at: null, to: null },
    location: {},
    ...more,
  }) as unknown as EntryRow;
const CANDIDATES = [
  { item: song('s1', 'Ember'), breaks: [], restMs: 8 * 86_400_000, nextMs: null },
  { item: song('s2', 'Réalta', 'Maeve'), breaks: [], restMs: null, nextMs: null },
  {
    item: song('s3', 'Harbour'),
    breaks: [{ ruleId: 'artist', by: 600 }],
    restMs: 3_600_000,
    nextMs: START + 3_600_000,
  },
];

const NONE = { before: null, after: null };
/** The engine of the desk, as a test says. */
const engineOf = (more: object) => ({
  candidates: async () => CANDIDATES,
  items: async () => new Map([['s9', song('s9', 'Weir')]]),
  mends: async () => ({ swaps: [], best: null }),
  playsAround: async (_station: string, _log: unknown, items: unknown[]) =>
    items.map(() => ({ item: NONE, artist: NONE })),
  ...more,
});
const openWith = (row: EntryRow, engine: object, inputs: object = {}) =>
  openPage(
    EntryPanel,
    { row, rows: [row], station: STATION, log: LOG, rules: {}, ...inputs },
    { providers: [{ provide: DeskEngine, useValue: engineOf(engine) }] },
  );
const open = (row: EntryRow, candidates: () => Promise<unknown> = async () => CANDIDATES) =>
  openWith(row, { candidates });

describe('what the desk tells of an entry', () => {
  it('is where it stands, who chose it, and what could stand instead', async () => {
    const page = await open(rowOf(pick({ origin: 'hand' })));
    expect(page.text('.place')).toBe('18:00:00, Ada, 3:20');
    expect(page.text()).toContain('Chosen by hand.');
    expect(
      page.all('.candidates li').map((one) => /rested \d+ days|never played|rested/.exec(one.textContent ?? '')?.[0]),
    ).toEqual(['rested 8 days', 'never played', 'rested']);
    expect(page.text('.candidates li:nth-child(3)')).toContain('again 19:00');
    expect(page.all('.candidates button').map((one) => (one as HTMLButtonElement).disabled)).toEqual([
      true,
      false,
      false,
    ]);
  });

  it('says that it no longer stands as it was chosen, where something near it has changed', async () => {
    const strained = rowOf(pick(), { strains: [{ words: 'artist 10 min too near', strength: 'must' }] as never });
    expect((await open(strained)).text()).toContain('something near it has been changed since');
  });

  it('of an open slot is why it is open, and for how long that holds', async () => {
    const reason = { heldBackBy: [{ ruleId: 'artist', items: 3 }], relax: [], proof: 'local' };
    const page = await open(rowOf(pick({ itemId: null, open: reason })));
    expect(page.text('.why')).toContain('3 items held back by');
    expect(page.text('.why')).toContain('Proven for the slots about it');
    const [lock, clear] = page.all('.acts button') as HTMLButtonElement[];
    expect([lock!.disabled, clear!.disabled]).toEqual([true, true]);
    const byHand = await open(rowOf(pick({ itemId: null, open: null })));
    expect(byHand.text('.why')).toContain('Opened by hand.');
  });

  it('finds a candidate by words of its title or artist, and takes the first with Enter', async () => {
    const page = await open(rowOf(pick()));
    const find = page.find<HTMLInputElement>('.find');
    find.value = 'realta maeve';
    find.dispatchEvent(new Event('input'));
    await page.settle();
    expect(page.all('.candidates li')).toHaveLength(1);
    await page.key('.find', 'Enter');
    expect(page.emitted).toEqual([['replace', 's2']]);
    find.value = 'nobody';
    find.dispatchEvent(new Event('input'));
    await page.settle();
    expect(page.text('.candidates')).toBe('No candidate of that name.');
    await page.key('.find', 'Enter');
    expect(page.emitted).toHaveLength(1);
    await page.set('row', rowOf(pick({ id: 'p-60' })));
    expect(page.find<HTMLInputElement>('.find').value).toBe('');
  });

  it('is changed by its buttons, a locked one only unlocked', async () => {
    const page = await open(rowOf(pick()));
    await page.press('Lock');
    await page.press('Open the slot');
    await page.type('#entry-note', 'For Maeve');
    expect(page.emitted).toEqual([
      ['lock', true],
      ['replace', null],
      ['noted', { entryId: 'p-0', note: 'For Maeve' }],
    ]);
    const locked = await open(rowOf(pick({ locked: true })));
    expect(locked.text()).toContain('Locked: unlock it to put something else here.');
    expect(locked.find<HTMLButtonElement>('.acts button:nth-child(2)').disabled).toBe(true);
    await locked.press('Unlock');
    expect(locked.emitted).toEqual([['lock', false]]);
  });

  it('keeps a note on the entry it was begun for, though another is chosen when the field is left', async () => {
    const page = await open(rowOf(pick()));
    const field = page.find<HTMLTextAreaElement>('#entry-note');
    field.focus();
    field.value = 'Mine';
    await page.set('row', rowOf(pick({ id: 'p-60', note: 'Other' })));
    field.value = 'Mine';
    field.dispatchEvent(new Event('blur'));
    await page.settle();
    expect(page.emitted).toEqual([['noted', { entryId: 'p-0', note: 'Mine' }]]);
  });

  it('says why candidates cannot be told, and offers none for what is no pick', async () => {
    const failed = await open(rowOf(pick()), () => Promise.reject(new Error('The desk cannot judge this day.')));
    expect(failed.text('.error-text')).toBe('The desk cannot judge this day.');
    const note = { id: 'n-0', kind: 'note', text: 'Weather', note: '' } as unknown as LogEntry;
    const page = await open(rowOf(note, { item: null, category: undefined as never }));
    expect([page.text('h2'), page.all('.candidates')]).toEqual(['Weather', []]);
    // It can be moved and removed, and nothing else.
    expect(page.all('.acts button').map((button) => button.getAttribute('aria-label'))).toEqual([
      'Move up',
      'Move down',
      'Remove',
    ]);
  });

  it('says when the song and its artist last and next play, with a warning where that is near', async () => {
    const artist = {
      id: 'artist',
      shape: 'apart',
      tag: 'main artist',
      value: null,
      amount: 3600,
      strength: 'hard',
      exceptions: [],
      places: [],
    };
    const play = (itemId: string, minutes: number, entryId: string | null) => ({
      itemId,
      startMs: START + minutes * 60_000,
      date: minutes < -1000 ? '2026-11-23' : '2026-11-24',
      entryId,
      showId: null,
    });
    const around = {
      item: { before: play('s1', -1440, null), after: null },
      artist: { before: play('s9', -20, 'p-9'), after: play('s9', 70, 'p-8') },
    };
    const page = await openWith(rowOf(pick()), { playsAround: async () => [around] }, { rules: { artist } });
    const lines = page.all('f-entry-plays p').map((line) => line.textContent!.replace(/\s+/g, ' ').trim());
    expect(lines).toEqual([
      'last yesterday 18:00',
      'last today 17:40 “Weir” only 17 min apart',
      'next today 19:10 “Weir” near: 67 min apart',
    ]);
    expect(page.all('f-entry-plays a').map((link) => link.getAttribute('href'))).toEqual([
      `/vale/logs/2026-11-23?at=${START - 86_400_000}`,
      '/vale/logs/2026-11-24?entry=p-9',
      '/vale/logs/2026-11-24?entry=p-8',
    ]);
  });

  it('offers the swaps and the one edit that mend, and nothing where all is well', async () => {
    const strained = rowOf(pick(), { strains: [{ ruleId: 'artist', strength: 'must', words: 'artist 42 of 60 min' }] });
    const other = rowOf(pick({ id: 'p-2', itemId: 's2' }), { item: song('s2', 'Réalta'), startMs: START + 600_000 });
    const mends = {
      swaps: [{ withId: 'p-2', gain: { musts: 1, wishes: 0 } }],
      best: { entryId: 'p-0', edit: { type: 'replace', itemId: 's9' }, fills: false, gain: { musts: 1, wishes: 0 } },
    };
    const page = await openWith(strained, { mends: async () => mends }, { rows: [strained, other] });
    expect(page.text('f-entry-mends li')).toBe('18:10:00Réalta1 must kept again');
    expect(page.text('f-entry-mends .best')).toContain('“Weir” in place of “Ember”, 18:00:00.');
    await page.press('Do it');
    page.find<HTMLElement>('f-entry-mends li button').click();
    await page.settle();
    expect(page.emitted).toEqual([
      ['mend', mends.best],
      ['swapWith', 'p-2'],
    ]);
    const well = await openWith(rowOf(pick()), { mends: async () => mends });
    expect(well.text('f-entry-mends')).toBe('');
  });

  it('fixes a length that is typed, gives the item’s own back, and refuses what is none', async () => {
    const page = await open(rowOf(pick()));
    await page.type('#entry-length', '2:30');
    await page.type('#entry-length', 'soon');
    expect(page.text('.length-field')).toContain('Write a length like 3:20.');
    expect(page.emitted).toEqual([['fixLength', { entryId: 'p-0', durationMs: 150_000 }]]);
    const fixed = await open(rowOf(pick({ lengthMs: 150_000 })));
    await fixed.type('#entry-length', '');
    expect(fixed.emitted).toEqual([['fixLength', { entryId: 'p-0', durationMs: null }]]);
  });

  it('puts the choice of the run first where it waits, with the plays of each artist, and loosens a rule for one run', async () => {
    const run = {
      state: 'open',
      skipped: [],
      decisions: [],
      stop: { entryId: 'p-0', because: 'asked', suggested: 's3' },
    };
    const near = { itemId: 's9', startMs: START - 3_600_000, date: '2026-11-24', entryId: 'p-9', showId: null };
    const around = async (_s: string, _l: unknown, items: unknown[]) =>
      items.map(() => ({ item: NONE, artist: { before: near, after: null } }));
    const waiting = await openWith(rowOf(pick({ itemId: null })), { playsAround: around }, { run });
    expect(waiting.text('.chosen')).toBe('The run waits here for your choice.');
    expect(waiting.text('.candidates li')).toMatch(/^Harbour.*Ada, the run’s choice/);
    expect(waiting.text('.candidates .around')).toContain('17:00');
    const ahead = await openWith(rowOf(pick({ id: 'p-5', itemId: null })), {}, { run });
    expect(ahead.text('.chosen')).toBe('The run has not come to this slot yet.');
    const open = { proof: 'proven', heldBackBy: [], relax: [{ ruleId: 'artist', seconds: 2400 }] };
    const starved = await openWith(rowOf(pick({ itemId: null, open })), {});
    await starved.press('Loosen it for one run');
    expect(starved.emitted).toEqual([['relax', { ruleId: 'artist', seconds: 2400 }]]);
  });
});
