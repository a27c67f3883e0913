/** One row of a set list: an item, or a pick of a category or pool. */
export type SetListRow = SetListItem | SetListPick;

/** A row that plays one particular item. */
export interface SetListItem {
  /** Unique in its list. */
  readonly id: string;
  readonly itemId: string;
}

/** A row that is filled from a category or pool when it plays. */
export interface SetListPick {
  readonly id: string;
  readonly categoryId: string;
  /** A search that narrows what it draws from. */
  readonly filter?: string;
}

/** A set list as the plan of a station has it. */
export interface ScheduledList {
  readonly id: string;
  readonly name: string;
  readonly rows: readonly SetListRow[];
  /** The row that played last where the list goes on; null begins at the top. */
  readonly lastRowId: string | null;
}

/** The row of a set list that a line or an entry stands for. */
export interface ListPlace {
  readonly listId: string;
  readonly rowId: string;
  /** Whether the next use of the list goes on after it. */
  readonly goesOn?: true;
}

/** The most rows of a set list. */
export const MOST_SET_LIST_ROWS = 50_000;

/** Takes some rows out at a place and puts others in. */
export interface SetListSplice {
  readonly at: number;
  readonly remove: number;
  readonly insert: readonly SetListRow[];
}

/** A change of a set list as a value: splices one after the other. It applies, it inverts, and it is its own JSON. */
export type SetListEdit = readonly SetListSplice[];

/** The rows after an edit. Throws RangeError for a place the list does not have, or an id that is in it already. */
export function applySetListEdit(rows: readonly SetListRow[], edit: SetListEdit): SetListRow[] {
  const edited = [...rows];
  for (const { at, remove, insert } of edit) {
    if (at < 0 || at + remove > edited.length) throw new RangeError('the set list has no such place');
    edited.splice(at, remove, ...insert);
  }
  if (new Set(edited.map(({ id }) => id)).size !== edited.length)
    throw new RangeError('a row stands in the list twice');
  return edited;
}

/** The edit that takes another back; pass the rows as they were before it. */
export function invertSetListEdit(rows: readonly SetListRow[], edit: SetListEdit): SetListSplice[] {
  const current = [...rows];
  const inverse: SetListSplice[] = [];
  for (const { at, remove, insert } of edit) {
    const removed = current.splice(at, remove, ...insert);
    inverse.unshift({ at, remove: insert.length, insert: removed });
  }
  return inverse;
}

/** Takes the rows of some ids out. */
export function removeRows(rows: readonly SetListRow[], ids: ReadonlySet<string>): SetListSplice[] {
  const edit: SetListSplice[] = [];
  // From the end, so that places before stay what they are; neighbours go together.
  for (let end = rows.length; end > 0;) {
    if (!ids.has(rows[end - 1]!.id)) {
      end--;
      continue;
    }
    let start = end - 1;
    while (start > 0 && ids.has(rows[start - 1]!.id)) start--;
    edit.push({ at: start, remove: end - start, insert: [] });
    end = start;
  }
  return edit;
}

/** Moves the rows of some ids, in their order, to stand before a place (0 to length). Empty where nothing moves. */
export function moveRows(rows: readonly SetListRow[], ids: ReadonlySet<string>, before: number): SetListSplice[] {
  const moved = rows.filter(({ id }) => ids.has(id));
  const at = rows.slice(0, before).filter(({ id }) => !ids.has(id)).length;
  const rest = rows.filter(({ id }) => !ids.has(id));
  const after = [...rest.slice(0, at), ...moved, ...rest.slice(at)];
  if (after.every((row, n) => row === rows[n])) return [];
  return [...removeRows(rows, ids), { at, remove: 0, insert: moved }];
}

/** Ids of the rows that play an item an earlier one plays; picks play something else each time. */
export function doubleRows(rows: readonly SetListRow[]): string[] {
  const seen = new Set<string>();
  return rows.flatMap((row) => {
    if (!('itemId' in row)) return [];
    if (seen.has(row.itemId)) return [row.id];
    seen.add(row.itemId);
    return [];
  });
}

/** What lengths a list is summed from, milliseconds. */
export interface SetListLengths {
  readonly lengthOf: (itemId: string) => number;
  readonly averageOf: (pick: SetListPick) => number;
  readonly standardDeviationOf: (pick: SetListPick) => number;
}

/** How long a list is, milliseconds: what its items take and its picks take on average, and how sure that is. */
export interface SetListTotal {
  readonly totalMs: number;
  /** Standard deviation: picks vary independently, so their variances add up. */
  readonly standardDeviationMs: number;
}

export function setListTotal(rows: readonly SetListRow[], lengths: SetListLengths): SetListTotal {
  let totalMs = 0;
  let variance = 0;
  for (const row of rows) {
    if ('itemId' in row) totalMs += lengths.lengthOf(row.itemId);
    else {
      totalMs += lengths.averageOf(row);
      variance += lengths.standardDeviationOf(row) ** 2;
    }
  }
  return { totalMs, standardDeviationMs: Math.sqrt(variance) };
}
