import type { Instance, InstanceRule, InstanceSlot } from '../engine/instance.js';
import type { Order } from '../engine/turn/orders.js';
import { mayAirOn } from '../library/item.js';
import type { Rule } from '../rules/rule.js';
import { itemOf, type DailyLog, type LogEntry } from './daily-log.js';
import { evenHistory } from './even-history.js';
import type { StationData, StationModel } from './station-data.js';

/** Entries of the next day carry this mark in the instance, so that they are told from the day's own. */
const NEXT_DAY = 'next:';

/** Longest an item may still be on the air from the day before, and more. */
const DAY_MS = 86_400_000;
/** The pool of what is not picked from a category of its own. */
const FIXED = 'fixed';

/** A log as an engine instance, and the assignment it holds. */
export interface LogInstance {
  readonly instance: Instance;
  /** Item ids by slot, of the slots that are filled and not locked. */
  readonly start: Readonly<Record<string, string>>;
}

/**
 * The engine instance of a day: its slots at the times they air as the log now stands. Fixed items
 * and locked entries are locked; so are the early hours of the next day's log. Plays at the time
 * of the day or later are left out of history.
 */
export function logInstance(model: StationModel, log: DailyLog): LogInstance {
  const { data, known } = model;
  const dayStartMs = log.hours[0]?.startMs ?? 0;
  const timing = model.timing(log);
  const seconds = (epochMs: number): number => Math.floor((epochMs - dayStartMs) / 1000);
  const slots: InstanceSlot[] = [];
  const start: Record<string, string> = {};
  const pools: Record<string, { items: string[]; order: Order }> = {};
  const music = new Set(data.musicCategories);
  const activeRules = data.rules.filter((rule) => !rule.resting);
  const everyRule = activeRules.map((rule) => rule.id);
  const addSlot = (entry: LogEntry, startMs: number, hour: number, mark: string): void => {
    const itemId = itemOf(entry);
    if (entry.kind !== 'pick' && entry.kind !== 'item') return;
    if (itemId === null ? mark !== '' : !known.has(itemId)) return;
    const fixed = mark !== '' || entry.kind === 'item' || (entry.kind === 'pick' && entry.locked);
    let pool = entry.kind === 'pick' ? entry.categoryId : FIXED;
    if (pool !== FIXED) pools[pool] ??= { items: poolItems(data, known, pool, log.date), order: 'even' };
    // What a person has put there may have left the category since.
    if (fixed && itemId !== null && !pools[pool]?.items.includes(itemId)) {
      pool = FIXED;
      pools[FIXED] ??= { items: [], order: 'random' };
      if (!pools[FIXED].items.includes(itemId)) pools[FIXED].items.push(itemId);
    }
    const looksAway = entry.kind === 'pick' && !music.has(entry.categoryId);
    const place = { id: mark + entry.id, start: seconds(startMs), hour, pool };
    const slot = looksAway ? { ...place, exempt: everyRule } : place;
    slots.push(fixed && itemId !== null ? { ...slot, locked: itemId } : slot);
    if (!fixed && itemId !== null) start[slot.id] = itemId;
  };
  for (const hour of log.hours) {
    for (const entry of hour.entries) addSlot(entry, timing.entries.get(entry.id)!.startMs, hour.index, '');
  }
  if (data.nextLog) addNextDay(model, data.nextLog, log.hours.length, addSlot);
  const instance: Instance = {
    format: 'fuller-instance',
    version: 1,
    items: model.instanceItems,
    pools,
    slots,
    history: evenHistory(model.playsBefore(dayStartMs), pools, dayStartMs, longestReach(data) * 1000 + DAY_MS),
    rules: activeRules.map((rule) => instanceRule(rule, pools)),
  };
  return { instance, start };
}

function longestReach(data: StationData): number {
  return Math.max(0, ...data.rules.flatMap((rule) => [rule.seconds, ...Object.values(rule.secondsByCategory)]));
}

function poolItems(data: StationData, known: StationModel['known'], categoryId: string, date: string): string[] {
  return (data.categories[categoryId] ?? []).filter((id) => {
    const item = known.get(id);
    return item !== undefined && mayAirOn(item, date);
  });
}

function addNextDay(
  model: StationModel,
  nextLog: DailyLog,
  hoursBefore: number,
  addSlot: (entry: LogEntry, startMs: number, hour: number, mark: string) => void,
): void {
  const reach = longestReach(model.data);
  const timing = model.timing(nextLog);
  const nextStart = nextLog.hours[0]?.startMs ?? 0;
  for (const hour of nextLog.hours) {
    if (hour.startMs - nextStart > reach * 1000) break;
    for (const entry of hour.entries) {
      addSlot(entry, timing.entries.get(entry.id)!.startMs, hoursBefore + hour.index, NEXT_DAY);
    }
  }
}

function instanceRule(rule: Rule, pools: Instance['pools']): InstanceRule {
  return {
    id: rule.id,
    shape: rule.shape,
    tag: rule.tag,
    seconds: rule.seconds,
    secondsByPool: Object.fromEntries(
      Object.entries(rule.secondsByCategory).filter(([pool]) => Object.hasOwn(pools, pool)),
    ),
    strength: 'hard',
  };
}

/** True for a slot that stands for an entry of the next day's log. */
export function isNextDay(slotId: string): boolean {
  return slotId.startsWith(NEXT_DAY);
}
