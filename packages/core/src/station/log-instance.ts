import { lookUp, lookUpIn } from '../values/look-up.js';
import type { Instance } from '../engine/instance.js';
import type { InstanceSlot } from '../sequence/parts.js';
import type { Order } from '../sequence/orders.js';
import { RULE_FORMS } from '../rules/forms.js';
import type { RuleLocation } from '../rules/rule.js';
import { weekdayOf } from '../time/local-day.js';
import { itemOf, type DailyLog, type LogEntry, type LogHour } from '../log/daily-log.js';
import { liftedRules } from '../themes/lifted-rules.js';
import { withTeaseWish } from '../bound/tease-wish.js';
import { withSisterPlays } from './across-plays.js';
import { categoryOfPool, dayPools, poolKey, type DayPool } from './day-pools.js';
import { entryLocation } from './entry-location.js';
import { evenHistory, recentHistory } from './even-history.js';
import { LONGEST_SPAN_DAYS, withHourSpread, type GuardLevel } from './hour-spread-rules.js';
import { stationRuleId, withStationRules, type RulesAndSlots } from './instance-rules.js';
import { withRepeatGuard } from './repeat-guard.js';
import type { ScheduledItem, StationData } from './station-data.js';
import type { StationModel } from './station-model.js';

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
 * of the day or later are left out of history. `guards` says what the engine guards besides the rules;
 * `with fill` has open slots for fill that is not chosen yet. `breaks alone` leaves out what tells only which items
 * could stand where: it is enough to count what rules are broken, at a third of the cost.
 */
export function logInstance(
  model: StationModel,
  log: DailyLog,
  guards: GuardLevel = 'rules',
  takes: 'what airs' | 'with fill' | 'breaks alone' = 'what airs',
): LogInstance {
  const { data, known } = model;
  const dayStartMs = log.hours[0]?.startMs ?? 0;
  const timing = model.timing(log);
  const seconds = (epochMs: number): number => Math.floor((epochMs - dayStartMs) / 1000);
  const unruled: InstanceSlot[] = [];
  const locations = new Map<string, RuleLocation>();
  const start: Record<string, string> = {};
  const pools: Record<string, DayPool> = {};
  const unused = new Set<string>();
  const lifted = new Map<string, ReadonlySet<string>>();
  const music = new Set(data.musicCategories);
  const everyRule = data.rules.filter((rule) => !rule.resting).map((rule) => rule.id);
  const weekday = weekdayOf(log.date);
  const ofDay = dayPools(model, log.date);
  const addSlot = (entry: LogEntry, startMs: number, place: HourPlace, mark: string): void => {
    const { index: hour, localHour } = place;
    const itemId = itemOf(entry);
    if (entry.kind !== 'pick' && entry.kind !== 'item') return;
    // Fill that is not chosen yet stands open.
    if (entry.out && !(takes === 'with fill' && mark === '' && entry.kind === 'pick' && entry.fill)) return;
    if (itemId === null ? mark !== '' : !known.has(itemId)) return;
    if (entry.out) unused.add(entry.id);
    const fixed = mark !== '' || entry.kind === 'item' || (entry.kind === 'pick' && entry.locked);
    let pool = entry.kind === 'pick' ? poolKey(entry) : FIXED;
    if (entry.kind === 'pick') pools[pool] ??= ofDay.pool(entry.categoryId, entry.turnOrder);
    // What a person has put there may have left the category since.
    if (fixed && itemId !== null && (pool === FIXED || !ofDay.has(pool, itemId))) {
      pool = FIXED;
      pools[FIXED] ??= { items: [], order: 'random' };
      if (!pools[FIXED].items.includes(itemId)) pools[FIXED].items.push(itemId);
    }
    const looksAway =
      entry.kind === 'pick' ? entry.rules === 'off' || !music.has(entry.categoryId) : isSpeech(known.get(itemId!));
    const stands = {
      id: mark + entry.id,
      start: seconds(startMs),
      hour,
      pool,
      day: mark === '' ? 0 : 1,
      hourOfDay: localHour,
    };
    const slot = looksAway ? { ...stands, exempt: everyRule } : stands;
    if (entry.kind === 'pick' && entry.theme?.value)
      lifted.set(slot.id, new Set(liftedRules(model, entry.categoryId, entry.theme).map(({ id }) => id)));
    locations.set(
      slot.id,
      entryLocation(entry, place, { weekday: (weekday + stands.day) % 7, dayparts: data.dayparts }),
    );
    const allow =
      fixed || takes === 'breaks alone'
        ? undefined
        : ofDay.allowIn(
            pool,
            localHour,
            entry.kind === 'pick' ? (entry.filters ?? []) : [],
            entry.kind === 'pick' ? entry.theme : undefined,
          );
    if (fixed && itemId !== null) unruled.push({ ...slot, locked: itemId });
    else unruled.push(allow ? { ...slot, allow } : slot);
    if (!fixed && itemId !== null) start[slot.id] = itemId;
  };
  for (const hour of log.hours) {
    for (const entry of hour.entries) addSlot(entry, lookUp(timing.entries, entry.id).startMs, hour, '');
  }
  if (data.nextLog) addNextDay(model, data.nextLog, log.hours.length, addSlot);
  const ruled = withoutLifted(
    withStationRules(data.rules, unruled, (id) => lookUp(locations, id)),
    lifted,
  );
  const { rules: ownRules, slots } = guards === 'rules' ? ruled : withTeaseWish(model, log, timing, ruled);
  const isWished = ownRules.length > ruled.rules.length;
  const past = model.playsBefore(dayStartMs);
  const ago = (itemId: string): readonly number[] => (past.get(itemId) ?? []).map(seconds);
  const stated = withSisterPlays(model, ownRules, dayStartMs);
  const rules = guards === 'rules' ? stated : withRepeatGuard({ model, slots, pools, rules: stated, ago, unused });
  const reachMs = historyReach(data, guards) * 1000 + DAY_MS;
  const instance: Instance = {
    format: 'fuller-instance',
    version: 1,
    items: isWished ? model.teasedItems : model.instanceItems,
    pools,
    ...(guards === 'rules' || guards === 'repeats'
      ? { slots, rules }
      : withHourSpread(
          slots,
          rules,
          pools,
          (pool) => mayMove(lookUpIn(pools, pool).order) && music.has(categoryOfPool(pool)),
          guards,
        )),
    history:
      takes === 'breaks alone'
        ? recentHistory(past, dayStartMs, reachMs)
        : evenHistory(past, pools, dayStartMs, reachMs),
  };
  return { instance, start };
}

/** The slots with the rules that their themes lift. */
function withoutLifted(
  { rules, slots }: RulesAndSlots,
  lifted: ReadonlyMap<string, ReadonlySet<string>>,
): RulesAndSlots {
  if (lifted.size === 0) return { rules, slots };
  return {
    rules,
    slots: slots.map((slot) => {
      const ids = lifted.get(slot.id);
      const own = ids ? rules.flatMap(({ id }) => (ids.has(stationRuleId(id)) ? [id] : [])) : [];
      return own.length === 0 ? slot : { ...slot, uncharged: [...(slot.uncharged ?? []), ...own] };
    }),
  };
}

/** What no rule looks at when a clock names it itself: all that is not a song. */
function isSpeech(item: ScheduledItem | undefined): boolean {
  return item?.kind !== undefined && item.kind !== 'song';
}

/** Turn orders that leave open at which hour an item plays. */
function mayMove(order: Order): boolean {
  return order === 'even' || order === 'fewestPlays' || order === 'artistRest';
}

/** How far back plays are looked at, seconds. */
function historyReach(data: StationData, guards: GuardLevel): number {
  return Math.max(longestReach(data), guards === 'rests' || guards === 'hours' ? LONGEST_SPAN_DAYS * 86_400 : 0);
}

/** How far back or ahead a play can matter to a rule of the station, seconds. */
function longestReach(data: StationData): number {
  return Math.max(0, ...data.rules.map((rule) => RULE_FORMS[rule.shape].reachSeconds(rule)));
}

type HourPlace = Pick<LogHour, 'index' | 'localHour' | 'clockId' | 'showId'>;

function addNextDay(
  model: StationModel,
  nextLog: DailyLog,
  hoursBefore: number,
  addSlot: (entry: LogEntry, startMs: number, hour: HourPlace, mark: string) => void,
): void {
  const reach = longestReach(model.data);
  const timing = model.timing(nextLog);
  const nextStart = nextLog.hours[0]?.startMs ?? 0;
  for (const hour of nextLog.hours) {
    if (hour.startMs - nextStart > reach * 1000) break;
    for (const entry of hour.entries) {
      const place = { ...hour, index: hoursBefore + hour.index };
      addSlot(entry, lookUp(timing.entries, entry.id).startMs, place, NEXT_DAY);
    }
  }
}

/** True for a slot that stands for an entry of the next day's log. */
export function isNextDay(slotId: string): boolean {
  return slotId.startsWith(NEXT_DAY);
}
