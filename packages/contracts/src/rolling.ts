import { REQUEST_STATES, ROLLING_SOURCES } from '@fuller/core';
import * as v from 'valibot';
import { Id, ShortText } from './basics.js';
import { DeviceAddress } from './on-air.js';

const instant = v.number();
const count = (least: number, most: number) =>
  v.pipe(v.number(), v.integer(), v.minValue(least, `is less than ${least}`), v.maxValue(most, `is more than ${most}`));

const fields = {
  mode: v.picklist(['off', 'clocks', 'loop', 'set list']),
  /** The clock whose lines are the loop. */
  loopClockId: v.nullable(Id),
  /** The set list that is worked through, from its top again after its end. */
  setListId: v.nullable(Id),
  depthUnit: v.picklist(['items', 'minutes']),
  depth: count(1, 240),
  /** Requests of one listener in an hour, and of all that are placed. */
  perListener: count(0, 20),
  perHour: count(0, 60),
  /** The request line; null where none is connected. */
  requestsUrl: v.nullable(DeviceAddress),
};
export const RollingSettings = v.object({ ...fields, revision: v.number() });
export type RollingSettings = v.InferOutput<typeof RollingSettings>;
export const RollingSettingsForm = v.strictObject({
  ...fields,
  setListId: v.optional(fields.setListId, null),
  revision: v.pipe(v.number(), v.integer(), v.minValue(0)),
});
export type RollingSettingsForm = v.InferOutput<typeof RollingSettingsForm>;

/** A row of a live queue, with when it is expected to begin. */
export const RollingQueueRow = v.object({
  id: v.string(),
  itemId: v.string(),
  kind: v.string(),
  artist: v.string(),
  title: v.string(),
  durationMs: v.number(),
  startMs: instant,
  hard: v.boolean(),
  by: v.picklist(ROLLING_SOURCES),
});
export type RollingQueueRow = v.InferOutput<typeof RollingQueueRow>;
export const Rolling = v.object({
  settings: RollingSettings,
  rows: v.array(RollingQueueRow),
  /** Lines nothing fitted lately, the latest first. */
  passedOver: v.array(v.object({ atMs: instant, category: v.string(), why: v.string() })),
});
export type Rolling = v.InferOutput<typeof Rolling>;

/** A change of the queue by a person. */
export const QueueEdit = v.variant('do', [
  v.strictObject({ do: v.literal('remove'), id: ShortText }),
  v.strictObject({ do: v.literal('move'), id: ShortText, by: v.picklist([-1, 1]) }),
  v.strictObject({ do: v.literal('add'), itemId: Id, beforeId: v.nullable(ShortText) }),
]);
export type QueueEdit = v.InferOutput<typeof QueueEdit>;

/** What a listener asks for. */
export const RequestForm = v.strictObject({
  listener: v.pipe(v.string(), v.trim(), v.minLength(1, 'is empty'), v.maxLength(80)),
  title: v.pipe(v.string(), v.trim(), v.minLength(1, 'is empty'), v.maxLength(200)),
  artist: v.pipe(v.string(), v.trim(), v.maxLength(200)),
});
export type RequestForm = v.InferOutput<typeof RequestForm>;
export const SongRequest = v.object({
  id: Id,
  listener: v.string(),
  title: v.string(),
  artist: v.string(),
  known: v.boolean(),
  atMs: instant,
  state: v.picklist(REQUEST_STATES),
  /** What the listener was told, in words, the latest last. */
  told: v.array(v.object({ atMs: instant, words: v.string() })),
  airedMs: v.nullable(instant),
});
export type SongRequest = v.InferOutput<typeof SongRequest>;
export const SongRequests = v.object({
  line: v.object({ state: v.picklist(['none', 'connected', 'unreachable']), sinceMs: instant, why: v.string() }),
  requests: v.array(SongRequest),
});
export type SongRequests = v.InferOutput<typeof SongRequests>;
