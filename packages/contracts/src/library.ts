import {
  ANNOUNCED,
  DELIMITERS,
  IMPORT_FIELDS,
  ITEM_KINDS,
  TEXT_ENCODINGS,
  TEXT_FORMATS,
  type TagColumn,
} from '@fuller/core';
import * as v from 'valibot';
import { DateText, Id, LongText, Name, QueryInteger, Revision, ScopeName, ShortText, WholeMs } from './basics.js';

export const ITEM_SORTS = ['title', 'artist', 'album', 'year', 'duration', 'category', 'lastPlayed'] as const;

export const ItemQuery = v.object({
  /** A filter, as docs/filters.md describes it. */
  q: v.optional(v.pipe(v.string(), v.maxLength(500))),
  /** A category id, `none` for items without one, or `worklist`. */
  category: v.optional(Id),
  artist: v.optional(Id),
  sort: v.optional(v.picklist(ITEM_SORTS), 'title'),
  dir: v.optional(v.picklist(['asc', 'desc']), 'asc'),
  offset: v.optional(QueryInteger, '0'),
  limit: v.optional(v.pipe(QueryInteger, v.maxValue(500, 'is more than 500')), '100'),
});
export type ItemQuery = v.InferOutput<typeof ItemQuery>;

export const ItemRow = v.object({
  id: Id,
  kind: v.picklist(ITEM_KINDS),
  title: v.string(),
  artist: v.string(),
  album: v.string(),
  year: v.nullable(v.number()),
  durationMs: v.number(),
  introMs: v.nullable(v.number()),
  categoryIds: v.array(Id),
  hasFile: v.boolean(),
  /** UTC epoch milliseconds; null when it never played here. */
  lastPlayedMs: v.nullable(v.number()),
});
export type ItemRow = v.InferOutput<typeof ItemRow>;
export const ItemPage = v.object({ total: v.number(), offset: v.number(), rows: v.array(ItemRow) });
export type ItemPage = v.InferOutput<typeof ItemPage>;

export const ItemCard = v.object({
  ...ItemRow.entries,
  revision: Revision,
  outroMs: v.nullable(v.number()),
  /** How long before its end the next item may begin, milliseconds. */
  segueMs: v.nullable(v.number()),
  cart: v.nullable(v.string()),
  file: v.nullable(v.string()),
  fileThere: v.boolean(),
  /** The audio's tags hold a picture. */
  artwork: v.boolean(),
  isrc: v.nullable(v.string()),
  label: v.nullable(v.string()),
  notes: v.string(),
  startDate: v.nullable(v.string()),
  endDate: v.nullable(v.string()),
  /** Hours of the week on air, 168 marks, Monday 00:00 first; null for every hour. */
  hours: v.nullable(v.string()),
  pausedUntil: v.nullable(v.string()),
  weight: v.number(),
  approved: v.nullable(v.object({ atMs: v.number(), by: v.string() })),
  tags: v.record(v.string(), v.array(v.string())),
  credits: v.array(
    v.object({ artistId: Id, name: v.string(), role: v.picklist(['main', 'featured']), songs: v.number() }),
  ),
  /** Whether the main part of the credit is one act, where that can be asked; `songs` counts the items that print it. */
  act: v.nullable(v.object({ name: v.string(), one: v.boolean(), songs: v.number() })),
  /** For a tease: what it announces, and whether it is tied to that; null where nothing fits. */
  announces: v.nullable(v.object({ what: v.picklist(ANNOUNCED), id: v.string(), name: v.string(), tied: v.boolean() })),
  /** The teases that announce the item. */
  teases: v.array(v.object({ id: Id, title: v.string() })),
  nextPlayMs: v.nullable(v.number()),
  plays: v.number(),
});
export type ItemCard = v.InferOutput<typeof ItemCard>;

/** What a tease announces. */
export const AnnouncedThing = v.strictObject({ what: v.picklist(ANNOUNCED), id: Id });
const year = v.pipe(v.number(), v.integer(), v.minValue(1860, 'is before 1860'), v.maxValue(2100, 'is after 2100'));
export const ItemPatch = v.strictObject({
  revision: Revision,
  title: v.optional(v.pipe(ShortText, v.trim(), v.minLength(1, 'is empty'))),
  kind: v.optional(v.picklist(ITEM_KINDS)),
  artist: v.optional(ShortText),
  album: v.optional(ShortText),
  year: v.optional(v.nullable(year)),
  durationMs: v.optional(v.pipe(WholeMs, v.minValue(1, 'is nothing'))),
  introMs: v.optional(v.nullable(WholeMs)),
  outroMs: v.optional(v.nullable(WholeMs)),
  segueMs: v.optional(v.nullable(WholeMs)),
  cart: v.optional(v.nullable(ShortText)),
  file: v.optional(v.nullable(ShortText)),
  isrc: v.optional(v.nullable(ShortText)),
  label: v.optional(v.nullable(ShortText)),
  notes: v.optional(LongText),
  startDate: v.optional(v.nullable(DateText)),
  endDate: v.optional(v.nullable(DateText)),
  hours: v.optional(v.nullable(v.pipe(v.string(), v.regex(/^[01]{168}$/, 'must be 168 marks, each 0 or 1')))),
  pausedUntil: v.optional(v.nullable(DateText)),
  announces: v.optional(v.nullable(AnnouncedThing)),
  weight: v.optional(v.pipe(v.number(), v.minValue(0.1, 'is less than 0.1'), v.maxValue(100, 'is more than 100'))),
  /** All tags of the item: its values by family. */
  tags: v.optional(
    v.record(
      v.pipe(v.string(), v.trim(), v.minLength(1, 'is empty'), v.maxLength(60, 'is longer than 60 characters')),
      v.pipe(
        v.array(
          v.pipe(v.string(), v.trim(), v.minLength(1, 'is empty'), v.maxLength(60, 'is longer than 60 characters')),
        ),
        v.maxLength(20, 'are more than 20 values'),
      ),
    ),
  ),
});
export type ItemPatch = v.InferOutput<typeof ItemPatch>;

export const FilterWords = v.object({
  categories: v.array(v.object({ id: Id, code: v.string(), name: v.string() })),
  families: v.record(v.string(), v.array(v.string())),
});
export type FilterWords = v.InferOutput<typeof FilterWords>;

const FilterText = v.pipe(
  v.string(),
  v.trim(),
  v.minLength(1, 'is empty'),
  v.maxLength(500, 'is longer than 500 characters'),
);
export const NewPool = v.strictObject({ name: Name, filter: FilterText, scope: v.optional(ScopeName, 'station') });
export const PoolPatch = v.strictObject({ revision: Revision, name: v.optional(Name), filter: v.optional(FilterText) });
export const PoolRow = v.object({
  id: Id,
  revision: Revision,
  scope: ScopeName,
  name: v.string(),
  filter: v.string(),
  items: v.number(),
  /** Why the filter can no longer be read, as when a category it names has gone. */
  fault: v.nullable(v.string()),
});
export type PoolRow = v.InferOutput<typeof PoolRow>;

/** Says that a name is one act, or several artists. */
export const ActChange = v.strictObject({
  name: v.pipe(ShortText, v.trim(), v.minLength(1, 'is empty')),
  one: v.boolean(),
});

export const SomeItems = v.pipe(v.array(Id), v.minLength(1, 'is empty'), v.maxLength(5000, 'is more than 5,000'));

/** Clears items for air in somebody's name, or (null) takes that back. */
export const Approval = v.strictObject({
  itemIds: SomeItems,
  by: v.nullable(v.pipe(ShortText, v.trim(), v.minLength(1, 'is empty'))),
});

/** Puts items into a category, or (null) takes them out of the one they are in. */
export const Placement = v.strictObject({
  itemIds: SomeItems,
  categoryId: v.nullable(Id),
});

function isTagColumn(value: unknown): boolean {
  return typeof value === 'string' && /^tag:.{1,60}$/u.test(value);
}

export const ImportSettings = v.strictObject({
  encoding: v.picklist(TEXT_ENCODINGS),
  delimiter: v.picklist(DELIMITERS),
  header: v.boolean(),
  mapping: v.pipe(
    v.array(
      v.nullable(v.union([v.picklist(IMPORT_FIELDS), v.custom<TagColumn>(isTagColumn, 'is no meaning of a column')])),
    ),
    v.maxLength(200),
  ),
});
export type ImportSettings = v.InferOutput<typeof ImportSettings>;
export const FolderImport = v.strictObject({ folder: v.pipe(v.string(), v.maxLength(1000)) });
export const ImportOptions = v.strictObject({
  /** Categories that are named and not there are made. */
  makeCategories: v.boolean(),
  /** Files go into the category named like the folder they lie in. */
  folderCategories: v.boolean(),
});
export type ImportOptions = v.InferOutput<typeof ImportOptions>;
/** A server folder whose new audio comes in by itself, into a category or into none. */
export const WatchedFolder = v.strictObject({
  folder: v.pipe(v.string(), v.trim(), v.minLength(1, 'is empty'), v.maxLength(1000)),
  categoryId: v.nullable(Id),
});
export type WatchedFolder = v.InferOutput<typeof WatchedFolder>;
export const WatchedFolderView = v.object({ watched: v.nullable(WatchedFolder), fault: v.nullable(v.string()) });
export type WatchedFolderView = v.InferOutput<typeof WatchedFolderView>;

export const RejectedRow = v.object({ row: v.number(), column: v.string(), why: v.string() });
export const ImportSummary = v.object({
  read: v.number(),
  added: v.number(),
  changed: v.number(),
  unchanged: v.number(),
  rejected: v.number(),
  /** New items without a length; nothing schedules them until they have one. */
  withoutLength: v.optional(v.number(), 0),
  /** Categories named in the file that the station does not have. */
  unknownCategories: v.array(v.string()),
  /** Tag values that are new to their families. */
  newValues: v.array(v.object({ family: v.string(), value: v.string() })),
  /** The first rows of each kind, for looking at. */
  addedRows: v.array(
    v.object({ row: v.number(), title: v.string(), artist: v.string(), durationMs: v.nullable(v.number()) }),
  ),
  changedRows: v.array(
    v.object({
      row: v.number(),
      title: v.string(),
      changes: v.array(
        v.object({
          field: v.string(),
          before: v.nullable(v.union([v.string(), v.number(), v.array(v.string())])),
          after: v.nullable(v.union([v.string(), v.number(), v.array(v.string())])),
        }),
      ),
    }),
  ),
  rejectedRows: v.array(RejectedRow),
});
export type ImportSummary = v.InferOutput<typeof ImportSummary>;

export const ImportSession = v.object({
  id: Id,
  source: v.picklist(['table', 'folder', 'dropped']),
  /** What the text turned out to be; null for a folder. */
  format: v.nullable(v.picklist(TEXT_FORMATS)),
  name: v.string(),
  settings: v.nullable(ImportSettings),
  options: ImportOptions,
  columns: v.array(v.string()),
  preview: v.array(v.array(v.string())),
  summary: v.nullable(ImportSummary),
  done: v.boolean(),
});
export type ImportSession = v.InferOutput<typeof ImportSession>;
