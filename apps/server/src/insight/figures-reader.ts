import {
  allEntries,
  dayFigures,
  handOverTiming,
  itemOf,
  type DailyLog,
  type DayFacts,
  type DayFigures,
} from '@fuller/core';
import { airedBetween } from '../db/queries/as-run.js';
import { staleDates, storedFigures } from '../db/queries/figures.js';
import { itemsToHandOver } from '../db/queries/items.js';
import { playsOfDates } from '../db/queries/plays.js';
import { AsRunDayEntity } from '../db/entities/index.js';
import type { Ground } from '../logs/ground.js';
import type { StationReader } from '../logs/station-reader.js';
import { docOf, readLog } from '../logs/stored-logs.js';
import { Kept } from '../store/kept.js';
import type { Revisions } from '../store/revisions.js';
import type { Store } from '../store/store.js';
import { unpackFigures } from './packed-figures.js';

/** Two ranges of a year are kept. */
const MOST_DAYS = 800;

/** Which category each item is in; worked out once for the categories of a station. */
const placesOf = new WeakMap<Ground['categories'], ReadonlyMap<string, string>>();

/** Reads the figures of days, as they are stored or, where they no longer hold, worked out from the day itself. */
export class FiguresReader {
  private readonly kept = new Kept<DayFigures>(MOST_DAYS);

  constructor(
    private readonly store: Store,
    private readonly reader: StationReader,
    private readonly revisions: Revisions,
  ) {}

  /** The figures of the dates between two, both included; dates of which nothing is known have none. */
  async days(stationId: string, from: string, to: string): Promise<DayFigures[]> {
    const em = this.store.read;
    const stale = new Set(await staleDates(em, stationId, from, to));
    const stored = await storedFigures(em, stationId, from, to);
    const keyOf = (date: string): string => `${stationId} ${date} ${this.revisions.ofDate(stationId, date)}`;
    const fresh = stored.filter(({ date }) => !stale.has(date));
    const known = fresh.map(({ date, figures }) =>
      this.kept.get(keyOf(date), async () => {
        try {
          return unpackFigures(date, figures);
        } catch {
          return this.workOut(stationId, date);
        }
      }),
    );
    const days = await Promise.all(known);
    // One after the other: a year of logs at once would not fit.
    for (const date of stale) days.push(await this.kept.get(keyOf(date), () => this.workOut(stationId, date)));
    return days.sort((a, b) => (a.date < b.date ? -1 : 1));
  }

  /** The figures of a day from its log, its plays and what aired. */
  async workOut(stationId: string, date: string): Promise<DayFigures> {
    const em = this.store.read;
    const { timeZone, categories } = await this.reader.ground(stationId);
    const row = await readLog(em, stationId, date);
    const log = row && docOf(row);
    const counted = await playsOfDates(em, stationId, date, date);
    const ids = [...counted.map(({ itemId }) => itemId), ...(log ? itemsIn(log) : [])];
    const items = new Map((await itemsToHandOver(em, [...new Set(ids)])).map((item) => [item.id, item]));
    const itemWith = (id: string) => items.get(id);
    const places = categoryPlaces(categories);
    return dayFigures({
      date,
      timeZone,
      log: log && { log, timing: handOverTiming(log, { itemOf: itemWith }) },
      counted,
      asRun: await this.asRun(stationId, date),
      itemWith,
      categoryOf: (itemId) => places.get(itemId) ?? null,
      strains: row ? strainsIn(row) : {},
    });
  }

  private async asRun(stationId: string, date: string): Promise<DayFacts['asRun']> {
    const em = this.store.read;
    const day = await em.findOne(AsRunDayEntity, { stationId, date });
    if (!day) return null;
    const { coveredFromMs, coveredUntilMs } = day;
    return { rows: await airedBetween(em, stationId, date, date), coveredFromMs, coveredUntilMs };
  }
}

function itemsIn(log: DailyLog): string[] {
  return allEntries(log).flatMap((entry) => itemOf(entry) ?? []);
}

function categoryPlaces(categories: Ground['categories']): ReadonlyMap<string, string> {
  let places = placesOf.get(categories);
  if (!places) {
    const found = new Map<string, string>();
    for (const [id, items] of Object.entries(categories)) for (const item of items) found.set(item, id);
    placesOf.set(categories, (places = found));
  }
  return places;
}

/** Strains of a log that was judged before they were counted by rule have no rule. */
function strainsIn({ strains, strainsByRule }: { strains: number; strainsByRule?: unknown }): Record<string, number> {
  const counts = typeof strainsByRule === 'string' ? (JSON.parse(strainsByRule) as unknown) : strainsByRule;
  if (counts) return counts as Record<string, number>;
  return strains > 0 ? { '': strains } : {};
}
