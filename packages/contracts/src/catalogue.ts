import { LONGEST_COOL_OFF, TURN_ORDERS } from '@fuller/core';
import * as v from 'valibot';
import { Change, Colour, Id, Name, Revision, ScopeName, ZoneName } from './basics.js';
import { ClockRow } from './clocks.js';
import { LimitSettings } from './limits.js';
import { DaypartRow, RuleRow } from './rules.js';
import { DatePlanRow, DrawCount, ShowRow, Week } from './air-plan.js';

export const Station = v.object({
  id: Id,
  name: v.string(),
  frequency: v.string(),
  timeZone: ZoneName,
  /** Today on the station's clock. */
  today: v.string(),
  revision: Revision,
  /** Kept to look at: nothing is planned, generated or handed over for it. */
  archived: v.boolean(),
  /** Moves between categories that are due are made each night. */
  movesByItself: v.boolean(),
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
/** A song leaves after so many weeks or plays; null takes it out of rotation. */
const Life = v.strictObject({
  after: v.pipe(v.number(), v.integer(), v.minValue(1, 'is less than 1'), v.maxValue(1000, 'is more than 1,000')),
  unit: v.picklist(['weeks', 'plays']),
  to: v.nullable(Id),
});
export const NewCategory = v.strictObject({
  ...categoryFields,
  scope: v.optional(ScopeName, 'station'),
  turnOrder: v.optional(turnFields.turnOrder, 'even'),
  approvedOnly: v.optional(turnFields.approvedOnly, false),
  coolOff: v.optional(turnFields.coolOff, null),
  life: v.optional(v.nullable(Life), null),
});
export const CategoryPatch = v.strictObject({
  revision: Revision,
  ...v.partial(v.object({ ...categoryFields, ...turnFields, life: v.nullable(Life) })).entries,
});
export const CategoryRow = v.object({
  ...categoryFields,
  ...turnFields,
  life: v.nullable(Life),
  id: Id,
  revision: Revision,
  scope: ScopeName,
  /** A pool that stands where a category can: a saved filter, not a place items are put into. */
  pool: v.boolean(),
  position: v.number(),
  items: v.number(),
  averageMs: v.number(),
  /** Standard deviation of the lengths, milliseconds. */
  standardDeviationMs: v.number(),
  slotsPerWeek: v.number(),
  /** Null when the week asks nothing of it. */
  turnoverHours: v.nullable(v.number()),
});
export type CategoryRow = v.InferOutput<typeof CategoryRow>;
export const CategoryGroup = v.object({ id: Id, name: v.string(), position: v.number() });
export type CategoryGroup = v.InferOutput<typeof CategoryGroup>;

/** An item that a clock names, as far as the clock shows it. */
export const NamedItem = v.object({ id: Id, title: v.string(), kind: v.string(), durationMs: v.number() });

/** A note of a stored document that could not be read, and of what stands in its place. */
export const UnreadableNote = v.object({ id: Id, text: v.string() });
export type UnreadableNote = v.InferOutput<typeof UnreadableNote>;

/** A tag family as far as sentences of rules name it. */
export const RuleFamily = v.object({
  id: Id,
  name: v.string(),
  values: v.pipe(v.array(v.string()), v.readonly()),
  codes: v.record(v.string(), v.string()),
});

/** What most screens share of a station. */
export const Catalogue = v.object({
  station: Station,
  categories: v.array(CategoryRow),
  groups: v.array(CategoryGroup),
  clocks: v.array(ClockRow),
  clockItems: v.array(NamedItem),
  week: Week,
  shows: v.array(ShowRow),
  dates: v.array(DatePlanRow),
  /** What lines with a filter can draw from. */
  draws: v.array(DrawCount),
  /** The set lists clocks and weeks can play, with their average length. */
  setLists: v.array(v.object({ id: Id, name: v.string(), rows: v.number(), totalMs: v.number() })),
  /** Average length of the station's teases, milliseconds; 0 without any. */
  teaseMs: v.number(),
  rules: v.array(RuleRow),
  dayparts: v.array(DaypartRow),
  limits: LimitSettings,
  families: v.array(RuleFamily),
  items: v.number(),
  withoutCategory: v.number(),
});
export type Catalogue = v.InferOutput<typeof Catalogue>;

export const Created = v.object({ ...Change.entries, id: Id });
export type Created = v.InferOutput<typeof Created>;
