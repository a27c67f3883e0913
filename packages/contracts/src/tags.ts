import * as v from 'valibot';
import { Colour, Id, Revision } from './basics.js';

const shortName = v.pipe(
  v.string(),
  v.trim(),
  v.minLength(1, 'is empty'),
  v.maxLength(60, 'is longer than 60 characters'),
);
const Code = v.pipe(v.string(), v.trim(), v.maxLength(4, 'is longer than 4 characters'));
const valueFields = { value: shortName, code: Code, colour: v.nullable(Colour) };

export const FamilyRow = v.object({
  id: Id,
  revision: Revision,
  name: v.string(),
  single: v.boolean(),
  values: v.array(v.object({ value: v.string(), code: v.string(), colour: v.nullable(v.string()), items: v.number() })),
});
export type FamilyRow = v.InferOutput<typeof FamilyRow>;

const NextValues = v.pipe(
  v.array(v.strictObject({ ...valueFields, was: v.nullable(v.string()) })),
  v.maxLength(200, 'are more than 200 values'),
);
export const NewFamily = v.strictObject({ name: shortName, single: v.optional(v.boolean(), false) });
export const FamilyPatch = v.strictObject({
  revision: Revision,
  name: v.optional(shortName),
  single: v.optional(v.boolean()),
  values: v.optional(NextValues),
  /** Where the items of values that go are put; null takes the value off them. */
  gone: v.optional(v.record(v.string(), v.nullable(v.string())), {}),
});
export type FamilyPatch = v.InferOutput<typeof FamilyPatch>;
export const FamilyRemoval = v.object({
  /** `yes` takes its values off every item; otherwise a family in use is refused. */
  offItems: v.optional(v.picklist(['yes', 'no']), 'no'),
});
