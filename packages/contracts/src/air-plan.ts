import {
  BLOCK_RUNS,
  elementAt,
  DAY_MINUTES,
  GRAIN_MINUTES,
  LONGEST_SHOW_MINUTES,
  repeatFault,
  WEEK_MINUTES,
} from '@fuller/core';
import * as v from 'valibot';
import { Colour, DateText, Id, Name, Revision } from './basics.js';

const Minutes = (most: number) =>
  v.pipe(
    v.number(),
    v.integer(),
    v.minValue(GRAIN_MINUTES, 'is less than five minutes'),
    v.maxValue(most, 'is too long'),
    v.multipleOf(GRAIN_MINUTES, 'is not a multiple of five minutes'),
  );
const At = (end: number) =>
  v.pipe(
    v.number(),
    v.integer(),
    v.minValue(0, 'is before the start'),
    v.maxValue(end - GRAIN_MINUTES, 'is beyond the end'),
    v.multipleOf(GRAIN_MINUTES, 'is not a multiple of five minutes'),
  );
const blockFields = { minutes: Minutes(DAY_MINUTES), runs: v.picklist(BLOCK_RUNS), id: Id };
/** In order, and never into one another; the last may reach over the end as far as the first leaves room. */
const apart = (blocks: readonly { at: number; minutes: number }[], end: number): boolean =>
  blocks.every(({ at, minutes }, n) => at + minutes <= (blocks[n + 1]?.at ?? elementAt(blocks, 0).at + end));
const WeekBlocks = v.pipe(
  v.array(v.strictObject({ at: At(WEEK_MINUTES), ...blockFields })),
  v.maxLength(WEEK_MINUTES / GRAIN_MINUTES, 'are more than a week holds'),
  v.check((blocks) => apart(blocks, WEEK_MINUTES), 'overlap, or are not in order'),
);
const DayBlocks = v.pipe(
  v.array(v.strictObject({ at: At(DAY_MINUTES), ...blockFields })),
  v.maxLength(DAY_MINUTES / GRAIN_MINUTES, 'are more than a day holds'),
  v.check((blocks) => apart(blocks, 2 * DAY_MINUTES), 'overlap, or are not in order'),
);

const frameId = v.nullable(Id);
export const FramingSchema = v.strictObject({
  hourOpenerId: frameId,
  hourCloserId: frameId,
  showOpenerId: frameId,
  showCloserId: frameId,
  momentsId: frameId,
});
export const WeekUpdate = v.strictObject({
  revision: Revision,
  blocks: v.optional(WeekBlocks),
  defaultClockId: v.optional(v.nullable(Id)),
  framing: v.optional(FramingSchema),
});
export const Week = v.object({
  revision: Revision,
  blocks: v.array(v.object({ at: v.number(), minutes: v.number(), runs: blockFields.runs, id: Id })),
  defaultClockId: v.nullable(Id),
  framing: FramingSchema,
});
export type Week = v.InferOutput<typeof Week>;

const showFields = {
  name: Name,
  colour: Colour,
  clockIds: v.pipe(v.array(Id), v.minLength(1, 'are none: a show needs a clock'), v.maxLength(24, 'are more than 24')),
  minutes: Minutes(LONGEST_SHOW_MINUTES),
  start: v.picklist(['hard', 'soft']),
  end: v.picklist(['exact', 'soft']),
  toleranceMs: v.pipe(
    v.number(),
    v.integer(),
    v.minValue(1000, 'is less than a second'),
    v.maxValue(60_000, 'is more than a minute'),
  ),
  after: v.picklist(['next', 'silence']),
  /** Who may take over the air within it; empty where it is not live. */
  presenter: v.pipe(v.string(), v.trim(), v.maxLength(80, 'is longer than 80 characters')),
  announcementId: v.nullable(Id),
  openerId: frameId,
  closerId: frameId,
  hourOpenerId: frameId,
};
export const NewShow = v.strictObject({
  ...showFields,
  start: v.optional(showFields.start, 'soft'),
  end: v.optional(showFields.end, 'soft'),
  toleranceMs: v.optional(showFields.toleranceMs, 5000),
  after: v.optional(showFields.after, 'next'),
  presenter: v.optional(showFields.presenter, ''),
  announcementId: v.optional(showFields.announcementId, null),
  openerId: v.optional(frameId, null),
  closerId: v.optional(frameId, null),
  hourOpenerId: v.optional(frameId, null),
});
export const ShowPatch = v.strictObject({
  revision: Revision,
  ...v.partial(v.object(showFields)).entries,
  /** A new password for its presenter; an empty one lets nobody take the air. */
  password: v.optional(v.pipe(v.string(), v.maxLength(200, 'is longer than 200 characters'))),
});
export const ShowRow = v.object({ ...showFields, id: Id, revision: Revision });
export type ShowRow = v.InferOutput<typeof ShowRow>;
export type NewShow = v.InferInput<typeof NewShow>;

const Repeat = v.pipe(
  v.string(),
  v.trim(),
  v.maxLength(300, 'is longer than 300 characters'),
  v.rawCheck(({ dataset, addIssue }) => {
    const fault = dataset.typed ? repeatFault(dataset.value) : null;
    if (fault) addIssue({ message: `is not a recurrence rule that can be used: it ${fault}` });
  }),
);
const dateFields = {
  name: Name,
  start: DateText,
  repeat: Repeat,
  like: v.nullable(v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(6, 'is not a day of the week'))),
  instead: v.boolean(),
  blocks: DayBlocks,
};
export const NewDatePlan = v.strictObject({
  ...dateFields,
  repeat: v.optional(Repeat, ''),
  like: v.optional(dateFields.like, null),
  instead: v.optional(v.boolean(), false),
  blocks: v.optional(DayBlocks, []),
});
export const DatePlanPatch = v.strictObject({ revision: Revision, ...v.partial(v.object(dateFields)).entries });
export const DatePlanRow = v.object({ ...dateFields, id: Id, revision: Revision });
export type DatePlanRow = v.InferOutput<typeof DatePlanRow>;
export type NewDatePlan = v.InferInput<typeof NewDatePlan>;

/** What a line with a filter can draw from. */
export const DrawCount = v.object({
  categoryId: Id,
  filter: v.string(),
  items: v.number(),
  averageMs: v.number(),
  standardDeviationMs: v.number(),
  /** What is wrong with the filter; null when it can be read. */
  fault: v.nullable(v.string()),
});
export type DrawCount = v.InferOutput<typeof DrawCount>;

/** Hours of a coming log that its clocks would make otherwise now. */
export const StaleLog = v.object({
  date: v.string(),
  hours: v.array(v.object({ index: v.number(), localHour: v.number(), clockName: v.string() })),
});
export type StaleLog = v.InferOutput<typeof StaleLog>;
