import { foldText } from '../../text/fold.js';
import type { LibraryItem } from '../item.js';
import type { Filter, FilterTest, Range } from './filter.js';
import { asciiLower, searchWords } from './parse-filter.js';

/** What a filter looks at. */
export type FilterableItem = Pick<
  LibraryItem,
  'title' | 'artist' | 'album' | 'kind' | 'year' | 'durationMs' | 'introMs' | 'outroMs' | 'cart' | 'file' | 'tags'
> & {
  readonly notes: string;
  readonly label: string | null;
  readonly approved: boolean;
  readonly categoryIds: readonly string[];
  /** UTC epoch milliseconds; null when it never played. */
  readonly lastPlayedMs: number | null;
};

/** Whether an item is what a filter asks for, at an instant (UTC epoch milliseconds). */
export function matchesFilter(filter: Filter, item: FilterableItem, nowMs: number): boolean {
  return filter.every(({ not, test }) => holds(test, item, nowMs) !== not);
}

function holds(test: FilterTest, item: FilterableItem, nowMs: number): boolean {
  switch (test.on) {
    case 'words':
      return wordsHold(test, item);
    case 'cart':
      return item.cart === null ? test.none : test.any.some((start) => asciiLower(item.cart!).startsWith(start));
    case 'year':
      return inRange(item.year, test);
    case 'length':
      return inRange({ length: item.durationMs, intro: item.introMs, outro: item.outroMs }[test.field], test);
    case 'rested': {
      const { lastPlayedMs } = item;
      if (lastPlayedMs === null) return test.none || test.any.some(({ to }) => to === null);
      return inRange((nowMs - lastPlayedMs) / 1000, { any: test.any, none: false });
    }
    case 'kind':
      return test.any.includes(item.kind);
    case 'category':
      return item.categoryIds.length === 0 ? test.none : test.any.some((id) => item.categoryIds.includes(id));
    case 'tag': {
      const values = item.tags[test.family] ?? [];
      return values.length === 0 ? test.none : test.any.some((value) => values.includes(value));
    }
    case 'file':
      return (item.file === null) === test.none;
    case 'approved':
      return item.approved !== test.none;
  }
}

function wordsHold({ field, any, none }: Extract<FilterTest, { on: 'words' }>, item: FilterableItem): boolean {
  const text = field === 'any' ? `${item.title} ${item.artist} ${item.album}` : (item[field] ?? '');
  if (none && foldText(text) === '') return true;
  const present = searchWords(text);
  return any.some((words) => words.every((word) => present.some((one) => one.startsWith(word))));
}

function inRange(
  value: number | null,
  { any, none }: { readonly any: readonly Range[]; readonly none: boolean },
): boolean {
  if (value === null) return none;
  return any.some(({ from, to }) => (from === null || value >= from) && (to === null || value <= to));
}
