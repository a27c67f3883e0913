import { elementAt } from '../values/look-up.js';
import type { HistoryPlay, InstancePool } from '../sequence/parts.js';
import type { StationPlay } from './station-data.js';

/** An item is made up for, or skipped, for the sake of at most so many plays fewer or more than its category's median. */
const MOST_UNEVEN = 3;
/** Stands for plays before anything is known, seconds: further back than any rule looks. */
const LONG_AGO = -40_000_000;

/** Whether a start in an instance, seconds, is of a play that only stands for plays not known. */
export function isMadeUp(start: number): boolean {
  return start <= LONG_AGO;
}

/** When each item played before a day, UTC epoch milliseconds, latest first. */
export function playsBefore(
  history: readonly StationPlay[],
  dayStartMs: number,
): ReadonlyMap<string, readonly number[]> {
  const playsOf = new Map<string, number[]>();
  for (const { itemId, startMs } of history) {
    if (startMs >= dayStartMs) continue;
    const plays = playsOf.get(itemId);
    if (plays) plays.push(startMs);
    else playsOf.set(itemId, [startMs]);
  }
  for (const plays of playsOf.values()) plays.sort((a, b) => b - a);
  return playsOf;
}

/** The plays before a day that rules can reach. */
export function recentHistory(
  playsOf: ReadonlyMap<string, readonly number[]>,
  dayStartMs: number,
  reachMs: number,
): HistoryPlay[] {
  const found: HistoryPlay[] = [];
  for (const [item, plays] of playsOf) {
    for (const startMs of plays) {
      // Latest first.
      if (startMs < dayStartMs - reachMs) break;
      found.push({ item, start: Math.floor((startMs - dayStartMs) / 1000) });
    }
  }
  return found;
}

/**
 * The history an instance is given: every play that rules can reach, and for each item of a category so many older
 * ones that its count stands to the others' as all its plays do. A song that is new to its category
 * counts as though it had nearly kept up, so that it is not played over and over until it has.
 */
export function evenHistory(
  playsOf: ReadonlyMap<string, readonly number[]>,
  pools: Readonly<Record<string, InstancePool>>,
  dayStartMs: number,
  reachMs: number,
): HistoryPlay[] {
  const within = (plays: readonly number[]): number =>
    plays.filter((startMs) => startMs >= dayStartMs - reachMs).length;
  const wanted = new Map<string, number>();
  for (const { items, order } of Object.values(pools)) {
    const counts = items.map((id) => playsOf.get(id)?.length ?? 0);
    const median = [...counts].sort((a, b) => a - b)[counts.length >> 1] ?? 0;
    const uneven = counts.map((count) => Math.max(-MOST_UNEVEN, Math.min(MOST_UNEVEN, count - median)));
    const least = items.map((id, i) => Math.max(within(playsOf.get(id) ?? []), Math.min(1, elementAt(counts, i))));
    // Only how many more or fewer an item has than another matters to an even turn, so no play is told for nothing.
    const common =
      order === 'even'
        ? most(
            uneven.flatMap((one, i) => [elementAt(least, i) - one, -one]),
            0,
          )
        : most(least, 1) + MOST_UNEVEN;
    items.forEach((id, i) => {
      if (!wanted.has(id)) wanted.set(id, common + elementAt(uneven, i));
    });
  }
  const found: HistoryPlay[] = [];
  const tell = (item: string, startMs: number): void =>
    void found.push({ item, start: Math.floor((startMs - dayStartMs) / 1000) });
  for (const [id, count] of wanted) {
    const plays = playsOf.get(id) ?? [];
    for (const startMs of plays.slice(0, count)) tell(id, startMs);
    for (let more = plays.length; more < count; more++) found.push({ item: id, start: LONG_AGO - more });
  }
  for (const [id, plays] of playsOf) {
    if (!wanted.has(id)) for (const startMs of plays.slice(0, within(plays))) tell(id, startMs);
  }
  return found;
}

/** The greatest of some numbers, `least` at least; there may be more of them than a call takes arguments. */
function most(numbers: readonly number[], least: number): number {
  return numbers.reduce((greatest, one) => Math.max(greatest, one), least);
}
