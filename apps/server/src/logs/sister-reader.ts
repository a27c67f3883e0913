import {
  acrossSeconds,
  addDays,
  elementAt,
  hoursOfDay,
  HOUR_MS,
  looksAcross,
  type SisterPlay,
  type StationData,
} from '@fuller/core';
import { StationEntity } from '../db/entities/index.js';
import { ofActiveStations } from '../stations/active-stations.js';
import type { Store } from '../store/store.js';
import type { PlayReader } from './play-reader.js';

/** What began so long before can still play, milliseconds. */
const LONGEST_ITEM_MS = 6 * HOUR_MS;

/** Reads what other stations play about a day. */
export class SisterReader {
  constructor(
    private readonly store: Store,
    private readonly plays: PlayReader,
  ) {}

  /** What other stations play near enough to a date to matter to a rule across stations; nothing where there is none. */
  async about(
    stationId: string,
    date: string,
    { rules, timeZone }: Pick<StationData, 'rules' | 'timeZone'>,
  ): Promise<Pick<StationData, 'sisterPlays'>> {
    if (!looksAcross(rules)) return {};
    const em = this.store.read;
    const others = await em.find(StationEntity, { id: { $ne: stationId } }, { orderBy: { position: 'asc' } });
    const hours = hoursOfDay(date, timeZone);
    const reachMs = acrossSeconds(rules) * 1000;
    const fromMs = elementAt(hours, 0).startMs - reachMs - LONGEST_ITEM_MS;
    const untilMs = elementAt(hours, hours.length - 1).startMs + 2 * HOUR_MS + reachMs;
    const found: SisterPlay[] = [];
    for (const { id } of await ofActiveStations(em, others, (one) => one.id)) {
      // Their dates begin at other times than this station’s.
      const plays = await this.plays.between(id, addDays(date, -2), addDays(date, 2));
      for (const { itemId, startMs } of plays)
        if (startMs >= fromMs && startMs < untilMs) found.push({ stationId: id, itemId, startMs });
    }
    return { sisterPlays: found };
  }
}
