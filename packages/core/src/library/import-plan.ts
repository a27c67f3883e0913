import { elementAt } from '../values/look-up.js';
import { nameKey } from '../text/fold.js';
import type { ItemDraft, RowError } from './import-row.js';
import type { LibraryItem } from './item.js';

/** An item already in the library, as far as an import looks at it. */
export type ExistingItem = Omit<LibraryItem, 'hours' | 'pausedUntil'> & {
  readonly isrc: string | null;
  readonly label: string | null;
  readonly notes: string;
};

/** A field an import would change. */
export interface FieldChange {
  /** A field of an item, or the tag family of that name. */
  readonly field: DraftField | `tag:${string}`;
  readonly before: string | number | null | readonly string[];
  readonly after: string | number | null | readonly string[];
}

/** What an import would do, row by row. */
export interface ImportPlan {
  readonly added: readonly ItemDraft[];
  readonly changed: readonly {
    readonly itemId: string;
    readonly draft: ItemDraft;
    readonly changes: readonly FieldChange[];
  }[];
  readonly unchanged: readonly { readonly itemId: string; readonly draft: ItemDraft }[];
  readonly rejected: readonly RowError[];
}

const DRAFT_FIELDS = [
  'title',
  'artist',
  'album',
  'year',
  'durationMs',
  'introMs',
  'outroMs',
  'cart',
  'file',
  'kind',
  'isrc',
  'label',
  'notes',
  'startDate',
  'endDate',
] as const satisfies readonly (keyof ItemDraft & keyof ExistingItem)[];
type DraftField = (typeof DRAFT_FIELDS)[number];

/**
 * What an import would do: rows meet an item by cart, else by file, else by title, artist and
 * album in any spelling. What a row does not say stays as it is. A row that repeats an earlier row, or
 * meets the same item as one, is rejected.
 */
export function planImport(drafts: readonly ItemDraft[], existing: readonly ExistingItem[]): ImportPlan {
  const index = new Map<string, ExistingItem>();
  for (const item of existing) for (const key of keysOf(item)) if (!index.has(key)) index.set(key, item);
  const rowByKey = new Map<string, number>();
  const rowByItem = new Map<string, number>();
  const added: ItemDraft[] = [];
  const changed: ImportPlan['changed'][number][] = [];
  const unchanged: ImportPlan['unchanged'][number][] = [];
  const rejected: RowError[] = [];
  for (const draft of drafts) {
    const keys = keysOf(draft);
    const repeated = keys.find((key) => rowByKey.has(key));
    if (repeated !== undefined) {
      rejected.push({
        row: draft.row,
        column: elementAt(repeated.split(':'), 0),
        why: `the same as in row ${rowByKey.get(repeated)}`,
      });
      continue;
    }
    for (const key of keys) rowByKey.set(key, draft.row);
    const item = keys.map((key) => index.get(key)).find((found) => found !== undefined);
    if (!item) {
      added.push(draft);
      continue;
    }
    const earlier = rowByItem.get(item.id);
    if (earlier !== undefined) {
      rejected.push({ row: draft.row, column: '', why: `about the same item as row ${earlier}` });
      continue;
    }
    rowByItem.set(item.id, draft.row);
    const changes = changesOf(item, draft);
    if (changes.length) changed.push({ itemId: item.id, draft, changes });
    else unchanged.push({ itemId: item.id, draft });
  }
  return { added, changed, unchanged, rejected };
}

function keysOf(item: Pick<ItemDraft, 'kind' | 'cart' | 'file' | 'title' | 'artist' | 'album'>): string[] {
  if (item.cart) return item.file ? [`cart:${item.cart}`, `file:${item.file}`] : [`cart:${item.cart}`];
  if (item.file) return [`file:${item.file}`];
  // A tease may have the title and artist of the song it announces.
  const isTease = item.kind === 'tease' ? '|tease' : '';
  return [`title:${nameKey(item.title)}|${nameKey(item.artist ?? '')}|${nameKey(item.album ?? '')}${isTease}`];
}

function changesOf(item: ExistingItem, draft: ItemDraft): FieldChange[] {
  const fields = DRAFT_FIELDS.filter((field) => draft[field] !== null && draft[field] !== item[field]).map(
    (field): FieldChange => ({ field, before: item[field], after: draft[field] }),
  );
  const tags = Object.entries(draft.tags).flatMap(([family, after]): FieldChange[] => {
    const before = item.tags[family] ?? [];
    const same = before.length === after.length && after.every((value, at) => value === before[at]);
    return same ? [] : [{ field: `tag:${family}`, before, after }];
  });
  return [...fields, ...tags];
}
