import type { AirplayProof, ItemFit, ItemPlays } from '@fuller/contracts';
import {
  elementAt,
  addDays,
  dayFit,
  emptyDay,
  formatAirTime,
  formatDuration,
  hoursOfDay,
  localTimeOf,
  StationModel,
  heldAt,
  weekdayOf,
  writeCsv,
} from '@fuller/core';
import { ItemEntity, StationEntity, type StationRecord } from '../db/entities/index.js';
import { placementsOfItem } from '../db/queries/items.js';
import { playsBetween, startsOfItem } from '../db/queries/plays.js';
import { FullerError, notFound } from '../errors.js';
import type { LogService } from '../logs/log-service.js';
import { docOf } from '../logs/stored-logs.js';
import { tablePdf } from '../print/table-pdf.js';
import type { Store } from '../store/store.js';

const WEEKS = 8;
const SHOWN_PLAYS = 12;
/** The longest stretch a proof is made for; a year and a day. */
const MOST_PROOF_DAYS = 367;
const DAY_MS = 86_400_000;

/** When items played, where they could, and the proof that they did. */
export class PlaysService {
  constructor(
    private readonly store: Store,
    private readonly logs: LogService,
    private readonly now: () => number,
  ) {}

  /** When an item played and will, and what holds it back at this moment. */
  async plays(stationId: string, itemId: string): Promise<ItemPlays> {
    const { station, categoryId } = await this.find(stationId, itemId);
    const now = this.now();
    const em = this.store.read;
    const starts = await startsOfItem(em, stationId, itemId, now - WEEKS * 7 * DAY_MS);
    const past = starts.filter((startMs) => startMs <= now);
    const coming = starts.filter((startMs) => startMs > now);
    const cells = Array.from({ length: 168 }, () => 0);
    for (const startMs of past) {
      const { date, hour } = localTimeOf(startMs, station.timeZone);
      cells[weekdayOf(date) * 24 + hour]!++;
    }
    const model = new StationModel(
      await this.logs.stationData(stationId, localTimeOf(now, station.timeZone).date, [itemId]),
    );
    const recent = await playsBetween(em, stationId, now - 29 * DAY_MS, now);
    const held = heldAt(model, itemId, categoryId, now, recent);
    return {
      weeks: WEEKS,
      cells,
      past: past.slice(-SHOWN_PLAYS).reverse(),
      coming: coming.slice(0, SHOWN_PLAYS),
      held: held.map(({ otherId, ...rest }) => ({ ...rest, other: nameOf(model, otherId) })),
    };
  }

  /** Hour by hour whether an item could play on a date, against its log or, without one, its empty clocks. */
  async fit(stationId: string, itemId: string, date: string): Promise<ItemFit> {
    const { categoryId } = await this.find(stationId, itemId);
    const data = await this.logs.stationData(stationId, date, [itemId]);
    const model = new StationModel(data);
    const row = await this.logs.find(stationId, date);
    const log = row ? docOf(row) : emptyDay(model, { date, previous: null });
    return {
      date,
      hasLog: row !== null,
      hours: dayFit(model, log, itemId, categoryId).map(({ clashes, ...hour }) => ({
        ...hour,
        clashes: clashes.map(({ otherId, ...clash }) => ({ ...clash, other: nameOf(model, otherId) })),
      })),
    };
  }

  /** Every play of an item that has aired between two station-local dates, both included. */
  async proof(stationId: string, itemId: string, from: string, to: string): Promise<AirplayProof> {
    const { station } = await this.find(stationId, itemId);
    if (to < from) throw new FullerError('INVALID', `${to} is before ${from}.`, 'to');
    const until = elementAt(hoursOfDay(addDays(to, 1), station.timeZone), 0).startMs;
    const begin = elementAt(hoursOfDay(from, station.timeZone), 0).startMs;
    if (until - begin > MOST_PROOF_DAYS * DAY_MS)
      throw new FullerError('INVALID', 'A proof covers a year at most.', 'to');
    const aired = Math.min(until, this.now() + 1);
    const starts = await startsOfItem(this.store.read, stationId, itemId, begin, aired);
    const item = await this.store.read.findOneOrFail(ItemEntity, { id: itemId });
    return {
      station: station.name,
      from,
      to,
      title: item.title,
      artist: item.artist,
      album: item.album,
      isrc: item.isrc ?? null,
      label: item.label ?? null,
      durationMs: item.durationMs,
      plays: starts.map((startMs) => ({
        date: localTimeOf(startMs, station.timeZone).date,
        time: formatAirTime(startMs, station.timeZone),
      })),
    };
  }

  async proofCsv(stationId: string, itemId: string, from: string, to: string): Promise<string> {
    const proof = await this.proof(stationId, itemId, from, to);
    return writeCsv(
      ['station', 'date', 'time', 'title', 'artist', 'album', 'isrc', 'label', 'length'],
      proof.plays.map(({ date, time }) => [
        proof.station,
        date,
        time,
        proof.title,
        proof.artist,
        proof.album,
        proof.isrc,
        proof.label,
        formatDuration(proof.durationMs),
      ]),
    );
  }

  async proofPdf(stationId: string, itemId: string, from: string, to: string): Promise<Buffer> {
    const proof = await this.proof(stationId, itemId, from, to);
    const facts = [
      ['Station', proof.station],
      ['Title', proof.title],
      ['Artist', proof.artist],
      ['Album', proof.album],
      ['ISRC', proof.isrc ?? ''],
      ['Label', proof.label ?? ''],
      ['Length', formatDuration(proof.durationMs)],
      ['From', from],
      ['To', to],
      ['Plays', String(proof.plays.length)],
      ['Time on air', formatDuration(proof.plays.length * proof.durationMs)],
    ] as const;
    return tablePdf({
      title: 'Airplay proof',
      facts: facts.filter(([, value]) => value !== ''),
      columns: ['No.', 'Date', 'Day', 'Time'],
      rows: proof.plays.map(({ date, time }, index) => [
        String(index + 1),
        date,
        elementAt(DAY_NAMES, weekdayOf(date)),
        time,
      ]),
      empty: 'Not one play between these dates.',
    });
  }

  private async find(
    stationId: string,
    itemId: string,
  ): Promise<{ station: StationRecord; categoryId: string | null }> {
    const station = await this.store.read.findOne(StationEntity, { id: stationId });
    if (!station) throw notFound('station', stationId);
    if ((await this.store.read.count(ItemEntity, { id: itemId })) === 0) throw notFound('item', itemId);
    const [placement] = await placementsOfItem(this.store.read, stationId, itemId);
    return { station, categoryId: placement?.categoryId ?? null };
  }
}

const DAY_NAMES = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

function nameOf(model: StationModel, itemId: string): { id: string; title: string; artist: string } {
  const item = model.known.get(itemId);
  return { id: itemId, title: item?.title ?? 'something gone', artist: item?.artist ?? '' };
}
