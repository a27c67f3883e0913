import { DECISIONS, PLAY_ENDS, PLAY_SOURCES, RECONCILED, TextLayoutSchema } from '@fuller/core';
import * as v from 'valibot';
import { Change, Id, Revision, ShortText } from './basics.js';

/** UTC epoch milliseconds. */
const instant = v.number();
const Instant = v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(8_000_000_000_000));

/** The address of a device on the network. */
export const DeviceAddress = v.pipe(
  v.string(),
  v.maxLength(500),
  v.check(
    (text) => /^https?:\/\/[^/@?#\s]+$/.test(text) && URL.canParse(text),
    'is not an address like http://playout.local:4612',
  ),
);

export const OnAirSettings = v.object({
  revision: v.number(),
  /** Null where no player is connected. */
  playerUrl: v.nullable(v.string()),
  hasToken: v.boolean(),
  /** From here on a play counts as early or late, milliseconds. */
  lateMs: v.number(),
  /** Differences from the log are accepted by themselves. */
  acceptAll: v.boolean(),
});
export type OnAirSettings = v.InferOutput<typeof OnAirSettings>;
export const OnAirSettingsForm = v.strictObject({
  revision: v.pipe(v.number(), v.integer(), v.minValue(0)),
  playerUrl: v.nullable(DeviceAddress),
  /** A new token; left out where it stays. */
  token: v.optional(v.pipe(v.string(), v.maxLength(500))),
  lateMs: v.pipe(
    v.number(),
    v.integer(),
    v.minValue(1000, 'is less than a second'),
    v.maxValue(3_600_000, 'is more than an hour'),
  ),
  acceptAll: v.boolean(),
});
export type OnAirSettingsForm = v.InferOutput<typeof OnAirSettingsForm>;

/** A row in a player's queue, with when it is expected to begin. */
export const PlayerQueueRow = v.object({
  id: v.string(),
  kind: v.string(),
  artist: v.string(),
  title: v.string(),
  durationMs: v.number(),
  startMs: instant,
  mark: v.nullable(v.picklist(['hard', 'soft'])),
  waits: v.boolean(),
  by: v.picklist(PLAY_SOURCES),
});
export type PlayerQueueRow = v.InferOutput<typeof PlayerQueueRow>;

/** What a player tells of itself. Instants are by its own clock. */
export const PlayerState = v.object({
  bootId: v.string(),
  nowMs: instant,
  rate: v.number(),
  mode: v.picklist(['playing', 'waiting', 'live', 'stopped']),
  source: v.picklist(['files', 'queue']),
  playing: v.nullable(
    v.object({ ...PlayerQueueRow.entries, endMs: instant, over: v.nullable(v.string()), fading: v.boolean() }),
  ),
  next: v.array(PlayerQueueRow),
  queued: v.number(),
  silentSinceMs: v.nullable(instant),
  live: v.nullable(v.object({ show: v.string(), who: v.string(), sinceMs: instant, untilMs: instant })),
  show: v.nullable(v.object({ name: v.string(), presenter: v.string(), untilMs: instant })),
  stream: v.nullable(
    v.object({
      state: v.picklist(['connected', 'connecting', 'down', 'refused']),
      sinceMs: instant,
      why: v.string(),
      listeners: v.nullable(v.number()),
      reconnectMs: v.nullable(v.number()),
      retryAtMs: v.nullable(instant),
    }),
  ),
  events: v.number(),
  faults: v.array(v.string()),
});
export type PlayerState = v.InferOutput<typeof PlayerState>;

/** What is on the air of a station. */
export const OnAir = v.object({
  settings: OnAirSettings,
  player: v.object({
    /** `none` where no player is set up. */
    state: v.picklist(['none', 'connected', 'unreachable']),
    /** Since when it is so, by the server's clock. */
    sinceMs: instant,
    why: v.string(),
    view: v.nullable(PlayerState),
  }),
});
export type OnAir = v.InferOutput<typeof OnAir>;

/** What a person may have the player do. */
export const PlayerCommand = v.variant('do', [
  v.strictObject({ do: v.picklist(['skip', 'go', 'leave', 'drop-stream']) }),
  v.strictObject({ do: v.literal('play-item'), itemId: Id }),
  v.strictObject({ do: v.picklist(['remove', 'lose-file']), id: ShortText }),
  v.strictObject({ do: v.literal('rate'), rate: v.pipe(v.number(), v.minValue(1), v.maxValue(3600)) }),
  v.strictObject({ do: v.literal('set-clock'), atMs: Instant }),
  v.strictObject({ do: v.literal('stop'), seconds: v.pipe(v.number(), v.minValue(1), v.maxValue(86_400)) }),
  v.strictObject({
    do: v.literal('reconnect-after'),
    seconds: v.nullable(v.pipe(v.number(), v.minValue(0), v.maxValue(86_400))),
  }),
]);
export type PlayerCommand = v.InferOutput<typeof PlayerCommand>;
/** A presenter who takes the air of the live show that is on. */
export const TakeAir = v.strictObject({
  name: v.pipe(v.string(), v.trim(), v.maxLength(80)),
  password: v.pipe(v.string(), v.maxLength(200)),
});
export type TakeAir = v.InferOutput<typeof TakeAir>;

const Shown = v.object({
  startMs: instant,
  durationMs: v.number(),
  kind: v.string(),
  artist: v.string(),
  title: v.string(),
});
/** A row of the log beside what aired. */
export const AsRunLine = v.object({
  key: v.string(),
  is: v.picklist(RECONCILED),
  planned: v.nullable(Shown),
  aired: v.nullable(
    v.object({ ...Shown.entries, ended: v.picklist(PLAY_ENDS), by: v.picklist(PLAY_SOURCES), known: v.boolean() }),
  ),
  /** How much later it began than planned, milliseconds. */
  byMs: v.number(),
  why: v.string(),
  /** Null where it is still to be decided, or nothing is. */
  decision: v.nullable(v.picklist(DECISIONS)),
});
export type AsRunLine = v.InferOutput<typeof AsRunLine>;
export const AsRunDay = v.object({
  /** 0 where nothing of the day is known. */
  revision: v.number(),
  hasLog: v.boolean(),
  known: v.nullable(v.object({ fromMs: instant, untilMs: instant, source: v.string() })),
  lines: v.array(AsRunLine),
});
export type AsRunDay = v.InferOutput<typeof AsRunDay>;

/** The longest as-run log that is read, characters. */
export const LONGEST_AS_RUN = 20_000_000;
export const AsRunRequest = v.strictObject({
  text: v.pipe(v.string(), v.maxLength(LONGEST_AS_RUN, 'is too long to be the as-run log of a day')),
  fileName: ShortText,
  /** How text is read that is neither JSON nor a table with a head line. */
  layout: v.nullable(TextLayoutSchema),
  dryRun: v.boolean(),
});
export type AsRunRequest = v.InferOutput<typeof AsRunRequest>;
export const AsRunOutcome = v.object({
  ...Change.entries,
  rows: v.number(),
  /** Plays that were known already. */
  known: v.number(),
  day: AsRunDay,
});
export type AsRunOutcome = v.InferOutput<typeof AsRunOutcome>;

const Key = v.pipe(v.string(), v.maxLength(300));
export const AsRunDecisions = v.strictObject({
  revision: Revision,
  /** For every difference; what was decided of single ones is forgotten then. */
  all: v.optional(v.nullable(v.picklist(DECISIONS))),
  single: v.optional(v.record(Key, v.nullable(v.picklist(DECISIONS))), {}),
});
export type AsRunDecisions = v.InferOutput<typeof AsRunDecisions>;

/** When the spots of a sponsor aired. */
export const SponsorProof = v.object({
  station: v.string(),
  from: v.string(),
  to: v.string(),
  sponsor: v.string(),
  rows: v.array(
    v.object({
      date: v.string(),
      booked: v.nullable(v.string()),
      aired: v.nullable(v.string()),
      cart: v.string(),
      title: v.string(),
      durationMs: v.number(),
    }),
  ),
  /** Dates with booked spots of which no as-run is known. */
  unknownDates: v.array(v.string()),
});
export type SponsorProof = v.InferOutput<typeof SponsorProof>;
