import * as v from 'valibot';
import { DateText, Id } from './basics.js';

const Named = v.object({ id: Id, title: v.string(), artist: v.string() });
/** UTC epoch milliseconds. */
const instant = v.number();

export const ItemPlays = v.object({
  /** So many weeks are looked back on. */
  weeks: v.number(),
  /** Plays by hour of the week, Monday 00:00 first. */
  cells: v.array(v.number()),
  /** Latest first. */
  past: v.array(instant),
  coming: v.array(instant),
  /** Separations that hold it back now. */
  held: v.array(v.object({ ruleId: Id, other: Named, endedMs: instant, freeMs: instant })),
});
export type ItemPlays = v.InferOutput<typeof ItemPlays>;

export const Unavailability = v.variant('because', [
  v.object({ because: v.literal('not yet'), from: v.string() }),
  v.object({ because: v.literal('over'), until: v.string() }),
  v.object({ because: v.literal('paused'), until: v.string() }),
  v.object({ because: v.literal('no length') }),
  v.object({ because: v.literal('cooling off'), until: v.string() }),
  v.object({ because: v.literal('hour') }),
  v.object({ because: v.literal('not approved') }),
]);
export const ItemFit = v.object({
  date: v.string(),
  hasLog: v.boolean(),
  hours: v.array(
    v.object({
      index: v.number(),
      localHour: v.number(),
      startMs: instant,
      state: v.picklist(['plays', 'may', 'other slot', 'held', 'no slot', 'barred']),
      atMs: v.nullable(instant),
      bar: v.nullable(Unavailability),
      clashes: v.array(
        v.object({ ruleId: v.string(), by: v.number(), other: Named, otherMs: instant, freeMs: instant }),
      ),
    }),
  ),
});
export type ItemFit = v.InferOutput<typeof ItemFit>;

export const FitQuery = v.object({ date: DateText });
export const ProofQuery = v.object({ from: DateText, to: DateText });
export const AirplayProof = v.object({
  station: v.string(),
  from: v.string(),
  to: v.string(),
  title: v.string(),
  artist: v.string(),
  album: v.string(),
  isrc: v.nullable(v.string()),
  label: v.nullable(v.string()),
  durationMs: v.number(),
  plays: v.array(v.object({ date: v.string(), time: v.string() })),
});
export type AirplayProof = v.InferOutput<typeof AirplayProof>;
