import * as v from 'valibot';

/** One thing that does not add up. */
export const CareFinding = v.object({
  what: v.string(),
  count: v.number(),
  /** The first of them, by name. */
  examples: v.array(v.string()),
  /** Whether it can be mended without losing anything. */
  mends: v.boolean(),
});
export type CareFinding = v.InferOutput<typeof CareFinding>;

/** A file name of a backup: nothing that leads elsewhere. */
export const BackupName = v.pipe(
  v.string(),
  v.regex(/^[A-Za-z0-9][A-Za-z0-9_-]{0,39}$/, 'is not the name of a backup'),
);

export const BackupRow = v.object({
  name: BackupName,
  atMs: v.number(),
  bytes: v.number(),
  /** Whether it was made by the schedule, by hand, or before something was replaced. */
  made: v.picklist(['nightly', 'by hand', 'before']),
});
export type BackupRow = v.InferOutput<typeof BackupRow>;

export const BackupSettings = v.strictObject({
  /** The time of day by the first station’s clock; null where none is made by itself. */
  nightlyAt: v.nullable(v.pipe(v.string(), v.regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'is not a time of day like 04:00'))),
  /** So many made by itself are kept. */
  kept: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(365)),
  /** Where they are written; empty for the data folder’s own. */
  folder: v.pipe(v.string(), v.maxLength(500)),
});
export type BackupSettings = v.InferOutput<typeof BackupSettings>;

export const Backups = v.object({
  /** Whether Fuller makes them; a database of PostgreSQL is backed up with its own tools. */
  madeHere: v.boolean(),
  folder: v.string(),
  settings: BackupSettings,
  backups: v.array(BackupRow),
  /** Why the last one failed; null where it did not. */
  problem: v.nullable(v.string()),
});
export type Backups = v.InferOutput<typeof Backups>;

/** What a backup holds, and whether it can be restored. */
export const BackupFacts = v.object({
  name: BackupName,
  stations: v.array(v.string()),
  items: v.number(),
  logs: v.number(),
  /** Why it cannot be restored; empty where it can. */
  faults: v.array(v.string()),
});
export type BackupFacts = v.InferOutput<typeof BackupFacts>;

export const OneBackup = v.object({ id: BackupName });
export const Restored = v.object({
  /** The backup of what was there before. */
  before: v.string(),
  /** Whether the server starts again by itself; otherwise it is restored at the next start. */
  restarts: v.boolean(),
});
