import { PROMISED_PER } from '@fuller/core';
import * as v from 'valibot';
import { DateText, Id, Name, Revision, ShortText } from './basics.js';

const MOST_PROMISES = 10;
const MOST_MESSAGES = 2000;
const LONGEST_APART_MINUTES = 1440;

export const SponsorPromiseSchema = v.strictObject({
  count: v.pipe(
    v.number(),
    v.integer(),
    v.minValue(1, 'is less than 1'),
    v.maxValue(MOST_MESSAGES, `is more than ${MOST_MESSAGES}`),
  ),
  per: v.picklist(PROMISED_PER),
  daypartId: v.nullable(Id),
});
const sponsorFields = {
  name: Name,
  product: v.pipe(ShortText, v.trim(), v.maxLength(40, 'is longer than 40 characters')),
  startDate: v.nullable(DateText),
  endDate: v.nullable(DateText),
  promises: v.pipe(v.array(SponsorPromiseSchema), v.maxLength(MOST_PROMISES, `are more than ${MOST_PROMISES}`)),
};
export const NewSponsor = v.strictObject({
  ...sponsorFields,
  product: v.optional(sponsorFields.product, ''),
  startDate: v.optional(sponsorFields.startDate, null),
  endDate: v.optional(sponsorFields.endDate, null),
  promises: v.optional(sponsorFields.promises, []),
});
export type NewSponsor = v.InferOutput<typeof NewSponsor>;
export const SponsorPatch = v.strictObject({ revision: Revision, ...v.partial(v.object(sponsorFields)).entries });
export type SponsorPatch = v.InferOutput<typeof SponsorPatch>;
/** How the messages of all sponsors are kept apart. Revision 0 as long as nothing has been set. */
export const SponsorSettings = v.strictObject({
  revision: v.pipe(v.number(), v.integer(), v.minValue(0)),
  rivalsApartMinutes: v.pipe(
    v.number(),
    v.integer(),
    v.minValue(0, 'is less than 0'),
    v.maxValue(LONGEST_APART_MINUTES, 'is longer than a day'),
  ),
  /** Of one sponsor in an hour at most; null for as many as there are. */
  mostPerHour: v.nullable(
    v.pipe(v.number(), v.integer(), v.minValue(1, 'is less than 1'), v.maxValue(60, 'is more than 60')),
  ),
});
export type SponsorSettings = v.InferOutput<typeof SponsorSettings>;

/** By day of the week, Monday first. */
const byDay = v.array(v.number());
/** A sponsor in a week: what was promised, what stands in the logs, what aired. */
export const SponsorRow = v.object({
  /** Null for one that has messages and no agreement. */
  id: v.nullable(Id),
  revision: v.number(),
  name: v.string(),
  product: v.string(),
  startDate: v.nullable(v.string()),
  endDate: v.nullable(v.string()),
  messages: v.number(),
  promises: v.array(
    v.object({
      ...SponsorPromiseSchema.entries,
      /** What it asks of each day. */
      asked: byDay,
      /** In the logs, or as a run would place them where there is none. */
      placed: byDay,
    }),
  ),
  /** Messages in the logs there are; null on days without a log. */
  placed: v.array(v.nullable(v.number())),
  /** As the as-run has it; null on days nothing is known of. */
  aired: v.array(v.nullable(v.number())),
});
export type SponsorRow = v.InferOutput<typeof SponsorRow>;
export const SponsorWeek = v.object({
  monday: v.string(),
  settings: SponsorSettings,
  /** Nothing is known of a past day without a log. */
  days: v.array(v.object({ date: v.string(), from: v.picklist(['log', 'plan', 'none']), slots: v.number() })),
  sponsors: v.array(SponsorRow),
});
export type SponsorWeek = v.InferOutput<typeof SponsorWeek>;
/** A promise that a run over some dates could not keep, found before it runs. */
export const PromiseShortfall = v.object({
  date: v.string(),
  sponsor: v.string(),
  ...SponsorPromiseSchema.entries,
  asked: v.number(),
  placed: v.number(),
  /** Slots for messages in the daypart of the promise. */
  slots: v.number(),
});
export type PromiseShortfall = v.InferOutput<typeof PromiseShortfall>;
