import type { ItemKind } from '../library/item.js';
import type { Sponsor } from '../sponsors/sponsor.js';
import { weekdayOf } from '../time/local-day.js';
import { elementAt } from '../values/look-up.js';
import { hourAt, type DayFigures } from './day-figures.js';

/** An item as reports name it. */
export interface ReportItem {
  readonly title: string;
  readonly artist: string;
  readonly kind: ItemKind;
  /** Everybody credited, by id. */
  readonly artists: readonly { readonly id: string; readonly name: string }[];
  /** Values by the name of their tag family. */
  readonly tags: Readonly<Record<string, readonly string[]>>;
}

export interface ReportCategory {
  readonly name: string;
  readonly code: string;
  readonly colour: string;
  readonly music: boolean;
  /** What the week plan of today gives it; null where it asks for none or has no items. */
  readonly expected: { readonly items: number; readonly slotsPerWeek: number; readonly restMs: number } | null;
}

/** A tag family a report can split plays by; its values in order. */
export interface ReportFamily {
  readonly name: string;
  readonly values: readonly string[];
}

/** What reports read besides the days themselves. */
export interface ReportNames {
  readonly items: ReadonlyMap<string, ReportItem>;
  readonly categories: ReadonlyMap<string, ReportCategory>;
  /** The sentence of each rule. */
  readonly rules: ReadonlyMap<string, string>;
  readonly sponsors: readonly Sponsor[];
  readonly families: readonly ReportFamily[];
}

/** The days of one station that a report is about, and those of the range before. */
export interface StationDays {
  readonly name: string;
  readonly days: readonly DayFigures[];
  readonly before: readonly DayFigures[];
  /** Plays count as aired until then, seconds from the beginning of each date. */
  readonly airedUntil: (date: string) => number;
  /** Requests of both ranges by date and by what became of them. */
  readonly requests: ReadonlyMap<string, Readonly<Record<string, number>>>;
}

/** What a report is made from. */
export interface ReportGround {
  readonly stations: readonly StationDays[];
  readonly names: ReportNames;
  /** The dates asked for, both included, in order. */
  readonly dates: readonly string[];
  /** Hours of the week, 168 marks, Monday 00:00 first; null for every hour. */
  readonly hours: string | null;
}

export type PlayState = 'planned' | 'aired';

/** A play counted by a report. */
export interface CountedPlay {
  readonly itemId: string;
  readonly categoryId: string | null;
  readonly day: DayFigures;
  /** Place of its hour in the day, and its second. */
  readonly hour: number;
  readonly at: number;
}

/** Whether an hour of a day is among those asked for. */
export function isAsked({ hours }: Pick<ReportGround, 'hours'>, day: DayFigures, hour: number): boolean {
  return hours === null || hours[weekdayOf(day.date) * 24 + elementAt(day.localHours, hour)] === '1';
}

/** Goes through the plays of some days that are in the hours asked for. */
export function eachPlay(
  ground: Pick<ReportGround, 'hours'>,
  days: readonly DayFigures[],
  state: PlayState,
  airedUntil: StationDays['airedUntil'],
  take: (play: CountedPlay) => void,
): void {
  for (const day of days) {
    const until = airedUntil(day.date);
    for (const { itemId, categoryId, plannedAt, airedAt } of day.plays) {
      const at = state === 'planned' ? plannedAt : airedAt;
      if (at === null || (state === 'aired' && at > until)) continue;
      const hour = hourAt(day, at);
      if (isAsked(ground, day, hour)) take({ itemId, categoryId, day, hour, at });
    }
  }
}

/** Goes through what aired in the range, on every station. */
export function eachAired(ground: ReportGround, take: (play: CountedPlay) => void): void {
  for (const { days, airedUntil } of ground.stations) eachPlay(ground, days, 'aired', airedUntil, take);
}

/** Goes through what aired in the range before, on every station. */
export function eachAiredBefore(ground: ReportGround, take: (play: CountedPlay) => void): void {
  for (const { before, airedUntil } of ground.stations) eachPlay(ground, before, 'aired', airedUntil, take);
}

/** Counts by what a play is of: planned, aired, and aired in the range before. */
export interface Counts {
  planned: number;
  aired: number;
  before: number;
}

/** Counts plays by the keys each has; what has none is left out. */
export function countPlays(
  ground: ReportGround,
  keysOf: (play: CountedPlay) => readonly string[],
): Map<string, Counts> {
  const found = new Map<string, Counts>();
  const count =
    (what: keyof Counts) =>
    (play: CountedPlay): void => {
      for (const key of keysOf(play)) {
        let own = found.get(key);
        if (!own) found.set(key, (own = { planned: 0, aired: 0, before: 0 }));
        own[what]++;
      }
    };
  for (const { days, before, airedUntil } of ground.stations) {
    eachPlay(ground, days, 'planned', airedUntil, count('planned'));
    eachPlay(ground, days, 'aired', airedUntil, count('aired'));
    eachPlay(ground, before, 'aired', airedUntil, count('before'));
  }
  return found;
}
