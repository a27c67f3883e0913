import { ITEM_KINDS, MISSING_LETTERS, OUTPUT_ENCODINGS, OUTPUT_FORMATS, SLASHES, TextLayoutSchema } from '@fuller/core';
import * as v from 'valibot';
import { AirDate, Change, Id, Name, ShortText } from './basics.js';

const MOST_PREFIXES = 20;

/** How the files of an output are made; only a pattern and whether they are hourly must be given. */
export const HandOverSettings = v.strictObject({
  pattern: v.pipe(v.string(), v.minLength(1, 'is empty'), v.maxLength(200)),
  hourly: v.boolean(),
  format: v.optional(v.picklist(OUTPUT_FORMATS), 'm3u8'),
  /** How text is written; null writes the plain layout. */
  layout: v.optional(v.nullable(TextLayoutSchema), null),
  /** Beginnings of paths, and what the player's machine has in their place. */
  prefixes: v.optional(
    v.pipe(
      v.array(v.strictObject({ from: v.pipe(ShortText, v.minLength(1, 'is empty')), to: ShortText })),
      v.maxLength(MOST_PREFIXES),
    ),
    [],
  ),
  slashes: v.optional(v.picklist(SLASHES), 'as they are'),
  /** Null writes the usual encoding of the format. */
  encoding: v.optional(v.nullable(v.picklist(OUTPUT_ENCODINGS)), null),
  missingLetters: v.optional(v.picklist(MISSING_LETTERS), 'nearest'),
  lineEnds: v.optional(v.picklist(['LF', 'CRLF']), 'LF'),
  withoutAudio: v.optional(v.picklist(['hold back', 'keep with cart']), 'hold back'),
  leaveOut: v.optional(v.pipe(v.array(v.picklist(ITEM_KINDS)), v.maxLength(ITEM_KINDS.length)), []),
  /** Whether rows tell starts, fades and waits to players that read them. */
  cues: v.optional(v.boolean(), false),
  /** All files in one zip. */
  zip: v.optional(v.boolean(), false),
});
export type HandOverSettings = v.InferOutput<typeof HandOverSettings>;

/** How files are made, with the usual choice for whatever is not given. */
export function handOverSettings(given: v.InferInput<typeof HandOverSettings>): HandOverSettings {
  return v.parse(HandOverSettings, given);
}

function isWebAddress(text: string): boolean {
  if (!URL.canParse(text)) return false;
  const { protocol, username, password, search, hash } = new URL(text);
  return /^https?:$/.test(protocol) && username + password + search + hash === '';
}
const WebAddress = v.pipe(
  v.string(),
  v.maxLength(1000),
  v.check(isWebAddress, 'is not an address like https://playout.local/logs, without a name or a password in it'),
);
/** Where the files of an output go: a folder (null is the station's own), or another machine by HTTP (WebDAV). */
export const OutputTarget = v.variant('kind', [
  v.strictObject({ kind: v.literal('folder'), folder: v.nullable(v.pipe(v.string(), v.maxLength(1000))) }),
  v.strictObject({ kind: v.literal('http'), url: WebAddress, user: v.pipe(v.string(), v.maxLength(200)) }),
]);
export type OutputTarget = v.InferOutput<typeof OutputTarget>;

/** When an output writes by itself: each day at a time by the station's clock, the day so many days ahead. */
export const Nightly = v.strictObject({
  at: v.pipe(v.string(), v.regex(/^(?:[01]\d|2[0-3]):[0-5]\d$/, 'is not a time like 23:30')),
  daysAhead: v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(14)),
});

const form = {
  name: Name,
  files: HandOverSettings,
  target: OutputTarget,
  nightly: v.nullable(Nightly),
};
/** An output as a person sets it up. */
export const OutputForm = v.strictObject({
  ...form,
  /** Of the output as the person saw it; 0 for a new one. */
  revision: v.pipe(v.number(), v.integer(), v.minValue(0)),
  /** A new password for the other machine; left out where it stays. */
  password: v.optional(v.pipe(v.string(), v.maxLength(500))),
});
export type OutputForm = v.InferOutput<typeof OutputForm>;
/** An output of a station; passwords are never told. */
export const Output = v.object({ ...form, id: Id, revision: v.number(), hasPassword: v.boolean() });
export type Output = v.InferOutput<typeof Output>;
export const OutputSaved = v.object({ ...Change.entries, id: Id });

export const HandOverRequest = v.strictObject({
  date: AirDate,
  ...HandOverSettings.entries,
  /** Another folder than the station's own; only for who can read the data folder. */
  folder: v.optional(v.pipe(v.string(), v.maxLength(1000))),
});
/** A file as it would be handed over, its bytes in base64. */
export const MadeFile = v.object({ name: v.string(), content: v.string() });
export const HandOverPreview = v.object({
  files: v.array(
    v.object({
      name: v.string(),
      entries: v.number(),
      /** The first lines, as who reads the file sees them. */
      head: v.string(),
    }),
  ),
  heldBack: v.array(v.object({ entryId: v.string(), hourIndex: v.number(), title: v.string(), why: v.string() })),
  /** Stretches of more than two seconds in which nothing plays; UTC start. */
  silences: v.array(v.object({ hourIndex: v.number(), startMs: v.number(), durationMs: v.number() })),
  /** Letters that the encoding lacks, and how many paths of files hold such. */
  missingLetters: v.array(v.string()),
  changedPaths: v.number(),
  /** Values that are longer than their column in the layout. */
  cut: v.number(),
  folder: v.string(),
});
export type HandOverPreview = v.InferOutput<typeof HandOverPreview>;
export const HandOverRecord = v.object({
  id: Id,
  date: v.string(),
  atMs: v.number(),
  /** Null for one that was written without an output. */
  outputId: v.nullable(Id),
  outputName: v.string(),
  /** The folder, or the address of the other machine. */
  folder: v.string(),
  files: v.array(v.string()),
  entries: v.number(),
  heldBack: v.number(),
  /** True when the log has changed since. */
  stale: v.boolean(),
});
export type HandOverRecord = v.InferOutput<typeof HandOverRecord>;
export const HandOverState = v.object({
  outputs: v.array(Output),
  records: v.array(HandOverRecord),
  /** The station's own folder. */
  folder: v.string(),
});
export type HandOverState = v.InferOutput<typeof HandOverState>;

/** A row that plays something else than when the day was handed over; null where there is none. */
export const ChangedRow = v.object({
  hourIndex: v.number(),
  before: v.nullable(v.string()),
  after: v.nullable(v.string()),
});
export const HandOverChanges = v.object({
  /** False where the log as it was handed over is not kept any more. */
  known: v.boolean(),
  total: v.number(),
  /** The first of them. */
  rows: v.array(ChangedRow),
});
export type HandOverChanges = v.InferOutput<typeof HandOverChanges>;
