import type { HandOverSettings, Output, OutputTarget } from '@fuller/contracts';
import { defineEntity, p, type InferEntity } from '@mikro-orm/core';

/** An output of a station: how its files are made, and where they go. */
export const PlayerOutputEntity = defineEntity({
  name: 'PlayerOutput',
  tableName: 'player_output',
  properties: {
    id: p.string().primary(),
    revision: p.integer(),
    stationId: p.string(),
    name: p.string(),
    nameKey: p.string(),
    files: p.json<HandOverSettings>(),
    target: p.json<OutputTarget>(),
    nightly: p.json<Output['nightly']>().nullable(),
    position: p.integer(),
  },
});
export type PlayerOutputRecord = InferEntity<typeof PlayerOutputEntity>;

/** The password of an output; kept apart, so that no answer and no activity holds it. */
export const OutputSecretEntity = defineEntity({
  name: 'OutputSecret',
  tableName: 'output_secret',
  properties: { id: p.string().primary(), password: p.string() },
});

/** The station-local day on which an output last wrote by itself. */
export const OutputNightEntity = defineEntity({
  name: 'OutputNight',
  tableName: 'output_night',
  properties: { id: p.string().primary(), date: p.string() },
});

export const HandOverEntity = defineEntity({
  name: 'HandOver',
  tableName: 'hand_over',
  properties: {
    id: p.string().primary(),
    stationId: p.string(),
    date: p.string(),
    atMs: p.bigint('number'),
    outputId: p.string().nullable(),
    outputName: p.string(),
    folder: p.string(),
    files: p.json<string[]>(),
    entries: p.integer(),
    heldBack: p.integer(),
    logRevision: p.integer(),
    /** The log as it was handed over; null where it had changed meanwhile. */
    versionId: p.string().nullable(),
  },
});
export type HandOverRow = InferEntity<typeof HandOverEntity>;

/** A hand-over on its way, noted before anything is written, so that a start after a stop can finish it. */
export const PendingHandOverEntity = defineEntity({
  name: 'PendingHandOver',
  tableName: 'pending_hand_over',
  properties: {
    id: p.string().primary(),
    record: p.json<HandOverRow>(),
    /** The name of its manifest. */
    output: p.json<{ readonly manifest?: string }>(),
    clientId: p.string(),
    /** Whether its files are being written beside their places, or are whole and being put there. */
    state: p.string().$type<'writing' | 'placing'>(),
  },
});
export type PendingHandOver = InferEntity<typeof PendingHandOverEntity>;
