import * as v from 'valibot';
import { Id } from './basics.js';
import { SomeItems } from './library.js';

const ArtistName = v.pipe(
  v.string(),
  v.trim(),
  v.minLength(1, 'is empty'),
  v.maxLength(200, 'is longer than 200 characters'),
);

export const ArtistView = v.object({
  id: Id,
  name: v.string(),
  songs: v.number(),
  aliases: v.array(v.object({ id: Id, name: v.string() })),
});
export type ArtistView = v.InferOutput<typeof ArtistView>;
export const ArtistRename = v.strictObject({ name: ArtistName });
/** Gives an artist another name; with `merge` an artist of that name becomes this one. */
export const NewAlias = v.strictObject({ name: ArtistName, merge: v.optional(v.boolean(), false) });
/** What giving an artist another name would do. */
export const AliasPreview = v.object({
  /** The artist who has that name now; null when there is none. */
  artist: v.nullable(v.object({ id: Id, name: v.string(), songs: v.number() })),
  rows: v.array(v.object({ title: v.string(), before: v.string(), after: v.string() })),
});
export type AliasPreview = v.InferOutput<typeof AliasPreview>;
/** Says that some songs are by another artist of the same name. */
export const ArtistSplit = v.strictObject({ itemIds: SomeItems, name: ArtistName });
