import type { BookedSpot } from '../formats/layouts/read-text-log.js';
import type { LogTiming } from '../log/air-times.js';
import type { BreakEntry, DailyLog, LogEntry, LogHour } from '../log/daily-log.js';
import { wallClockText } from '../time/duration.js';
import { hoursOfDay } from '../time/local-day.js';
import { lookUp } from '../values/look-up.js';

const HOUR_MS = 3_600_000;

/** A break of a log with the instant it is booked at. */
export interface BookedBreak {
  readonly entryId: string;
  /** UTC epoch milliseconds. */
  readonly bookedMs: number;
  /** Length its clock plans, milliseconds. */
  readonly plannedMs: number;
}

/** A spot that falls into no break. */
export interface TraySpot {
  readonly spot: BookedSpot;
  readonly why: string;
}

/** The spots of a traffic log by the breaks they fall into; what falls into none is in the tray. */
export interface MatchedSpots {
  /** Spots by the id of their break, in the order they play. */
  readonly placed: ReadonlyMap<string, readonly BookedSpot[]>;
  readonly tray: readonly TraySpot[];
  /** Breaks that nothing is booked in. */
  readonly empty: readonly BookedBreak[];
}

/** A log as its clocks plan it, whatever is booked in its breaks: what is booked moves no break to another hour. */
export function asPlanned(log: DailyLog): DailyLog {
  const planned = (entry: LogEntry): LogEntry => {
    if (entry.kind !== 'break' || !entry.spots) return entry;
    const { spots: _spots, ...rest } = entry;
    return rest;
  };
  return { ...log, hours: log.hours.map((hour) => ({ ...hour, entries: hour.entries.map(planned) })) };
}

/** The breaks of a log that can be booked, in order; `timing` is that of the log as planned. */
export function bookedBreaks(log: DailyLog, timing: LogTiming): BookedBreak[] {
  return log.hours.flatMap((hour) =>
    hour.entries.flatMap((entry) =>
      entry.kind === 'break' && !entry.out
        ? [
            {
              entryId: entry.id,
              bookedMs: bookedInstant(entry, hour, lookUp(timing.entries, entry.id).startMs),
              plannedMs: entry.durationMs,
            },
          ]
        : [],
    ),
  );
}

/** A clock names the minute; the hour is the one in which that is nearest to where the break airs. */
function bookedInstant({ bookedAtMs }: BreakEntry, { startMs }: LogHour, airsMs: number): number {
  const past = startMs + (bookedAtMs % HOUR_MS);
  return past + Math.round((airsMs - past) / HOUR_MS) * HOUR_MS;
}

/**
 * Spots fall into the break that is booked nearest to their time, as long as it is within the tolerance, milliseconds. A
 * time the day does not have (the clock goes forward) is in the tray; in an hour the day has twice a file that goes back in
 * time has come to the second.
 */
export function matchSpots(
  log: DailyLog,
  timing: LogTiming,
  spots: readonly BookedSpot[],
  toleranceMs: number,
): MatchedSpots {
  const breaks = bookedBreaks(log, timing);
  const instants = instantsOf(log, spots);
  const placed = new Map<string, BookedSpot[]>();
  const tray: TraySpot[] = [];
  spots.forEach((spot, n) => {
    const at = instants[n] ?? null;
    if (at === null) return void tray.push({ spot, why: 'The day does not have this time: the clock goes forward.' });
    const away = (one: BookedBreak): number => Math.abs(one.bookedMs - at);
    const nearest = breaks.reduce<BookedBreak | null>(
      (best, one) => (best && away(best) <= away(one) ? best : one),
      null,
    );
    if (!nearest || away(nearest) > toleranceMs)
      return void tray.push({ spot, why: `No break is booked near ${wallClockText(spot.atMs).slice(0, 5)}.` });
    placed.set(nearest.entryId, [...(placed.get(nearest.entryId) ?? []), spot]);
  });
  for (const [id, own] of placed) placed.set(id, inOrder(own));
  return { placed, tray, empty: breaks.filter(({ entryId }) => !placed.has(entryId)) };
}

/** The UTC instants of spots; null for a time the day does not have. */
function instantsOf({ date, timeZone }: DailyLog, spots: readonly BookedSpot[]): (number | null)[] {
  const hours = hoursOfDay(date, timeZone);
  let turns = new Map<number, { readonly turn: number; readonly atMs: number }>();
  return spots.map(({ atMs }) => {
    const local = Math.floor(atMs / HOUR_MS);
    const same = hours.filter(({ localHour }) => localHour === local);
    const before = turns.get(local) ?? { turn: 0, atMs: 0 };
    const turn = atMs < before.atMs ? Math.min(before.turn + 1, same.length - 1) : before.turn;
    turns = new Map(turns).set(local, { turn, atMs });
    const hour = same[turn];
    return hour ? hour.startMs + (atMs % HOUR_MS) : null;
  });
}

/** By the time they are booked, then by their place in the break, then as the file has them. */
function inOrder(spots: readonly BookedSpot[]): BookedSpot[] {
  const place = ({ sequence }: BookedSpot): number => sequence ?? 0;
  return [...spots].sort((a, b) => a.atMs - b.atMs || place(a) - place(b) || a.line - b.line);
}

/** What a person should look at in a break. */
export type SpotMark =
  | { readonly mark: 'rivals'; readonly product: string; readonly sponsors: readonly string[] }
  | { readonly mark: 'back to back'; readonly sponsor: string };

/** Rivals in one break, told by their product code, and sponsors that follow themselves. */
export function spotMarks(spots: readonly Pick<BookedSpot, 'sponsor' | 'product'>[]): SpotMark[] {
  const byProduct = new Map<string, Set<string>>();
  for (const { product, sponsor } of spots)
    if (product !== '' && sponsor !== '') byProduct.set(product, (byProduct.get(product) ?? new Set()).add(sponsor));
  const rivals = [...byProduct].flatMap(([product, sponsors]): SpotMark[] =>
    sponsors.size > 1 ? [{ mark: 'rivals', product, sponsors: [...sponsors] }] : [],
  );
  const following = spots.flatMap(({ sponsor }, n) =>
    n > 0 && sponsor !== '' && spots[n - 1]?.sponsor === sponsor ? [sponsor] : [],
  );
  return [...rivals, ...[...new Set(following)].map((sponsor): SpotMark => ({ mark: 'back to back', sponsor }))];
}
