import type { Clock } from '../clocks/line.js';
import type { WeekPlan } from '../clocks/week-plan.js';
import type { LengthLookup } from '../clocks/expected-starts.js';
import type { TurnOrder } from '../rotation/category.js';
import type { Rule } from '../rules/rule.js';
import { nameKey } from '../text/fold.js';
import { airTimes, type LogTiming } from '../timing/air-times.js';
import type { InstanceItem } from '../engine/instance.js';
import { allEntries, itemOf, type DailyLog } from './daily-log.js';
import { playsBefore } from './even-history.js';

/** An item as generation needs it. */
export interface ScheduledItem {
  readonly id: string;
  readonly title: string;
  readonly artist: string;
  readonly album: string;
  /** Ids of every credited artist. */
  readonly artistIds: readonly string[];
  readonly durationMs: number;
  /** How long before its end the next one may begin, milliseconds. */
  readonly segueMs: number | null;
  readonly startDate: string | null;
  readonly endDate: string | null;
  /** As in LibraryItem. */
  readonly hours: string | null;
  readonly pausedUntil: string | null;
  readonly approved: boolean;
  /** For turn order weighted, 1 as a rule. */
  readonly weight: number;
}

/** A play that aired or is planned outside the day in hand. */
export interface StationPlay {
  readonly itemId: string;
  /** UTC epoch milliseconds. */
  readonly startMs: number;
}

/** Everything of a station that a day's log is made from. */
export interface StationData {
  readonly timeZone: string;
  readonly plan: WeekPlan;
  readonly clocks: readonly Clock[];
  readonly items: readonly ScheduledItem[];
  /** Item ids by category id. */
  readonly categories: Readonly<Record<string, readonly string[]>>;
  /** Ids of the music categories: separations look at these; imaging and speech follow their turn order alone. */
  readonly musicCategories: readonly string[];
  /** Ids of the categories that take approved items only. */
  readonly approvedOnly: readonly string[];
  /** Whether plays of a title move round the hours of the day. */
  readonly spreadHours: boolean;
  /** How each category takes turns, by its id; even where nothing is said. */
  readonly orders: Readonly<Record<string, TurnOrder>>;
  readonly rules: readonly Rule[];
  readonly history: readonly StationPlay[];
  /** The log of the day after, when there is one: its early hours count like locked plays. */
  readonly nextLog: DailyLog | null;
}

/** Values of the tags that separations look at. Titles meet whatever their spelling. */
export function tagsOf(item: ScheduledItem): Record<string, string[]> {
  const mainArtist = item.artistIds[0] ?? '';
  const title = nameKey(item.title);
  const album = nameKey(item.album);
  return {
    title: title ? [title] : [],
    artist: [...item.artistIds],
    // Two artists may each have an album of the same name.
    album: album ? [`${album}|${mainArtist}`] : [],
  };
}

/** What is worked out once from a station's data and used in every pass over a day. */
export class StationModel implements LengthLookup {
  readonly known: ReadonlyMap<string, ScheduledItem>;
  /** The items as the engine sees them. */
  readonly instanceItems: readonly InstanceItem[];
  private readonly averages: ReadonlyMap<string, number>;

  constructor(readonly data: StationData) {
    this.known = new Map(data.items.map((item) => [item.id, item]));
    this.instanceItems = data.items.map((item) => ({
      id: item.id,
      duration: Math.round(item.durationMs / 1000),
      tags: tagsOf(item),
    }));
    this.averages = new Map(
      Object.entries(data.categories).map(([id, items]) => {
        const total = items.reduce((sum, itemId) => sum + this.lengthOf(itemId), 0);
        return [id, items.length ? Math.round(total / items.length) : 0];
      }),
    );
  }

  /** The time an item takes until the next one begins, milliseconds. */
  readonly lengthOf = (itemId: string): number => {
    const item = this.known.get(itemId);
    return item ? item.durationMs - (item.segueMs ?? 0) : 0;
  };
  readonly averageOf = (categoryId: string): number => this.averages.get(categoryId) ?? 0;

  /** When each entry of a log airs. */
  timing(log: DailyLog): LogTiming {
    return airTimes(log, this.lengthOf, this.averageOf);
  }

  /** When each item played before a day, latest first. */
  playsBefore(dayStartMs: number): ReadonlyMap<string, readonly number[]> {
    if (this.past?.dayStartMs !== dayStartMs)
      this.past = { dayStartMs, plays: playsBefore(this.data.history, dayStartMs) };
    return this.past.plays;
  }

  private past: { readonly dayStartMs: number; readonly plays: ReadonlyMap<string, readonly number[]> } | null = null;

  /** The plays in a log, in order. */
  plays(log: DailyLog): StationPlay[] {
    const { entries } = this.timing(log);
    return allEntries(log).flatMap((entry) => {
      const itemId = itemOf(entry);
      return itemId === null ? [] : [{ itemId, startMs: entries.get(entry.id)!.startMs }];
    });
  }
}
