import * as v from 'valibot';
import { AirDate, Change, Id, Revision } from './basics.js';
import { EntryId, LogView, RunDecision } from './logs.js';

/** Where an attended run is to stop, besides where every candidate breaks a must. */
export const AskAt = v.strictObject({
  everySlot: v.optional(v.boolean(), false),
  categories: v.optional(v.pipe(v.array(Id), v.maxLength(200)), []),
  /** Rules: where the choice of the run would break one of them. */
  rules: v.optional(v.pipe(v.array(Id), v.maxLength(500)), []),
});
export type AskAt = v.InferOutput<typeof AskAt>;

const RulesOff = v.pipe(v.array(Id), v.maxLength(500));

/** Begins an attended run over a day: over all of it, or over the slots that stand open. */
export const BeginAttended = v.strictObject({
  scope: v.picklist(['all', 'open']),
  seed: v.optional(v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(4_294_967_295)), 1),
  ask: v.optional(AskAt, { everySlot: false, categories: [], rules: [] }),
  rulesOff: v.optional(RulesOff, []),
  answers: v.optional(v.record(v.string(), v.pipe(v.string(), v.trim(), v.maxLength(1000))), {}),
  /** Of the log as the person sees it; null where there is none. */
  revision: v.nullable(Revision),
});

/**
 * Why an attended run stands still: nothing may go there, it would leave the slot open for the sake of later ones, the
 * person wanted to be asked, or a rule would be broken.
 */
export const STOP_REASONS = ['no candidate', 'left open', 'asked', 'rule'] as const;
export const AttendedRun = v.object({
  id: Id,
  date: AirDate,
  atMs: v.number(),
  seed: v.number(),
  scope: v.picklist(['all', 'open']),
  ask: AskAt,
  rulesOff: v.array(Id),
  state: v.picklist(['open', 'done', 'ended']),
  /** The slot it waits at; null where it is over, or where the slot has been filled or has aired since. */
  stop: v.nullable(
    v.object({
      entryId: EntryId,
      because: v.picklist(STOP_REASONS),
      ruleId: v.nullable(Id),
      /** What the run would take there. */
      suggested: v.nullable(Id),
    }),
  ),
  decisions: v.array(RunDecision),
  skipped: v.array(EntryId),
  /** Slots that stand open and were not skipped. */
  left: v.number(),
});
export type AttendedRun = v.InferOutput<typeof AttendedRun>;

/** One step: take an item at the stop, skip the slot, go back to the stop before, or go on after a change of what is asked. */
export const AttendedStep = v.variant('do', [
  v.strictObject({ do: v.literal('take'), itemId: Id, decisions: v.number(), rulesOff: RulesOff }),
  v.strictObject({ do: v.literal('skip'), decisions: v.number(), rulesOff: RulesOff }),
  v.strictObject({ do: v.literal('back'), decisions: v.number() }),
  v.strictObject({ do: v.literal('go on'), decisions: v.number(), rulesOff: RulesOff, ask: v.optional(AskAt) }),
  v.strictObject({ do: v.literal('end'), decisions: v.number() }),
]);
export type AttendedStep = v.InferOutput<typeof AttendedStep>;

export const AttendedState = v.object({ run: v.nullable(AttendedRun) });
/** What a step answers: the run, the log as it is now, and the activity that undoes it. */
export const AttendedAnswer = v.object({ ...Change.entries, run: AttendedRun, view: LogView });
export type AttendedAnswer = v.InferOutput<typeof AttendedAnswer>;
