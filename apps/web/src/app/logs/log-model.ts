import { asksSwap } from './swap-words';
import type { CategoryRow, LogItem, LogView } from '@fuller/contracts';
import {
  elementAt,
  lookUp,
  airTimes,
  amountAt,
  entryLocation,
  isBound,
  itemOf,
  RULE_FORMS,
  tagName,
  valueName,
  weekdayOf,
  type ChosenWhy,
  type DailyLog,
  type Daypart,
  type LogEntry,
  type LogHour,
  type LogTiming,
  type Rule,
  type RuleLocation,
  type RuleNames,
  type Silence,
} from '@fuller/core';
import { plural } from '../shared/text/plural';
import { restText } from '../shared/text/when';

/** One strain in words. */
export interface StrainWords {
  readonly ruleId: string;
  readonly strength: 'must' | 'wish';
  readonly words: string;
}

/** A row of the log desk: an hour's heading or an entry. */
export type LogRow = HourRow | EntryRow | SilenceRow;

/** A stretch in which nothing plays. */
export interface SilenceRow {
  readonly kind: 'silence';
  readonly id: string;
  readonly hourIndex: number;
  readonly startMs: number;
  readonly durationMs: number;
}

export interface HourRow {
  readonly kind: 'hour';
  readonly id: string;
  readonly hour: LogHour;
  readonly overMs: number;
  readonly silentMs: number;
  readonly open: number;
  readonly strained: number;
}

export interface EntryRow {
  readonly kind: 'entry';
  readonly id: string;
  readonly entry: LogEntry;
  readonly hourIndex: number;
  readonly startMs: number;
  readonly durationMs: number;
  readonly item: LogItem | null;
  /** What a tease announces, or a sweeper plays over. */
  readonly boundTo: BoundTarget | null;
  /** How much of it a hard start cuts off, milliseconds. */
  readonly cutMs: number;
  readonly category: CategoryRow | null;
  /** Where it stands, as far as rules ask. */
  readonly location: RuleLocation;
  readonly strains: readonly StrainWords[];
  /** Where the songs before it and after it and it itself stand in the family of the flow line, 0 to 1. */
  readonly flow: { readonly from: number | null; readonly at: number | null; readonly to: number | null };
}

/** What an entry is bound to. */
export interface BoundTarget {
  readonly entryId: string;
  readonly startMs: number;
  readonly item: LogItem | null;
}

interface Names {
  readonly categories: Readonly<Record<string, CategoryRow | undefined>>;
  readonly rules: Readonly<Record<string, Rule | undefined>>;
  readonly dayparts: readonly Daypart[];
  /** What sentences of rules call things. */
  readonly words: RuleNames;
  /** The tag family of the flow line, its values in order; null for none. */
  readonly flow?: FlowFamily | null;
}

/** A tag family with its values in order. */
export interface FlowFamily {
  readonly name: string;
  readonly values: readonly string[];
}

/** Where an item stands among the values of a family, 0 for the first and 1 for the last; null where it has none. */
export function flowOf(item: LogItem | null, family: FlowFamily | null | undefined): number | null {
  const value = family && item?.tags[family.name]?.[0];
  const at = value === undefined || !family ? -1 : family.values.indexOf(value ?? '');
  if (at < 0 || !family) return null;
  return family.values.length > 1 ? at / (family.values.length - 1) : 0.5;
}

const NOWHERE: RuleLocation = { categoryId: null, clockId: null, showId: null, daypartIds: [] };

/** How a strain is told: `artist 42 of 60 min`, `tempo slow 1 too many`. */
export function strainWords(rule: Rule | undefined, by: number, at: RuleLocation, names: RuleNames): string {
  if (!rule) return 'a deleted rule broken';
  const nameOf = (value: string): string => valueName(rule.tag, value, names);
  if (rule.shape === 'handOff') return `${nameOf(rule.followedBy ?? '')} after ${nameOf(rule.value ?? '')}`;
  const about = rule.value === null ? tagName(rule.tag, names) : `${tagName(rule.tag, names)} ${nameOf(rule.value)}`;
  if (rule.shape !== 'apart') return `${about} ${RULE_FORMS[rule.shape].excessText(by)}`;
  const asked = amountAt(rule, at) ?? rule.amount;
  return `${about} ${minutes(Math.max(0, asked - by))} of ${minutes(asked)} min`;
}

/** Why generation chose an item, in words. */
export function whyWords({ restMs, ahead, promise }: ChosenWhy): string {
  const rested = restMs === null ? 'it had never played' : `it had rested ${restText(restMs)}`;
  const turn = ahead === 0 ? 'and was first in its turn' : `with ${plural(ahead, 'item')} before it in the turn`;
  if (promise)
    return `It keeps the promise of ${promise.count} a ${promise.per}: ${promise.placed} stand in this log, and ${rested}.`;
  return `${rested.charAt(0).toUpperCase()}${rested.slice(1)} ${turn}.`;
}

function minutes(seconds: number): number {
  return Math.floor(seconds / 60);
}

/** The time an item takes until the next one begins. */
function takes(item: LogItem | null | undefined): number {
  return item ? item.durationMs - (item.segueMs ?? 0) : 0;
}

/** The rows of a log in order, with times and strains. */
export function logRows(
  view: LogView,
  { categories, rules, dayparts, words: names, flow: family }: Names,
): { rows: LogRow[]; timing: LogTiming } {
  const log = view.log as DailyLog;
  const items = new Map(view.items.map((item) => [item.id, item]));
  const timing = airTimes(log, {
    lengthOf: (id) => takes(items.get(id)),
    averageOfSlot: ({ categoryId }) => categories[categoryId]?.averageMs ?? 0,
  });
  const strains = new Map<string, StrainWords[]>();
  const at = { weekday: weekdayOf(log.date), dayparts };
  const locations = new Map(
    log.hours.flatMap((hour) => hour.entries.map((entry) => [entry.id, entryLocation(entry, hour, at)])),
  );
  for (const { entryId, ruleId, by } of view.strains) {
    const words = strainWords(rules[ruleId], by, locations.get(entryId) ?? NOWHERE, names);
    strains.set(entryId, [
      ...(strains.get(entryId) ?? []),
      { ruleId, strength: rules[ruleId]?.strength === 'soft' ? 'wish' : 'must', words },
    ]);
  }
  const entriesById = new Map(log.hours.flatMap((hour) => hour.entries.map((entry) => [entry.id, entry])));
  const targetOf = (entry: LogEntry): BoundTarget | null => {
    const target = isBound(entry) && entry.boundTo !== null ? entriesById.get(entry.boundTo) : undefined;
    if (!target) return null;
    const item = items.get(itemOf(target) ?? '') ?? null;
    return { entryId: target.id, startMs: lookUp(timing.entries, target.id).startMs, item };
  };
  const rows: LogRow[] = [];
  for (const [index, hour] of log.hours.entries()) {
    const entries = hour.entries.map((entry): Omit<EntryRow, 'flow'> => {
      const { startMs, durationMs: taken } = lookUp(timing.entries, entry.id);
      const itemId = itemOf(entry);
      const item = itemId === null ? null : (items.get(itemId) ?? null);
      const ownMs = 'lengthMs' in entry ? entry.lengthMs : undefined;
      const durationMs = ownMs ?? item?.durationMs ?? taken;
      const category =
        entry.kind === 'pick' || entry.kind === 'sweeper' ? (categories[entry.categoryId] ?? null) : null;
      return {
        kind: 'entry',
        id: entry.id,
        entry,
        hourIndex: index,
        startMs,
        durationMs,
        item,
        boundTo: targetOf(entry),
        location: locations.get(entry.id) ?? NOWHERE,
        cutMs: item && entry.kind !== 'sweeper' ? Math.max(0, (ownMs ?? takes(item)) - taken) : 0,
        category,
        strains: strains.get(entry.id) ?? [],
      };
    });
    rows.push({
      kind: 'hour',
      id: `hour-${index}`,
      hour,
      overMs: elementAt(timing.hours, index).overMs,
      silentMs: elementAt(timing.hours, index).silentMs,
      open: entries.filter((row) => isOpen(row.entry)).length,
      strained: entries.filter(isStrained).length,
    });
    const flows = entries.map((row) => flowOf(row.item, family));
    const silences = timing.silences.filter(({ hourIndex }) => hourIndex === index).map(silenceRow);
    const within = new Map(silences.map((silence) => [silence.before, silence.row]));
    entries.forEach((row, at) => {
      const silence = within.get(row.id);
      if (silence) rows.push(silence);
      within.delete(row.id);
      rows.push({
        ...row,
        flow: { from: nearest(flows, at, -1), at: elementAt(flows, at), to: nearest(flows, at, 1) },
      });
    });
    // What lasts into the next hour stands at the end of its own.
    rows.push(...within.values());
  }
  return { rows, timing };
}

function silenceRow({ hourIndex, startMs, durationMs, beforeEntryId }: Silence): { before: string; row: SilenceRow } {
  return {
    before: beforeEntryId ?? '',
    row: { kind: 'silence', id: `silence-${startMs}`, hourIndex, startMs, durationMs },
  };
}

/** The value next to a place in one direction, itself excluded; null where the hour ends. */
function nearest(values: readonly (number | null)[], from: number, step: number): number | null {
  for (let at = from + step; at >= 0 && at < values.length; at += step)
    if (values[at] !== null) return elementAt(values, at);
  return null;
}

export function isOpen(entry: LogEntry): boolean {
  return entry.kind === 'pick' && entry.itemId === null && !entry.out;
}

/** True for what a person should review: an open slot, a broken must, or a swap that a presenter asks for. */
export function isMatter(row: LogRow): row is EntryRow {
  return row.kind === 'entry' && (isOpen(row.entry) || isStrained(row) || asksSwap(row.entry.note));
}

/** Whether a must is broken there; a wish that is not kept is shown, and is no matter to review. */
export function isStrained({ strains }: Pick<EntryRow, 'strains'>): boolean {
  return strains.some(({ strength }) => strength === 'must');
}
