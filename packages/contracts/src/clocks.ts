import { GRAIN_MS, HOUR_MS, LONGEST_CLOCK_MS, MOST_ROWS_OF_LINE, TURN_ORDERS } from '@fuller/core';
import * as v from 'valibot';
import { Colour, Id, Name, Revision, ScopeName, ShortText, WholeMs } from './basics.js';

const OneLine = v.pipe(
  v.string(),
  v.maxLength(500, 'is longer than 500 characters'),
  v.regex(/^[^\r\n]*$/, 'must be one line'),
  v.trim(),
);
const Filter = v.pipe(
  v.string(),
  v.trim(),
  v.minLength(1, 'is empty'),
  v.maxLength(1000, 'is longer than 1,000 characters'),
);
const InClock = v.pipe(WholeMs, v.maxValue(LONGEST_CLOCK_MS - 1, 'is more than 24 hours in'));
const yes = v.optional(v.literal(true));
/** What a line or an entry asks of player and print. */
export const lineFlags = { waits: yes, noFade: yes, noFile: yes, noPrint: yes };
const themeFields = {
  by: v.pipe(v.string(), v.trim(), v.minLength(1, 'is empty'), v.maxLength(60, 'is longer than 60 characters')),
  group: v.pipe(v.string(), v.trim(), v.minLength(1, 'is empty'), v.maxLength(20, 'is longer than 20 characters')),
};
/** What lines of a clock share. */
const ThemeSchema = v.strictObject(themeFields);
/** A theme of an entry with its value. */
export const EntryThemeSchema = v.strictObject({
  ...themeFields,
  run: v.string(),
  value: v.nullable(v.string()),
  words: v.string(),
});
const lineBase = { id: Id, comment: OneLine, ...lineFlags };
export const ClockLineSchema = v.variant('kind', [
  v.strictObject({
    ...lineBase,
    kind: v.literal('pick'),
    categoryId: Id,
    filter: v.optional(Filter),
    turnOrder: v.optional(v.picklist(TURN_ORDERS)),
    rules: v.optional(v.literal('off')),
    spare: yes,
    theme: v.optional(ThemeSchema),
    ask: v.optional(v.pipe(OneLine, v.minLength(1, 'is empty'), v.maxLength(80, 'is longer than 80 characters'))),
    note: v.optional(ShortText),
  }),
  v.strictObject({ ...lineBase, kind: v.literal('item'), itemId: Id, spare: yes }),
  v.strictObject({
    ...lineBase,
    kind: v.literal('break'),
    bookedAtMs: InClock,
    durationMs: v.pipe(WholeMs, v.maxValue(HOUR_MS, 'is longer than an hour')),
  }),
  v.strictObject({
    ...lineBase,
    kind: v.literal('moment'),
    atMs: InClock,
    hard: v.boolean(),
    itemId: v.nullable(Id),
    categoryId: v.nullable(Id),
    filter: v.optional(Filter),
  }),
  v.strictObject({ ...lineBase, kind: v.literal('fill'), categoryId: Id, filter: v.optional(Filter) }),
  v.strictObject({
    ...lineBase,
    kind: v.literal('set list'),
    setListId: Id,
    take: v.union([
      v.literal('all'),
      v.pipe(
        v.number(),
        v.integer(),
        v.minValue(1, 'is less than 1'),
        v.maxValue(MOST_ROWS_OF_LINE, `is more than ${MOST_ROWS_OF_LINE}`),
      ),
    ]),
    from: v.picklist(['next', 'top']),
  }),
  v.strictObject({
    ...lineBase,
    kind: v.literal('tease'),
    target: v.variant('to', [
      v.strictObject({ to: v.literal('pick'), categoryId: Id }),
      v.strictObject({ to: v.literal('line'), lineId: Id }),
      v.strictObject({ to: v.literal('time'), atMs: InClock }),
      v.strictObject({ to: v.literal('next show') }),
    ]),
  }),
  v.strictObject({ ...lineBase, kind: v.literal('sweeper'), categoryId: Id, filter: v.optional(Filter) }),
  v.strictObject({ ...lineBase, kind: v.literal('next show') }),
  v.strictObject({ ...lineBase, kind: v.literal('note'), text: ShortText }),
]);
const Lines = v.pipe(
  v.array(ClockLineSchema),
  v.maxLength(200, 'are more than 200 in one clock'),
  v.check((lines) => new Set(lines.map((line) => line.id)).size === lines.length, 'hold one id twice'),
  v.check(
    (lines) => lines.every((line) => line.kind !== 'moment' || (line.itemId === null) !== (line.categoryId === null)),
    'hold a moment that does not name either an item or a category',
  ),
);
const LengthMs = v.pipe(
  v.number(),
  v.integer(),
  v.minValue(GRAIN_MS, 'is less than five minutes'),
  v.maxValue(LONGEST_CLOCK_MS, 'is more than 24 hours'),
  v.multipleOf(GRAIN_MS, 'is not a multiple of five minutes'),
);
export const NewClock = v.strictObject({
  name: Name,
  colour: Colour,
  lengthMs: v.optional(LengthMs, HOUR_MS),
  lines: v.optional(Lines, []),
});
export const ClockUpdate = v.strictObject({
  revision: Revision,
  name: Name,
  colour: Colour,
  /** As it was where nothing is said. */
  lengthMs: v.optional(LengthMs),
  lines: Lines,
});
export const ClockRow = v.object({
  id: Id,
  revision: Revision,
  scope: ScopeName,
  name: v.string(),
  colour: v.string(),
  lengthMs: v.number(),
  lines: v.array(ClockLineSchema),
});
export type ClockRow = v.InferOutput<typeof ClockRow>;
