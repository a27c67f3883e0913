import { describe, expect, it } from '@jest/globals';
import { apart, DATE, smallStation, songs } from '../testing/small-station.js';
import { addDays } from '../time/local-day.js';
import { allEntries, itemOf, openSlots, type DailyLog, type PickEntry, type LogEntry } from '../log/daily-log.js';
import { withReasons } from './chosen-why.js';
import { generateDay } from './generate-day.js';
import { LogInspector } from '../judge/inspect-log.js';
import { mustApply } from '../log/apply-edit.js';
import { StationModel } from '../station/station-model.js';
import type { StationData } from '../station/station-data.js';

const ALL = { date: DATE, seed: 1, previous: null, only: 'all' as const };
const picks = (log: DailyLog): PickEntry[] =>
  allEntries(log).filter((entry): entry is PickEntry => entry.kind === 'pick');

/** Gaps between plays of one artist, end to start, at the times the entries really air. */
function artistGaps(data: StationData, log: DailyLog, history = data.history): number[] {
  const model = new StationModel(data);
  const plays = [...history, ...model.plays(log)].sort((a, b) => a.startMs - b.startMs);
  const last = new Map<string, number>();
  const gaps: number[] = [];
  for (const { itemId, startMs } of plays) {
    const item = model.known.get(itemId)!;
    for (const artist of item.artistIds) {
      if (last.has(artist)) gaps.push((startMs - last.get(artist)!) / 1000);
      last.set(artist, startMs + item.durationMs);
    }
  }
  return gaps;
}

describe('generateDay', () => {
  const data = smallStation();
  const { log } = generateDay(data, ALL);

  it('fills every slot and keeps every rule at the times the entries really air', () => {
    expect(picks(log)).toHaveLength(24 * 16);
    expect(openSlots(log)).toEqual([]);
    expect(Math.min(...artistGaps(data, log))).toBeGreaterThanOrEqual(3599);
    expect(new LogInspector(new StationModel(data), log).strains()).toEqual([]);
  });

  it('keeps rules against the day before and the day after', () => {
    const next = generateDay(data, { ...ALL, date: addDays(DATE, 1) }).log;
    const before = new StationModel(data).plays(generateDay(data, { ...ALL, date: addDays(DATE, -1) }).log);
    const between = { ...data, history: before, nextLog: next };
    const middle = generateDay(between, ALL).log;
    const after = new StationModel(data).plays(next).slice(0, 16);
    const gaps = artistGaps(data, middle, [...before, ...after]);
    expect(openSlots(middle)).toEqual([]);
    expect(Math.min(...gaps)).toBeGreaterThanOrEqual(3599);
  });

  it('turns a category over evenly', () => {
    const counts = new Map<string, number>();
    let history: StationData['history'] = [];
    for (let day = 0; day < 3; day++) {
      const made = generateDay({ ...data, history }, { ...ALL, date: addDays(DATE, day) }).log;
      history = [...history, ...new StationModel(data).plays(made)];
      for (const entry of picks(made)) counts.set(entry.itemId!, (counts.get(entry.itemId!) ?? 0) + 1);
    }
    // 1152 slots over 120 songs: 9.6 each.
    expect(Math.min(...counts.values())).toBeGreaterThanOrEqual(8);
    expect(Math.max(...counts.values())).toBeLessThanOrEqual(11);
  });

  it('does not let a new song make up for all the plays it has missed', () => {
    const old = Array.from({ length: 4000 }, (_, n) => ({
      itemId: `song${n % 119}`,
      startMs: Date.parse(`${DATE}T00:00Z`) - (4000 - n) * 225_000,
    }));
    const { log } = generateDay({ ...data, history: old }, ALL);
    const ofNew = picks(log).filter((entry) => entry.itemId === 'song119');
    // 384 slots over 120 songs: 3.2 each.
    expect(ofNew.length).toBeGreaterThanOrEqual(3);
    expect(ofNew.length).toBeLessThanOrEqual(6);
    expect(ofNew[0]!.why).toMatchObject({ restMs: null });
  });

  it('says why it chose what it chose', () => {
    const { log } = generateDay(data, ALL);
    for (const entry of picks(log)) {
      const { ahead, heldBack } = entry.why!;
      expect(heldBack.reduce((sum, one) => sum + one.items, 0)).toBeLessThanOrEqual(ahead);
    }
    expect(picks(log).some((entry) => entry.why!.heldBack.length > 0)).toBe(true);
  });

  it('says of every choice what anybody finds who looks at the log, landed or not, fill or not', () => {
    for (const seed of [1, 2, 3]) {
      const made = generateDay(data, { ...ALL, seed }).log;
      const strip = (entry: LogEntry): LogEntry => (entry.kind === 'pick' ? { ...entry, why: null } : entry);
      const bare = { ...made, hours: made.hours.map((hour) => ({ ...hour, entries: hour.entries.map(strip) })) };
      expect(withReasons(new StationModel(data), bare, new Set())).toEqual(made);
    }
  });

  it('brings hours to their marks', () => {
    const roomy = smallStation({ rules: [apart('artist', 1200)] });
    const off = new StationModel(roomy).timing(generateDay(roomy, ALL).log).hours.map((hour) => Math.abs(hour.overMs));
    expect(off.filter((ms) => ms > 10_000).length).toBeLessThanOrEqual(2);
  });

  it('gives the same log for the same seed', () => {
    expect(generateDay(data, ALL).log).toEqual(log);
  });

  it('keeps what is locked and what is noted when the day is generated again', () => {
    const entry = picks(log)[40]!;
    const other = picks(log)[200]!.itemId!;
    const noted = mustApply(log, {
      type: 'batch',
      edits: [
        { type: 'replace', entryId: entry.id, itemId: other, origin: 'hand' },
        { type: 'lock', entryId: entry.id, locked: true },
        { type: 'note', entryId: entry.id, note: 'Stays' },
      ],
    });
    const again = generateDay(data, { ...ALL, seed: 9, previous: noted }).log;
    expect(picks(again)[40]).toMatchObject({ itemId: other, locked: true, note: 'Stays', origin: 'hand' });
    expect(new LogInspector(new StationModel(data), again).strains()).toEqual([]);
  });

  it('fills only what is open when asked to', () => {
    const opened = mustApply(log, {
      type: 'open',
      entryId: picks(log)[7]!.id,
      origin: 'hand',
      reason: null,
    });
    const filled = generateDay(data, { ...ALL, previous: opened, only: 'open' }).log;
    expect(openSlots(filled)).toEqual([]);
    const changed = picks(filled).filter((entry, index) => entry.itemId !== picks(opened)[index]!.itemId);
    expect(changed.map((entry) => entry.id)).toEqual([picks(log)[7]!.id]);
  });

  it('leaves slots open with the rule that holds the items back, rather than break it', () => {
    const few = songs(4, 2);
    const starved = smallStation({
      items: few,
      categories: { gold: few.map((item) => item.id) },
      rules: [apart('artist', 7200)],
    });
    const made = generateDay(starved, ALL).log;
    const open = openSlots(made);
    expect(open.length).toBeGreaterThan(300);
    expect(open.every((entry) => entry.open?.heldBackBy[0]?.ruleId === 'artist-rule')).toBe(true);
    expect(Math.min(...artistGaps(starved, made))).toBeGreaterThanOrEqual(7200);
  });

  it('lets resting rules rest, looks away from what is not music, and keeps to air dates', () => {
    const few = songs(2, 1);
    const base = { items: few, categories: { gold: few.map((item) => item.id) } };
    expect(
      openSlots(generateDay(smallStation({ ...base, rules: [apart('artist', 7200, { resting: true })] }), ALL).log),
    ).toEqual([]);
    expect(openSlots(generateDay(smallStation({ ...base, musicCategories: [] }), ALL).log)).toEqual([]);
    const ended = songs(120, 40).map((item, index) => (index === 0 ? { ...item, endDate: addDays(DATE, -1) } : item));
    const played = new Set(picks(generateDay(smallStation({ items: ended }), ALL).log).map((entry) => entry.itemId));
    expect(played.has('song0')).toBe(false);
    expect(played.size).toBe(119);
  });

  it('asks its own distance of a category', () => {
    const shorter = smallStation({
      rules: [apart('artist', 100_000, { exceptions: [{ kind: 'category', id: 'gold', amount: 600 }] })],
    });
    expect(openSlots(generateDay(shorter, ALL).log)).toEqual([]);
  });

  it.each(['2026-03-29', '2026-10-25'])('makes a log of the short or long day %s', (date) => {
    const made = generateDay(data, { ...ALL, date }).log;
    expect(picks(made)).toHaveLength(made.hours.length * 16);
    expect(openSlots(made)).toEqual([]);
  });
});

describe('candidates', () => {
  const data = smallStation();
  const { log } = generateDay(data, ALL);

  it('puts what breaks nothing first, longest rest first, and agrees with the strains of the log', () => {
    const entry = picks(log)[100]!;
    const ranked = new LogInspector(new StationModel(data), log).candidates(entry.id);
    expect(ranked).toHaveLength(120);
    const firstBroken = ranked.findIndex((candidate) => candidate.breaks.length > 0);
    expect(ranked.slice(firstBroken).every((candidate) => candidate.breaks.length > 0)).toBe(true);
    for (const candidate of [ranked[0]!, ranked[firstBroken]!, ranked.at(-1)!]) {
      const changed = mustApply(log, {
        type: 'replace',
        entryId: entry.id,
        itemId: candidate.itemId,
        origin: 'hand',
      });
      expect(new LogInspector(new StationModel(data), changed).strains().length > 0).toBe(candidate.breaks.length > 0);
    }
  });

  it('refuses an entry that is not a slot', () => {
    expect(() => new LogInspector(new StationModel(data), log).candidates('b-0')).toThrow(RangeError);
    expect(itemOf(allEntries(log)[0]!)).toBeNull();
  });
});
