import { REPLACED_FIELDS } from '@fuller/core';
import * as v from 'valibot';
import { Change, Id } from './basics.js';
import { ItemPatch, SomeItems } from './library.js';

const SETTABLE = [
  'artist',
  'album',
  'kind',
  'year',
  'introMs',
  'outroMs',
  'segueMs',
  'label',
  'notes',
  'startDate',
  'endDate',
  'hours',
  'pausedUntil',
  'weight',
] as const;
const tagText = v.pipe(v.string(), v.trim(), v.minLength(1, 'is empty'), v.maxLength(60));
const patchOf = v.object(ItemPatch.entries);

/** One change asked of many items. A value that is set is checked as on a card. */
export const BulkEditRequest = v.variant('do', [
  v.pipe(
    v.strictObject({
      do: v.literal('set'),
      field: v.picklist(SETTABLE),
      value: v.nullable(v.union([v.string(), v.number()])),
    }),
    v.check(
      ({ field, value }) => v.safeParse(v.pick(patchOf, [field]), { [field]: value }).success,
      'is not a value of that field',
    ),
  ),
  v.strictObject({
    do: v.literal('replace'),
    field: v.picklist(REPLACED_FIELDS),
    find: v.pipe(v.string(), v.minLength(1, 'is empty'), v.maxLength(200)),
    by: v.pipe(v.string(), v.maxLength(200)),
  }),
  v.strictObject({
    do: v.literal('tag'),
    family: tagText,
    how: v.picklist(['add', 'remove', 'set']),
    values: v.pipe(v.array(tagText), v.maxLength(20, 'are more than 20 values')),
  }),
]);
export const BulkRequest = v.strictObject({ itemIds: SomeItems, edit: BulkEditRequest });
export type BulkRequest = v.InferOutput<typeof BulkRequest>;

export const BulkPreview = v.object({
  changed: v.number(),
  same: v.number(),
  /** The first of those that change. */
  rows: v.array(v.object({ id: Id, title: v.string(), artist: v.string(), before: v.string(), after: v.string() })),
  /** Items the change is not possible for. */
  refused: v.array(v.object({ id: Id, title: v.string(), why: v.string() })),
});
export type BulkPreview = v.InferOutput<typeof BulkPreview>;
export const BulkDone = v.object({ ...Change.entries, changed: v.number() });

export const Worklist = v.object({ itemIds: v.array(Id) });
export type Worklist = v.InferOutput<typeof Worklist>;
/** Puts items on the worklist and takes others off it. */
export const WorklistChange = v.strictObject({
  add: v.optional(v.pipe(v.array(Id), v.maxLength(5000, 'is more than 5,000')), []),
  remove: v.optional(v.pipe(v.array(Id), v.maxLength(5000, 'is more than 5,000')), []),
});
export type WorklistChange = v.InferOutput<typeof WorklistChange>;
