import { PLAIN_FILES } from '../testing/player-rows.js';
import { describe, expect, it } from '@jest/globals';
import type { ClockLine } from '../clocks/line.js';
import { apart, DATE, planOf, smallStation, songs } from '../testing/small-station.js';
import { compareLogs } from '../log/compare-logs.js';
import {
  allEntries,
  checkLog,
  findEntry,
  itemOf,
  slotsOf,
  type DailyLog,
  type LogEntry,
  type PickEntry,
} from '../log/daily-log.js';
import { byHand } from '../log/log-edit.js';
import { generateDay } from './generate-day.js';
import type { GenerateOptions } from './generate-options.js';
import { handOver } from '../hand-over/hand-over.js';
import { LogInspector } from '../judge/inspect-log.js';
import { mustApply } from '../log/apply-edit.js';
import { staleHours } from './stale-hours.js';
import { StationModel } from '../station/station-model.js';

const ALL = { date: DATE, seed: 1, previous: null, only: 'all' as const };
const data = smallStation({ rules: [apart('artist', 1800)] });
const { log } = generateDay(data, ALL);
const picks = (of: DailyLog): PickEntry[] =>
  allEntries(of).filter((entry): entry is PickEntry => entry.kind === 'pick');
const replaced = (of: DailyLog, entryId: string, itemId: string): DailyLog =>
  mustApply(of, { type: 'replace', entryId, itemId, origin: 'hand' });

describe('a new run', () => {
  it.each(['all', 'open', 'hours'] as const)('leaves what has aired and what is on the air alone (%s)', (only) => {
    const nowMs = log.hours[14]!.startMs + 25 * 60_000;
    const begun = new StationModel(data).timing(log);
    // An hour that has aired has an open slot, which is nobody's to fill any more.
    const opened = mustApply(log, {
      type: 'batch',
      edits: [picks(log)[20]!, picks(log)[14 * 16 + 12]!].map(({ id }) => ({
        type: 'open' as const,
        entryId: id,
        origin: 'hand' as const,
        reason: null,
      })),
    });
    const again = generateDay(data, { ...ALL, seed: 7, previous: opened, only, hours: [3, 14, 15], nowMs }).log;
    const now = new Map(allEntries(again).map((entry) => [entry.id, entry]));
    const kept = allEntries(opened).filter(({ id }) => begun.entries.get(id)!.startMs <= nowMs);
    expect(kept.length).toBeGreaterThan(14 * 16);
    for (const entry of kept) expect(now.get(entry.id)).toEqual(entry);
    expect(now.get(picks(log)[14 * 16 + 12]!.id)).toHaveProperty('itemId', expect.any(String));
    const changed = picks(again).filter((entry, n) => entry.itemId !== picks(opened)[n]!.itemId);
    expect(changed.length).toBeGreaterThan(only === 'open' ? 0 : 8);
  });

  it('leaves the rest of the hour that is on the air as its new clock has it', () => {
    const nowMs = log.hours[5]!.startMs + 20 * 60_000;
    const other: ClockLine[] = Array.from({ length: 10 }, (_, n) => ({
      id: `new${n}`,
      kind: 'pick',
      categoryId: 'gold',
      comment: '',
    }));
    const again = generateDay({ ...data, plan: planOf(other) }, { ...ALL, previous: log, nowMs }).log;
    const ids = again.hours[5]!.entries.map(({ id }) => id);
    expect(ids.filter((id) => id.startsWith('p')).length).toBeGreaterThanOrEqual(5);
    // What comes after twenty minutes: the last six or so of ten.
    expect(ids.filter((id) => id.startsWith('new')).length).toBeGreaterThanOrEqual(3);
    expect(ids.filter((id) => id.startsWith('new')).length).toBeLessThanOrEqual(7);
  });

  it('keeps what a person chose or noted, unless it is told otherwise', () => {
    const [chosen, noted] = [picks(log)[40]!, picks(log)[80]!];
    const byHand = mustApply(replaced(log, chosen.id, 'song7'), {
      type: 'note',
      entryId: noted.id,
      note: 'For Anna',
    });
    const again = generateDay(data, { ...ALL, seed: 4, previous: byHand }).log;
    expect(picks(again)[40]).toMatchObject({ itemId: 'song7', origin: 'hand', locked: false });
    expect(picks(again)[80]).toMatchObject({ itemId: noted.itemId, note: 'For Anna' });

    const anew = generateDay(data, { ...ALL, seed: 4, previous: byHand, replaceByHand: true }).log;
    const withNote = allEntries(anew).filter((entry) => entry.note === 'For Anna');
    expect(withNote.map(itemOf)).toEqual([noted.itemId]);
  });

  it('leaves the note of a clock in its place', () => {
    const lines: ClockLine[] = [{ id: 'p', kind: 'pick', categoryId: 'gold', comment: '', note: 'Say the weather' }];
    const noting = { ...data, plan: planOf(lines) };
    const first = generateDay(noting, ALL).log;
    const changed = { ...noting, plan: planOf([{ ...lines[0]!, note: 'Say the time' } as ClockLine]) };
    const again = generateDay(changed, { ...ALL, seed: 2, previous: first }).log;
    expect(new Set(allEntries(again).map(({ note }) => note))).toEqual(new Set(['Say the time']));
  });

  it('places no song without a length', () => {
    const items = data.items.map((item) => (item.id === 'song5' ? { ...item, durationMs: 0 } : item));
    const played = new Set(allEntries(generateDay({ ...data, items }, ALL).log).map(itemOf));
    expect(played.has('song5')).toBe(false);
    expect(played.size).toBeGreaterThan(100);
  });
});

describe('what a clock names itself', () => {
  const spoken = { ...songs(1, 1)[0]!, id: 'announcement', kind: 'promo' as const, title: 'Next show', artistIds: [] };
  const line: ClockLine = { id: 'i', kind: 'item', itemId: 'announcement', comment: '' };
  const station = smallStation({
    items: [...data.items, spoken],
    plan: planOf([
      line,
      ...Array.from({ length: 15 }, (_, n): ClockLine => ({
        id: `p${n}`,
        kind: 'pick',
        categoryId: 'gold',
        comment: '',
      })),
    ]),
    rules: [apart('title', 8 * 3600), apart('artist', 600)],
  });

  it('is no strain when it is speech, and is one when it is a song', () => {
    const { log: spokenLog } = generateDay(station, ALL);
    expect(new LogInspector(new StationModel(station), spokenLog).strains()).toEqual([]);
    const items = station.items.map((item) => (item.id === 'announcement' ? { ...item, kind: 'song' as const } : item));
    expect(new LogInspector(new StationModel({ ...station, items }), spokenLog).strains()).toHaveLength(23);
  });

  it('is not missed in the files when it is left out', () => {
    const out = (entry: LogEntry): LogEntry =>
      entry.id === 'p3-0' ? ({ ...entry, out: true, itemId: null } as LogEntry) : entry;
    const { log: full } = generateDay(station, ALL);
    const hours = full.hours.map((hour) => ({ ...hour, entries: hour.entries.map(out) }));
    const files = handOver({ ...full, hours }, PLAIN_FILES, {
      station: 'S',
      itemOf: () => ({ kind: 'song', title: 'T', artist: 'A', album: '', cart: null, durationMs: 1000, file: 'f.wav' }),
      spotFile: () => null,
      pathOf: (file) => file,
    });
    expect(files.ok && files.heldBack.filter(({ hourIndex }) => hourIndex === 0)).toEqual([]);
  });
});

describe('what a person placed', () => {
  const made = generateDay(smallStation(), { date: DATE, seed: 1, previous: null, only: 'all' }).log;
  const again = (previous: DailyLog, more: Partial<GenerateOptions> = {}): DailyLog =>
    generateDay(smallStation(), { date: DATE, seed: 2, previous, only: 'all', ...more }).log;
  const hourOf = (log: DailyLog, id: string): string[] =>
    log.hours.find(({ entries }) => entries.some((entry) => entry.id === id))!.entries.map((entry) => entry.id);

  it('stays as it is when the day is generated again: what was put in, moved and removed', () => {
    const first = made.hours[4]!.entries;
    let log = mustApply(
      made,
      byHand({
        type: 'insert',
        at: { hourIndex: 4, beforeId: first[2]!.id },
        entry: { id: 'put', kind: 'item', itemId: 'song3', note: '' },
      }),
    );
    log = mustApply(
      log,
      byHand({ type: 'move', entryId: first[0]!.id, to: { hourIndex: 6, beforeId: made.hours[6]!.entries[3]!.id } }),
    );
    const removed = made.hours[8]!.entries[1]!.id;
    log = mustApply(log, byHand({ type: 'remove', entryId: removed }));
    expect(staleHours(new StationModel(smallStation()), log)).toEqual([]);
    const next = again(log);
    expect(findEntry(next, removed)).toBeUndefined();
    const fresh = again(log, { replaceByHand: true });
    expect(allEntries(fresh).map(({ id }) => id)).toEqual(allEntries(made).map(({ id }) => id));
    expect(hourOf(next, 'put')).toEqual(hourOf(log, 'put'));
    expect(hourOf(next, first[0]!.id)).toEqual(hourOf(log, first[0]!.id));
    expect(checkLog(next)).toBe(next);
  });

  it('a run over one category leaves every other slot, what is locked, chosen by hand, and the hours not named', () => {
    const category = slotsOf(made)[0]!.categoryId;
    const [one, other] = slotsOf(made).filter((slot) => slot.categoryId === category);
    let log = mustApply(made, { type: 'lock', entryId: one!.id, locked: true });
    log = mustApply(log, { type: 'replace', entryId: other!.id, itemId: one!.itemId!, origin: 'hand' });
    const next = again(log, { only: 'categories', categories: [category], hours: [0, 1, 2], runMs: 77 });
    const differing = compareLogs(log, next).rows.filter(({ differs }) => differs);
    expect(differing.length).toBeGreaterThan(0);
    for (const { hourIndex, after } of differing) {
      expect(hourIndex).toBeLessThan(3);
      expect(after).toMatchObject({ categoryId: category, runMs: 77 });
      expect([one!.id, other!.id]).not.toContain(after!.id);
    }
    expect(slotsOf(next).filter((slot) => 'runMs' in slot)).toHaveLength(differing.length);
  });
});
