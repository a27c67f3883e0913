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
  const common = longestCommonRun(left, right);
  const rows: ComparedRow[] = [];
  let [i, j] = [0, 0];
  const upTo = (m: number, n: number): void => {
    while (i < m) rows.push({ hourIndex, before: left[i++]!, after: null, differs: true });
    while (j < n) rows.push({ hourIndex, before: null, after: right[j++]!, differs: true });
  };
  for (const [m, n] of common) {
    upTo(m, n);
    const [one, other] = [left[i++]!, right[j++]!];
    rows.push({ hourIndex, before: one, after: other, differs: shownOf(one) !== shownOf(other) });
  }
  upTo(left.length, right.length);
  return rows;
}

/** The longest run of ids that both lists have in the same order, as pairs of places. */
function longestCommonRun(left: readonly LogEntry[], right: readonly LogEntry[]): [number, number][] {
  const lengths = Array.from({ length: left.length + 1 }, () => new Int32Array(right.length + 1));
  for (let i = left.length - 1; i >= 0; i--)
    for (let j = right.length - 1; j >= 0; j--)
      lengths[i]![j] =
        left[i]!.id === right[j]!.id ? lengths[i + 1]![j + 1]! + 1 : Math.max(lengths[i + 1]![j]!, lengths[i]![j + 1]!);
  const pairs: [number, number][] = [];
  for (let i = 0, j = 0; i < left.length && j < right.length;) {
    if (left[i]!.id === right[j]!.id) pairs.push([i++, j++]);
    else if (lengths[i + 1]![j]! >= lengths[i]![j + 1]!) i++;
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
    entry.kind === 'break' ? entry.durationMs : entry.kind === 'note' ? entry.text : (entry.lengthMs ?? null),
    entry.mark?.atMs ?? null,
  ]);
}
