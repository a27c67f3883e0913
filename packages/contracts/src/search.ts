import * as v from 'valibot';
import { Id } from './basics.js';

/** Kinds of thing that are found by name at any station. */
export const FOUND_KINDS = ['station', 'category', 'pool', 'set list', 'clock', 'show', 'date'] as const;
export type FoundKind = (typeof FOUND_KINDS)[number];

export const SearchQuery = v.object({
  q: v.pipe(v.string(), v.trim(), v.maxLength(200)),
  /** Where shared things are told to be; the first station otherwise. */
  at: v.optional(Id),
});
/** A thing found by its name, at the station it is of. */
export const FoundThing = v.object({
  kind: v.picklist(FOUND_KINDS),
  id: Id,
  name: v.string(),
  stationId: Id,
  stationName: v.string(),
});
export type FoundThing = v.InferOutput<typeof FoundThing>;
