/** Things whose change leaves everything a station's days are made from as it is. */
const APART_FROM_GROUND: ReadonlySet<string> = new Set([
  'log',
  'handOver',
  'playerOutput',
  'trafficSettings',
  'textLayout',
  'trafficDay',
  'onAirSettings',
  'asRun',
  'rollingSettings',
  'rollingQueue',
  'songRequest',
  'worklist',
  'watchedFolder',
  'rotationPlan',
  'keptApart',
  'unreadableNote',
  'person',
  'secret',
]);

/**
 * How often what is kept in memory has changed, so that what was worked out from it can be kept too. One server owns
 * the data, so nothing changes behind it.
 */
export class Revisions {
  private count: number;
  private groundAt: number;
  /** Where a write did not say what it changed, everything may have changed. */
  private allDatesAt = 0;
  private readonly dates = new Map<string, Map<string, number>>();

  /** Counts on from a number; the time of the start, where counts are to grow over restarts too. */
  constructor(first = 1) {
    this.count = first;
    this.groundAt = first;
  }

  /** Counts every change. */
  get total(): number {
    return this.count;
  }

  /** Counts changes of what days are made from: library, categories, clocks, week, rules. */
  get ground(): number {
    return this.groundAt;
  }

  /** The latest change of the log and the plays of a station's date, 0 as long as they have not changed. */
  ofDate(stationId: string, date: string): number {
    return Math.max(this.allDatesAt, this.dates.get(stationId)?.get(date) ?? 0);
  }

  /** The latest change of the logs and plays of some dates, both ends included. */
  ofDates(stationId: string, from: string, to: string): number {
    let latest = this.allDatesAt;
    for (const [date, revision] of this.dates.get(stationId) ?? [])
      if (date >= from && date <= to && revision > latest) latest = revision;
    return latest;
  }

  /** Takes note of a write: the kinds of thing it changed, none where they were not recorded, and the dates of logs. */
  note(things: ReadonlySet<string>, logs: readonly { readonly stationId: string; readonly date: string }[]): void {
    this.count++;
    if (things.size === 0 || [...things].some((thing) => !APART_FROM_GROUND.has(thing))) this.groundAt = this.count;
    if (things.size === 0) this.allDatesAt = this.count;
    for (const { stationId, date } of logs) this.noteDate(stationId, date);
  }

  private noteDate(stationId: string, date: string): void {
    let dates = this.dates.get(stationId);
    if (!dates) this.dates.set(stationId, (dates = new Map()));
    dates.set(date, this.count);
  }
}
