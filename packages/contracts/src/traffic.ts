import { TextLayoutSchema } from '@fuller/core';
import * as v from 'valibot';
import { Change, Id, Name, Revision, ShortText, WholeMs } from './basics.js';
import { Spot } from './logs.js';

/** The longest traffic log taken, characters: some 30,000 lines. */
export const LONGEST_TRAFFIC = 3_000_000;
/** A spot may be booked so far from its break at most. */
const WIDEST_TOLERANCE_MS = 1_800_000;
export const USUAL_TOLERANCE_MS = 300_000;

const Tolerance = v.pipe(WholeMs, v.maxValue(WIDEST_TOLERANCE_MS, 'is longer than 30 minutes'));

/** A traffic log for a day. */
export const TrafficRequest = v.strictObject({
  text: v.pipe(v.string(), v.maxLength(LONGEST_TRAFFIC, `is longer than ${LONGEST_TRAFFIC} characters`)),
  fileName: v.optional(ShortText, ''),
  /** How to read it; where it is left out the station's layout does, and without one what the file itself proposes. */
  layout: v.optional(v.nullable(TextLayoutSchema), null),
  /** Reads it by the layout the file itself proposes, whatever the station has set. */
  propose: v.optional(v.boolean(), false),
  /** The station's own where it is left out. */
  toleranceMs: v.optional(v.nullable(Tolerance), null),
  /** Tells what would happen and writes nothing. */
  dryRun: v.optional(v.boolean(), false),
});

/** A line of a traffic log that should hold a spot and cannot be read. */
export const LineError = v.object({ line: v.number(), why: v.string(), text: v.string() });
export type LineError = v.InferOutput<typeof LineError>;
/** A spot that stands in no break. */
export const TrayRow = v.object({
  ...Spot.entries,
  /** The line of the file; null for one taken out of a break by hand. */
  line: v.nullable(v.number()),
  /** When it is booked, by the clock on the wall; empty where it is not known. */
  start: v.string(),
  why: v.string(),
});
export type TrayRow = v.InferOutput<typeof TrayRow>;
/** A break with what is booked in it. */
export const TrafficBreak = v.object({
  entryId: v.string(),
  hourIndex: v.number(),
  /** When it is booked, by the clock on the wall, and how far into its hour that is. */
  start: v.string(),
  pastHourMs: v.number(),
  plannedMs: v.number(),
  bookedMs: v.number(),
  /** Null as long as traffic has booked nothing in the day. */
  spots: v.nullable(v.array(Spot)),
  /** Rivals in it and sponsors back to back, in words. */
  marks: v.array(v.string()),
  aired: v.boolean(),
});
export type TrafficBreak = v.InferOutput<typeof TrafficBreak>;
/** What became of a traffic log: every line is placed, in the tray, an error, or holds no spot. */
export const TrafficOutcome = v.object({
  ...Change.entries,
  lines: v.number(),
  placed: v.number(),
  passed: v.number(),
  tray: v.array(TrayRow),
  errors: v.array(LineError),
  breaks: v.array(TrafficBreak),
  /** Against what was booked before. */
  added: v.number(),
  removed: v.number(),
  layout: TextLayoutSchema,
});
export type TrafficOutcome = v.InferOutput<typeof TrafficOutcome>;

export const TrafficSettings = v.strictObject({
  revision: v.pipe(v.number(), v.integer(), v.minValue(0)),
  toleranceMs: Tolerance,
  layoutId: v.nullable(Id),
  /** Where traffic puts its files, below the data folder's `traffic` or a root; null watches none. */
  folder: v.nullable(v.pipe(v.string(), v.maxLength(1000))),
  /** Whether a file for a day that has a log is imported by itself. */
  automatic: v.boolean(),
});
export type TrafficSettings = v.InferOutput<typeof TrafficSettings>;
export const KeptLayout = v.object({ id: Id, revision: v.number(), name: v.string(), layout: TextLayoutSchema });
export type KeptLayout = v.InferOutput<typeof KeptLayout>;
export const LayoutForm = v.strictObject({
  name: Name,
  layout: TextLayoutSchema,
  /** 0 for a new one. */
  revision: v.pipe(v.number(), v.integer(), v.minValue(0)),
});
export const LayoutSaved = v.object({ ...Change.entries, id: Id });

/** The breaks of a day: what is booked in them, and what of the last traffic log is not. */
export const TrafficDay = v.object({
  /** Of the log. */
  revision: Revision,
  breaks: v.array(TrafficBreak),
  hours: v.array(v.object({ index: v.number(), localHour: v.number() })),
  tray: v.array(TrayRow),
  errors: v.array(LineError),
  /** The traffic log that was imported last; null where none was. */
  file: v.nullable(v.object({ name: v.string(), atMs: v.number(), lines: v.number() })),
  /** Files in the watched folder that are for the day and have not been imported. */
  waiting: v.array(v.string()),
});
export type TrafficDay = v.InferOutput<typeof TrafficDay>;
export const TrafficSetUp = v.object({
  settings: TrafficSettings,
  layouts: v.array(KeptLayout),
  /** The folder that a relative name is read against. */
  folder: v.string(),
  /** Why the watched folder cannot be read. */
  fault: v.nullable(v.string()),
});
export type TrafficSetUp = v.InferOutput<typeof TrafficSetUp>;

/** Moves a spot: from a break or the tray, to a place in a break or to the tray. */
export const MoveSpot = v.strictObject({
  revision: Revision,
  spotId: v.pipe(v.string(), v.maxLength(200)),
  /** Null is the tray. */
  toEntryId: v.nullable(v.pipe(v.string(), v.maxLength(200))),
  /** Its place among the spots there, from 0; at the end where it is left out. */
  at: v.optional(v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(1000))),
});
export type MoveSpot = v.InferOutput<typeof MoveSpot>;
