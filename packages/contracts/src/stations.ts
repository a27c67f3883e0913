import * as v from 'valibot';
import { Id, Name, Revision, ZoneName } from './basics.js';

const Frequency = v.pipe(v.string(), v.trim(), v.maxLength(40, 'is longer than 40 characters'));

/** What of a station another one begins with. */
export const COPIED_PARTS = ['everything', 'clocks and rules'] as const;
export type CopiedParts = (typeof COPIED_PARTS)[number];

export const NewStation = v.strictObject({
  name: Name,
  frequency: v.optional(Frequency, ''),
  timeZone: ZoneName,
  /** The station it begins like; null for an empty one. */
  copyOf: v.optional(v.nullable(v.strictObject({ stationId: Id, parts: v.picklist(COPIED_PARTS) })), null),
});
export type NewStation = v.InferOutput<typeof NewStation>;

export const StationPatch = v.strictObject({
  revision: Revision,
  name: v.optional(Name),
  frequency: v.optional(Frequency),
  timeZone: v.optional(ZoneName),
  archived: v.optional(v.boolean()),
  movesByItself: v.optional(v.boolean()),
});
export type StationPatch = v.InferOutput<typeof StationPatch>;
