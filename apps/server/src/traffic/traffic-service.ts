import { createHash } from 'node:crypto';
import type { MoveSpot, TrafficBreak, TrafficDay, TrafficOutcome, TrayRow } from '@fuller/contracts';
import {
  asPlanned,
  bookedBreaks,
  bookSpots,
  changedSpots,
  landAfterBooking,
  matchSpots,
  moveSpot,
  proposeLayout,
  readTextLog,
  spotOf,
  StationModel,
  wallClockText,
  type DailyLog,
  type LogEdit,
  type Spot,
  type TextLayout,
  type TextLogRead,
} from '@fuller/core';
import type { StationActor } from '../actor.js';
import { TrafficDayEntity, type DailyLogRecord, type TrafficDayRecord } from '../db/entities/index.js';
import { FullerError, notFound } from '../errors.js';
import { afterEdit } from '../logs/log-words.js';
import type { LogService } from '../logs/log-service.js';
import type { LogWriter } from '../logs/log-writer.js';
import type { StationReader } from '../logs/station-reader.js';
import { docOf, logRevision } from '../logs/stored-logs.js';
import { staleRevision } from '../store/change-set.js';
import type { Store, Written } from '../store/store.js';
import { shownBreaks } from './shown-breaks.js';
import type { TrafficSettingsService } from './traffic-settings.js';

/** A traffic log to be taken. */
export interface TrafficFile {
  readonly text: string;
  readonly fileName: string;
  readonly layout: TextLayout | null;
  readonly propose?: boolean;
  readonly toleranceMs: number | null;
  readonly dryRun: boolean;
}

export interface TrafficParts {
  readonly store: Store;
  readonly reader: StationReader;
  readonly logs: LogService;
  readonly logWriter: LogWriter;
  readonly settings: TrafficSettingsService;
  readonly now: () => number;
}

/** What an import or a move leaves. */
interface After {
  readonly row: DailyLogRecord;
  readonly log: DailyLog;
  readonly day: Partial<TrafficDayRecord>;
}

/** Takes traffic logs: spots fall into the breaks of a day, and nothing of the file is lost. */
export class TrafficService {
  constructor(private readonly parts: TrafficParts) {}

  /** What is booked in the breaks of a day. */
  async day(stationId: string, date: string): Promise<Omit<TrafficDay, 'waiting'>> {
    const row = await this.parts.logs.mustFind(stationId, date);
    const log = docOf(row);
    const kept = await this.kept(stationId, date);
    return {
      revision: row.revision,
      breaks: await this.breaksOf(stationId, log),
      hours: log.hours.map(({ index, localHour }) => ({ index, localHour })),
      tray: kept?.tray ?? [],
      errors: kept?.errors ?? [],
      file: kept && kept.fileName !== '' ? { name: kept.fileName, atMs: kept.atMs, lines: kept.lines } : null,
    };
  }

  private kept(stationId: string, date: string): Promise<TrafficDayRecord | null> {
    return this.parts.store.read.findOne(TrafficDayEntity, { stationId, date });
  }

  private async breaksOf(stationId: string, log: DailyLog): Promise<TrafficBreak[]> {
    const model = new StationModel(await this.parts.reader.data(stationId, log.date, { log }));
    return shownBreaks(log, model.timing(asPlanned(log)), await this.parts.logs.airedOf(stationId, log));
  }

  /** How a station reads a text: by the layout that is given, by its own, or by the one the text proposes. */
  private async layoutFor(stationId: string, { text, layout: given, propose }: TrafficFile): Promise<TextLayout> {
    const own = given ?? (propose ? null : await this.parts.settings.layoutOf(stationId));
    const layout = own ?? proposeLayout(text, 'Proposed');
    if (layout) return layout;
    throw new FullerError(
      'INVALID',
      'No column of the file holds times and none lengths; describe it by a layout.',
      'text',
    );
  }

  /** Whether the last traffic log of a day is this text. */
  async isImported(stationId: string, date: string, text: string): Promise<boolean> {
    return (await this.kept(stationId, date))?.hash === hashOf(text);
  }

  /** Books the spots of a file in the breaks of a day's log, in place of what was booked before; breaks that have aired stay. */
  async take(actor: StationActor, date: string, asked: TrafficFile): Promise<TrafficOutcome> {
    const { stationId } = actor;
    const row = await this.parts.logs.mustFind(stationId, date);
    const log = docOf(row);
    const layout = await this.layoutFor(stationId, asked);
    const read = readFor(date, asked.text, layout);
    const model = new StationModel(await this.parts.reader.data(stationId, date, { log }));
    const timing = model.timing(asPlanned(log));
    const toleranceMs = asked.toleranceMs ?? (await this.parts.settings.of(stationId)).toleranceMs;
    const matched = matchSpots(log, timing, read.spots, toleranceMs);
    const aired = await this.parts.logs.airedOf(stationId, log);
    const atMs = this.parts.now();
    const stamp = atMs.toString(36);
    const booking = bookSpots(log, bookedBreaks(log, timing), matched, { aired, stamp });
    const after = this.landed(model, log, booking.edits, aired);
    const tray = booking.tray.map(({ spot, why }): TrayRow => {
      return { ...spotOf(spot, stamp), line: spot.line, start: wallClockText(spot.atMs), why };
    });
    const errors = read.errors.map(({ line, why, text }) => ({ line, why, text }));
    const lines = read.spots.length + read.errors.length + read.passed.length;
    const day = { atMs, fileName: asked.fileName || 'Traffic log', hash: hashOf(asked.text), lines, tray, errors };
    const label = `Import traffic for ${date}`;
    const kept = await this.kept(stationId, date);
    const isSame = after === log && kept !== null && restOf(kept) === restOf(day);
    const written = asked.dryRun || isSame ? null : await this.write(actor, label, { row, log: after, day });
    return {
      activityId: written?.activityId ?? null,
      label,
      lines,
      placed: read.spots.length - tray.length,
      passed: read.passed.length,
      tray,
      errors,
      breaks: shownBreaks(after, model.timing(asPlanned(after)), aired),
      ...changedSpots(log, after),
      layout,
    };
  }

  /** Moves a spot between breaks and the tray. */
  async move(actor: StationActor, date: string, asked: MoveSpot): Promise<Written<void>> {
    const { stationId } = actor;
    const row = await this.parts.logs.mustFind(stationId, date);
    if (row.revision !== asked.revision) throw staleRevision('log');
    const log = docOf(row);
    const aired = await this.parts.logs.airedOf(stationId, log);
    const tray = (await this.kept(stationId, date))?.tray ?? [];
    const moved = moveSpot(log, tray, asked, { aired, trayed });
    if (!moved.ok) throw cannotMove(moved.why, asked);
    const model = new StationModel(await this.parts.reader.data(stationId, date, { log }));
    const after = this.landed(model, log, moved.edits, aired);
    const label = `Move the spot ${[moved.spot.cart, moved.spot.sponsor].filter(Boolean).join(' ')}`;
    return this.write(actor, label, { row, log: after, day: { tray: [...moved.tray] } });
  }

  private landed(model: StationModel, log: DailyLog, edits: readonly LogEdit[], aired: ReadonlySet<string>): DailyLog {
    return edits.length === 0 ? log : landAfterBooking(model, afterEdit(log, { type: 'batch', edits }), aired);
  }

  private async write(
    { stationId, clientId }: StationActor,
    label: string,
    { row, log, day }: After,
  ): Promise<Written<void>> {
    const { date } = row;
    const { store, logs, logWriter } = this.parts;
    const isChanged = JSON.stringify(log.hours) !== JSON.stringify(row.hours);
    const judged = isChanged ? await logs.judge(stationId, log) : null;
    return store.write({ clientId, stationId, label }, async (changes) => {
      if ((await logRevision(changes.em, stationId, date)) !== row.revision) throw staleRevision('log');
      if (judged) await logWriter.save(changes, stationId, log, judged);
      const kept = await changes.em.findOne(TrafficDayEntity, { stationId, date });
      if (kept) return changes.update('trafficDay', kept.id, day);
      const none = { atMs: store.now(), fileName: '', hash: '', lines: 0, tray: [], errors: [] };
      await changes.insert('trafficDay', [{ ...none, ...day, id: `${stationId} ${date}`, stationId, date }]);
    });
  }
}

function trayed(spot: Spot): TrayRow {
  return { ...spot, line: null, start: '', why: 'Taken out of its break by hand.' };
}

function cannotMove(
  why: 'no such spot' | 'no such break' | 'aired',
  { spotId, toEntryId }: Pick<MoveSpot, 'spotId' | 'toEntryId'>,
): FullerError {
  if (why === 'aired') return new FullerError('INVALID', 'Its break has aired.', 'toEntryId');
  return why === 'no such spot' ? notFound('spot', spotId) : notFound('break', toEntryId ?? '');
}

/** The file as it reads; throws INVALID where it holds no spot or is for another date. */
function readFor(date: string, text: string, layout: TextLayout): TextLogRead {
  const read = textLogOf(text, layout);
  if (read.date !== null && read.date !== date)
    throw new FullerError('INVALID', `The file is for ${read.date}, not for ${date}.`, 'text');
  const [first] = read.errors;
  if (read.spots.length === 0)
    throw new FullerError(
      'INVALID',
      `No line of the file is a spot by the layout “${layout.name}”.${first ? ` Line ${first.line}: ${first.why}` : ''}`,
      'text',
    );
  return read;
}

function textLogOf(text: string, layout: TextLayout): TextLogRead {
  try {
    return readTextLog(text, layout);
  } catch (error) {
    if (error instanceof RangeError) throw new FullerError('INVALID', error.message, 'text');
    throw error;
  }
}

/** What a file leaves outside the breaks, whatever the ids of its spots. */
function restOf({ tray, errors }: Pick<TrafficDayRecord, 'tray' | 'errors'>): string {
  return JSON.stringify([tray.map((row) => ({ ...row, id: '' })), errors]);
}

function hashOf(text: string): string {
  return createHash('sha256').update(text).digest('base64url');
}
