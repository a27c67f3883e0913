import type { LogMark } from '../week/mark.js';
import type { LineOrigin } from '../week/framing.js';
import type { Proof } from '../engine/solution.js';
import type { EntryTheme } from '../themes/theme.js';
import type { TurnOrder } from '../rotation/category.js';
import type { ListPlace } from '../set-lists/set-list.js';
import type { LineFlags } from '../clocks/line-flags.js';

/** One row of a log. Lengths are milliseconds. */
export type LogEntry = PickEntry | FixedEntry | BreakEntry | TeaseEntry | SweeperEntry | NoteEntry;

interface EntryBase extends LineFlags {
  /** Unique in its log and the same after a new run of the same clock. */
  readonly id: string;
  /** What a person wrote on the entry, or what its clock says there. */
  readonly note: string;
  readonly noteBy?: 'hand';
  /** Where the entry is not its clock's own. */
  readonly from?: LineOrigin;
  /** An instant the entry is to begin at. */
  readonly mark?: LogMark;
  /** Where a person put it in or moved it; it keeps that place when the day is generated again. */
  readonly placed?: 'hand';
  /** The row of a set list it stands for. */
  readonly listPlace?: ListPlace;
  /** Left out of a long hour, or fill that was not needed: takes no time and no item. */
  readonly out?: true;
}

/** A slot: filled from a category, or open. */
export interface PickEntry extends EntryBase {
  readonly kind: 'pick';
  readonly categoryId: string;
  /** The line's own turn order, in place of the category's. */
  readonly turnOrder?: TurnOrder;
  /** Searches that narrow what the slot may hold. */
  readonly filters?: readonly string[];
  /** What it shares with other slots. */
  readonly theme?: EntryTheme;
  /** No rule looks at the slot. */
  readonly rules?: 'off';
  /** May be left out when the hour is long. */
  readonly spare?: true;
  /** Chosen for its length, to reach the next mark. */
  readonly fill?: true;
  /** Null while the slot is open. */
  readonly itemId: string | null;
  /** Kept whatever is generated. */
  readonly locked: boolean;
  readonly origin: 'engine' | 'hand';
  /** Why the slot is open; null when it is filled or was opened by hand. */
  readonly open: OpenReason | null;
  /** Why generation chose the item; null when it did not. */
  readonly why?: ChosenWhy | null;
  /** UTC instant of the run that chose the item, epoch milliseconds. */
  readonly runMs?: number;
  /** A length of its own in place of the item's, milliseconds. */
  readonly lengthMs?: number;
}

/** An item that the clock names. */
export interface FixedEntry extends EntryBase {
  readonly kind: 'item';
  readonly itemId: string;
  readonly spare?: true;
  /** A length of its own in place of the item's, milliseconds. */
  readonly lengthMs?: number;
}

/** A commercial break. */
export interface BreakEntry extends EntryBase {
  readonly kind: 'break';
  readonly bookedAtMs: number;
  /** As its clock plans it. */
  readonly durationMs: number;
  /** What traffic has booked in it, in order; it takes their time then, none where nothing is booked. */
  readonly spots?: readonly Spot[];
}

/** A commercial in a break. */
export interface Spot {
  /** Unique in its log. */
  readonly id: string;
  readonly cart: string;
  readonly sponsor: string;
  readonly title: string;
  /** What it advertises, as a code: those of one code are rivals. */
  readonly product: string;
  readonly lengthMs: number;
}

/** Why a tease or a sweeper plays nothing. */
export const MISSING_REASONS = ['no target', 'no audio', 'no song', 'no intro', 'intro too short'] as const;
/** Why a tease or a sweeper plays nothing. */
export type MissingReason = (typeof MISSING_REASONS)[number];

/** What an entry plays that follows from what else stands in the log. */
export interface Binding {
  /** Null where nothing fits; the entry takes no time then. */
  readonly itemId: string | null;
  /** The entry it announces, or over whose intro it plays. */
  readonly boundTo: string | null;
  /** For a sweeper: how far into the song it begins, so that it ends with the intro. Milliseconds. */
  readonly intoMs?: number;
  readonly missing?: MissingReason;
}

/** What a tease in a log announces. */
export type EntryTarget =
  | { readonly to: 'pick'; readonly categoryId: string }
  | { readonly to: 'entry'; readonly entryId: string }
  /** UTC epoch milliseconds. */
  | { readonly to: 'time'; readonly atMs: number }
  | { readonly to: 'show'; readonly showId: string };

/** An announcement of what comes later. */
export interface TeaseEntry extends EntryBase, Binding {
  readonly kind: 'tease';
  readonly target: EntryTarget;
}

/** A sweeper over the intro of the song after it; takes no time. */
export interface SweeperEntry extends EntryBase, Binding {
  readonly kind: 'sweeper';
  readonly categoryId: string;
  readonly filters?: readonly string[];
}

/** An entry whose item follows from what else stands in the log. */
export type BoundEntry = TeaseEntry | SweeperEntry;

/** A remark for whoever reads the log. */
export interface NoteEntry extends EntryBase {
  readonly kind: 'note';
  readonly text: string;
}

/** How many items a rule held back. */
export interface HeldItems {
  readonly ruleId: string;
  readonly items: number;
}

/** What held the candidates of an open slot back, most first. */
export interface OpenReason {
  /** The messages that could go there are of sponsors that stand too near. */
  readonly because?: 'sponsors';
  readonly proof: Proof;
  readonly heldBackBy: readonly HeldItems[];
  /** Rules that would let the slot be filled if they were loosened to so many seconds, each tried. */
  readonly relax?: readonly { readonly ruleId: string; readonly seconds: number }[];
}

/** What generation had before it when it chose an item. */
export interface ChosenWhy {
  /** Since its last play, start to start; null when it never played. */
  readonly restMs: number | null;
  /** How many items of the category stood before it in the turn. */
  readonly ahead: number;
  /** Which rules held those back, most first; the rest were skipped to keep turns even or to land the hour. */
  readonly heldBack: readonly HeldItems[];
  /** For a sponsor message: the promise it keeps, and how many of it stand in the log. */
  readonly promise?: { readonly count: number; readonly per: 'day' | 'week'; readonly placed: number };
}

/** A local hour of a log with the entries that begin in it. */
export interface LogHour {
  readonly index: number;
  readonly localHour: number;
  /** UTC start, epoch milliseconds. */
  readonly startMs: number;
  readonly durationMs: number;
  readonly clockId: string | null;
  readonly clockName: string;
  /** The show that is on. */
  readonly showId?: string;
  /** True where a clock runs on from the hour before, so that the hour itself is no mark. */
  readonly runsOn?: true;
  /** Ids of entries a person removed from it; they stay out when the day is generated again. In order. */
  readonly removed?: readonly string[];
  readonly entries: readonly LogEntry[];
}

/** The finished list of a station-local date. */
export interface DailyLog {
  readonly date: string;
  readonly timeZone: string;
  readonly hours: readonly LogHour[];
}

/** The entries of a log in order. */
export function allEntries(log: DailyLog): LogEntry[] {
  return log.hours.flatMap((hour) => hour.entries);
}

/** The item of an entry, null for an open slot, a break, a note and what is left out. */
export function itemOf(entry: LogEntry): string | null {
  return entry.kind === 'break' || entry.kind === 'note' || entry.out ? null : entry.itemId;
}

/** Whether the item of an entry follows from what else stands in the log. */
export function isBound(entry: LogEntry): entry is BoundEntry {
  return entry.kind === 'tease' || entry.kind === 'sweeper';
}

/** The slots of a log: what is picked and not left out. */
export function slotsOf(log: DailyLog): PickEntry[] {
  return allEntries(log).filter((entry): entry is PickEntry => entry.kind === 'pick' && !entry.out);
}

/** The entry with an id; undefined when the log has none. */
export function findEntry(log: DailyLog, entryId: string): LogEntry | undefined {
  for (const hour of log.hours) {
    const entry = hour.entries.find((candidate) => candidate.id === entryId);
    if (entry) return entry;
  }
  return undefined;
}

/** The slots of a log that stand open. */
export function openSlots(log: DailyLog): PickEntry[] {
  return slotsOf(log).filter((entry) => entry.itemId === null);
}

/** Throws RangeError when a log breaks its own laws: hours in order, ids unique. */
export function checkLog(log: DailyLog): DailyLog {
  const seen = new Set<string>();
  log.hours.forEach((hour, index) => {
    const previous = log.hours[index - 1];
    if (previous && previous.startMs + previous.durationMs !== hour.startMs) {
      throw new RangeError(`hours[${index}] does not begin where the hour before it ends`);
    }
    for (const entry of hour.entries) {
      if (seen.has(entry.id)) throw new RangeError(`hours[${index}]: entry “${entry.id}” stands twice in the log`);
      seen.add(entry.id);
    }
  });
  return log;
}
