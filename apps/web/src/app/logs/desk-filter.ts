import { foldText } from '@fuller/core';
import { isMatter, isOpen, type EntryRow, type LogRow } from './log-model';

/** Which entries of a log are shown. */
export const SHOWN_ENTRIES = [
  { value: 'all', label: 'Every entry' },
  { value: 'matters', label: 'To review' },
  { value: 'open', label: 'Open slots' },
  { value: 'wishes', label: 'Wishes not kept' },
  { value: 'hand', label: 'Chosen by hand' },
  { value: 'locked', label: 'Locked' },
  { value: 'notes', label: 'With a note' },
  { value: 'coming', label: 'Still to come' },
] as const;
export type ShownEntries = (typeof SHOWN_ENTRIES)[number]['value'];

/** What of a log is shown: some entries, those of a category, those whose title, artist or spots have some words. */
export interface DeskFilter {
  readonly show: ShownEntries;
  readonly categoryId: string | null;
  readonly words: string;
}

export const NO_FILTER: DeskFilter = { show: 'all', categoryId: null, words: '' };

/** Whether a filter leaves anything out. */
export function isFiltering({ show, categoryId, words }: DeskFilter): boolean {
  return show !== 'all' || categoryId !== null || words.trim() !== '';
}

/**
 * The rows a filter and the collapsed hours leave. Heads of hours stay, but for hours of which a filter leaves nothing;
 * an entry in `always` stays too.
 */
export function shownRows(
  rows: readonly LogRow[],
  filter: DeskFilter,
  collapsed: ReadonlySet<number>,
  { nowMs, always }: { readonly nowMs: number; readonly always: string | null },
): LogRow[] {
  const filtering = isFiltering(filter);
  if (!filtering && collapsed.size === 0) return rows as LogRow[];
  const words = foldText(filter.words).split(' ').filter(Boolean);
  // An hour is found as it is written at its head.
  const hours = new Map(
    rows.flatMap((row) =>
      row.kind === 'hour' ? [[row.hour.index, `${String(row.hour.localHour).padStart(2, '0')}:00`] as const] : [],
    ),
  );
  const fits = (row: LogRow): boolean => {
    if (row.kind === 'hour') return true;
    if (!filtering) return !collapsed.has(row.hourIndex);
    if (row.kind === 'silence') return false;
    return row.id === always || matches(row, filter, words, { nowMs, hour: hours.get(row.hourIndex) ?? '' });
  };
  const kept = rows.filter(fits);
  // The head of an hour says where its entries stand; without any it says nothing.
  return filtering
    ? kept.filter((row, n) => row.kind !== 'hour' || (kept[n + 1] && kept[n + 1]!.kind !== 'hour'))
    : kept;
}

function matches(
  row: EntryRow,
  { show, categoryId }: DeskFilter,
  words: readonly string[],
  { nowMs, hour }: { readonly nowMs: number; readonly hour: string },
): boolean {
  if (categoryId !== null && row.category?.id !== categoryId) return false;
  if (words.length > 0) {
    const { item, category, entry } = row;
    const booked = entry.kind === 'break' ? (entry.spots ?? []) : [];
    const spots = booked.map(({ cart, sponsor, title }) => `${cart} ${sponsor} ${title}`).join(' ');
    const names = [item?.title, item?.artist, category?.name, entry.note, spots, hour];
    const text = foldText(names.filter(Boolean).join(' '));
    if (!words.every((word) => text.includes(word))) return false;
  }
  return isShown(row, show, nowMs);
}

function isShown(row: EntryRow, show: ShownEntries, nowMs: number): boolean {
  const { entry } = row;
  switch (show) {
    case 'all':
      return true;
    case 'matters':
      return isMatter(row);
    case 'open':
      return isOpen(entry);
    case 'wishes':
      return row.strains.some(({ strength }) => strength === 'wish');
    case 'hand':
      return entry.placed === 'hand' || (entry.kind === 'pick' && entry.origin === 'hand' && entry.itemId !== null);
    case 'locked':
      return entry.kind === 'pick' && entry.locked;
    case 'notes':
      return entry.note !== '';
    case 'coming':
      return row.startMs + row.durationMs > nowMs;
  }
}
