import type { Decision, MissedRow, PlayEnd, PlaySource } from '@fuller/core';
import { defineEntity, p, type InferEntity } from '@mikro-orm/core';

/** The password of a live show, hashed; apart from the show, so that no answer and no activity holds it. */
export const ShowSecretEntity = defineEntity({
  name: 'ShowSecret',
  tableName: 'show_secret',
  properties: { id: p.string().primary(), passwordHash: p.string() },
});

/** How a station follows its player; its id is the station's. */
export const OnAirSettingsEntity = defineEntity({
  name: 'OnAirSettings',
  tableName: 'on_air_settings',
  properties: {
    id: p.string().primary(),
    revision: p.integer(),
    /** Null where no player is connected. */
    playerUrl: p.string().nullable(),
    /** From here on a play counts as early or late, milliseconds. */
    lateMs: p.integer(),
    /** Whether differences are accepted by themselves. */
    acceptAll: p.boolean(),
  },
});

/** What a player must be told to be let in. */
export const OnAirSecretEntity = defineEntity({
  name: 'OnAirSecret',
  tableName: 'on_air_secret',
  properties: { id: p.string().primary(), playerToken: p.string() },
});

/** A play as a player logged it; its key is unique on its station. */
export const AsRunRowEntity = defineEntity({
  name: 'AsRunRow',
  tableName: 'as_run_row',
  properties: {
    id: p.integer().primary(),
    stationId: p.string(),
    /** The station-local date on which it began. */
    date: p.string(),
    key: p.string(),
    startMs: p.bigint('number'),
    endMs: p.bigint('number'),
    kind: p.string(),
    artist: p.string(),
    title: p.string(),
    cart: p.string(),
    file: p.string(),
    entryId: p.string(),
    ended: p.string().$type<PlayEnd>(),
    by: p.string().$type<PlaySource>(),
    itemId: p.string().nullable(),
    sponsor: p.string(),
  },
});
export type AsRunRecord = InferEntity<typeof AsRunRowEntity>;

/** What is known of a day that aired, and what a person has decided of its differences. */
export const AsRunDayEntity = defineEntity({
  name: 'AsRunDay',
  tableName: 'as_run_day',
  properties: {
    id: p.string().primary(),
    stationId: p.string(),
    date: p.string(),
    revision: p.integer(),
    /** The as-run knows what aired between these, UTC epoch milliseconds. */
    coveredFromMs: p.bigint('number'),
    coveredUntilMs: p.bigint('number'),
    /** The file it came from, or the player. */
    source: p.string(),
    /** What holds for differences without a decision. */
    accepted: p.boolean(),
    decisions: p.json<Record<string, Decision>>(),
    missed: p.json<MissedRow[]>(),
  },
});
export type AsRunDayRecord = InferEntity<typeof AsRunDayEntity>;
