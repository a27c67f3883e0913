import * as v from 'valibot';
import { Name } from './basics.js';
import { CategoryCode } from './catalogue.js';
import { ClockLineSchema } from './clocks.js';

/** A library is cut into so many categories at most at its beginning. */
export const MOST_BEGUN_CATEGORIES = 12;

const AxisView = v.object({
  key: v.string(),
  name: v.string(),
  why: v.string(),
  values: v.array(v.object({ label: v.string(), songs: v.number() })),
  /** What is proposed along it. */
  proposed: v.array(v.object({ name: v.string(), code: v.string(), from: v.number(), to: v.number() })),
});

/** How far a station is with its beginning. */
export const BeginView = v.object({
  songs: v.number(),
  /** Those that stand in no category yet. */
  withoutCategory: v.number(),
  withoutLength: v.number(),
  artists: v.number(),
  averageMs: v.number(),
  /** Music categories with songs. */
  categories: v.array(
    v.object({ id: v.string(), name: v.string(), code: v.string(), colour: v.string(), songs: v.number() }),
  ),
  clocks: v.number(),
  rules: v.number(),
  tomorrow: v.string(),
  /** The orders along which the songs without a category can be cut. */
  axes: v.array(AxisView),
});
export type BeginView = v.InferOutput<typeof BeginView>;

const place = v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(100_000));
/** Cuts the songs without a category along an axis; parts in order, without gaps. */
export const BeginCategories = v.strictObject({
  axis: v.pipe(v.string(), v.maxLength(200)),
  parts: v.pipe(
    v.array(v.strictObject({ name: Name, code: CategoryCode, from: place, to: place })),
    v.minLength(1, 'is empty'),
    v.maxLength(MOST_BEGUN_CATEGORIES, `has more than ${MOST_BEGUN_CATEGORIES} categories`),
  ),
});
export type BeginCategories = v.InferOutput<typeof BeginCategories>;

/** A length for songs of which none is known, until their audio is. */
export const BeginLengths = v.strictObject({
  durationMs: v.pipe(
    v.number(),
    v.integer(),
    v.minValue(30_000, 'is under 30 seconds'),
    v.maxValue(3_600_000, 'is over an hour'),
  ),
});

const Breaks = v.picklist([0, 1, 2]);
export const SetUpQuery = v.strictObject({
  breaks: v.optional(
    v.pipe(
      v.picklist(['0', '1', '2']),
      v.transform((count) => Number(count) as 0 | 1 | 2),
    ),
    '0',
  ),
});
export const BeginSetUp = v.strictObject({ breaks: Breaks });

/** Clocks, week and rules made for a library, and what a day made with them comes to. */
export const SetUpView = v.object({
  clocks: v.array(
    v.object({
      name: v.string(),
      colour: v.string(),
      lengthMs: v.number(),
      lines: v.array(ClockLineSchema),
      /** When it runs, in words. */
      when: v.string(),
    }),
  ),
  rules: v.array(v.object({ sentence: v.string(), must: v.boolean() })),
  categories: v.array(
    v.object({
      categoryId: v.string(),
      songs: v.number(),
      slotsPerWeek: v.number(),
      turnoverHours: v.nullable(v.number()),
    }),
  ),
  /** Of tomorrow, made in memory to see whether it comes out. */
  tried: v.nullable(v.object({ slots: v.number(), open: v.number() })),
  /** Why it is as it is. */
  why: v.array(v.string()),
  /** What a good day needs and is not there. */
  missing: v.array(v.string()),
});
export type SetUpView = v.InferOutput<typeof SetUpView>;
