import * as v from 'valibot';

/** One thing that a change changed; what it was and is, field by field, in words a person can read. */
export const ActivityChange = v.object({
  thing: v.string(),
  name: v.string(),
  did: v.picklist(['made', 'changed', 'deleted']),
  fields: v.array(v.object({ field: v.string(), before: v.nullable(v.string()), after: v.nullable(v.string()) })),
});
export type ActivityChange = v.InferOutput<typeof ActivityChange>;

export const ActivityChanges = v.object({
  /** The first of them. */
  changes: v.array(ActivityChange),
  total: v.number(),
});
export type ActivityChanges = v.InferOutput<typeof ActivityChanges>;

export const ActivitySettings = v.strictObject({
  /** Days that activities are kept, and can be undone; null keeps them all. */
  keptDays: v.nullable(v.pipe(v.number(), v.integer(), v.minValue(7), v.maxValue(3650))),
});
export type ActivitySettings = v.InferOutput<typeof ActivitySettings>;
