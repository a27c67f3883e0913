import { faultOfRule, LAST_RANK, PLACE_KINDS, RULE_SHAPES, type Rule } from '@fuller/core';
import * as v from 'valibot';
import { Id, Revision, ShortText } from './basics.js';

const Tag = v.pipe(v.string(), v.minLength(1, 'is empty'), v.maxLength(60, 'is longer than 60 characters'));
const Amount = v.pipe(v.number(), v.integer('is not a whole number'), v.minValue(0, 'is negative'));
const Value = v.nullable(Tag);
const Place = { kind: v.picklist(PLACE_KINDS), id: Id };
const Places = v.pipe(v.array(v.strictObject(Place)), v.maxLength(500, 'are more than 500 places'), v.readonly());
const Exceptions = v.pipe(
  v.array(v.strictObject({ ...Place, amount: Amount })),
  v.maxLength(500, 'are more than 500 exceptions'),
  v.readonly(),
);

const ruleFields = {
  shape: v.picklist(RULE_SHAPES),
  tag: Tag,
  value: Value,
  followedBy: Value,
  amount: Amount,
  windowSeconds: v.nullable(v.pipe(Amount, v.minValue(1, 'must be more than nothing'))),
  exceptions: Exceptions,
  strength: v.picklist(['hard', 'soft']),
  rank: v.pipe(
    v.number(),
    v.integer(),
    v.minValue(0, 'is negative'),
    v.maxValue(LAST_RANK, `is more than ${LAST_RANK}`),
  ),
  resting: v.boolean(),
  note: ShortText,
  places: Places,
};

/** A rule to be made; what is not given is as in a hard rule over the whole station. */
export const NewRule = v.pipe(
  v.strictObject({
    ...ruleFields,
    value: v.optional(ruleFields.value, null),
    followedBy: v.optional(ruleFields.followedBy, null),
    windowSeconds: v.optional(ruleFields.windowSeconds, null),
    exceptions: v.optional(ruleFields.exceptions, []),
    strength: v.optional(ruleFields.strength, 'hard'),
    rank: v.optional(ruleFields.rank, 0),
    resting: v.optional(ruleFields.resting, false),
    note: v.optional(ruleFields.note, ''),
    places: v.optional(ruleFields.places, []),
  }),
  v.rawCheck(({ dataset, addIssue }) => {
    if (!dataset.typed) return;
    const fault = faultOfRule(dataset.value);
    if (!fault) return;
    const { field, why } = fault;
    addIssue({
      message: why,
      path: [
        { type: 'object', origin: 'value', input: dataset.value, key: field, value: dataset.value[field as 'amount'] },
      ],
    });
  }),
);
export type NewRule = v.InferInput<typeof NewRule>;
export const RulePatch = v.strictObject({ revision: Revision, ...v.partial(v.object(ruleFields)).entries });
export type RulePatch = v.InferOutput<typeof RulePatch>;
export const RuleRow = v.object({ ...ruleFields, id: Id, revision: Revision, position: v.number() });
export type RuleRow = Rule & { readonly revision: number; readonly position: number };
