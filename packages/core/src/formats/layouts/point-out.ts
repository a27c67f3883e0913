import type { ColumnMeaning, TextLayout } from './layout.js';

/**
 * A layout at fixed places with a column over some characters, from 1; null says that they hold nothing. Columns in its
 * way make room: what begins before it ends where it begins, what begins in it goes.
 */
export function pointOut(
  layout: TextLayout,
  means: ColumnMeaning | null,
  { from, length }: { readonly from: number; readonly length: number },
): TextLayout {
  const end = from + length;
  const columns = layout.columns
    .filter((one) => one.means !== means)
    .flatMap((one) => {
      const oneEnd = one.length === null ? Infinity : one.from + one.length;
      if (oneEnd <= from || one.from >= end) return [one];
      return one.from < from ? [{ ...one, length: from - one.from }] : [];
    });
  const added = means === null ? [] : [{ means, from, length }];
  return { ...layout, columns: [...columns, ...added].sort((a, b) => a.from - b.from) };
}
