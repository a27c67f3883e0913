import { changesBefore, firstChanges } from '../db/queries/activity.js';
import type { Em } from '../db/orm.js';
import { FullerError } from '../errors.js';
import type { RecordedChange } from './change-set.js';

/** So many changes are undone in one transaction. */
const UNDO_BATCH = 1000;
/** Above every id of a recorded change. */
export const LATEST = Number.MAX_SAFE_INTEGER;

/** A change as the database knows it. */
export type NumberedChange = RecordedChange & { readonly id: number };

/** Some changes of an activity with ids below one, the latest first. */
export async function recordedBefore(em: Em, activityId: string, beforeId: number): Promise<NumberedChange[]> {
  const rows = await changesBefore(em, activityId, beforeId, UNDO_BATCH);
  return rows.map((row) => ({ ...row, before: parsed(row.before), after: parsed(row.after) }));
}

/** The first changes of an activity, in the order they were made. */
export async function recordedFirst(em: Em, activityId: string, most: number): Promise<NumberedChange[]> {
  const rows = await firstChanges(em, activityId, most);
  return rows.map((row) => ({ ...row, before: parsed(row.before), after: parsed(row.after) }));
}

function parsed(json: string | null): unknown {
  if (json === null) return null;
  try {
    return JSON.parse(json);
  } catch {
    throw new FullerError('CANNOT_UNDO', 'What was changed cannot be read any more, so it cannot be undone.');
  }
}

/** Changes of one thing that follow each other and are alike, so that they can be undone together. */
export interface Run {
  readonly thing: string;
  readonly changes: readonly RecordedChange[];
}

/** Changes cut into runs; order is kept between them. */
export function runsOf(changes: readonly RecordedChange[]): Run[] {
  const kindOf = ({ thing, before, after }: RecordedChange): string => `${thing} ${before === null} ${after === null}`;
  const runs: { kind: string; thing: string; changes: RecordedChange[] }[] = [];
  for (const change of changes) {
    const kind = kindOf(change);
    const last = runs.at(-1);
    if (last?.kind === kind) last.changes.push(change);
    else runs.push({ kind, thing: change.thing, changes: [change] });
  }
  return runs;
}
