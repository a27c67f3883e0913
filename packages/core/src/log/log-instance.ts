import type { Instance, InstanceRule, InstanceSlot } from '../engine/instance.js';
import { mayAirOn } from '../library/item.js';
import type { Rule } from '../rules/rule.js';
import { itemOf, type DailyLog, type LogEntry } from './daily-log.js';
import type { StationData, StationModel } from './station-data.js';

/** Entries of the next day carry this mark in the instance, so that they are told from the day's own. */
const NEXT_DAY = 'next:';

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
  const pools: Record<string, { items: string[]; order: 'even' }> = {};
  const music = new Set(data.musicCategories);
  const activeRules = data.rules.filter((rule) => !rule.resting);
  const everyRule = activeRules.map((rule) => rule.id);
  const addSlot = (entry: LogEntry, startMs: number, hour: number, mark: string): void => {
    const itemId = itemOf(entry);
    if (entry.kind !== 'pick' && entry.kind !== 'item') return;
    if (itemId === null ? mark !== '' : !known.has(itemId)) return;
    const pool = entry.kind === 'pick' ? entry.categoryId : 'fixed';
    pools[pool] ??= { items: poolItems(data, known, entry, log.date), order: 'even' };
    const fixed = mark !== '' || entry.kind === 'item' || (entry.kind === 'pick' && entry.locked);
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
    history: data.history
      .filter((play) => play.startMs < dayStartMs)
      .map((play) => ({ item: play.itemId, start: seconds(play.startMs) })),
    rules: activeRules.map(instanceRule),
  };
  return { instance, start };
}

function poolItems(data: StationData, known: StationModel['known'], entry: LogEntry, date: string): string[] {
  if (entry.kind !== 'pick') return [];
  return (data.categories[entry.categoryId] ?? []).filter((id) => {
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
  const reach = Math.max(
    0,
    ...model.data.rules.flatMap((rule) => [rule.seconds, ...Object.values(rule.secondsByCategory)]),
  );
  const timing = model.timing(nextLog);
  const nextStart = nextLog.hours[0]?.startMs ?? 0;
  for (const hour of nextLog.hours) {
    if (hour.startMs - nextStart > reach * 1000) break;
    for (const entry of hour.entries) {
      addSlot(entry, timing.entries.get(entry.id)!.startMs, hoursBefore + hour.index, NEXT_DAY);
    }
  }
}

function instanceRule(rule: Rule): InstanceRule {
  return {
    id: rule.id,
    shape: rule.shape,
    tag: rule.tag,
    seconds: rule.seconds,
    secondsByPool: rule.secondsByCategory,
    strength: 'hard',
  };
}

/** True for a slot that stands for an entry of the next day's log. */
export function isNextDay(slotId: string): boolean {
  return slotId.startsWith(NEXT_DAY);
}
