import type { TrafficOutcome } from '@fuller/contracts';
import {
  breakLength,
  findEntry,
  formatAirTime,
  landAfterBooking,
  matchSpots,
  bookedBreaks,
  bookSpots,
  changedSpots,
  proposeLayout,
  readTextLog,
  spotMarks,
  StationModel,
  type BookedBreak,
  type DailyLog,
  type SpotMark,
  type TextLayout,
  type TextLogRead,
} from '@fuller/core';
import type { StationActor } from '../actor.js';
import { FullerError } from '../errors.js';
import { afterEdit } from '../logs/log-words.js';
import type { LogService } from '../logs/log-service.js';
import type { LogWriter } from '../logs/log-writer.js';
import type { StationReader } from '../logs/station-reader.js';
import { docOf, logRevision } from '../logs/stored-logs.js';
import { staleRevision } from '../store/change-set.js';
import type { Store, Written } from '../store/store.js';
import type { DailyLogRecord } from '../db/entities/index.js';

/** A traffic log to be taken. */
interface Asked {
  readonly text: string;
  readonly layout: TextLayout | null;
  readonly toleranceMs: number;
  readonly dryRun: boolean;
}

/** Takes traffic logs: spots fall into the breaks of a day, and nothing of the file is lost. */
export class TrafficService {
  constructor(
    private readonly store: Store,
    private readonly reader: StationReader,
    private readonly logs: LogService,
    private readonly logWriter: LogWriter,
  ) {}

  /** Books the spots of a file in the breaks of a day's log, in place of what was booked before; breaks that have aired stay. */
  async take(actor: StationActor, date: string, asked: Asked): Promise<TrafficOutcome> {
    const { stationId } = actor;
    const row = await this.logs.mustFind(stationId, date);
    const log = docOf(row);
    const layout = asked.layout ?? proposeLayout(asked.text, 'Proposed');
    if (!layout)
      throw new FullerError(
        'INVALID',
        'No column of the file holds times and none lengths; describe it by a layout.',
        'text',
      );
    const read = readFor(date, asked.text, layout);
    const model = new StationModel(await this.reader.data(stationId, date, { log }));
    const breaks = bookedBreaks(log, model.timing(log));
    const matched = matchSpots(log, model.timing(log), read.spots, asked.toleranceMs);
    const aired = await this.logs.airedOf(stationId, log);
    const { edits, tray } = bookSpots(log, breaks, matched, aired);
    const after = edits.length === 0 ? log : landAfterBooking(model, afterEdit(log, { type: 'batch', edits }), aired);
    const label = `Import traffic for ${date}`;
    const written = after === log || asked.dryRun ? null : await this.write(actor, { label, row, after });
    return {
      activityId: written?.activityId ?? null,
      label,
      lines: read.spots.length + read.errors.length + read.passed.length,
      placed: read.spots.length - tray.length,
      passed: read.passed.length,
      tray: tray.map(({ spot: { line, cart, sponsor }, why }) => ({ line, cart, sponsor, why })),
      errors: read.errors.map(({ line, why, text }) => ({ line, why, text })),
      breaks: breaks.map((one) => shownBreak(one, after)),
      ...changedSpots(log, after),
      layout,
    };
  }

  private async write(
    { stationId, clientId }: StationActor,
    { label, row, after }: { readonly label: string; readonly row: DailyLogRecord; readonly after: DailyLog },
  ): Promise<Written<void>> {
    const judged = await this.logs.judge(stationId, after);
    return this.store.write({ clientId, stationId, label }, async (changes) => {
      if ((await logRevision(changes.em, stationId, after.date)) !== row.revision) throw staleRevision('log');
      await this.logWriter.save(changes, stationId, after, judged);
    });
  }
}

/** The file as it reads; throws INVALID where it holds no spot or is for another date. */
function readFor(date: string, text: string, layout: TextLayout): TextLogRead {
  const read = readTextLog(text, layout);
  if (read.date !== null && read.date !== date)
    throw new FullerError('INVALID', `The file is for ${read.date}, not for ${date}.`, 'text');
  const [first] = read.errors;
  if (read.spots.length === 0)
    throw new FullerError(
      'INVALID',
      `No line of the file is a spot by this layout.${first ? ` Line ${first.line}: ${first.why}` : ''}`,
      'text',
    );
  return read;
}

function shownBreak({ entryId, bookedMs, plannedMs }: BookedBreak, log: DailyLog): TrafficOutcome['breaks'][number] {
  const entry = findEntry(log, entryId);
  const spots = entry?.kind === 'break' ? (entry.spots ?? []) : [];
  return {
    entryId,
    start: formatAirTime(bookedMs, log.timeZone),
    plannedMs,
    bookedMs: breakLength({ spots, durationMs: 0 }),
    spots: spots.length,
    marks: spotMarks(spots).map(markWords),
  };
}

function markWords(found: SpotMark): string {
  if (found.mark === 'rivals') return `Rivals in one break (${found.product}): ${found.sponsors.join(', ')}`;
  return `${found.sponsor} back to back`;
}
