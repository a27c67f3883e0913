import type { SponsorProof } from '@fuller/contracts';
import { addDays, foldText, formatAirTime, formatDuration, itemOf, writeCsv, type DailyLog } from '@fuller/core';
import { airedSpots } from '../db/queries/as-run.js';
import { airedMessages, messagesOfStation } from '../db/queries/sponsors.js';
import { AsRunDayEntity, StationEntity, type StationRecord } from '../db/entities/index.js';
import { FullerError, notFound } from '../errors.js';
import { docOf, readLog } from '../logs/stored-logs.js';
import { tablePdf } from '../print/table-pdf.js';
import type { Store } from '../store/store.js';
import { reconciledDay } from './as-run-reader.js';

/** The longest stretch a proof is made for. */
const MOST_DAYS = 93;

interface Asked {
  readonly sponsor: string;
  readonly from: string;
  readonly to: string;
}

/** What a sponsor pays for, as logs and players call it. */
const SPONSORED: ReadonlySet<string> = new Set(['spot', 'sponsor message']);

/** Proves when the spots and messages of sponsors aired, from the as-run. */
export class SponsorProofService {
  constructor(private readonly store: Store) {}

  /** The sponsors whose spots or messages were planned or aired between two dates, by name. */
  async sponsors(stationId: string, from: string, to: string): Promise<string[]> {
    const names = new Map<string, string>();
    const add = (name: string): void =>
      void (name.trim() && !names.has(foldText(name)) && names.set(foldText(name), name.trim()));
    const em = this.store.read;
    for (const { sponsor } of await airedSpots(em, stationId, from, to)) add(sponsor);
    for (const { artist } of await airedMessages(em, stationId, datesOf(from, to))) add(artist);
    const messages = await this.messages(stationId);
    for (const date of datesOf(from, to))
      for (const sponsor of sponsorsIn(await this.logOf(stationId, date), messages)) add(sponsor);
    return [...names.values()].sort((a, b) => a.localeCompare(b));
  }

  async proof(stationId: string, { sponsor, from, to }: Asked): Promise<SponsorProof> {
    const { name, timeZone } = await this.station(stationId);
    const isOwn = (one: string): boolean => foldText(one) === foldText(sponsor);
    const messages = await this.messages(stationId);
    const rows: SponsorProof['rows'] = [];
    const unknownDates: string[] = [];
    for (const date of datesOf(from, to)) {
      const log = await this.logOf(stationId, date);
      const known = await this.store.read.count(AsRunDayEntity, { stationId, date });
      if (known === 0) {
        if (sponsorsIn(log, messages).some(isOwn)) unknownDates.push(date);
        continue;
      }
      const found = await reconciledDay(this.store.read, stationId, date, log);
      const time = (ms: number): string => formatAirTime(ms, timeZone);
      for (const { is, planned, aired } of found?.rows ?? []) {
        const spot = planned && SPONSORED.has(planned.kind) ? planned : null;
        const played = aired && SPONSORED.has(aired.kind) ? aired : null;
        if (!(spot && isOwn(spot.artist)) && !(played && isOwn(played.sponsor || played.artist))) continue;
        rows.push({
          date,
          booked: spot && time(spot.startMs),
          aired: aired ? time(aired.startMs) : is === 'unknown' ? 'not known' : null,
          cart: spot?.cart ?? played?.cart ?? '',
          title: spot?.title ?? played?.title ?? '',
          durationMs: aired ? aired.endMs - aired.startMs : 0,
        });
      }
    }
    return { station: name, from, to, sponsor, rows, unknownDates };
  }

  async csv(stationId: string, asked: Asked): Promise<string> {
    const { station, sponsor, rows } = await this.proof(stationId, asked);
    return writeCsv(
      ['station', 'sponsor', 'date', 'booked', 'aired', 'cart', 'title', 'length'],
      rows.map(({ date, booked, aired, cart, title, durationMs }) => [
        station,
        sponsor,
        date,
        booked ?? '',
        aired ?? 'not aired',
        cart,
        title,
        formatDuration(durationMs),
      ]),
    );
  }

  async pdf(stationId: string, asked: Asked): Promise<Buffer> {
    const { station, sponsor, rows, unknownDates, from, to } = await this.proof(stationId, asked);
    const aired = rows.filter(({ durationMs }) => durationMs > 0);
    const total = aired.reduce((sum, { durationMs }) => sum + durationMs, 0);
    return tablePdf({
      title: 'Proof of airing',
      facts: [
        ['Station', station],
        ['Sponsor', sponsor],
        ['From', from],
        ['To', to],
        ['Aired', String(aired.length)],
        ['Time on air', formatDuration(total)],
        ...(unknownDates.length ? [['No as-run for', unknownDates.join(', ')] as const] : []),
      ],
      columns: ['Date', 'Booked', 'Aired', 'Cart', 'Title', 'Length'],
      rows: rows.map(({ date, booked, aired: at, cart, title, durationMs }) => [
        date,
        booked ?? '',
        at ?? 'not aired',
        cart,
        title,
        durationMs > 0 ? formatDuration(durationMs) : '',
      ]),
      empty: 'Nothing between these dates.',
    });
  }

  /** The sponsor of each sponsor message, by item id. */
  private async messages(stationId: string): Promise<ReadonlyMap<string, string>> {
    return new Map((await messagesOfStation(this.store.read, stationId)).map(({ id, artist }) => [id, artist]));
  }

  private async logOf(stationId: string, date: string): Promise<DailyLog | null> {
    const row = await readLog(this.store.read, stationId, date);
    return row && docOf(row);
  }

  private async station(stationId: string): Promise<StationRecord> {
    const station = await this.store.read.findOne(StationEntity, { id: stationId });
    if (!station) throw notFound('station', stationId);
    return station;
  }
}

/** Throws INVALID where the second is before the first, or too far from it. */
function datesOf(from: string, to: string): string[] {
  if (to < from) throw new FullerError('INVALID', `${to} is before ${from}.`, 'to');
  const dates: string[] = [];
  for (let date = from; date <= to; date = addDays(date, 1)) {
    if (dates.length >= MOST_DAYS) throw new FullerError('INVALID', `A proof covers ${MOST_DAYS} days at most.`, 'to');
    dates.push(date);
  }
  return dates;
}

/** The sponsors of the spots and messages of a log. */
function sponsorsIn(log: DailyLog | null, messages: ReadonlyMap<string, string>): string[] {
  return (log?.hours ?? []).flatMap(({ entries }) =>
    entries.flatMap((entry) =>
      entry.kind === 'break'
        ? (entry.spots ?? []).map(({ sponsor }) => sponsor)
        : (messages.get(itemOf(entry) ?? '') ?? []),
    ),
  );
}
