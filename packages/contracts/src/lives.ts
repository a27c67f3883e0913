import * as v from 'valibot';
import { AirDate, Id } from './basics.js';

const to = v.nullable(Id);
/** What is planned for one song, in place of what its category says; null for what the category says. */
export const PlannedMoveAsked = v.strictObject({
  planned: v.nullable(
    v.variant('kind', [
      v.strictObject({ kind: v.literal('on'), date: AirDate, to }),
      v.strictObject({
        kind: v.literal('plays'),
        plays: v.pipe(v.number(), v.integer(), v.minValue(1, 'is less than 1'), v.maxValue(100_000, 'is too many')),
        to,
      }),
      v.strictObject({ kind: v.literal('stays') }),
    ]),
  ),
});
export type PlannedMoveAsked = v.InferOutput<typeof PlannedMoveAsked>;

/** A move between categories that is due or to come. */
export const MoveRow = v.object({
  itemId: Id,
  title: v.string(),
  artist: v.string(),
  from: Id,
  /** Null leaves rotation. */
  to,
  date: v.string(),
  since: v.nullable(v.string()),
  plays: v.number(),
  /** The date follows from how often the song plays. */
  expected: v.boolean(),
  byHand: v.boolean(),
});
export type MoveRow = v.InferOutput<typeof MoveRow>;

/** What the moves up to a date come to for a category. */
export const MoveEffect = v.object({
  categoryId: Id,
  leave: v.number(),
  come: v.number(),
  songs: v.object({ today: v.number(), then: v.number() }),
  /** Hours until every song has had its turn; null without songs or slots. */
  turnoverHours: v.object({ today: v.nullable(v.number()), then: v.nullable(v.number()) }),
});
export type MoveEffect = v.InferOutput<typeof MoveEffect>;

export const Moves = v.object({
  today: v.string(),
  until: v.string(),
  /** In the order of their dates. */
  moves: v.array(MoveRow),
  effects: v.array(MoveEffect),
});
export type Moves = v.InferOutput<typeof Moves>;

export const MovesQuery = v.strictObject({ until: v.optional(AirDate) });
export const CarryOut = v.strictObject({
  /** These alone, due or not; all that are due where there is nothing. */
  itemIds: v.optional(v.pipe(v.array(Id), v.minLength(1), v.maxLength(5000))),
});

/** Where a song stands in rotation: since when, and what comes next. */
export const ItemLife = v.object({
  categoryId: v.nullable(Id),
  since: v.nullable(v.string()),
  plays: v.number(),
  planned: PlannedMoveAsked.entries.planned,
  next: v.nullable(v.object({ to, date: v.string(), expected: v.boolean(), byHand: v.boolean() })),
});
export type ItemLife = v.InferOutput<typeof ItemLife>;
