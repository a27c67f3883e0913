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
  'keptReport',
  'person',
  'secret',
  'session',
]);

/**
 * How often what is kept in memory has changed, so that what was worked out from it can be kept too. One server owns
 * the data, so nothing changes behind it.
 */
export class Revisions {
  private count: number;
  private groundAt: number;
  private beyondItemsAt: number;
  private peopleAt: number;
  /** Where a write did not say what it changed, everything may have changed. */
  private allDatesAt = 0;
  private across: ReadonlySet<string> = new Set();
  private readonly dates = new Map<string, Map<string, number>>();

  /** Counts on from a number; the time of the start, where counts are to grow over restarts too. */
  constructor(first = 1) {
    this.count = first;
    this.groundAt = first;
    this.beyondItemsAt = first;
    this.peopleAt = first;
  }

  /** Counts every change. */
  get total(): number {
    return this.count;
  }

  /** Counts changes of what days are made from: library, categories, clocks, week, rules. */
  get ground(): number {
    return this.groundAt;
  }

  /** Counts changes of accounts, roles and passwords. */
  get people(): number {
    return this.peopleAt;
  }

  /** Counts those of them that changed more than items themselves. */
  get beyondItems(): number {
    return this.beyondItemsAt;
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

  /** Says which stations have rules that look at what others play. */
  lookAcross(stationIds: readonly string[]): void {
    this.across = new Set(stationIds);
  }

  /** The latest change of what other stations play on some dates; 0 for a station whose rules do not look at them. */
  ofSisters(stationId: string, from: string, to: string): number {
    if (!this.across.has(stationId)) return 0;
    return Math.max(0, ...[...this.dates.keys()].map((id) => (id === stationId ? 0 : this.ofDates(id, from, to))));
  }

  /** Takes note of a write: the kinds of thing it changed, none where they were not recorded, and the dates of logs. */
  note(things: ReadonlySet<string>, logs: readonly { readonly stationId: string; readonly date: string }[]): void {
    this.count++;
    const touched = [...things].filter((thing) => !APART_FROM_GROUND.has(thing));
    if (things.size === 0 || touched.length > 0) this.groundAt = this.count;
    if (things.size === 0 || touched.some((thing) => thing !== 'item')) this.beyondItemsAt = this.count;
    if (things.size === 0 || things.has('person') || things.has('secret')) this.peopleAt = this.count;
    if (things.size === 0) this.allDatesAt = this.count;
    for (const { stationId, date } of logs) this.noteDate(stationId, date);
  }

  private noteDate(stationId: string, date: string): void {
    let dates = this.dates.get(stationId);
    if (!dates) this.dates.set(stationId, (dates = new Map()));
    dates.set(date, this.count);
  }
}
