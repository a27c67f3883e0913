import { describe, expect, it } from '@jest/globals';
import type { ClockLine } from '../clocks/line.js';
import { generateDay } from '../generate/generate-day.js';
import { LogInspector } from '../judge/inspect-log.js';
import { limitRules } from '../limits/limit-rules.js';
import { allEntries, type DailyLog, type PickEntry } from '../log/daily-log.js';
import { StationModel } from '../station/station-model.js';
import type { StationData } from '../station/station-data.js';
import { apart, DATE, planOf, smallStation, songs } from '../testing/small-station.js';
import { elementAt, lookUp } from '../values/look-up.js';
import { themeValues } from './theme-values.js';
import type { Theme } from './theme.js';

const HOUR_MS = 3_600_000;
const pick = (id: string, theme?: Theme): ClockLine => ({
  id,
  kind: 'pick',
  categoryId: 'gold',
  ...(theme ? { theme } : {}),
  comment: '',
});

/** 240 songs of 12 artists, 24 albums and 30 years; 20 songs each of an artist, eight of a year by eight artists. Warm ones are by four. */
function station(lines: readonly ClockLine[], more: Partial<StationData> = {}): StationData {
  const items = songs(240, 12).map((song, n) => ({
    ...song,
    year: 1990 + (Math.floor(n / 8) % 30),
    tags: { mood: [n % 3 === 0 ? 'warm' : 'bright'] },
  }));
  return smallStation({
    plan: planOf(lines),
    items,
    categories: { gold: items.map(({ id }) => id) },
    rules: [apart('artist', 1200), apart('title', 4 * 3600)],
    ...more,
  });
}

const picks = (theme: Theme | undefined, count: number, from = 0): ClockLine[] =>
  Array.from({ length: count }, (_, n) => pick(`p${from + n}`, theme));
const made = (data: StationData, seed = 1): DailyLog =>
  generateDay(data, { date: DATE, seed, only: 'all', previous: null }).log;
/** The entries that share a theme, by the run of their clock. */
function themed(log: DailyLog): PickEntry[][] {
  const groups = new Map<string, PickEntry[]>();
  for (const entry of allEntries(log)) {
    if (entry.kind !== 'pick' || !entry.theme || entry.out) continue;
    const key = `${entry.theme.run} ${entry.theme.group}`;
    groups.set(key, [...(groups.get(key) ?? []), entry]);
  }
  return [...groups.values()];
}

const TWO_IN_A_ROW = [...picks(undefined, 4), ...picks({ by: 'artist', group: 'A' }, 2, 4), ...picks(undefined, 9, 6)];

describe('lines that share a theme', () => {
  const data = station(TWO_IN_A_ROW);
  const model = new StationModel(data);
  const log = made(data);

  it('have one value, each line a song of its own, though the separation would forbid it', () => {
    const groups = themed(log);
    expect(groups).toHaveLength(24);
    for (const entries of groups) {
      expect(entries).toHaveLength(2);
      const value = entries[0]!.theme!.value!;
      for (const { itemId, theme } of entries) {
        expect(theme!.value).toBe(value);
        expect(themeValues(lookUp(model.known, itemId!), 'artist')).toContain(value);
      }
      expect(entries[0]!.itemId).not.toBe(entries[1]!.itemId);
      expect(entries[0]!.theme!.words).toBe(lookUp(model.known, entries[0]!.itemId!).artist);
    }
    expect(new LogInspector(model, log).strains()).toEqual([]);
  });

  it('leave every other slot its separation', () => {
    const times = model.timing(log).entries;
    const plays = allEntries(log).flatMap((entry) =>
      entry.kind === 'pick' && entry.itemId
        ? [{ entry, artist: lookUp(model.known, entry.itemId).artistIds[0]!, atMs: lookUp(times, entry.id).startMs }]
        : [],
    );
    const last = new Map<string, number>();
    for (const { entry, artist, atMs } of plays) {
      if (!entry.theme) expect(atMs - (last.get(artist) ?? -Infinity)).toBeGreaterThanOrEqual(1200 * 1000);
      last.set(artist, atMs);
    }
  });

  it('take values in turn, so that none is back soon, in this day or after others', () => {
    const values = themed(log).map((entries) => entries[0]!.theme!.value!);
    expect(new Set(values.slice(0, 12)).size).toBe(12);
    values.forEach((value, n) => expect(values.slice(n + 1, n + 6)).not.toContain(value));
    const startMs = elementAt(log.hours, 0).startMs;
    const themes = values.slice(0, 11).map((value, n) => ({ by: 'artist', value, startMs: startMs - n * HOUR_MS }));
    const [first] = themed(made({ ...data, themes }));
    expect(first![0]!.theme!.value).toBe(elementAt(values, 11));
  });

  it('keep their value when open slots are filled, and choose another in another run', () => {
    const [, second] = themed(log);
    const opened = {
      ...log,
      hours: log.hours.map((hour) => ({
        ...hour,
        entries: hour.entries.map((entry) =>
          entry.id === second![0]!.id ? { ...(entry as PickEntry), itemId: null } : entry,
        ),
      })),
    };
    const filled = generateDay(data, { date: DATE, seed: 5, only: 'open', previous: opened }).log;
    expect(themed(filled)[1]!.map(({ theme }) => theme!.value)).toEqual(second!.map(({ theme }) => theme!.value));
    expect(themed(filled)[1]!.every(({ itemId }) => itemId !== null)).toBe(true);
    const others = themed(made(data, 99)).map((entries) => entries[0]!.theme!.value);
    expect(others).not.toEqual(themed(log).map((entries) => entries[0]!.theme!.value));
  });

  it.each([
    ['a year an hour', 'year', 8],
    ['three of one album', 'album', 3],
    ['an hour of a decade', 'decade', 15],
    ['an hour of a mood', 'mood', 15],
    ['an artist hour', 'artist', 15],
  ])('make %s', (_, by, count) => {
    const lines = [...picks({ by, group: 'A' }, count), ...picks(undefined, 15 - count, count)];
    const wide = station(lines);
    const known = new StationModel(wide).known;
    const day = made(wide);
    for (const entries of themed(day)) {
      const value = entries[0]!.theme!.value!;
      // Four artists are too few for an hour at their separation.
      if (by === 'mood') expect(value).toBe('bright');
      expect(entries.every(({ itemId }) => itemId && themeValues(lookUp(known, itemId), by).includes(value))).toBe(
        true,
      );
    }
    expect(allEntries(day).filter((entry) => entry.kind === 'pick' && entry.itemId === null)).toEqual([]);
  });

  it('go without where no value can fill them, and where the statutory limits would be broken', () => {
    const ten = [...picks({ by: 'artist', group: 'A' }, 10), ...picks(undefined, 5, 10)];
    const few = station(ten, { items: songs(240, 60), categories: { gold: songs(240, 60).map(({ id }) => id) } });
    const many = songs(480, 24);
    const of = { items: many, categories: { gold: many.map(({ id }) => id) }, rules: limitRules(false) };
    const limited = station(ten, of);
    for (const one of [few, limited]) {
      const day = made(one);
      expect(
        themed(day)
          .flatMap((entries) => entries.map(({ theme }) => theme!.value))
          .every((value) => value === null),
      ).toBe(true);
      expect(
        themed(day)
          .flat()
          .every(({ itemId }) => itemId !== null),
      ).toBe(true);
    }
    // Two in a row are within the limits.
    const two = station(TWO_IN_A_ROW, of);
    expect(themed(made(two)).every((entries) => entries[0]!.theme!.value !== null)).toBe(true);
  });

  it('of one clock may have two themes', () => {
    const lines = [
      ...picks({ by: 'artist', group: 'A' }, 2),
      ...picks({ by: 'artist', group: 'B' }, 2, 2),
      ...picks(undefined, 11, 4),
    ];
    for (const entries of themed(made(station(lines))))
      expect(new Set(entries.map(({ theme }) => theme!.value)).size).toBe(1);
    const values = new Set(
      themed(made(station(lines)))
        .slice(0, 2)
        .map((entries) => entries[0]!.theme!.value),
    );
    expect(values.size).toBe(2);
  });
});
