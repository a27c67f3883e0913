import type { Instance, InstanceRule, InstanceSlot } from '../engine/instance.js';
import type { Order } from '../engine/turn/orders.js';
import { mayAirOn } from '../library/item.js';
import type { Rule } from '../rules/rule.js';
import { itemOf, type DailyLog, type LogEntry } from './daily-log.js';
import type { StationData, StationModel } from './station-data.js';

/** Entries of the next day carry this mark in the instance, so that they are told from the day's own. */
const NEXT_DAY = 'next:';

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
    history: recentHistory(data, dayStartMs, farBack(data, pools, slots)).map((play) => ({
      item: play.itemId,
      start: seconds(play.startMs),
    })),
    rules: activeRules.map((rule) => instanceRule(rule, pools)),
  };
  return { instance, start };
}

/** Plays are evened out over so many turnovers; what is older would make a new item catch up with all of it. */
const TURNOVERS = 4;

/** How far back plays of an item count, milliseconds: as far as rules look, and over the turnovers of its categories. */
function farBack(
  data: StationData,
  pools: Instance['pools'],
  slots: readonly InstanceSlot[],
): (itemId: string) => number {
  const reach = longestReach(data) * 1000 + 86_400_000;
  const slotsOf = new Map<string, number>();
  for (const slot of slots) slotsOf.set(slot.pool, (slotsOf.get(slot.pool) ?? 0) + 1);
  const back = new Map<string, number>();
  for (const [name, pool] of Object.entries(pools)) {
    const days = (TURNOVERS * pool.items.length) / Math.max(1, slotsOf.get(name) ?? 0);
    for (const id of pool.items) back.set(id, Math.max(back.get(id) ?? reach, days * 86_400_000));
  }
  return (itemId) => back.get(itemId) ?? reach;
}

function recentHistory(
  data: StationData,
  dayStartMs: number,
  back: (itemId: string) => number,
): StationData['history'] {
  return data.history.filter((play) => play.startMs < dayStartMs && play.startMs >= dayStartMs - back(play.itemId));
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
