import type { Theme } from '../themes/theme.js';
import type { TurnOrder } from '../rotation/category.js';
import type { ListPlace } from '../set-lists/set-list.js';
import type { LineFlags } from './line-flags.js';

/** One row of a clock. */
export type ClockLine =
  | PickLine
  | ItemLine
  | BreakLine
  | MomentLine
  | FillLine
  | SetListLine
  | TeaseLine
  | SweeperLine
  | NextShowLine
  | NoteLine;

interface LineBase extends LineFlags {
  readonly id: string;
  /** For whoever edits the clock; never leaves it. */
  readonly comment: string;
  /** The row of a set list it stands for, where the plan of a day made it of one. */
  readonly listPlace?: ListPlace;
}

/** A slot filled from a category, or from a pool, when a log is generated. */
export interface PickLine extends LineBase {
  readonly kind: 'pick';
  /** A category's id, or a pool's. */
  readonly categoryId: string;
  /** A search that narrows what the line draws from, in the notation of filters. */
  readonly filter?: string;
  /** In place of the category's own turn order. */
  readonly turnOrder?: TurnOrder;
  /** No rule looks at what plays here. */
  readonly rules?: 'off';
  /** Left out when the hour is long. */
  readonly spare?: true;
  /** Shares a value with the other lines of its group, chosen when a log is generated. */
  readonly theme?: Theme;
  /** Asked when a log is generated; the answer is one more filter. */
  readonly ask?: string;
  /** Goes into the log, for whoever is on the air. */
  readonly note?: string;
}

/** One particular item, every time. */
export interface ItemLine extends LineBase {
  readonly kind: 'item';
  readonly itemId: string;
  readonly spare?: true;
}

/** The place where spots play. */
export interface BreakLine extends LineBase {
  readonly kind: 'break';
  /** Where traffic books it, milliseconds into the clock. */
  readonly bookedAtMs: number;
  readonly durationMs: number;
}

/** A timed event: at this time of the clock, what is named here plays. */
export interface MomentLine extends LineBase {
  readonly kind: 'moment';
  /** Milliseconds into the clock. */
  readonly atMs: number;
  /** Hard: begins at that second, cutting what plays. Soft: begins when the running item ends, and not before. */
  readonly hard: boolean;
  /** One of the two is named, the other is null. */
  readonly itemId: string | null;
  readonly categoryId: string | null;
  readonly filter?: string;
}

/** Audio chosen to reach the next mark: a moment, the end of an exact show, the end of the hour. */
export interface FillLine extends LineBase {
  readonly kind: 'fill';
  readonly categoryId: string;
  readonly filter?: string;
}

/** The announcement of the show that follows on that day; nothing where none follows or it has none. */
export interface NextShowLine extends LineBase {
  readonly kind: 'next show';
}

/** Rows of a set list, one after the other. */
export interface SetListLine extends LineBase {
  readonly kind: 'set list';
  readonly setListId: string;
  /** All of its rows, or so many. */
  readonly take: 'all' | number;
  /** Where it stopped the last time, or at its top. */
  readonly from: 'next' | 'top';
}

/** What a tease announces. */
export type TeaseTarget =
  /** The next pick of a category or pool. */
  | { readonly to: 'pick'; readonly categoryId: string }
  /** What another line of the clock plays. */
  | { readonly to: 'line'; readonly lineId: string }
  /** The first song or programme that begins at this time of the clock or later, milliseconds. */
  | { readonly to: 'time'; readonly atMs: number }
  /** The show that follows on the day. */
  | { readonly to: 'next show' };

/** A short announcement of what comes later in the hour; its audio follows from what that is. */
export interface TeaseLine extends LineBase {
  readonly kind: 'tease';
  readonly target: TeaseTarget;
}

/** A sweeper that plays over the intro of the song after it, where the intro is long enough; takes no time. */
export interface SweeperLine extends LineBase {
  readonly kind: 'sweeper';
  readonly categoryId: string;
  readonly filter?: string;
}

/** A remark for whoever reads the log; takes no time. */
export interface NoteLine extends LineBase {
  readonly kind: 'note';
  readonly text: string;
}

/** The recipe of an hour, or of another length. */
export interface Clock {
  readonly id: string;
  readonly name: string;
  readonly colour: string;
  /** Milliseconds; a multiple of five minutes. */
  readonly lengthMs: number;
  readonly lines: readonly ClockLine[];
}

/** An hour, milliseconds. */
export const HOUR_MS = 3_600_000;
/** Lengths of clocks and places in the week are multiples of this, milliseconds. */
export const GRAIN_MS = 300_000;
/** The longest clock, milliseconds. */
export const LONGEST_CLOCK_MS = 24 * HOUR_MS;

/** What a line draws from: a category or pool, and what narrows it. */
export interface Draw {
  readonly categoryId: string;
  readonly filter: string;
}

/** What a line draws from, null when it draws from nothing. */
export function drawOf(line: ClockLine): Draw | null {
  if (line.kind !== 'pick' && line.kind !== 'moment' && line.kind !== 'fill' && line.kind !== 'sweeper') return null;
  return line.categoryId === null ? null : { categoryId: line.categoryId, filter: line.filter ?? '' };
}

/** The category or pool a line names: what it draws from, or what a tease waits for. Null when it names none. */
export function sourceOf(line: ClockLine): string | null {
  if (line.kind === 'tease') return line.target.to === 'pick' ? line.target.categoryId : null;
  return drawOf(line)?.categoryId ?? null;
}

/** The item a line names, null when it names none. */
export function itemOfLine(line: ClockLine): string | null {
  return line.kind === 'item' || line.kind === 'moment' ? line.itemId : null;
}

/** The same line with another category or pool; lines that name none stay as they are. */
export function withSource(line: ClockLine, categoryId: string): ClockLine {
  if (line.kind === 'tease') return sourceOf(line) === null ? line : { ...line, target: { to: 'pick', categoryId } };
  return drawOf(line) ? ({ ...line, categoryId } as ClockLine) : line;
}
