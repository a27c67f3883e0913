import type { PromiseShortfall, SponsorRow, SponsorWeek } from '@fuller/contracts';
import {
  addDays,
  allEntries,
  checkPromises,
  formatLocalDateTime,
  itemOf,
  nameKey,
  weekdayOf,
  type DailyLog,
  type PromisesOfDay,
} from '@fuller/core';
import { airedMessages, messagesOfStation } from '../db/queries/sponsors.js';
import { AsRunDayEntity, type SponsorRecord } from '../db/entities/index.js';
import { FullerError } from '../errors.js';
import type { StationReader } from '../logs/station-reader.js';
import { docOf } from '../logs/stored-logs.js';
import type { Store } from '../store/store.js';
import type { SponsorService } from './sponsor-service.js';

/** Promises are looked at for so many days at most. */
const MOST_DAYS = 31;

/** What was promised to sponsors, what stands in the logs, and what aired. */
export class SponsorWeekService {
  constructor(
    private readonly store: Store,
    private readonly reader: StationReader,
    private readonly sponsors: SponsorService,
    private readonly now: () => number,
  ) {}

  async week(stationId: string, date: string): Promise<SponsorWeek> {
    const monday = addDays(date, -weekdayOf(date));
    const dates = Array.from({ length: 7 }, (_, n) => addDays(monday, n));
    const logs = await this.logsOf(stationId, dates);
    const data = await this.reader.data(stationId, monday);
    const today = formatLocalDateTime(this.now(), data.timeZone).slice(0, 10);
    const known = new Map(
      checkPromises(
        data,
        dates.filter((one) => one >= today || logs.has(one)),
        (one) => logs.get(one) ?? null,
      ).map((day) => [day.date, day]),
    );
    const days = dates.map((one) => known.get(one) ?? { date: one, from: 'none' as const, slots: 0, kept: [] });
    const agreed = await this.sponsors.rows(stationId);
    const messages = await messagesOfStation(this.store.read, stationId);
    const sponsorOf = new Map(messages.map(({ id, artist }) => [id, nameKey(artist)]));
    const placed = dates.map((one) => countPlaced(logs.get(one) ?? null, sponsorOf));
    const aired = await this.airedOf(stationId, dates);
    const rowOf = (name: string, record: SponsorRecord | null): SponsorRow => {
      const key = nameKey(name);
      return {
        id: record?.id ?? null,
        revision: record?.revision ?? 0,
        name,
        product: record?.product ?? '',
        startDate: record?.startDate ?? null,
        endDate: record?.endDate ?? null,
        messages: messages.filter(({ artist }) => nameKey(artist) === key).length,
        promises: record ? promisesOf(record, days) : [],
        placed: placed.map((counts) => (counts ? (counts.get(key) ?? 0) : null)),
        aired: aired.map((counts) => (counts ? (counts.get(key) ?? 0) : null)),
      };
    };
    const named = new Set(agreed.map(({ name }) => nameKey(name)));
    const others = new Map(messages.map(({ artist }) => [nameKey(artist), artist] as const));
    return {
      monday,
      settings: await this.sponsors.settings(stationId),
      days: days.map(({ date: one, from, slots }) => ({ date: one, from, slots })),
      sponsors: [
        ...agreed.map((record) => rowOf(record.name, record)),
        ...[...others]
          .filter(([key]) => key !== '' && !named.has(key))
          .map(([, name]) => rowOf(name, null))
          .sort((a, b) => a.name.localeCompare(b.name)),
      ],
    };
  }

  /** What a run over some dates, made anew, could not keep. */
  async shortfalls(stationId: string, from: string, to: string): Promise<PromiseShortfall[]> {
    const dates: string[] = [];
    for (let date = from; date <= to; date = addDays(date, 1)) {
      if (dates.length >= MOST_DAYS)
        throw new FullerError('INVALID', `Promises are looked at for ${MOST_DAYS} days at most.`, 'to');
      dates.push(date);
    }
    if ((await this.sponsors.rows(stationId)).every(({ promises }) => promises.length === 0)) return [];
    const days = checkPromises(await this.reader.data(stationId, from), dates, () => null);
    const names = new Map((await this.sponsors.rows(stationId)).map(({ id, name }) => [id, name]));
    return days.flatMap(({ date, kept }) =>
      kept
        .filter(({ count, placed }) => placed < count)
        .map(({ sponsorId, promise, count, placed, slots }): PromiseShortfall => ({
          date,
          sponsor: names.get(sponsorId) ?? '',
          ...promise,
          asked: count,
          placed,
          slots,
        })),
    );
  }

  private async logsOf(stationId: string, dates: readonly string[]): Promise<ReadonlyMap<string, DailyLog>> {
    const rows = await Promise.all(dates.map((date) => this.reader.find(stationId, date)));
    return new Map(rows.flatMap((row) => (row ? [[row.date, docOf(row)] as const] : [])));
  }

  private async airedOf(stationId: string, dates: readonly string[]): Promise<(Map<string, number> | null)[]> {
    const em = this.store.read;
    const known = new Set(
      (await em.find(AsRunDayEntity, { stationId, date: { $in: [...dates] } })).map(({ date }) => date),
    );
    const rows = await airedMessages(em, stationId, dates);
    return dates.map((date) =>
      known.has(date) ? counted(rows.filter((row) => row.date === date).map(({ artist }) => nameKey(artist))) : null,
    );
  }
}

function promisesOf(
  { id, promises }: SponsorRecord,
  days: readonly Pick<PromisesOfDay, 'kept'>[],
): SponsorRow['promises'] {
  return promises.map((promise, n) => {
    const ofDays = days.map(({ kept }) => kept.find((one) => one.sponsorId === id && one.index === n));
    return {
      ...promise,
      asked: ofDays.map((one) => one?.count ?? 0),
      placed: ofDays.map((one) => one?.placed ?? 0),
    };
  });
}

function countPlaced(log: DailyLog | null, sponsorOf: ReadonlyMap<string, string>): Map<string, number> | null {
  return log && counted(allEntries(log).flatMap((entry) => sponsorOf.get(itemOf(entry) ?? '') ?? []));
}

function counted(keys: readonly string[]): Map<string, number> {
  const counts = new Map<string, number>();
  for (const key of keys) counts.set(key, (counts.get(key) ?? 0) + 1);
  return counts;
}
