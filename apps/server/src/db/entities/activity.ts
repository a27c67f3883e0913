import { defineEntity, p, type InferEntity } from '@mikro-orm/core';

/** Who changed what, when. */
export const ActivityEntity = defineEntity({
  name: 'Activity',
  tableName: 'activity',
  properties: {
    id: p.string().primary(),
    atMs: p.bigint('number'),
    clientId: p.string(),
    /** Who did it, as they were named then; null for a program, and where there are no accounts. */
    personId: p.string().nullable(),
    personName: p.string().nullable(),
    stationId: p.string().nullable(),
    label: p.string(),
    /** The activity this one undoes. */
    undoes: p.string().nullable(),
    undoneBy: p.string().nullable(),
    /** Whether it is written in batches that are not all there yet. */
    unfinished: p.boolean().default(false),
  },
});
export type ActivityRecord = InferEntity<typeof ActivityEntity>;

/** One change of an activity: a row before and after, or an edit of a log and its inverse. */
export const ActivityChangeEntity = defineEntity({
  name: 'ActivityChange',
  tableName: 'activity_change',
  properties: {
    id: p.integer().primary(),
    activityId: p.string(),
    thing: p.string(),
    thingId: p.string(),
    before: p.json<unknown>().nullable(),
    after: p.json<unknown>().nullable(),
  },
});
export type ActivityChangeRecord = InferEntity<typeof ActivityChangeEntity>;

/** What a person is told of a stored document that could not be read. */
export const UnreadableNoteEntity = defineEntity({
  name: 'UnreadableNote',
  tableName: 'unreadable_note',
  properties: { id: p.string().primary(), text: p.string() },
});

/** For how long activities are kept; no row where that was never set. */
export const ActivitySettingEntity = defineEntity({
  name: 'ActivitySetting',
  tableName: 'activity_setting',
  properties: { id: p.string().primary(), keptDays: p.integer().nullable() },
});
