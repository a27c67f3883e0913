import { addDays, type StationPlay } from '@fuller/core';
import { playsOfDates } from '../db/queries/plays.js';
import { Kept } from '../store/kept.js';
import type { Revisions } from '../store/revisions.js';
import type { Store } from '../store/store.js';

/** Reads the plays of a station, each date once for every change of it. */
export class PlayReader {
  private readonly days = new Kept<readonly StationPlay[]>(1500);
  private readonly spans = new Kept<readonly StationPlay[]>(12);

  constructor(
    private readonly store: Store,
    private readonly revisions: Revisions,
  ) {}

  /** The plays of some dates, both ends included, in order; the very same array as long as they stay as they are. */
  between(stationId: string, from: string, to: string): Promise<readonly StationPlay[]> {
    const key = `${stationId} ${from} ${to} ${this.revisions.ofDates(stationId, from, to)}`;
    return this.spans.get(key, async () => {
      const dates: string[] = [];
      for (let date = from; date <= to; date = addDays(date, 1)) dates.push(date);
      return (await this.byDate(stationId, dates, from, to)).flat();
    });
  }

  /** Dates that are not kept are read together. */
  private async byDate(
    stationId: string,
    dates: readonly string[],
    from: string,
    to: string,
  ): Promise<(readonly StationPlay[])[]> {
    const keyOf = (date: string): string => `${stationId} ${date} ${this.revisions.ofDate(stationId, date)}`;
    let reading: Promise<Map<string, StationPlay[]>> | null = null;
    const read = (): Promise<Map<string, StationPlay[]>> => (reading ??= this.read(stationId, from, to));
    return Promise.all(dates.map((date) => this.days.get(keyOf(date), async () => (await read()).get(date) ?? [])));
  }

  private async read(stationId: string, from: string, to: string): Promise<Map<string, StationPlay[]>> {
    const byDate = new Map<string, StationPlay[]>();
    for (const { date, itemId, startMs } of await playsOfDates(this.store.read, stationId, from, to)) {
      const plays = byDate.get(date);
      if (plays) plays.push({ itemId, startMs });
      else byDate.set(date, [{ itemId, startMs }]);
    }
    return byDate;
  }
}
