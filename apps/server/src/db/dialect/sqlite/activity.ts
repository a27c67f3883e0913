import type { Em } from '../../orm.js';
import { rowsOf } from './query.js';

/** A change as it is stored; what was before and after is JSON. */
export interface StoredChange {
  readonly id: number;
  readonly thing: string;
  readonly thingId: string;
  readonly before: string | null;
  readonly after: string | null;
}

/** Changes of an activity with ids below one, the latest first. */
export function changesBefore(em: Em, activityId: string, beforeId: number, most: number): Promise<StoredChange[]> {
  return rowsOf(
    em,
    `select id, thing, thing_id as thingId, "before", "after" from activity_change
     where activity_id = ? and id < ? order by id desc limit ?`,
    [activityId, beforeId, most],
  );
}

/** The kinds of thing an activity changed. */
export async function thingsChangedBy(em: Em, activityId: string): Promise<string[]> {
  const rows = await rowsOf<{ thing: string }>(em, 'select distinct thing from activity_change where activity_id = ?', [
    activityId,
  ]);
  return rows.map(({ thing }) => thing);
}

interface StoredActivity {
  readonly id: string;
  readonly atMs: number;
  readonly label: string;
  readonly stationId: string | null;
  readonly clientId: string;
  readonly undoes: string | null;
  readonly undoneBy: string | null;
}

/** The latest activities, of a station and what is shared, or of a client; of one instant, the later written is the later. */
export function latestActivities(
  em: Em,
  most: number,
  { stationId, clientId }: { readonly stationId: string | undefined; readonly clientId: string | undefined },
): Promise<StoredActivity[]> {
  const asked = [
    ...(stationId === undefined ? [] : [{ sql: '(station_id = ? or station_id is null)', value: stationId }]),
    ...(clientId === undefined ? [] : [{ sql: 'client_id = ?', value: clientId }]),
  ];
  return rowsOf(
    em,
    `select id, at_ms as atMs, label, station_id as stationId, client_id as clientId, undoes, undone_by as undoneBy
     from activity ${asked.length ? `where ${asked.map(({ sql }) => sql).join(' and ')}` : ''}
     order by at_ms desc, rowid desc limit ?`,
    [...asked.map(({ value }) => value), most],
  );
}

/** Whether a row could not be written because another depends on it, or holds its name. */
export function isConstraintFault(error: unknown): boolean {
  return error instanceof Error && /FOREIGN KEY|UNIQUE constraint/i.test(error.message);
}
