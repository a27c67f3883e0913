import { MOST_SET_LIST_ROWS } from '@fuller/core';
import * as v from 'valibot';
import { Id, Name, Revision, ScopeName, ShortText } from './basics.js';

const MOST_SPLICES = 50_000;
const MOST_MATCHED = 5000;
const LONGEST_LIST_MS = 30 * 86_400_000;

export const SetListRowSchema = v.union([
  v.strictObject({ id: Id, itemId: Id }),
  v.strictObject({
    id: Id,
    categoryId: Id,
    filter: v.optional(
      v.pipe(v.string(), v.trim(), v.minLength(1, 'is empty'), v.maxLength(1000, 'is longer than 1,000 characters')),
    ),
  }),
]);
const wantedMs = v.nullable(
  v.pipe(
    v.number(),
    v.integer(),
    v.minValue(1000, 'is less than a second'),
    v.maxValue(LONGEST_LIST_MS, 'is longer than 30 days'),
  ),
);
export const NewSetList = v.strictObject({ name: Name, scope: v.optional(ScopeName, 'station') });
export const SetListPatch = v.strictObject({
  revision: Revision,
  name: v.optional(Name),
  wantedMs: v.optional(wantedMs),
});
export type SetListPatch = v.InferOutput<typeof SetListPatch>;
const place = v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(MOST_SET_LIST_ROWS));
export const SetListEditRequest = v.strictObject({
  revision: Revision,
  label: v.optional(ShortText),
  edit: v.pipe(
    v.array(
      v.strictObject({
        at: place,
        remove: place,
        insert: v.pipe(v.array(SetListRowSchema), v.maxLength(MOST_SET_LIST_ROWS, 'are more than 50,000')),
      }),
    ),
    v.minLength(1, 'is empty'),
    v.maxLength(MOST_SPLICES),
  ),
});
export type SetListEditRequest = v.InferOutput<typeof SetListEditRequest>;
const listFields = {
  id: Id,
  revision: Revision,
  scope: ScopeName,
  name: v.string(),
  /** How long it is to be, milliseconds; null for any length. */
  wantedMs: v.nullable(v.number()),
  rows: v.number(),
  totalMs: v.number(),
  /** Standard deviation of the total, milliseconds. */
  standardDeviationMs: v.number(),
  /** Where it is played, in words. */
  uses: v.array(v.string()),
};
export const SetListInfo = v.object(listFields);
export type SetListInfo = v.InferOutput<typeof SetListInfo>;
/** What a list shows of an item; `durationMs` until the next one may begin. */
export const SetListItemInfo = v.object({
  id: Id,
  title: v.string(),
  artist: v.string(),
  kind: v.string(),
  durationMs: v.number(),
  hasFile: v.boolean(),
});
export type SetListItemInfo = v.InferOutput<typeof SetListItemInfo>;
export const SetListContent = v.object({
  ...listFields,
  content: v.array(SetListRowSchema),
  items: v.array(SetListItemInfo),
});
export type SetListContent = v.InferOutput<typeof SetListContent>;
/** Rows of a playlist, to be known as items of the library. */
export const MatchRequest = v.strictObject({
  rows: v.pipe(
    v.array(
      v.strictObject({
        title: ShortText,
        artist: ShortText,
        cart: ShortText,
        file: v.pipe(v.string(), v.maxLength(2000)),
      }),
    ),
    v.maxLength(MOST_MATCHED, `are more than ${MOST_MATCHED}`),
  ),
});
/** The items, in the order of the rows; null for a row that is none. */
export const MatchAnswer = v.object({ items: v.array(v.nullable(SetListItemInfo)) });
export type MatchAnswer = v.InferOutput<typeof MatchAnswer>;
export const SET_LIST_FORMATS = ['m3u8', 'm3u', 'pls', 'xspf', 'csv', 'json'] as const;
