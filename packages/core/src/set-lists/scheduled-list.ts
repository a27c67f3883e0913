import type { ItemLine, PickLine, SetListLine } from '../clocks/line.js';
import { elementAt } from '../values/look-up.js';
import type { ListPlace, ScheduledList, SetListRow } from './set-list.js';

/** Where lists go on while a day is laid out. */
export class ListCursors {
  private readonly last = new Map<string, string | null>();

  constructor(private readonly lists: readonly ScheduledList[]) {}

  /** The rows a line plays, in order: all of the list, or the next so many, going on at the top after its end. */
  take({ setListId, take, from }: Pick<SetListLine, 'setListId' | 'take' | 'from'>): readonly SetListRow[] {
    const list = this.lists.find(({ id }) => id === setListId);
    if (!list || list.rows.length === 0) return [];
    const { rows } = list;
    const last = this.last.has(setListId) ? (this.last.get(setListId) ?? null) : list.lastRowId;
    const begin = from === 'top' ? 0 : (rows.findIndex(({ id }) => id === last) + 1) % rows.length;
    const count = take === 'all' ? rows.length : take;
    const taken = Array.from({ length: count }, (_, n) => elementAt(rows, (begin + n) % rows.length));
    if (from === 'next') this.last.set(setListId, taken.at(-1)?.id ?? last);
    return taken;
  }

  /** A list goes on after a row it has played, though more was taken. */
  goBackTo(listId: string, rowId: string | null): void {
    if (rowId !== null) this.last.set(listId, rowId);
  }
}

/** The lines that a set list line stands for, one for each of its rows. */
export function linesOfRows(line: SetListLine, rows: readonly SetListRow[]): (ItemLine | PickLine)[] {
  const { id, setListId, from, kind, take, ...rest } = line;
  void [kind, take];
  return rows.map((row, n): ItemLine | PickLine => {
    const listPlace: ListPlace = { listId: setListId, rowId: row.id, ...(from === 'next' ? { goesOn: true } : {}) };
    const base = { ...rest, id: `${id}-r${n + 1}`, listPlace };
    if ('itemId' in row) return { ...base, kind: 'item', itemId: row.itemId };
    return { ...base, kind: 'pick', categoryId: row.categoryId, ...(row.filter ? { filter: row.filter } : {}) };
  });
}
