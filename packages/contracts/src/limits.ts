import * as v from 'valibot';
import { AirDate, Change, Id, Name, QueryInteger } from './basics.js';

const settings = {
  /** Whether days are generated within the limits. */
  applies: v.boolean(),
  strict: v.boolean(),
  exemptAlbums: v.pipe(v.array(Name), v.maxLength(500, 'are more than 500 albums')),
};
/** The statutory limits of a station; revision 0 as long as they were never set. */
export const LimitSettings = v.object({ ...settings, revision: v.number() });
export type LimitSettings = v.InferOutput<typeof LimitSettings>;
export const LimitSettingsRequest = v.strictObject({
  ...settings,
  revision: v.pipe(v.number(), v.integer(), v.minValue(0)),
});

const LARGEST_FILE = 3_000_000;
export const CheckFileRequest = v.strictObject({
  name: v.pipe(v.string(), v.maxLength(300)),
  /** The bytes of the file in base64. */
  content: v.pipe(
    v.string(),
    v.maxLength((LARGEST_FILE * 4) / 3, 'is more than 3 MB'),
    v.regex(/^[A-Za-z0-9+/]*={0,2}$/, 'is not base64'),
  ),
  strict: v.boolean(),
});
export const CheckDaysQuery = v.object({
  from: AirDate,
  days: v.optional(v.pipe(QueryInteger, v.minValue(1), v.maxValue(31, 'is more than 31')), '1'),
  strict: v.optional(v.picklist(['true', 'false']), 'false'),
});

const Violation = v.object({
  limit: v.string(),
  value: v.string(),
  positions: v.array(v.number()),
  start: v.string(),
  count: v.number(),
  allowed: v.number(),
});
/** A song named in a check; of a log also where it stands. */
const CheckedSong = v.object({
  position: v.number(),
  start: v.string(),
  title: v.string(),
  artist: v.string(),
  album: v.string(),
  date: v.optional(v.string()),
  entryId: v.optional(v.string()),
});
export const LimitCheck = v.object({
  pass: v.boolean(),
  pack: v.literal('web-radio'),
  strict: v.boolean(),
  entries: v.number(),
  violations: v.array(Violation),
  mend: v.object({ remove: v.array(v.number()) }),
  /** Whether no smaller mend would do; false where the search was cut short. */
  smallest: v.boolean(),
  /** The songs that violations and the mend name. */
  songs: v.array(CheckedSong),
  /** Songs whose length was not told and was taken to be 3:30. */
  withoutLength: v.number(),
  /** Songs without an album, which the limits on albums cannot count. */
  withoutAlbum: v.number(),
});
export type LimitCheck = v.InferOutput<typeof LimitCheck>;

export const MendRequest = v.strictObject({ strict: v.boolean() });
/** What a mend of a log has replaced. */
export const Mended = v.object({ ...Change.entries, replaced: v.array(Id) });
