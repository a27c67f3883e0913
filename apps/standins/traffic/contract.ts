import { isTimeZone } from '@fuller/core';
import * as v from 'valibot';

const Text = v.pipe(v.string(), v.minLength(1), v.maxLength(60));
const Hour = v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(24));
const Seconds = v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(600));

/** What a trade desk has sold: the breaks of a week, and what sponsors have booked in them. */
export const ContractSchema = v.strictObject({
  format: v.literal('fuller-contract'),
  version: v.literal(1),
  desk: Text,
  timeZone: v.pipe(v.string(), v.check(isTimeZone, 'is not a time zone')),
  breaks: v.array(
    v.strictObject({
      /** 0 is Monday. */
      weekday: v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(6)),
      hour: Hour,
      pastHourSeconds: v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(3599)),
      seconds: Seconds,
    }),
  ),
  sponsors: v.array(
    v.strictObject({
      name: Text,
      /** Sponsors of one product are rivals. */
      product: Text,
      spotsADay: v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(200)),
      /** Its dayparts: from an hour to one that is not part of it. */
      hours: v.pipe(v.array(v.strictTuple([Hour, Hour])), v.minLength(1)),
      spots: v.pipe(v.array(v.strictObject({ cart: Text, title: Text, seconds: Seconds })), v.minLength(1)),
    }),
  ),
  /** What fills the breaks that nobody has booked. */
  house: v.array(v.strictObject({ cart: Text, title: Text, seconds: Seconds })),
});
export type Contract = v.InferOutput<typeof ContractSchema>;
