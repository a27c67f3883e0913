import type { BookedSpot } from '../formats/layouts/read-text-log.js';
import { allEntries, findEntry, type DailyLog, type Spot } from '../log/daily-log.js';
import type { SpotsEdit } from '../log/log-edit.js';
import type { BookedBreak, MatchedSpots, TraySpot } from './match-spots.js';

/** What booking spots does to a log, and what cannot be booked. */
export interface Booking {
  readonly edits: readonly SpotsEdit[];
  /** In the order of the file. */
  readonly tray: readonly TraySpot[];
}

/** What an import knows besides its file. */
export interface BookingOptions {
  /** Breaks that stay as they are; other spots for them are in the tray. */
  readonly aired: ReadonlySet<string>;
  /** Makes ids of spots differ from those of earlier imports. */
  readonly stamp: string;
}

/** The id of the spot on a line of the file of an import. */
function spotIdOf(line: number, stamp: string): string {
  return `spot-${line}-${stamp}`;
}

/** Books matched spots in place of what was booked before. */
export function bookSpots(
  log: DailyLog,
  breaks: readonly BookedBreak[],
  { placed, tray }: MatchedSpots,
  { aired, stamp }: BookingOptions,
): Booking {
  const left = [...tray];
  const edits = breaks.flatMap(({ entryId }): SpotsEdit[] => {
    const own = placed.get(entryId) ?? [];
    if (isBooked(log, entryId, own)) return [];
    if (!aired.has(entryId)) return [{ type: 'spots', entryId, spots: own.map((spot) => spotOf(spot, stamp)) }];
    left.push(...own.map((spot) => ({ spot, why: 'Its break has aired.' })));
    return [];
  });
  return { edits, tray: left.sort((a, b) => a.spot.line - b.spot.line) };
}

/** A spot as it stands in a log. */
export function spotOf({ line, cart, sponsor, title, product, lengthMs }: BookedSpot, stamp: string): Spot {
  return { id: spotIdOf(line, stamp), cart, sponsor, title, product, lengthMs };
}

function textOf({ cart, sponsor, title, product, lengthMs }: Omit<Spot, 'id'>): string {
  return JSON.stringify([cart, sponsor, title, product, lengthMs]);
}

/** Whether a break holds just these spots already, whatever lines they stand on now. */
function isBooked(log: DailyLog, entryId: string, spots: readonly BookedSpot[]): boolean {
  const entry = findEntry(log, entryId);
  if (entry?.kind !== 'break' || !entry.spots) return false;
  return JSON.stringify(entry.spots.map(textOf)) === JSON.stringify(spots.map(textOf));
}

/** How many spots a log has more than before, and how many it has no longer; a spot in another break is both. */
export function changedSpots(before: DailyLog, after: DailyLog): { readonly added: number; readonly removed: number } {
  const [was, is] = [countsOf(before), countsOf(after)];
  return { added: more(is, was), removed: more(was, is) };
}

function countsOf(log: DailyLog): Map<string, number> {
  const counts = new Map<string, number>();
  for (const entry of allEntries(log)) {
    if (entry.kind !== 'break') continue;
    for (const spot of entry.spots ?? []) {
      const key = `${entry.id} ${textOf(spot)}`;
      counts.set(key, (counts.get(key) ?? 0) + 1);
    }
  }
  return counts;
}

function more(a: ReadonlyMap<string, number>, b: ReadonlyMap<string, number>): number {
  return [...a].reduce((sum, [key, times]) => sum + Math.max(0, times - (b.get(key) ?? 0)), 0);
}
