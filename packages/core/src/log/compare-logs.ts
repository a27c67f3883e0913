import { elementAt } from '../values/look-up.js';
import { itemOf, type DailyLog, type LogEntry, type LogHour } from './daily-log.js';

/** One place of two logs of a day, side by side. */
export interface ComparedRow {
  readonly hourIndex: number;
  /** Null where the log has no such entry in the hour. */
  readonly before: LogEntry | null;
  readonly after: LogEntry | null;
  readonly differs: boolean;
}

/** Two logs of a day, side by side. */
export interface LogComparison {
  /** Every place in order. */
  readonly rows: readonly ComparedRow[];
  /** Places of hours, in the day, in which something differs. */
  readonly hours: readonly number[];
  readonly differing: number;
}

/**
 * What differs between two logs of a day: what plays, in which order, how long, with which note or lock. Entries are
 * lined up hour by hour along their longest common run of ids, so that one put in or moved shows as just that.
 */
export function compareLogs(before: DailyLog, after: DailyLog): LogComparison {
  const count = Math.max(before.hours.length, after.hours.length);
  const rows = Array.from({ length: count }, (_, index) =>
    comparedHour(index, before.hours[index], after.hours[index]),
  ).flat();
  const differing = rows.filter(({ differs }) => differs);
  return { rows, hours: [...new Set(differing.map(({ hourIndex }) => hourIndex))], differing: differing.length };
}

function comparedHour(hourIndex: number, before: LogHour | undefined, after: LogHour | undefined): ComparedRow[] {
  const [left, right] = [before?.entries ?? [], after?.entries ?? []];
  const rows: ComparedRow[] = [];
  let [i, j] = [0, 0];
  const upTo = (m: number, n: number): void => {
    for (const entry of left.slice(i, m)) rows.push({ hourIndex, before: entry, after: null, differs: true });
    for (const entry of right.slice(j, n)) rows.push({ hourIndex, before: null, after: entry, differs: true });
    [i, j] = [m, n];
  };
  for (const [m, n] of longestCommonRun(left, right)) {
    upTo(m, n);
    const [one, other] = [elementAt(left, m), elementAt(right, n)];
    rows.push({ hourIndex, before: one, after: other, differs: shownOf(one) !== shownOf(other) });
    [i, j] = [m + 1, n + 1];
  }
  upTo(left.length, right.length);
  return rows;
}

/** The longest run of ids that both lists have in the same order, as pairs of places. */
function longestCommonRun(left: readonly LogEntry[], right: readonly LogEntry[]): [number, number][] {
  const width = right.length + 1;
  const lengths = new Int32Array((left.length + 1) * width);
  const longest = (i: number, j: number): number => elementAt(lengths, i * width + j);
  const isSame = (i: number, j: number): boolean => elementAt(left, i).id === elementAt(right, j).id;
  for (let i = left.length - 1; i >= 0; i--)
    for (let j = right.length - 1; j >= 0; j--)
      lengths[i * width + j] = isSame(i, j)
        ? longest(i + 1, j + 1) + 1
        : Math.max(longest(i + 1, j), longest(i, j + 1));
  const pairs: [number, number][] = [];
  for (let i = 0, j = 0; i < left.length && j < right.length;) {
    if (isSame(i, j)) pairs.push([i++, j++]);
    else if (longest(i + 1, j) >= longest(i, j + 1)) i++;
    else j++;
  }
  return pairs;
}

/** Of an entry what a person sees of it; why it was chosen does not count. */
function shownOf(entry: LogEntry): string {
  return JSON.stringify([
    entry.kind,
    itemOf(entry),
    entry.out ?? false,
    entry.note,
    entry.kind === 'pick' ? [entry.locked, entry.categoryId] : null,
    entry.kind === 'break'
      ? [entry.durationMs, entry.spots]
      : entry.kind === 'note'
        ? entry.text
        : 'lengthMs' in entry
          ? entry.lengthMs
          : null,
    entry.mark?.atMs ?? null,
  ]);
}
