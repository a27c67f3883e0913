import * as v from 'valibot';
import { AirDate, Id, ShortText } from './basics.js';
import { ClockLineSchema } from './clocks.js';

/** A forecast looks so many weeks ahead at most. */
export const MOST_FORECAST_WEEKS = 26;
const MOST_CHANGES = 50;

/** A thing by its id, or as people call it: a category by code or name, a clock by name, a song by cart, a rule by its sentence. */
const Called = v.pipe(ShortText, v.trim(), v.minLength(1, 'is empty'));
const whole = (low: number, high: number) => v.pipe(v.number(), v.integer(), v.minValue(low), v.maxValue(high));

/** What a forecast changes of the set-up. */
export const ForecastChangeAsked = v.variant('kind', [
  v.strictObject({
    kind: v.literal('move'),
    songs: v.pipe(v.array(Called), v.minLength(1), v.maxLength(5000)),
    /** Null takes them out of rotation. */
    to: v.nullable(Called),
  }),
  v.strictObject({
    kind: v.literal('rule'),
    rule: Called,
    /** In the unit of the rule: seconds, plays or days. */
    amount: v.optional(whole(0, 31_536_000)),
    resting: v.optional(v.boolean()),
  }),
  v.strictObject({
    kind: v.literal('clock'),
    clock: Called,
    lines: v.pipe(v.array(ClockLineSchema), v.maxLength(500)),
  }),
  v.strictObject({ kind: v.literal('add'), category: Called, songs: whole(1, 2000) }),
  v.strictObject({ kind: v.literal('fewer'), category: Called, songs: whole(1, 5000) }),
  v.pipe(
    v.strictObject({
      kind: v.literal('week'),
      /** 0 is Monday. */
      days: v.pipe(v.array(whole(0, 6)), v.minLength(1), v.maxLength(7)),
      /** Minutes of the day. */
      from: whole(0, 1435),
      to: whole(5, 1440),
      clock: Called,
    }),
    v.forward(
      v.check(({ from, to }) => to > from, 'is not after the beginning'),
      ['to'],
    ),
  ),
]);
export type ForecastChangeAsked = v.InferOutput<typeof ForecastChangeAsked>;
export const ForecastChanges = v.pipe(v.array(ForecastChangeAsked), v.maxLength(MOST_CHANGES));

const count = v.object({ today: v.number(), changed: v.number() });
const maybe = v.object({ today: v.nullable(v.number()), changed: v.nullable(v.number()) });

/** Weeks under today’s set-up and under a changed one, side by side. */
export const ForecastAnswer = v.object({
  from: AirDate,
  weeks: v.number(),
  seed: v.number(),
  /** What differs, the most telling first. */
  sentences: v.array(v.string()),
  slots: count,
  open: count,
  strains: v.array(v.object({ ruleId: v.string(), rule: v.string(), count })),
  /** Hours that end within five seconds of their mark, and all of them. */
  onTime: count,
  hours: count,
  categories: v.array(
    v.object({
      categoryId: Id,
      category: v.string(),
      songs: count,
      plays: count,
      /** Mean seconds between two plays of a song. */
      rest: maybe,
      spread: maybe,
      open: count,
    }),
  ),
  songs: v.array(v.object({ itemId: v.string(), title: v.string(), artist: v.string(), plays: count, rest: maybe })),
});
export type ForecastAnswer = v.InferOutput<typeof ForecastAnswer>;

const LARGEST_SEED = 4_294_967_295;

/** Weeks to generate in memory. */
export const ForecastRequest = v.strictObject({
  /** The first day; tomorrow where there is none. */
  from: v.optional(AirDate),
  weeks: whole(1, MOST_FORECAST_WEEKS),
  seed: v.optional(whole(0, LARGEST_SEED), 1),
  changes: v.optional(ForecastChanges, []),
});
export type ForecastRequest = v.InferOutput<typeof ForecastRequest>;

/** A forecast that was made; it is there until the server stops. */
export const ForecastBrief = v.object({
  id: Id,
  atMs: v.number(),
  from: AirDate,
  weeks: v.number(),
  /** What it changes, in words. */
  changes: v.array(v.string()),
});
export type ForecastBrief = v.InferOutput<typeof ForecastBrief>;

export const ForecastView = v.object({
  ...ForecastBrief.entries,
  /** What was asked, with everything by its id. */
  asked: ForecastRequest,
  answer: ForecastAnswer,
});
export type ForecastView = v.InferOutput<typeof ForecastView>;
