import { describe, expect, it } from '@jest/globals';
import { allEntries, type PickEntry } from '../log/daily-log.js';
import type { Rule } from '../rules/rule.js';
import type { SisterPlay } from '../station/station-data.js';
import { StationModel } from '../station/station-model.js';
import { DATE, ruleOf, smallStation } from '../testing/small-station.js';
import { generateDay } from './generate-day.js';

/** Songs of which every third is slow, and every third again fast; the twelve hours of a day repeat the same. */
const tempoOf = (n: number): string => ['slow', 'mid', 'fast'][n % 3]!;
const songs = smallStation().items.map((song, n) => ({ ...song, tags: { tempo: [tempoOf(n)] } }));

interface Aired {
  readonly tempo: string;
  readonly artist: string;
  readonly title: string;
  readonly hour: number;
  readonly startMs: number;
  readonly endMs: number;
}

/** What a day plays under some rules, told from the log alone. */
function day(
  rules: readonly Rule[],
  history: readonly { itemId: string; startMs: number }[] = [],
  sisterPlays: readonly SisterPlay[] = [],
): readonly Aired[] {
  const data = smallStation({ items: songs, rules, history, sisterPlays });
  const { log } = generateDay(data, { date: DATE, seed: 2, only: 'all', previous: null });
  const { entries } = new StationModel(data).timing(log);
  const hourOf = new Map(log.hours.flatMap(({ index, entries: own }) => own.map(({ id }) => [id, index])));
  return allEntries(log)
    .filter((entry): entry is PickEntry => entry.kind === 'pick' && entry.itemId !== null && !entry.out)
    .map(({ id, itemId }) => {
      const song = songs.find((one) => one.id === itemId)!;
      const { startMs } = entries.get(id)!;
      return {
        tempo: song.tags.tempo[0]!,
        artist: song.artist,
        title: song.title,
        hour: hourOf.get(id)!,
        startMs,
        endMs: startMs + song.durationMs,
      };
    });
}

const slow = ({ tempo }: Aired): boolean => tempo === 'slow';
const perHour = (plays: readonly Aired[], counts: (play: Aired) => boolean): number[] =>
  Array.from({ length: 24 }, (_, hour) => plays.filter((play) => play.hour === hour && counts(play)).length);

/** How often each shape is broken, counted without the engine. */
const COUNTS: Readonly<Record<string, (plays: readonly Aired[]) => number>> = {
  apart: (plays) =>
    plays.filter((play, n) =>
      plays.slice(0, n).some(({ artist, endMs }) => artist === play.artist && play.startMs - endMs < 90 * 60_000),
    ).length,
  streak: (plays) => plays.filter((play, n) => n > 0 && play.tempo === plays[n - 1]!.tempo).length,
  atMost: (plays) => perHour(plays, slow).filter((count) => count > 3).length,
  atLeast: (plays) => perHour(plays, slow).filter((count) => count < 6).length,
  handOff: (plays) => plays.filter((play, n) => n > 0 && play.tempo === 'fast' && slow(plays[n - 1]!)).length,
};

const wish = { strength: 'soft' as const, rank: 1 };
const RULES: readonly (readonly [string, Rule])[] = [
  ['apart', ruleOf('apart', 'artist', 90 * 60)],
  ['streak', ruleOf('streak', 'tempo', 1)],
  ['atMost', ruleOf('atMost', 'tempo', 3, { value: 'slow' })],
  ['atLeast', ruleOf('atLeast', 'tempo', 6, { value: 'slow', ...wish })],
  ['handOff', ruleOf('handOff', 'tempo', 0, { value: 'slow', followedBy: 'fast' })],
];

describe('a day', () => {
  const free = day([]);

  it.each(RULES)('keeps a rule of shape %s that it breaks without it', (shape, rule) => {
    const plays = day([rule]);
    const broken = COUNTS[shape]!;
    expect([broken(free) > 0, broken(plays)]).toEqual([true, 0]);
    expect(plays.length).toBe(free.length);
  });

  it('keeps songs out of the hour at which they played the day before', () => {
    // Yesterday every song played at one hour.
    const history = songs.map(({ id }, n) => ({ itemId: id, startMs: free[0]!.startMs - (24 - (n % 24)) * 3_600_000 }));
    const sameHour = (plays: readonly Aired[]): number =>
      plays.filter(({ title, hour }) => Number(title.split(' ')[1]) % 24 === hour).length;
    expect(sameHour(day([ruleOf('otherHour', 'title', 1)], history))).toBe(0);
    expect(sameHour(day([], history))).toBeGreaterThan(0);
  });

  it('keeps songs away from what plays on the stations a rule is about, and minds no other', () => {
    const byTitle = new Map(songs.map(({ id, title }) => [title, id]));
    const [there, elsewhere] = ['there', 'elsewhere'].map((stationId) =>
      free.map(({ title, startMs }) => ({ stationId, itemId: byTitle.get(title)!, startMs })),
    );
    const near = (plays: readonly Aired[]): number =>
      plays.filter((play) =>
        free.some(
          ({ title, startMs, endMs }) =>
            title === play.title && startMs < play.endMs + 1_200_000 && play.startMs < endMs + 1_200_000,
        ),
      ).length;
    const rule = { ...ruleOf('across', 'title', 1200), stationIds: ['there'] };
    const kept = day([rule], [], there);
    expect([near(day([], [], there)), near(kept), kept.length]).toEqual([free.length, 0, free.length]);
    expect(day([rule], [], elsewhere)).toEqual(free);
    expect(day([{ ...rule, resting: true }], [], there)).toEqual(free);
  });

  it('keeps a rule only where it is for, with the amount it has there', () => {
    const night = { kind: 'daypart' as const, id: 'night' };
    const dayparts = [{ id: 'night', name: 'Night', hours: '111111'.padEnd(24, '0').repeat(7) }];
    const rule = ruleOf('atMost', 'tempo', 3, { value: 'slow', exceptions: [{ ...night, amount: 1 }] });
    const make = (one: Rule): number[] => {
      const data = smallStation({ items: songs, rules: [one], dayparts });
      const { log } = generateDay(data, { date: DATE, seed: 2, only: 'all', previous: null });
      return log.hours.map(
        ({ entries }) =>
          entries.filter(
            (entry) => entry.kind === 'pick' && songs.find(({ id }) => id === entry.itemId)?.tags.tempo[0] === 'slow',
          ).length,
      );
    };
    const differing = make(rule);
    expect([Math.max(...differing.slice(0, 6)), Math.max(...differing.slice(6))]).toEqual([1, 3]);
    const only = make({ ...rule, amount: 1, exceptions: [], places: [night] });
    expect(Math.max(...only.slice(0, 6))).toBe(1);
    expect(Math.max(...only.slice(6))).toBeGreaterThan(3);
  });
});
