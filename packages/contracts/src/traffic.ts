import { TextLayoutSchema } from '@fuller/core';
import * as v from 'valibot';
import { Change, WholeMs } from './basics.js';

/** The longest traffic log taken, characters: some 30,000 lines. */
export const LONGEST_TRAFFIC = 3_000_000;
/** A spot may be booked so far from its break at most. */
const WIDEST_TOLERANCE_MS = 1_800_000;

/** A traffic log for a day, read by a layout or by the one its own look proposes. */
export const TrafficRequest = v.strictObject({
  text: v.pipe(v.string(), v.maxLength(LONGEST_TRAFFIC, `is longer than ${LONGEST_TRAFFIC} characters`)),
  layout: v.optional(v.nullable(TextLayoutSchema), null),
  toleranceMs: v.optional(v.pipe(WholeMs, v.maxValue(WIDEST_TOLERANCE_MS)), 300_000),
  /** Tells what would happen and writes nothing. */
  dryRun: v.optional(v.boolean(), false),
});

const Line = { line: v.number(), why: v.string() };
/** A break with what is booked in it. */
export const TrafficBreak = v.object({
  entryId: v.string(),
  /** When it is booked, by the clock on the wall. */
  start: v.string(),
  plannedMs: v.number(),
  bookedMs: v.number(),
  spots: v.number(),
  /** Rivals in it and sponsors back to back, in words. */
  marks: v.array(v.string()),
});
/** What became of a traffic log: every line is placed, in the tray, an error, or holds no spot. */
export const TrafficOutcome = v.object({
  ...Change.entries,
  lines: v.number(),
  placed: v.number(),
  passed: v.number(),
  tray: v.array(v.object({ ...Line, cart: v.string(), sponsor: v.string() })),
  errors: v.array(v.object({ ...Line, text: v.string() })),
  breaks: v.array(TrafficBreak),
  /** Against what was booked before. */
  added: v.number(),
  removed: v.number(),
  layout: TextLayoutSchema,
});
export type TrafficOutcome = v.InferOutput<typeof TrafficOutcome>;
