import { elementAt, lookUp } from '../values/look-up.js';
import { mayAirInHour, type Unavailability } from '../library/availability.js';
import type { StationModel } from '../station/station-model.js';
import { amountInCategory } from '../rules/rule.js';
import type { StationPlay } from '../station/station-data.js';
import { addDays, localTimeOf, weekdayOf } from '../time/local-day.js';
import { categorySpread, hourSpread } from '../rotation/hour-spread.js';
import { turnoverOf, type SharedRate } from '../rotation/turnover.js';
import { weekSlots } from '../week/week-slots.js';

/** The distances into which the rests of a category are sorted, as a multiple of the average rest. */
export const REST_BUCKETS = 12;
const BUCKET_SHARE = 6;

/** A separation as it meets a category: for each item the plays a week that share its value, of this category and of others. */
export interface SheetRule {
  readonly ruleId: string;
  readonly seconds: number;
  readonly own: readonly number[];
  readonly other: readonly number[];
}

/** One row of the turnover sheet. */
export interface SheetRow {
  readonly categoryId: string;
  readonly items: number;
  readonly canPlay: number;
  readonly barred: readonly { readonly because: Unavailability['because']; readonly items: number }[];
  readonly averageMs: number;
  /** Monday first. */
  readonly slotsByDay: readonly number[];
  /** Seconds from Monday 00:00 of every slot of the week. */
  readonly slots: readonly number[];
  readonly rules: readonly SheetRule[];
  /** How many items have rested up to 1/6, 2/6 … of the average rest; the last has all that rested longer. */
  readonly rests: readonly number[];
  readonly spread: number | null;
}

/** Every category's rotation from the real week, and how it has gone; `plays` are those of the weeks looked back on. */
export function turnoverSheet(
  model: StationModel,
  plays: readonly StationPlay[],
  date: string,
  nowMs: number,
): SheetRow[] {
  const { data, known } = model;
  // The week the date lies in, with the dates that differ in it.
  const slots = weekSlots(data.plan, model, addDays(date, -weekdayOf(date)));
  const playsOf = playsByItem(plays, nowMs);
  const rates = data.rules
    .filter(({ shape, resting, value }) => shape === 'apart' && value === null && !resting)
    .map((rule) => ({ rule, ...ratesOf(model, rule.tag, slots) }));
  const music = new Set(data.musicCategories);
  return Object.entries(withEmpty(data.categories, slots)).map(([categoryId, ids]): SheetRow => {
    const items = ids.map((id) => known.get(id)).filter((item) => item !== undefined);
    const bars = items.map((item) => model.unavailabilityOn(item, categoryId, date) ?? neverAvailable(item));
    const playing = items.filter((_, at) => bars[at] === null);
    const own = slots.get(categoryId) ?? [];
    const turn = turnoverOf(own, playing.length);
    const because = [...new Set(bars.flatMap((bar) => (bar ? [bar.because] : [])))];
    const byHour = slotsByHour(own);
    return {
      categoryId,
      items: items.length,
      canPlay: playing.length,
      barred: because.map((one) => ({ because: one, items: bars.filter((bar) => bar?.because === one).length })),
      averageMs: playing.length
        ? Math.round(playing.reduce((sum, item) => sum + item.durationMs, 0) / playing.length)
        : 0,
      slotsByDay: Array.from({ length: 7 }, (_, day) => own.filter((at) => Math.floor(at / 86_400) === day).length),
      slots: own.map(Math.round),
      rules: music.has(categoryId)
        ? rates
            .flatMap(({ rule, total, within }) => {
              const seconds = amountInCategory(rule, categoryId);
              return seconds === null ? [] : [{ ruleId: rule.id, seconds, total, within, tag: rule.tag }];
            })
            .map(({ ruleId, seconds, total, within, tag }) => ({
              ruleId,
              seconds,
              ...ratesOfItems(model, playing, tag, total, within.get(categoryId) ?? new Map<string, number>()),
            }))
        : [],
      rests: restBuckets(
        playing.map(({ id }) => playsOf.get(id)?.at(-1) ?? null),
        nowMs,
        turn ? turn.averageRest * 1000 : null,
      ),
      spread: categorySpread(
        playing.map(({ id }) =>
          hourSpread(
            (playsOf.get(id) ?? []).map((at) => localTimeOf(at, data.timeZone).hour),
            byHour,
          ),
        ),
      ),
    };
  });
}

/** The plays a week that share a value with each item, as `freeOnAverage` takes them, with the category's own part scaled. */
export function sharedRates({ own, other }: SheetRule, scale: number, lengthSeconds: number): SharedRate[] {
  return own.map((rate, at) => ({ playsPerWeek: rate * scale + elementAt(other, at), lengthSeconds }));
}

/** Plays of each item up to now, oldest first. */
export function playsByItem(plays: readonly StationPlay[], nowMs: number): Map<string, number[]> {
  const found = new Map<string, number[]>();
  for (const { itemId, startMs } of [...plays].sort((a, b) => a.startMs - b.startMs)) {
    if (startMs > nowMs) continue;
    const own = found.get(itemId);
    if (own) own.push(startMs);
    else found.set(itemId, [startMs]);
  }
  return found;
}

/** Slots by hour of the day. */
export function slotsByHour(slots: readonly number[]): number[] {
  const counts = Array.from({ length: 24 }, () => 0);
  for (const at of slots) counts[Math.floor((at % 86_400) / 3600)]!++;
  return counts;
}

function withEmpty(
  categories: Readonly<Record<string, readonly string[]>>,
  slots: ReadonlyMap<string, readonly number[]>,
): Record<string, readonly string[]> {
  return { ...Object.fromEntries([...slots.keys()].map((id) => [id, []])), ...categories };
}

function neverAvailable(item: { readonly hours: string | null }): Unavailability | null {
  if (item.hours === null) return null;
  const ever = Array.from({ length: 168 }, (_, cell) => cell).some((cell) =>
    mayAirInHour(item, Math.floor(cell / 24), cell % 24),
  );
  return ever ? null : { because: 'hour' };
}

type Rates = Map<string, number>;

/** Plays a week of each value of a tag: in all, and within each category, where the items of a category share its slots evenly. */
function ratesOf(
  { data, known, tagsOfItem }: StationModel,
  tag: string,
  slots: ReadonlyMap<string, readonly number[]>,
): { total: Rates; within: Map<string, Rates> } {
  const total: Rates = new Map();
  const within = new Map<string, Rates>();
  for (const [categoryId, ids] of Object.entries(data.categories)) {
    const share = (slots.get(categoryId)?.length ?? 0) / Math.max(1, ids.length);
    const own: Rates = new Map();
    if (!data.musicCategories.includes(categoryId)) continue;
    for (const id of ids) {
      const item = known.get(id);
      for (const value of item ? (lookUp(tagsOfItem, id)[tag] ?? []) : []) {
        own.set(value, (own.get(value) ?? 0) + share);
        total.set(value, (total.get(value) ?? 0) + share);
      }
    }
    within.set(categoryId, own);
  }
  return { total, within };
}

function ratesOfItems(
  { tagsOfItem }: StationModel,
  items: readonly { readonly id: string }[],
  tag: string,
  total: Rates,
  within: Rates,
): Pick<SheetRule, 'own' | 'other'> {
  const sum = (rates: Rates, values: readonly string[]): number =>
    values.reduce((all, value) => all + (rates.get(value) ?? 0), 0);
  const rounded = (value: number): number => Math.round(value * 1000) / 1000;
  const values = items.map(({ id }) => lookUp(tagsOfItem, id)[tag] ?? []);
  return {
    own: values.map((one) => rounded(sum(within, one))),
    other: values.map((one) => rounded(sum(total, one) - sum(within, one))),
  };
}

function restBuckets(last: readonly (number | null)[], nowMs: number, averageMs: number | null): number[] {
  const buckets = Array.from({ length: REST_BUCKETS }, () => 0);
  if (averageMs === null) return buckets;
  for (const at of last) {
    const place = at === null ? REST_BUCKETS - 1 : Math.floor(((nowMs - at) / averageMs) * BUCKET_SHARE);
    buckets[Math.min(REST_BUCKETS - 1, place)]!++;
  }
  return buckets;
}
