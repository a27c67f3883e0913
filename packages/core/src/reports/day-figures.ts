import type { AiredRow } from '../as-run/as-run.js';
import { plannedRows, type PlannedItem } from '../as-run/planned-rows.js';
import type { ItemKind } from '../library/item.js';
import { allEntries, itemOf, openSlots, slotsOf, type DailyLog } from '../log/daily-log.js';
import type { LogTiming } from '../log/air-times.js';
import type { StationPlay } from '../station/station-data.js';
import { nameKey } from '../text/fold.js';
import { hoursOfDay } from '../time/local-day.js';
import { elementAt } from '../values/look-up.js';

/** What time on air is given to, as reports add it up. */
export const AIR_USES = ['music', 'speech', 'imaging', 'commercials'] as const;
export type AirUse = (typeof AIR_USES)[number];

const USE_OF_KIND: Readonly<Record<ItemKind, AirUse | null>> = {
  song: 'music',
  'voice track': 'speech',
  programme: 'speech',
  tease: 'speech',
  'station ID': 'imaging',
  jingle: 'imaging',
  sweeper: 'imaging',
  promo: 'imaging',
  liner: 'imaging',
  bed: 'imaging',
  'sponsor message': 'commercials',
  spot: 'commercials',
  silence: null,
};

/** A play of a day: planned, aired or both. Times are seconds from the beginning of the day. */
export interface DayPlay {
  readonly itemId: string;
  /** The category it was picked from, or is in; null where it is in none. */
  readonly categoryId: string | null;
  readonly plannedAt: number | null;
  readonly airedAt: number | null;
}

/** What a sponsor had on a day: spots of traffic and messages. */
export interface SponsorFigures {
  readonly name: string;
  readonly planned: number;
  /** Null where nothing is known of what aired. */
  readonly aired: number | null;
}

/** The figures of a station's day that reports are made of. */
export interface DayFigures {
  readonly date: string;
  /** What the clock shows in each hour of the day; 23 or 25 hours where clocks change. */
  readonly localHours: readonly number[];
  /** When each hour begins, seconds from the beginning of the day. */
  readonly hourStarts: readonly number[];
  readonly plays: readonly DayPlay[];
  /** Seconds given to each of `AIR_USES`, by hour; as aired where that is known, else as planned. */
  readonly time: readonly (readonly number[])[];
  /** Seconds each hour of the log ends after its mark, negative before it; none where the day has no log. */
  readonly endings: readonly number[];
  readonly slots: number;
  /** Open slots by category id. */
  readonly open: Readonly<Record<string, number>>;
  /** Places where a rule is broken, by rule id. */
  readonly strains: Readonly<Record<string, number>>;
  readonly sponsors: readonly SponsorFigures[];
  /** Whether the day had a log, and whether a player told what aired. */
  readonly hasLog: boolean;
  readonly hasAsRun: boolean;
}

type AiredFact = Pick<AiredRow, 'kind' | 'startMs' | 'endMs' | 'artist'> & { readonly sponsor: string };

/** What of a day is known; instants are UTC epoch milliseconds. */
export interface DayFacts {
  readonly date: string;
  readonly timeZone: string;
  readonly log: { readonly log: DailyLog; readonly timing: LogTiming } | null;
  /** The plays history counts. */
  readonly counted: readonly StationPlay[];
  /** What a player told; null where it told nothing. */
  readonly asRun: {
    readonly rows: readonly AiredFact[];
    readonly coveredFromMs: number;
    readonly coveredUntilMs: number;
  } | null;
  readonly itemWith: (id: string) => PlannedItem | undefined;
  /** The category an item is in now. */
  readonly categoryOf: (itemId: string) => string | null;
  readonly strains: Readonly<Record<string, number>>;
}

/** The figures of a day. */
export function dayFigures(facts: DayFacts): DayFigures {
  const { date, timeZone, log } = facts;
  const hours = hoursOfDay(date, timeZone);
  const dayStartMs = elementAt(hours, 0).startMs;
  const second = (ms: number): number => Math.round((ms - dayStartMs) / 1000);
  const planned = log ? plannedRows(log.log, log.timing, facts.itemWith) : [];
  const categories = log ? pickedFrom(log.log) : new Map<string, string>();
  const categoryOf = (id: string): string | null => categories.get(id) ?? facts.categoryOf(id);
  const open: Record<string, number> = {};
  for (const { categoryId } of log ? openSlots(log.log) : []) open[categoryId] = (open[categoryId] ?? 0) + 1;
  const hourStarts = hours.map(({ startMs }) => second(startMs));
  return {
    date,
    localHours: hours.map(({ localHour }) => localHour),
    hourStarts,
    plays: pairedPlays(
      planned.flatMap(({ itemId, startMs }) => (itemId === null ? [] : [{ itemId, at: second(startMs) }])),
      facts.counted.map(({ itemId, startMs }) => ({ itemId, at: second(startMs) })),
      categoryOf,
    ),
    time: timeByUse(hourStarts, playedRows(facts, planned), second),
    endings: log ? log.timing.hours.map(({ overMs }) => Math.round(overMs / 1000)) : [],
    slots: log ? slotsOf(log.log).length : 0,
    open,
    strains: facts.strains,
    sponsors: sponsorFigures(facts, planned),
    hasLog: log !== null,
    hasAsRun: facts.asRun !== null,
  };
}

/** The hour of the day, from 0, in which a second of it lies. */
export function hourAt({ hourStarts }: Pick<DayFigures, 'hourStarts'>, second: number): number {
  // Plays that begin before the day does or after it count for its first or last hour.
  let index = Math.min(hourStarts.length - 1, Math.max(0, Math.floor(second / 3600)));
  while (index > 0 && elementAt(hourStarts, index) > second) index--;
  return index;
}

type TimedItem = { readonly itemId: string; readonly at: number };

/** The nth planned play of an item is its nth that aired. */
function pairedPlays(
  planned: readonly TimedItem[],
  aired: readonly TimedItem[],
  categoryOf: (itemId: string) => string | null,
): DayPlay[] {
  const waiting = new Map<string, number[]>();
  for (const { itemId, at } of aired) {
    const own = waiting.get(itemId);
    if (own) own.push(at);
    else waiting.set(itemId, [at]);
  }
  const plays: DayPlay[] = planned.map(({ itemId, at }) => ({
    itemId,
    categoryId: categoryOf(itemId),
    plannedAt: at,
    airedAt: waiting.get(itemId)?.shift() ?? null,
  }));
  for (const [itemId, rest] of waiting)
    for (const at of rest) plays.push({ itemId, categoryId: categoryOf(itemId), plannedAt: null, airedAt: at });
  return plays;
}

function pickedFrom(log: DailyLog): Map<string, string> {
  const found = new Map<string, string>();
  for (const entry of allEntries(log)) {
    const itemId = itemOf(entry);
    if (itemId !== null && (entry.kind === 'pick' || entry.kind === 'sweeper')) found.set(itemId, entry.categoryId);
  }
  return found;
}

interface PlayedRow {
  readonly kind: string;
  readonly startMs: number;
  readonly endMs: number;
}

function playedRows(facts: DayFacts, planned: ReturnType<typeof plannedRows>): readonly PlayedRow[] {
  const { asRun } = facts;
  if (facts.log || asRun) {
    const asPlanned = planned.map(({ kind, startMs, durationMs }) => ({ kind, startMs, endMs: startMs + durationMs }));
    if (!asRun) return asPlanned;
    const { rows, coveredFromMs, coveredUntilMs } = asRun;
    return [...rows, ...asPlanned.filter(({ startMs }) => startMs < coveredFromMs || startMs >= coveredUntilMs)];
  }
  return facts.counted.flatMap(({ itemId, startMs }) => {
    const item = facts.itemWith(itemId);
    return item ? [{ kind: item.kind, startMs, endMs: startMs + item.durationMs }] : [];
  });
}

/** A row counts whole for the hour in which it begins, as people count the time given to something. */
function timeByUse(
  hourStarts: readonly number[],
  rows: readonly PlayedRow[],
  second: (ms: number) => number,
): number[][] {
  const time = hourStarts.map(() => AIR_USES.map(() => 0));
  for (const { kind, startMs, endMs } of rows) {
    const use = USE_OF_KIND[kind as ItemKind] ?? null;
    if (use === null) continue;
    const hour = elementAt(time, hourAt({ hourStarts }, second(startMs)));
    const at = AIR_USES.indexOf(use);
    hour[at] = elementAt(hour, at) + Math.max(0, Math.round((endMs - startMs) / 1000));
  }
  return time;
}

const SPONSORED: ReadonlySet<string> = new Set(['spot', 'sponsor message']);

function sponsorFigures({ asRun }: DayFacts, planned: ReturnType<typeof plannedRows>): SponsorFigures[] {
  const found = new Map<string, { name: string; planned: number; aired: number }>();
  const count = (name: string, what: 'planned' | 'aired'): void => {
    const key = nameKey(name);
    if (key === '') return;
    const own = found.get(key) ?? { name: name.trim(), planned: 0, aired: 0 };
    own[what]++;
    found.set(key, own);
  };
  for (const { kind, artist } of planned) if (SPONSORED.has(kind)) count(artist, 'planned');
  for (const { kind, artist, sponsor } of asRun?.rows ?? []) if (SPONSORED.has(kind)) count(sponsor || artist, 'aired');
  return [...found.values()].map((one) => (asRun ? one : { ...one, aired: null }));
}
