import { dialectOf } from '../dialect/dialect.js';
import type { Em } from '../orm.js';
import { list, listed, rowsOf } from './query.js';

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
    `select id, thing, thing_id as "thingId", cast("before" as text) as "before", cast("after" as text) as "after" from activity_change
     where activity_id = ? and id < ? order by id desc limit ?`,
    [activityId, beforeId, most],
  );
}

/** The first changes of an activity. */
export function firstChanges(em: Em, activityId: string, most: number): Promise<StoredChange[]> {
  return rowsOf(
    em,
    `select id, thing, thing_id as "thingId", cast("before" as text) as "before", cast("after" as text) as "after" from activity_change
     where activity_id = ? order by id limit ?`,
    [activityId, most],
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
  readonly personId: string | null;
  readonly personName: string | null;
  readonly undoes: string | null;
  readonly undoneBy: string | null;
}

/** Which activities are asked for; what is left out is not asked. */
export interface ActivityFilter {
  /** Of these stations. */
  readonly stationIds: readonly string[];
  /** Of no station as well. */
  readonly shared: boolean;
  readonly clientId?: string | undefined;
  readonly personId?: string | undefined;
  /** Words that stand in the label. */
  readonly words?: string | undefined;
  readonly fromMs?: number | undefined;
  readonly beforeMs?: number | undefined;
}

/** The latest activities; of one instant, the later written is the later. */
export function latestActivities(em: Em, most: number, filter: ActivityFilter): Promise<StoredActivity[]> {
  const dialect = dialectOf(em);
  const { stationIds, shared, clientId, personId, words, fromMs, beforeMs } = filter;
  const where: { readonly sql: string; readonly value?: unknown }[] = [
    {
      sql: `(station_id in (${listed(em)})${shared ? ' or station_id is null' : ''})`,
      value: list(stationIds),
    },
    ...(clientId === undefined ? [] : [{ sql: 'client_id = ?', value: clientId }]),
    ...(personId === undefined ? [] : [{ sql: 'person_id = ?', value: personId }]),
    ...(words ? [{ sql: dialect.holds('lower(label)'), value: words.toLowerCase() }] : []),
    ...(fromMs === undefined ? [] : [{ sql: 'at_ms >= ?', value: fromMs }]),
    ...(beforeMs === undefined ? [] : [{ sql: 'at_ms < ?', value: beforeMs }]),
  ];
  return rowsOf(
    em,
    `select id, at_ms as "atMs", label, station_id as "stationId", client_id as "clientId", person_id as "personId",
     person_name as "personName", undoes, undone_by as "undoneBy"
     from activity where ${where.map(({ sql }) => sql).join(' and ')} order by at_ms desc, ${dialect.writtenAt('activity')} desc limit ?`,
    [...where.map(({ value }) => value), most],
  );
}

/** Forgets some activities from before an instant, with what they changed; how many those were. */
export async function forgetActivities(em: Em, beforeMs: number, most: number): Promise<number> {
  const gone = await rowsOf<{ id: string }>(
    em,
    'select id from activity where at_ms < ? and not unfinished order by at_ms limit ?',
    [beforeMs, most],
  );
  const ids = list(gone.map(({ id }) => id));
  await rowsOf(em, `delete from activity_change where activity_id in (${listed(em)})`, [ids]);
  await rowsOf(em, `delete from activity where id in (${listed(em)})`, [ids]);
  return gone.length;
}

/** Whether a row could not be written because another depends on it, or holds its name. */
export function isConstraintFault(error: unknown): boolean {
  return error instanceof Error && /FOREIGN KEY|UNIQUE constraint/i.test(error.message);
}
