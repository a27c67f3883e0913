import type { LogItem } from '@fuller/contracts';
import {
  elementAt,
  formatLocalDateTime,
  itemOf,
  lookUp,
  StationModel,
  type LogEntry,
  type LogHour,
  type LogTiming,
  type Spot,
} from '@fuller/core';
import { pdfOf } from '../print/pdf.js';
import { logDocument, type LogLayout, type PrintedEntry, type PrintedHour, type PrintedLog } from '../print/log-pdf.js';
import { FullerError } from '../errors.js';
import { ruleSentences } from '../rules/rule-names.js';
import type { CatalogueService } from '../stations/catalogue-service.js';
import type { Store } from '../store/store.js';
import type { LogService } from './log-service.js';
import type { StationReader } from './station-reader.js';
import { strainInWords } from './strain-words.js';
import { docOf } from './stored-logs.js';

/** `Monday 23 November 2026` */
const LONG_DAY = new Intl.DateTimeFormat('en-GB', { dateStyle: 'full', timeZone: 'UTC' });

/** What of a log is printed. */
export interface PrintChoice {
  readonly layout: LogLayout;
  /** Places of hours in the day; all of them where none is named. */
  readonly hours: readonly number[];
  readonly marks: boolean;
  readonly notes: boolean;
  readonly commercials: boolean;
}

/** Puts logs on paper. */
export class PrintService {
  constructor(
    private readonly store: Store,
    private readonly logs: LogService,
    private readonly catalogue: CatalogueService,
    private readonly reader: StationReader,
    private readonly now: () => number,
  ) {}

  async pdf(stationId: string, date: string, choice: PrintChoice): Promise<Buffer> {
    return pdfOf(logDocument(await this.printed(stationId, date, choice), choice.layout));
  }

  /** What stands on the paper. */
  async printed(stationId: string, date: string, choice: PrintChoice): Promise<PrintedLog> {
    const { name, timeZone } = await this.catalogue.station(stationId);
    const { categories, shows } = await this.catalogue.catalogue(stationId);
    const log = docOf(await this.logs.mustFind(stationId, date));
    const missing = choice.hours.find((hour) => !log.hours.some(({ index }) => index === hour));
    if (missing !== undefined) throw new FullerError('INVALID', `The day has no hour ${missing}.`, 'hours');
    const { strains } = choice.marks ? await this.logs.judge(stationId, log) : { strains: [] };
    const sentences = choice.marks ? await ruleSentences(this.store.read, stationId) : {};
    const model = new StationModel(await this.reader.data(stationId, date, { log }));
    const ids = log.hours.flatMap(({ entries }) => entries.flatMap((entry) => itemOf(entry) ?? []));
    const items = new Map((await this.reader.shown.withIds(ids)).map((item) => [item.id, item]));
    const timing = model.timing(log);
    const codes = new Map(categories.map(({ id, code }) => [id, code]));
    const marksOf = (entryId: string): string[] =>
      strains
        .filter((strain) => strain.entryId === entryId)
        .map((strain) => strainInWords(strain, model.data.rules, sentences));
    return {
      station: name,
      day: LONG_DAY.format(Date.parse(`${date}T00:00:00Z`)).replace(',', ''),
      timeZone,
      printed: formatLocalDateTime(this.now(), timeZone).slice(0, 16).replace('T', ' '),
      hours: log.hours
        .filter(({ index }) => choice.hours.length === 0 || choice.hours.includes(index))
        .map((hour): PrintedHour => ({
          localHour: hour.localHour,
          clockName: hour.clockName,
          showName: shows.find(({ id }) => id === hour.showId)?.name ?? '',
          overMs: elementAt(timing.hours, log.hours.indexOf(hour)).overMs,
          entries: printedEntries(hour, timing, { items, codes, marksOf, choice }),
        })),
    };
  }
}

function printedEntries(
  { entries }: LogHour,
  timing: LogTiming,
  of: {
    readonly items: ReadonlyMap<string, LogItem>;
    readonly codes: ReadonlyMap<string, string>;
    readonly marksOf: (entryId: string) => string[];
    readonly choice: PrintChoice;
  },
): PrintedEntry[] {
  return entries.flatMap((entry) => {
    const isPrinted =
      !entry.out &&
      !entry.noPrint &&
      (entry.kind !== 'note' || of.choice.notes) &&
      (entry.kind !== 'break' || of.choice.commercials);
    if (!isPrinted) return [];
    const { startMs, durationMs } = lookUp(timing.entries, entry.id);
    const itemId = itemOf(entry);
    const item = itemId === null ? undefined : of.items.get(itemId);
    return [
      {
        kind: entry.kind,
        startMs,
        durationMs,
        code: entry.kind === 'pick' ? (of.codes.get(entry.categoryId) ?? '') : entry.kind === 'break' ? 'BR' : '',
        title: titleOf(entry, item),
        artist: item?.artist ?? '',
        album: item?.album ?? '',
        introMs: item?.introMs ?? null,
        note: of.choice.notes ? entry.note : '',
        marks: of.marksOf(entry.id),
      },
      ...(entry.kind === 'break' ? printedSpots(entry.spots ?? [], startMs) : []),
    ];
  });
}

/** The spots of a break one after the other, each with its sponsor and cart. */
function printedSpots(spots: readonly Spot[], fromMs: number): PrintedEntry[] {
  let startMs = fromMs;
  return spots.map(({ sponsor, title, cart, lengthMs }) => {
    const row = {
      kind: 'break' as const,
      startMs,
      durationMs: lengthMs,
      code: '',
      title: sponsor || cart,
      artist: title,
    };
    startMs += lengthMs;
    return { ...row, album: cart, introMs: null, note: '', marks: [] };
  });
}

function titleOf(entry: LogEntry, item: LogItem | undefined): string {
  if (entry.kind === 'note') return entry.text;
  if (entry.kind === 'break') return 'Commercial break';
  if (item) return item.title;
  return entry.itemId === null ? 'Open slot' : 'Deleted item';
}
