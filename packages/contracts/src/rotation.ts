import { TURN_ORDERS } from '@fuller/core';
import * as v from 'valibot';
import { Id, Name } from './basics.js';
import { CategoryCode } from './catalogue.js';
import { SomeItems } from './library.js';
import { Unavailability } from './plays.js';

const whole = v.pipe(v.number(), v.integer(), v.minValue(1, 'is less than 1'));
/** What a category is to come to. */
export const RotationPlan = v.strictObject({
  items: v.pipe(whole, v.maxValue(100_000, 'is more than 100,000')),
  slotsPerWeek: v.pipe(whole, v.maxValue(20_000, 'is more than 20,000')),
});
export type RotationPlan = v.InferOutput<typeof RotationPlan>;

export const RotationRow = v.object({
  categoryId: Id,
  items: v.number(),
  canPlay: v.number(),
  barred: v.array(v.object({ because: v.string(), items: v.number() })),
  averageMs: v.number(),
  slotsByDay: v.array(v.number()),
  /** Seconds from Monday 00:00. */
  slots: v.array(v.number()),
  rules: v.array(v.object({ ruleId: Id, seconds: v.number(), own: v.array(v.number()), other: v.array(v.number()) })),
  rests: v.array(v.number()),
  spread: v.nullable(v.number()),
  plan: v.nullable(RotationPlan),
});
export type RotationRow = v.InferOutput<typeof RotationRow>;
export const RotationSheet = v.object({ weeks: v.number(), rows: v.array(RotationRow) });
export type RotationSheet = v.InferOutput<typeof RotationSheet>;

export const CategoryRests = v.object({
  weeks: v.number(),
  expected: v.nullable(v.object({ averageMs: v.number(), shortestMs: v.number(), longestMs: v.number() })),
  /** Titles of the items that get no turn in a week: those at the end of the turn. */
  leftOver: v.array(v.string()),
  items: v.array(
    v.object({
      id: Id,
      title: v.string(),
      artist: v.string(),
      weight: v.number(),
      bar: v.nullable(Unavailability),
      sinceMs: v.nullable(v.number()),
      averageMs: v.nullable(v.number()),
      shortestMs: v.nullable(v.number()),
      plays: v.number(),
      state: v.picklist(['even', 'left behind', 'worn']),
      spread: v.nullable(v.number()),
      /** Its plays, UTC epoch milliseconds, oldest first. */
      marks: v.array(v.number()),
    }),
  ),
  picks: v.array(v.object({ id: Id, title: v.string(), artist: v.string() })),
});
export type CategoryRests = v.InferOutput<typeof CategoryRests>;
export const OrderQuery = v.object({ order: v.optional(v.picklist(TURN_ORDERS)) });

/** What hangs on a category. */
export const CategoryUse = v.object({
  items: v.number(),
  clocks: v.array(v.string()),
  pools: v.array(v.string()),
  rules: v.number(),
  plays: v.number(),
});
export type CategoryUse = v.InferOutput<typeof CategoryUse>;
/** Where everything of a category that goes is put. */
export const CategoryMerge = v.strictObject({ into: Id });
export const CategorySplit = v.strictObject({ name: Name, code: CategoryCode, itemIds: SomeItems });
export const NewGroup = v.strictObject({ name: Name });
export const GroupPatch = v.strictObject({ name: Name });
