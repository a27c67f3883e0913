import type { AskAt, AttendedRun, LogRun, LogVersion, RunDecision } from '@fuller/contracts';
import type { LogHour } from '@fuller/core';
import { defineEntity, p, type InferEntity } from '@mikro-orm/core';

export const DailyLogEntity = defineEntity({
  name: 'DailyLog',
  tableName: 'daily_log',
  properties: {
    id: p.string().primary(),
    revision: p.integer(),
    stationId: p.string(),
    date: p.string(),
    timeZone: p.string(),
    hours: p.json<LogHour[]>(),
    /** Counted when the log is saved, so that the strip of days need not read whole logs. */
    slots: p.integer(),
    open: p.integer(),
    strains: p.integer(),
    /** Strains by rule id, as the log was judged when it last changed; null where that was before it was counted. */
    strainsByRule: p.json<Record<string, number>>().nullable(),
  },
});
export type DailyLogRecord = InferEntity<typeof DailyLogEntity>;

/** A play, of a log or (without one) of the past. */
export const PlayEntity = defineEntity({
  name: 'Play',
  tableName: 'play',
  properties: {
    id: p.integer().primary(),
    stationId: p.string(),
    itemId: p.string(),
    /** UTC epoch milliseconds. */
    startMs: p.bigint('number'),
    date: p.string(),
    logId: p.string().nullable(),
  },
});

/** What a run over a day was asked for. */
export const LogRunEntity = defineEntity({
  name: 'LogRun',
  tableName: 'log_run',
  properties: {
    id: p.string().primary(),
    stationId: p.string(),
    date: p.string(),
    activityId: p.string(),
    atMs: p.bigint('number'),
    seed: p.bigint('number'),
    only: p.string().$type<LogRun['only']>(),
    /** The hours asked for, by their place in the day; null for all of them. */
    hours: p.json<number[] | null>().nullable(),
    /** Names of the categories asked for; null for all of them. */
    categories: p.json<string[] | null>().nullable(),
    replacedByHand: p.boolean(),
    /** Sentences of the rules that were off. */
    rulesOff: p.json<string[]>(),
    /** Answers to the questions of clock lines. */
    answers: p.json<Record<string, string>>(),
  },
});
export type LogRunRecord = InferEntity<typeof LogRunEntity>;

/** A log as it was at an instant. */
export const LogVersionEntity = defineEntity({
  name: 'LogVersion',
  tableName: 'log_version',
  properties: {
    id: p.string().primary(),
    stationId: p.string(),
    date: p.string(),
    atMs: p.bigint('number'),
    revision: p.integer(),
    reasons: p.json<LogVersion['reasons']>(),
    /** Of its hours; a log that is kept again as it was is kept once. */
    hash: p.string(),
    /** Its hours as compressed JSON. */
    hours: p.blob(),
    timeZone: p.string(),
    slots: p.integer(),
    open: p.integer(),
  },
});
export type LogVersionRecord = InferEntity<typeof LogVersionEntity>;

/** A decision of an attended run; one whose first activity is undone no longer counts. */
export interface KeptDecision extends RunDecision {
  /** What wrote it, and what the run filled after it; none where nothing was written. */
  readonly activityIds: readonly string[];
  /** What was decided on. */
  readonly stop: NonNullable<AttendedRun['stop']>;
}

/** A run that fills a day step by step; it has the id of its row among the runs. */
export const AttendedRunEntity = defineEntity({
  name: 'AttendedRun',
  tableName: 'attended_run',
  properties: {
    id: p.string().primary(),
    stationId: p.string(),
    date: p.string(),
    atMs: p.bigint('number'),
    seed: p.bigint('number'),
    scope: p.string().$type<AttendedRun['scope']>(),
    ask: p.json<AskAt>(),
    rulesOff: p.json<string[]>(),
    answers: p.json<Record<string, string>>(),
    state: p.string().$type<AttendedRun['state']>(),
    stop: p.json<AttendedRun['stop']>().nullable(),
    decisions: p.json<KeptDecision[]>(),
  },
});
export type AttendedRunRecord = InferEntity<typeof AttendedRunEntity>;
