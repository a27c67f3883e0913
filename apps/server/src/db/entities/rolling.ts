import type { PassedOver, RequestAnswer, RequestState, RollingCursor, RollingRow } from '@fuller/core';
import { defineEntity, p, type InferEntity } from '@mikro-orm/core';

/** Whether a station runs from a live queue, and how requests are taken; its id is the station's. */
export const RollingSettingsEntity = defineEntity({
  name: 'RollingSettings',
  tableName: 'rolling_settings',
  properties: {
    id: p.string().primary(),
    revision: p.integer(),
    mode: p.string().$type<'off' | 'clocks' | 'loop' | 'set list'>(),
    /** The clock whose lines are the loop. */
    loopClockId: p.string().nullable(),
    /** The set list that is worked through, in mode `set list`. */
    setListId: p.string().nullable(),
    depthUnit: p.string().$type<'items' | 'minutes'>(),
    depth: p.integer(),
    perListener: p.integer(),
    perHour: p.integer(),
    /** The request line; null where none is connected. */
    requestsUrl: p.string().nullable(),
  },
});

/** A row of a queue with what is shown and played of it. */
export interface QueuedItem extends RollingRow {
  readonly kind: string;
  readonly artist: string;
  readonly title: string;
  readonly cart: string;
  readonly file: string;
  readonly durationMs: number;
  readonly segueMs: number;
  readonly introMs: number;
}

/** The live queue of a station; its id is the station's. */
export const RollingQueueEntity = defineEntity({
  name: 'RollingQueue',
  tableName: 'rolling_queue',
  properties: {
    id: p.string().primary(),
    rows: p.json<QueuedItem[]>(),
    cursor: p.json<RollingCursor>(),
    /** The lines nothing fitted lately, the latest first. */
    passedOver: p.json<PassedOver[]>(),
  },
});

/** An answer a listener was given, and when. */
export interface ToldAnswer {
  readonly atMs: number;
  readonly answer: RequestAnswer;
}

/** What a listener asked for and what became of it. */
export const SongRequestEntity = defineEntity({
  name: 'SongRequest',
  tableName: 'song_request',
  properties: {
    id: p.string().primary(),
    stationId: p.string(),
    /** Unique at its request line. */
    key: p.string(),
    listener: p.string(),
    title: p.string(),
    artist: p.string(),
    itemId: p.string().nullable(),
    atMs: p.bigint('number'),
    state: p.string().$type<RequestState>(),
    told: p.json<ToldAnswer[]>(),
    /** Its row in the queue, or its entry in the log of a date. */
    rowId: p.string().nullable(),
    date: p.string().nullable(),
    airedMs: p.bigint('number').nullable(),
  },
});
export type SongRequestRecord = InferEntity<typeof SongRequestEntity>;
