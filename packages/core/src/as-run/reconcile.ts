import { foldText } from '../text/fold.js';
import { elementAt } from '../values/look-up.js';
import type { AiredRow, MissedRow } from './as-run.js';
import { pairInOrder } from './pair-in-order.js';

/** A row of a log as it was to air. */
export interface PlannedRow {
  /** Id of the entry, or of the spot. */
  readonly id: string;
  readonly startMs: number;
  readonly durationMs: number;
  readonly kind: string;
  readonly artist: string;
  readonly title: string;
  readonly cart: string;
  readonly file: string;
  /** Null for a spot, which is no item. */
  readonly itemId: string | null;
}

/** How a row of the log and a play compare. */
export const RECONCILED = ['as planned', 'early', 'late', 'cut short', 'not aired', 'added', 'unknown'] as const;
export type Reconciled = (typeof RECONCILED)[number];

/** A row of the log beside the play it became; one of the two is null where it has no counterpart. */
export interface ReconciledRow<A extends AiredRow = AiredRow> {
  /** Unique in its day, and the same when the day is reconciled again. */
  readonly key: string;
  readonly is: Reconciled;
  readonly planned: PlannedRow | null;
  readonly aired: A | null;
  /** How much later it began than planned, milliseconds; negative where it was early. */
  readonly byMs: number;
  /** Why it did not air, in the player's words. */
  readonly why: string;
}

/** What is known of a day that aired. */
export interface AiredDay<A extends AiredRow = AiredRow> {
  readonly rows: readonly A[];
  readonly missed: readonly MissedRow[];
  /** Nothing is known of what was to begin before or to end after, UTC epoch milliseconds. */
  readonly coveredFromMs: number;
  readonly coveredUntilMs: number;
}

/** A play that ends this much before its time is cut short, milliseconds. */
const CUT_MS = 2500;
/** A play that begins this far from its place is not taken for it, milliseconds. */
const FARTHEST_MS = 3 * 3_600_000;

type Pairs<A> = Map<PlannedRow, A>;

/**
 * A log beside what aired, in the order of time. Rows are paired by the id the player tells; the rest by what they are
 * (cart, file, or artist and title), first in the order of both, then out of order as near as they come. A log runs
 * early or late from `lateMs` on; the row where it begins to is named.
 */
export function reconcile<A extends AiredRow>(
  planned: readonly PlannedRow[],
  { rows, missed, coveredFromMs, coveredUntilMs }: AiredDay<A>,
  lateMs: number,
): ReconciledRow<A>[] {
  const pairs: Pairs<A> = new Map();
  const free = pairById(planned, rows, pairs);
  pairByName(planned, free, pairs);
  const reasons = new Map(missed.map(({ entryId, why }) => [entryId, why]));
  const lines = planned.map((row): ReconciledRow<A> => {
    const aired = pairs.get(row) ?? null;
    const base = { key: `p:${row.id}`, planned: row, aired, why: '' };
    if (aired) return { ...base, ...compared(row, aired) };
    const isKnown = row.startMs >= coveredFromMs && row.startMs + row.durationMs <= coveredUntilMs;
    const why = reasons.get(row.id) ?? '';
    return { ...base, is: isKnown || why !== '' ? 'not aired' : 'unknown', byMs: 0, why };
  });
  const taken = new Set(pairs.values());
  const added = rows
    .filter((row) => !taken.has(row))
    .map((aired): ReconciledRow<A> => ({ key: `a:${aired.key}`, is: 'added', planned: null, aired, byMs: 0, why: '' }));
  return withDrift(
    [...lines, ...added].sort((a, b) => startOf(a) - startOf(b)),
    lateMs,
  );
}

function startOf({ planned, aired }: ReconciledRow): number {
  return (aired ?? planned)?.startMs ?? 0;
}

function compared(planned: PlannedRow, aired: AiredRow): Pick<ReconciledRow, 'is' | 'byMs'> {
  const isCut = aired.ended !== 'whole' && aired.endMs - aired.startMs < planned.durationMs - CUT_MS;
  return { is: isCut ? 'cut short' : 'as planned', byMs: aired.startMs - planned.startMs };
}

/**
 * Names the rows where a log begins to run late or early. One that goes on so, that comes back to its times, or that
 * follows what was lost, cut or added is no fault of its own.
 */
function withDrift<A extends AiredRow>(lines: readonly ReconciledRow<A>[], lateMs: number): ReconciledRow<A>[] {
  let driftMs = 0;
  let isExplained = false;
  return lines.map((line) => {
    if (line.is === 'unknown') return line;
    if (!line.planned || !line.aired) {
      isExplained = true;
      return line;
    }
    const { byMs } = line;
    const changeMs = byMs - driftMs;
    const isNew = !isExplained && Math.abs(changeMs) >= lateMs && Math.abs(byMs) >= lateMs && changeMs > 0 === byMs > 0;
    driftMs = byMs;
    isExplained = line.is === 'cut short';
    return isNew && line.is === 'as planned' ? { ...line, is: byMs > 0 ? 'late' : 'early' } : line;
  });
}

/** Pairs what the player knows the entry of; returns the plays that are left. */
function pairById<A extends AiredRow>(planned: readonly PlannedRow[], rows: readonly A[], pairs: Pairs<A>): A[] {
  const byId = new Map(planned.map((row) => [row.id, row]));
  return rows.filter((row) => {
    const plan = row.entryId === '' ? undefined : byId.get(row.entryId);
    if (!plan || pairs.has(plan)) return true;
    pairs.set(plan, row);
    return false;
  });
}

/** What a row is told by, most telling first. */
function namesOf({ cart, file, artist, title }: PlannedRow | AiredRow): string[] {
  const name = file.split(/[\\/]/).at(-1)?.toLowerCase() ?? '';
  const words = foldText(title);
  return [
    ...(cart.trim() === '' ? [] : [`cart ${cart.trim().toLowerCase()}`]),
    ...(name === '' ? [] : [`file ${name}`]),
    ...(words === '' ? [] : [`title ${foldText(artist)} ${words}`]),
  ];
}

/** Pairs rows that are told by the same. */
function pairByName<A extends AiredRow>(planned: readonly PlannedRow[], rows: readonly A[], pairs: Pairs<A>): void {
  const names = new Map<PlannedRow | A, readonly string[]>();
  const open = planned.filter((row) => !pairs.has(row));
  for (const row of [...open, ...rows]) names.set(row, namesOf(row));
  /** 2 for rows at the same time, 1 for the farthest that may be paired, 0 for what is not the same. */
  const gain = (plan: PlannedRow, row: A): number => {
    const apart = Math.abs(plan.startMs - row.startMs);
    if (apart > FARTHEST_MS) return 0;
    const others = names.get(row);
    return names.get(plan)?.some((name) => others?.includes(name)) ? 2 - apart / FARTHEST_MS : 0;
  };
  for (const [i, j] of pairInOrder(open, rows, gain)) pairs.set(elementAt(open, i), elementAt(rows, j));
  // What was played out of its order.
  const taken = new Set(pairs.values());
  for (const plan of open) {
    if (pairs.has(plan)) continue;
    const [nearest] = rows
      .filter((row) => !taken.has(row) && gain(plan, row) > 0)
      .sort((a, b) => gain(plan, b) - gain(plan, a));
    if (!nearest) continue;
    taken.add(nearest);
    pairs.set(plan, nearest);
  }
}
