import { isDate, isTimeZone } from '@fuller/core';
import * as v from 'valibot';

export const Id = v.pipe(v.string(), v.regex(/^[A-Za-z0-9_-]{1,40}$/, 'is not an id'));
export const DateText = v.pipe(v.string(), v.check(isDate, 'is not a date like 2026-11-23'));
const [FIRST_DATE, LAST_DATE] = ['1990-01-01', '2199-12-31'];
/** A date that can have a log. */
export const AirDate = v.pipe(
  DateText,
  v.check((date) => date >= FIRST_DATE && date <= LAST_DATE, `is not between ${FIRST_DATE} and ${LAST_DATE}`),
);
export const ZoneName = v.pipe(v.string(), v.check(isTimeZone, 'is not a time zone like Europe/Dublin'));
export const Revision = v.pipe(v.number(), v.integer(), v.minValue(1));
export const Name = v.pipe(
  v.string(),
  v.trim(),
  v.minLength(1, 'is empty'),
  v.maxLength(80, 'is longer than 80 characters'),
);
export const Colour = v.pipe(v.string(), v.regex(/^#[0-9A-Fa-f]{6}$/, 'is not a colour like #1F6FA8'));
export const ShortText = v.pipe(v.string(), v.maxLength(500, 'is longer than 500 characters'));
export const LongText = v.pipe(v.string(), v.maxLength(20_000, 'is longer than 20,000 characters'));
export const WholeMs = v.pipe(
  v.number(),
  v.integer(),
  v.minValue(0),
  v.maxValue(86_400_000, 'is longer than 24 hours'),
);
/** A whole number in a query string. */
export const QueryInteger = v.pipe(v.string(), v.regex(/^\d{1,9}$/, 'is not a whole number'), v.transform(Number));
export const ScopeName = v.picklist(['group', 'station']);

/** What every change answers: the activity that undoes it. */
export const Change = v.object({
  activityId: v.nullable(Id),
  label: v.string(),
  /** What an undo left as it is because others have changed it since, in words. */
  left: v.optional(v.array(v.string())),
});
export type Change = v.InferOutput<typeof Change>;

/** Every error answer. `field` names the part of the request that is wrong. */
export const ErrorAnswer = v.object({
  code: v.string(),
  status: v.number(),
  message: v.string(),
  field: v.optional(v.string()),
});
export type ErrorAnswer = v.InferOutput<typeof ErrorAnswer>;
