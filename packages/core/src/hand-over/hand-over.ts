import { fileNameOf, fillPattern, type FileNameParts } from '../formats/file-name-pattern.js';
import type { TextLayout } from '../formats/layouts/layout.js';
import type { Cue } from '../formats/playlists/cue.js';
import type { PlayerRow } from '../formats/playlists/player-row.js';
import { rewritePath, type PathPrefix, type Slashes } from '../formats/playlists/rewrite-path.js';
import { airTimes, type LogTiming, type Silence } from '../log/air-times.js';
import { entryOfDate } from '../log/entry-of-date.js';
import { isBound, itemOf, type DailyLog, type LogEntry, type LogHour, type Spot } from '../log/daily-log.js';
import { elementAt, lookUp } from '../values/look-up.js';
import type { OutputFormat } from './output-format.js';
import { layoutFault, writeFile } from './write-output.js';

/** An item as a playlist names it. */
export interface HandOverItem {
  readonly kind: string;
  readonly title: string;
  readonly artist: string;
  readonly album: string;
  readonly cart: string | null;
  readonly durationMs: number;
  /** How long before its end the next one may begin, milliseconds. */
  readonly segueMs?: number | null;
  /** Until its vocal, milliseconds. */
  readonly introMs?: number | null;
  readonly file: string | null;
}

/** An entry or a spot that does not go into the files, and why. */
export interface HeldBackEntry {
  readonly entryId: string;
  readonly hourIndex: number;
  readonly title: string;
  readonly why:
    'open slot' | 'no file' | 'file not there' | 'break' | 'item deleted' | 'left out' | 'kept out' | 'no cues';
}

/** A file for the player. */
export interface HandOverFile {
  readonly name: string;
  readonly text: string;
  readonly rows: readonly PlayerRow[];
  /** Values that were longer than their column. */
  readonly cut: number;
}

/** The files of a day with what was left out of them, or why none can be made. */
export type HandOver =
  | {
      readonly ok: true;
      readonly files: readonly HandOverFile[];
      readonly heldBack: readonly HeldBackEntry[];
      /** Where a player that plays the files has nothing to play for more than two seconds. */
      readonly silences: readonly Silence[];
    }
  | { readonly ok: false; readonly field: 'pattern' | 'layout'; readonly why: string };

/** How the files of an output are made. */
export interface HandOverSettings {
  readonly pattern: string;
  readonly hourly: boolean;
  readonly format: OutputFormat;
  /** How text is written; null writes the plain layout. */
  readonly layout: TextLayout | null;
  readonly prefixes: readonly PathPrefix[];
  readonly slashes: Slashes;
  /** Whether what has no audio is left out, or named by its cart. */
  readonly withoutAudio: 'hold back' | 'keep with cart';
  /** Kinds of item that stay out of the files; `spot` is a commercial in a break. */
  readonly leaveOut: readonly string[];
  /** Whether rows tell starts, fades and waits to players that read them. */
  readonly cues?: boolean;
}

/** What files are made from besides their log. */
export interface HandOverSources {
  readonly station: string;
  readonly itemOf: (itemId: string) => HandOverItem | undefined;
  /** The file of a spot, by its cart; null where it has none. */
  readonly spotFile: (cart: string) => string | null;
  /** The path to write for an item's file; null when the file is not there. */
  readonly pathOf: (file: string) => string | null;
}

/**
 * The player's files for a log: one for the day, or one for each hour. Entries without audio are left out and listed, or
 * named by their cart. Refused when the pattern gives no usable or no distinct names.
 */
export function handOver(log: DailyLog, settings: HandOverSettings, sources: HandOverSources): HandOver {
  const fault = settings.layout && layoutFault(settings.layout);
  if (fault) return { ok: false, field: 'layout', why: fault };
  const timing = handOverTiming(log, sources);
  const heldBack: HeldBackEntry[] = [];
  const groups = settings.hourly ? log.hours.map((hour) => [hour]) : [log.hours];
  const files: HandOverFile[] = [];
  const about = { station: sources.station, date: log.date, timeZone: log.timeZone };
  for (const hours of groups) {
    const parts = partsOf(log, hours, settings, sources);
    const name = fileNameOf(settings.pattern, parts);
    if (!name.ok) return { ok: false, field: 'pattern', why: name.why };
    if (files.some((file) => file.name.toLowerCase() === name.name.toLowerCase()))
      return { ok: false, field: 'pattern', why: `The pattern gives “${name.name}” more than once.` };
    const rows = hours.flatMap((hour) => rowsOf(hour, { date: log.date, timing, settings, sources, heldBack }));
    const written = writeFile(rows, settings.format, settings.layout, about, (line) => fillPattern(line, parts));
    files.push({ name: name.name, rows, ...written });
  }
  return { ok: true, files, heldBack, silences: silencesOf(log, heldBack, sources) };
}

/** When everything airs that is handed over; what is not takes no time. */
export function handOverTiming(log: DailyLog, { itemOf }: Pick<HandOverSources, 'itemOf'>): LogTiming {
  const lengthOf = (itemId: string): number => {
    const item = itemOf(itemId);
    return item ? item.durationMs - (item.segueMs ?? 0) : 0;
  };
  return airTimes(log, { lengthOf, averageOfSlot: () => 0 });
}

/** A silence this long is planned, as the one after a show that hands over to another source. */
const LONG_SILENCE_MS = 60_000;

/** Why something stays out of the files though it may well sound. */
const ELSEWHERE: ReadonlySet<HeldBackEntry['why']> = new Set(['break', 'left out', 'kept out', 'no cues']);

/** What is held back does not sound; breaks that nothing is booked in and what an output leaves out come from elsewhere. */
function silencesOf(log: DailyLog, heldBack: readonly HeldBackEntry[], sources: HandOverSources): readonly Silence[] {
  const silent = new Set(heldBack.filter(({ why }) => !ELSEWHERE.has(why)).map(({ entryId }) => entryId));
  const hours = log.hours.map((hour) => ({
    ...hour,
    entries: hour.entries.map((entry): LogEntry => {
      if (entry.kind === 'break' && entry.spots)
        return { ...entry, spots: entry.spots.filter(({ id }) => !silent.has(id)) };
      return silent.has(entry.id) ? { ...entry, out: true } : entry;
    }),
  }));
  return handOverTiming({ ...log, hours }, sources).silences;
}

function partsOf(
  log: DailyLog,
  hours: readonly LogHour[],
  { hourly }: HandOverSettings,
  { station }: HandOverSources,
): FileNameParts {
  const hour = hourly ? elementAt(hours, 0) : null;
  const hourRepeat = hour ? log.hours.filter((h) => h.index < hour.index && h.localHour === hour.localHour).length : 0;
  return { station, date: log.date, hour: hour?.localHour ?? null, hourRepeat };
}

interface Making {
  readonly date: string;
  readonly timing: LogTiming;
  readonly settings: HandOverSettings;
  readonly sources: HandOverSources;
  readonly heldBack: HeldBackEntry[];
}

/** What is known of a row before its file is looked for. */
type Wanted = Omit<PlayerRow, 'file' | 'cue'>;

function rowsOf(hour: LogHour, making: Making): PlayerRow[] {
  const { timing, sources, heldBack, settings } = making;
  const cues = new Cues(making.date, timing);
  return hour.entries.flatMap((entry): PlayerRow[] => {
    cues.meet(entry);
    if (entry.kind === 'note' || entry.out) return [];
    const isOver = entry.kind === 'sweeper';
    const startMs = lookUp(timing.entries, entry.id).startMs + (isOver ? (entry.intoMs ?? 0) : 0);
    const hold = (title: string, why: HeldBackEntry['why']): [] => {
      heldBack.push({ entryId: entry.id, hourIndex: hour.index, title, why });
      return [];
    };
    if (entry.kind === 'break') {
      if (entry.noFile) return hold('Break', 'kept out');
      if (settings.leaveOut.includes('spot')) return hold('Break', 'left out');
      if (!entry.spots) return hold('Break', 'break');
      const rows = spotRows(entry.spots, startMs, hour, making);
      return rows.map(({ id, row }, n) => {
        const waits = entry.waits && n === rows.length - 1;
        return settings.cues ? { ...row, cue: cues.next(row, { ...entry, id, waits: waits || undefined }) } : row;
      });
    }
    const itemId = itemOf(entry);
    // A tease or a sweeper that nothing fits is no hole in the log.
    if (itemId === null) return isBound(entry) ? [] : hold('Open slot', 'open slot');
    const item = sources.itemOf(itemId);
    if (!item) return hold('Deleted item', 'item deleted');
    const { kind, title, artist, album } = item;
    if (entry.noFile) return hold(title, 'kept out');
    if (settings.leaveOut.includes(kind)) return hold(title, 'left out');
    // Without cues a player would play it before the song, not over it.
    if (isOver && !settings.cues) return hold(title, 'no cues');
    const ownMs = 'lengthMs' in entry ? entry.lengthMs : undefined;
    const durationMs = ownMs ?? item.durationMs;
    const wanted = { startMs, durationMs, kind, artist, title, album, cart: item.cart ?? '', sponsor: '', product: '' };
    const row = placed(wanted, item.file, making);
    if (typeof row === 'string') return hold(title, row);
    const segueMs = ownMs === undefined ? item.segueMs : null;
    return [
      settings.cues ? { ...row, cue: cues.next(row, { ...entry, segueMs, introMs: item.introMs, isOver }) } : row,
    ];
  });
}

/** What the cue of a row is made from: its entry, or a spot of it. */
interface CueOf {
  readonly id: string;
  readonly waits?: true | undefined;
  readonly noFade?: true;
  readonly segueMs?: number | null | undefined;
  readonly introMs?: number | null | undefined;
  /** Plays over the intro of the row after it. */
  readonly isOver?: boolean;
}

/** Gives rows their cues. The mark of what is held back goes to the row after it; a planned silence is a soft mark. */
class Cues {
  private due: Cue['mark'] = null;

  constructor(
    private readonly date: string,
    private readonly timing: LogTiming,
  ) {}

  meet({ id, mark }: LogEntry): void {
    if (mark) this.due = mark.hard ? 'hard' : 'soft';
    else if (this.timing.silences.some((one) => one.beforeEntryId === id && one.durationMs >= LONG_SILENCE_MS))
      this.due = 'soft';
  }

  next({ startMs, kind, cart }: PlayerRow, { id, waits, noFade, segueMs, introMs, isOver }: CueOf): Cue {
    const mark = this.due;
    this.due = null;
    return {
      id: entryOfDate(this.date, id),
      startMs,
      mark,
      segueMs: segueMs ?? 0,
      introMs: introMs ?? 0,
      ...(waits ? { waits } : {}),
      ...(noFade ? { noFade } : {}),
      ...(isOver ? { over: true } : {}),
      kind,
      cart,
    };
  }
}

function spotRows(
  spots: readonly Spot[],
  breakMs: number,
  { index }: LogHour,
  making: Making,
): { readonly id: string; readonly row: PlayerRow }[] {
  let startMs = breakMs;
  return spots.flatMap(({ id, cart, sponsor, title, product, lengthMs }) => {
    const wanted = {
      startMs,
      durationMs: lengthMs,
      kind: 'spot',
      artist: '',
      title,
      album: '',
      cart,
      sponsor,
      product,
    };
    startMs += lengthMs;
    const row = placed(wanted, making.sources.spotFile(cart), making);
    if (typeof row !== 'string') return [{ id, row }];
    const shown = [sponsor, title].filter(Boolean).join(', ') || cart;
    making.heldBack.push({ entryId: id, hourIndex: index, title: shown, why: row });
    return [];
  });
}

/** A row with the path of its file, or the cart in its place; what it lacks where it has neither. */
function placed(
  row: Wanted,
  file: string | null,
  { settings: { prefixes, slashes, withoutAudio }, sources }: Making,
): PlayerRow | 'no file' | 'file not there' {
  const path = file === null ? null : sources.pathOf(file);
  if (path !== null) return { ...row, file: rewritePath(path, prefixes, slashes) };
  if (withoutAudio === 'keep with cart' && row.cart !== '') return { ...row, file: row.cart };
  return file === null ? 'no file' : 'file not there';
}
