import { describe, expect, it } from '@jest/globals';
import type { CategoryRow, LogView, RuleRow } from '@fuller/contracts';
import { ruleNames, type LogEntry } from '@fuller/core';
import { swapNote } from './swap-words';
import { type EntryRow, flowOf, isMatter, logRows, strainWords } from './log-model';
import { placeWords } from './place-words';

const rule: RuleRow = {
  id: 'r',
  revision: 1,
  scope: 'station',
  position: 1,
  shape: 'apart',
  tag: 'artist',
  value: null,
  followedBy: null,
  amount: 3600,
  windowSeconds: null,
  exceptions: [{ kind: 'category', id: 'gold', amount: 1800 }],
  strength: 'hard',
  rank: 0,
  resting: false,
  note: '',
  places: [],
};
const words = ruleNames([{ id: 'f-1', name: 'Tempo', values: ['slow'] }], ({ id }) => id);
const elsewhere = { categoryId: 'other', clockId: null, showId: null, daypartIds: [] };
const category = { id: 'gold', name: 'Gold', code: 'G', averageMs: 200_000 } as CategoryRow;
const slot = (id: string, itemId: string | null) => ({
  id,
  kind: 'pick',
  categoryId: 'gold',
  itemId,
  locked: false,
  origin: 'engine',
  open: null,
  note: '',
});
const item = (id: string, tempo: number | null) => ({
  id,
  title: id,
  artist: '',
  album: '',
  kind: 'song',
  durationMs: 180_000,
  introMs: null,
  segueMs: null,
  tags: tempo === null ? {} : { tempo: [String(tempo)] },
  hasFile: true,
});
const view = {
  revision: 1,
  log: {
    date: '2026-11-24',
    timeZone: 'UTC',
    hours: [
      {
        index: 0,
        localHour: 0,
        startMs: 0,
        durationMs: 3_600_000,
        clockId: 'c',
        clockName: 'Day',
        entries: [
          slot('a-0', 'x'),
          slot('b-0', null),
          { id: 'n-0', kind: 'note', text: 'hello', note: '' },
          slot('c-0', 'y'),
        ],
      },
    ],
  },
  items: [item('x', 1), item('y', 5)],
  strains: [{ ruleId: 'r', entryId: 'c-0', by: 600 }],
} as unknown as LogView;

describe('the rows of the log desk', () => {
  const flow = { name: 'tempo', values: ['1', '2', '3', '4', '5'] };
  const { rows } = logRows(view, { categories: { gold: category }, rules: { r: rule }, dayparts: [], words, flow });
  const entry = (id: string): EntryRow => rows.find((row) => row.id === id) as EntryRow;

  it('begin an hour with its heading, its open slots and its strains', () => {
    expect(rows[0]).toMatchObject({ kind: 'hour', open: 1, strained: 1, overMs: 560_000 - 3_600_000 });
    expect(rows.map(({ kind }) => kind)).toEqual(['hour', 'entry', 'entry', 'entry', 'entry', 'silence']);
    // What is missing to the hour is told, where it begins and for how long.
    expect(rows.at(-1)).toMatchObject({ startMs: 560_000, durationMs: 3_040_000 });
  });

  it('give an open slot the average length of its category', () => {
    expect(entry('c-0').startMs).toBe(380_000);
  });

  it('tell strains in words, with the distance the category asks', () => {
    expect(entry('c-0').strains).toEqual([{ ruleId: 'r', strength: 'must', words: 'artist 20 of 30 min' }]);
    expect(strainWords(rule, 600, elsewhere, words)).toBe('artist 50 of 60 min');
    expect(strainWords(undefined, 600, elsewhere, words)).toBe('a deleted rule broken');
    const few: RuleRow = {
      ...rule,
      shape: 'atLeast',
      tag: 'f-1',
      value: 'slow',
      amount: 3,
      exceptions: [],
      strength: 'soft',
      rank: 1,
    };
    expect(strainWords(few, 2, elsewhere, words)).toBe('tempo slow 2 too few');
  });

  it('know what a person should look at', () => {
    expect(rows.filter(isMatter).map((row) => row.id)).toEqual(['b-0', 'c-0']);
    const noted = (note: string): EntryRow => ({ ...entry('a-0'), entry: { ...entry('a-0').entry, note } });
    const notes = [swapNote(' played at the fair '), swapNote(''), 'Swap, please hurry', 'Play it loud'];
    expect(notes.map((note) => isMatter(noted(note)))).toEqual([true, true, false, false]);
  });

  it('draw the flow from song to song, over what has no value of the family', () => {
    expect(entry('a-0').flow).toEqual({ from: null, at: 0, to: 1 });
    expect(entry('n-0').flow).toEqual({ from: 0, at: null, to: 1 });
    expect(flowOf(null, flow)).toBeNull();
    expect(flowOf({ ...view.items[0]!, tags: { tempo: ['none such'] } }, flow)).toBeNull();
    expect(flowOf({ ...view.items[0]!, tags: { mood: ['calm'] } }, { name: 'mood', values: ['calm'] })).toBe(0.5);
  });

  it('tell how much a hard start cuts off, and leave out what was left out', () => {
    const hour = view.log.hours[0]!;
    const hard = { ...slot('h-0', 'y'), mark: { atMs: 100_000, hard: true } };
    const left = { ...slot('s-0', null), spare: true, out: true };
    const cut = {
      ...view,
      log: { ...view.log, hours: [{ ...hour, entries: [slot('a-0', 'x'), left, hard] }] },
    } as unknown as LogView;
    const { rows: own } = logRows(cut, { categories: { gold: category }, rules: { r: rule }, dayparts: [], words });
    const at = (id: string): EntryRow => own.find((row) => row.id === id) as EntryRow;
    expect([at('a-0').cutMs, at('h-0').cutMs, at('h-0').startMs]).toEqual([80_000, 0, 100_000]);
    expect(isMatter(at('s-0'))).toBe(false);
    expect(own[0]).toMatchObject({ open: 0, overMs: 280_000 - 3_600_000 });
  });

  it('say in words what the clock has to do with a place', () => {
    const words = (more: object): string => placeWords({ ...slot('a-0', 'x'), ...more } as LogEntry, 'UTC');
    expect(words({})).toBe('');
    expect(words({ from: 'opener', mark: { atMs: 3_600_000, hard: true } })).toBe(
      'Put here by the opener of the station or the show. Begins at 01:00:00 whatever plays.',
    );
    expect(words({ fill: true, out: true })).toContain('Fill was not needed');
    expect(words({ spare: true, out: true })).toContain('Left out');
    expect(words({ filters: ['tempo:5', 'year:1990'], rules: 'off' })).toBe(
      'Only what fits tempo:5 and year:1990. No rules apply.',
    );
  });

  it('tells a wish that is not kept apart from a broken must, and leaves it out of what is to be reviewed', () => {
    const wish: RuleRow = { ...rule, strength: 'soft', rank: 1 };
    const { rows: wished } = logRows(view, { categories: { gold: category }, rules: { r: wish }, dayparts: [], words });
    const row = wished.find(({ id }) => id === 'c-0') as EntryRow;
    expect(row.strains).toMatchObject([{ strength: 'wish' }]);
    expect([isMatter(row), isMatter(entry('c-0'))]).toEqual([false, true]);
    expect(wished[0]).toMatchObject({ kind: 'hour', strained: 0 });
  });
});
