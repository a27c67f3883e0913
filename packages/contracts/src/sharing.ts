import * as v from 'valibot';
import { CategoryCode } from './catalogue.js';
import { Id, Name, ScopeName } from './basics.js';

/** The kinds of thing that belong to one station or to all. */
export const SHARED_KINDS = ['category', 'pool', 'set list', 'clock', 'rule'] as const;
export type SharedKind = (typeof SHARED_KINDS)[number];

/** What can use a thing of another kind. */
export const USER_KINDS = [
  'clock',
  'set list',
  'show',
  'date',
  'week',
  'rule',
  'pool',
  'sponsor',
  'live queue',
  'rotation plan',
  'watched folder',
] as const;
/** One use of a thing; what a station has once has no name. */
export const Use = v.object({ kind: v.picklist(USER_KINDS), name: v.string() });
export type Use = v.InferOutput<typeof Use>;

/** Where a thing is used, and what making it own or shared would do. */
export const Sharing = v.object({
  kind: v.picklist(SHARED_KINDS),
  id: Id,
  name: v.string(),
  scope: ScopeName,
  /** The stations that use it and what of theirs does. */
  stations: v.array(v.object({ id: Id, name: v.string(), uses: v.array(Use) })),
  /** Shared things that use it: they are there for every station. */
  shared: v.array(Use),
  /** Stations at which a shared rule does not apply, as they have their own in its place. */
  notAt: v.array(v.string()),
  /** Whether another station depends on it, so that making it own makes a copy. */
  copies: v.boolean(),
  /** Own things it names, in words; they would be shared with it. */
  along: v.array(v.string()),
  /** Why it cannot be shared, in words; null where it can. */
  refusal: v.nullable(v.string()),
});
export type Sharing = v.InferOutput<typeof Sharing>;

export const MakeOwn = v.strictObject({
  /** Of the copy, where other stations keep the shared one; names are unique among what a station sees. */
  name: v.optional(Name),
  code: v.optional(CategoryCode),
});
export type MakeOwn = v.InferOutput<typeof MakeOwn>;
