import { LONGEST_COOL_OFF, LONGEST_SEPARATION, SEPARATED_TAGS, TURN_ORDERS, WEEK_HOURS } from '@fuller/core';
import * as v from 'valibot';
import { Change, Colour, Id, Name, Revision, ScopeName, ShortText, WholeMs, ZoneName } from './basics.js';

export const Station = v.object({
  id: Id,
  name: v.string(),
  frequency: v.string(),
  timeZone: ZoneName,
  /** Today on the station's clock. */
  today: v.string(),
});
export type Station = v.InferOutput<typeof Station>;

export const CategoryCode = v.pipe(
  v.string(),
  v.trim(),
  v.regex(/^[\p{L}\p{N}]{1,4}$/u, 'must be 1 to 4 letters or digits'),
);
const categoryFields = {
  name: Name,
  code: CategoryCode,
  colour: Colour,
  music: v.boolean(),
  groupId: v.nullable(Id),
};
const days = v.pipe(
  v.number(),
  v.integer(),
  v.minValue(1, 'is less than 1'),
  v.maxValue(LONGEST_COOL_OFF, 'is more than 28 days'),
);
const turnFields = {
  turnOrder: v.picklist(TURN_ORDERS),
  approvedOnly: v.boolean(),
  /** After so many plays within so many days, so many days of rest. */
  coolOff: v.nullable(
    v.strictObject({
      plays: v.pipe(v.number(), v.integer(), v.minValue(2, 'is less than 2'), v.maxValue(1000, 'is more than 1,000')),
      days,
      rest: days,
    }),
  ),
};
export const NewCategory = v.strictObject({
  ...categoryFields,
  scope: v.optional(ScopeName, 'station'),
  turnOrder: v.optional(turnFields.turnOrder, 'even'),
  approvedOnly: v.optional(turnFields.approvedOnly, false),
  coolOff: v.optional(turnFields.coolOff, null),
});
export const CategoryPatch = v.strictObject({
  revision: Revision,
  ...v.partial(v.object({ ...categoryFields, ...turnFields })).entries,
});
export const CategoryRow = v.object({
  ...categoryFields,
  ...turnFields,
  id: Id,
  revision: Revision,
  scope: ScopeName,
  /** A pool that stands where a category can: a saved filter, not a place items are put into. */
  pool: v.boolean(),
  position: v.number(),
  items: v.number(),
  averageMs: v.number(),
  slotsPerWeek: v.number(),
  /** Null when the week asks nothing of it. */
  turnoverHours: v.nullable(v.number()),
});
export type CategoryRow = v.InferOutput<typeof CategoryRow>;
export const CategoryGroup = v.object({ id: Id, name: v.string(), position: v.number() });
export type CategoryGroup = v.InferOutput<typeof CategoryGroup>;

const lineBase = { id: Id, comment: ShortText };
export const ClockLineSchema = v.variant('kind', [
  v.strictObject({
    ...lineBase,
    kind: v.literal('pick'),
    categoryId: Id,
    turnOrder: v.optional(v.picklist(TURN_ORDERS)),
  }),
  v.strictObject({ ...lineBase, kind: v.literal('item'), itemId: Id }),
  v.strictObject({
    ...lineBase,
    kind: v.literal('break'),
    bookedAtMs: v.pipe(WholeMs, v.maxValue(3_599_999, 'is not within the hour')),
    durationMs: v.pipe(WholeMs, v.maxValue(3_600_000, 'is longer than the hour')),
  }),
  v.strictObject({ ...lineBase, kind: v.literal('note'), text: ShortText }),
]);
const Lines = v.pipe(
  v.array(ClockLineSchema),
  v.maxLength(200, 'are more than 200 in one clock'),
  v.check((lines) => new Set(lines.map((line) => line.id)).size === lines.length, 'hold one id twice'),
);
export const NewClock = v.strictObject({ name: Name, colour: Colour, lines: v.optional(Lines, []) });
export const ClockUpdate = v.strictObject({ revision: Revision, name: Name, colour: Colour, lines: Lines });
export const ClockRow = v.object({
  id: Id,
  revision: Revision,
  scope: ScopeName,
  name: v.string(),
  colour: v.string(),
  lines: v.array(ClockLineSchema),
});
export type ClockRow = v.InferOutput<typeof ClockRow>;

export const WeekUpdate = v.strictObject({
  revision: Revision,
  cells: v.pipe(v.array(v.nullable(Id)), v.length(WEEK_HOURS, 'must be 168, Monday 00:00 first')),
  defaultClockId: v.nullable(Id),
});
export const Week = v.object({ revision: Revision, cells: v.array(v.nullable(Id)), defaultClockId: v.nullable(Id) });
export type Week = v.InferOutput<typeof Week>;

const Separation = v.pipe(
  v.number(),
  v.integer(),
  v.minValue(1),
  v.maxValue(LONGEST_SEPARATION, 'is longer than 28 days'),
);
const ruleFields = {
  tag: v.picklist(SEPARATED_TAGS),
  seconds: Separation,
  secondsByCategory: v.record(Id, Separation),
  resting: v.boolean(),
};
export const NewRule = v.strictObject(ruleFields);
export const RulePatch = v.strictObject({ revision: Revision, ...v.partial(v.object(ruleFields)).entries });
export const RuleRow = v.object({
  ...ruleFields,
  id: Id,
  revision: Revision,
  shape: v.literal('apart'),
  position: v.number(),
});
export type RuleRow = v.InferOutput<typeof RuleRow>;

/** An item that a clock names, as far as the clock shows it. */
export const NamedItem = v.object({ id: Id, title: v.string(), kind: v.string(), durationMs: v.number() });

/** What most screens share of a station. */
export const Catalogue = v.object({
  station: Station,
  categories: v.array(CategoryRow),
  groups: v.array(CategoryGroup),
  clocks: v.array(ClockRow),
  clockItems: v.array(NamedItem),
  week: Week,
  rules: v.array(RuleRow),
  items: v.number(),
  withoutCategory: v.number(),
});
export type Catalogue = v.InferOutput<typeof Catalogue>;

export const Created = v.object({ ...Change.entries, id: Id });
export type Created = v.InferOutput<typeof Created>;
