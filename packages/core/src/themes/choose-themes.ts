import { Random } from '../engine/random.js';
import { isLimitRule } from '../limits/limit-rules.js';
import { itemOf, type DailyLog, type PickEntry } from '../log/daily-log.js';
import { dayPools, poolKey } from '../station/day-pools.js';
import { amountInCategory } from '../rules/rule.js';
import type { ScheduledItem } from '../station/station-data.js';
import type { StationModel } from '../station/station-model.js';
import { elementAt, lookUp } from '../values/look-up.js';
import { themeValues, themeWords } from './theme-values.js';
import type { EntryTheme } from './theme.js';

/** Of the values that rested longest so many are drawn from, so that themes do not come in one order for ever. */
const DRAWN_FROM = 6;
const MINUTE_MS = 60_000;

/** An entry of a theme, with what may stand in it. */
interface ThemeSlot {
  readonly entry: PickEntry;
  /** UTC epoch milliseconds. */
  readonly startMs: number;
  readonly items: readonly string[];
}

/**
 * A log whose themes have their values: for each run of a clock one that the library can fill within the rules, the one
 * that was no theme for the longest time. What a theme has already stays, as does what a person put into its lines.
 * Where no value can fill the lines they go without.
 */
export function chooseThemes(model: StationModel, log: DailyLog, seed: number): DailyLog {
  const groups = groupsOf(model, log);
  if (groups.size === 0) return log;
  const random = new Random(seed);
  const last = new Map<string, number>();
  const note = (by: string, value: string, startMs: number): void => {
    const key = `${by} ${value}`;
    last.set(key, Math.max(last.get(key) ?? -Infinity, startMs));
  };
  for (const { by, value, startMs } of model.data.themes ?? []) note(by, value, startMs);
  const chosen = new Map<string, Pick<EntryTheme, 'value' | 'words'>>();
  for (const slots of groups.values()) {
    const { by, value: kept, words } = elementAt(slots, 0).entry.theme!;
    const value = kept ?? choose(model, slots, by, (one) => last.get(`${by} ${one}`) ?? -Infinity, random);
    if (value !== null) note(by, value, elementAt(slots, 0).startMs);
    const told = kept === null && value !== null ? wordsOf(model, slots, by, value) : words;
    for (const { entry } of slots) chosen.set(entry.id, { value, words: told });
  }
  return withThemes(log, chosen);
}

/** The entries of each theme of a log, by the run of their clock. */
function groupsOf(model: StationModel, log: DailyLog): ReadonlyMap<string, readonly ThemeSlot[]> {
  const isThemed = log.hours.some(({ entries }) => entries.some((entry) => entry.kind === 'pick' && entry.theme));
  const groups = new Map<string, ThemeSlot[]>();
  if (!isThemed) return groups;
  const { entries: times } = model.timing(log);
  const pools = dayPools(model, log.date);
  for (const { entries, localHour } of log.hours)
    for (const entry of entries) {
      if (entry.kind !== 'pick' || !entry.theme || entry.out) continue;
      const { by, group, run } = entry.theme;
      const key = poolKey(entry);
      const { items } = pools.pool(entry.categoryId, entry.turnOrder);
      const allowed = pools.allowIn(key, localHour, entry.filters ?? []) ?? items;
      const slot = { entry, startMs: lookUp(times, entry.id).startMs, items: allowed };
      const own = groups.get(`${run} ${by} ${group}`);
      if (own) own.push(slot);
      else groups.set(`${run} ${by} ${group}`, [slot]);
    }
  return groups;
}

/** The value for the lines of a theme; null where none can fill them. */
function choose(
  model: StationModel,
  slots: readonly ThemeSlot[],
  by: string,
  lastOf: (value: string) => number,
  random: Random,
): string | null {
  const candidates = valuesThatFill(model, slots, by);
  if (candidates.length === 0) return null;
  const ranked = candidates
    .map((value) => ({ value, last: lastOf(value), draw: random.unit() }))
    .sort((a, b) => (a.last === b.last ? a.draw - b.draw : a.last < b.last ? -1 : 1));
  return elementAt(
    ranked,
    random.below(Math.min(DRAWN_FROM, ranked.filter(({ last }) => last === ranked[0]!.last).length)),
  ).value;
}

/** The values that can fill every line of a theme with a song of its own, within the rules that are not lifted. */
function valuesThatFill(model: StationModel, slots: readonly ThemeSlot[], by: string): string[] {
  const rested = restedItems(model, slots);
  const bySlot = slots.map(({ entry, items }, n) => {
    const held = itemOf(entry);
    const values = new Map<string, string[]>();
    for (const id of held === null ? items : [held]) {
      if (held === null && !rested(id, n)) continue;
      for (const value of themeValues(lookUp(model.known, id), by)) {
        const own = values.get(value);
        if (own) own.push(id);
        else values.set(value, [id]);
      }
    }
    return values;
  });
  const [first] = bySlot;
  return [...(first?.keys() ?? [])].filter(
    (value) =>
      bySlot.every((values) => values.has(value)) &&
      haveSongEach(
        model,
        bySlot.map((values) => values.get(value) ?? []),
      ) &&
      withinSeparations(
        model,
        slots,
        bySlot.map((values) => values.get(value) ?? []),
      ) &&
      withinLimits(
        model,
        slots,
        bySlot.map((values) => values.get(value) ?? []),
      ),
  );
}

/** Whether an item's title has rested by a slot as long as a must asks. */
function restedItems(model: StationModel, slots: readonly ThemeSlot[]): (itemId: string, slot: number) => boolean {
  const dayStartMs = Math.min(...slots.map(({ startMs }) => startMs));
  const titles = model.data.rules.filter(
    ({ shape, tag, strength, resting, value }) =>
      shape === 'apart' &&
      strength === 'hard' &&
      !resting &&
      value === null &&
      (tag === 'title' || tag === 'item' || tag === 'song'),
  );
  const past = model.playsBefore(dayStartMs);
  return (itemId, slot) => {
    const { entry, startMs } = elementAt(slots, slot);
    const restMs = Math.max(0, ...titles.map((rule) => amountInCategory(rule, entry.categoryId) ?? 0)) * 1000;
    const last = past.get(itemId)?.[0];
    return last === undefined || startMs - last >= restMs + MINUTE_MS;
  };
}

/** Whether each slot can have a song that no other has (Kuhn 1955). */
function haveSongEach(model: StationModel, bySlot: readonly (readonly string[])[]): boolean {
  const taken = new Map<string, number>();
  const give = (slot: number, tried: Set<string>): boolean =>
    elementAt(bySlot, slot).some((id) => {
      const song = model.songOf.get(id) ?? id;
      if (tried.has(song)) return false;
      tried.add(song);
      const holder = taken.get(song);
      if (holder !== undefined && !give(holder, tried)) return false;
      taken.set(song, slot);
      return true;
    });
  return bySlot.every((_, slot) => give(slot, new Set()));
}

/** Whether a value leaves what counts plays of an artist, album or set unbroken: the statutory limits are never lifted. */
function withinLimits(
  model: StationModel,
  slots: readonly ThemeSlot[],
  bySlot: readonly (readonly string[])[],
): boolean {
  return model.data.rules
    .filter((rule) => isLimitRule(rule.id) && !rule.resting)
    .every(({ tag, amount, windowSeconds }) => {
      const shared = sharedByAll(model, bySlot.flat(), tag);
      if (!shared || slots.length <= amount) return true;
      const [first, last] = [elementAt(slots, 0).startMs, slots.at(-1)!.startMs];
      return windowSeconds !== null && (last - first) / 1000 >= windowSeconds * (slots.length / amount);
    });
}

/**
 * Whether the separations that the value does not lift leave room: in so much time each of their values plays so often
 * at most, and together these must do for every line.
 */
function withinSeparations(
  model: StationModel,
  slots: readonly ThemeSlot[],
  bySlot: readonly (readonly string[])[],
): boolean {
  const items = [...new Set(bySlot.flat())];
  const spanMs = slots.at(-1)!.startMs - elementAt(slots, 0).startMs;
  const { categoryId } = elementAt(slots, 0).entry;
  return model.data.rules
    .filter(
      ({ shape, strength, resting, value }) => shape === 'apart' && strength === 'hard' && !resting && value === null,
    )
    .every((rule) => {
      const restMs = (amountInCategory(rule, categoryId) ?? 0) * 1000;
      if (restMs === 0 || sharedByAll(model, items, rule.tag)) return true;
      const counts = new Map<string, number>();
      let free = 0;
      for (const id of items) {
        const [value] = model.tagsOfItem.get(id)?.[rule.tag] ?? [];
        if (value === undefined) free++;
        else counts.set(value, (counts.get(value) ?? 0) + 1);
      }
      const most = Math.floor(spanMs / restMs) + 1;
      return [...counts.values()].reduce((sum, count) => sum + Math.min(count, most), free) >= slots.length;
    });
}

/** Whether some value of a tag is one of every item. */
export function sharedByAll(model: StationModel, items: readonly string[], tag: string): boolean {
  const [first, ...rest] = [...new Set(items)].map((id) => model.tagsOfItem.get(id)?.[tag] ?? []);
  return (first ?? []).some((value) => rest.every((values) => values.includes(value)));
}

function wordsOf(model: StationModel, slots: readonly ThemeSlot[], by: string, value: string): string {
  const named = slots.flatMap(({ items }) =>
    items.map((id) => lookUp(model.known, id)).filter((item) => themeValues(item, by).includes(value)),
  );
  // The shortest credit is that of the artist alone.
  const [item] = named.sort((a: ScheduledItem, b: ScheduledItem) => a.artist.length - b.artist.length);
  return item ? themeWords(item, by, value) : value;
}

function withThemes(log: DailyLog, chosen: ReadonlyMap<string, Pick<EntryTheme, 'value' | 'words'>>): DailyLog {
  let changed = false;
  const hours = log.hours.map((hour) => {
    const entries = hour.entries.map((entry) => {
      const made = chosen.get(entry.id);
      if (entry.kind !== 'pick' || !entry.theme || !made || entry.theme.value === made.value) return entry;
      changed = true;
      return { ...entry, theme: { ...entry.theme, ...made } };
    });
    return { ...hour, entries };
  });
  return changed ? { ...log, hours } : log;
}
