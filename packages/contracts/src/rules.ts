import { faultOfRule, LAST_RANK, PLACE_KINDS, RULE_SHAPES, WEEK_HOURS, type Rule, type Scope } from '@fuller/core';
import * as v from 'valibot';
import { Id, Name, Revision, ScopeName, ShortText } from './basics.js';

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
  /** Of a rule across stations: the stations it is about; all others where there are none. */
  stationIds: v.optional(v.pipe(v.array(Id), v.maxLength(500, 'are more than 500 stations'), v.readonly())),
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
export const RuleRow = v.object({ ...ruleFields, id: Id, revision: Revision, position: v.number(), scope: ScopeName });
export type RuleRow = Rule & { readonly revision: number; readonly position: number; readonly scope: Scope };

const daypartFields = {
  name: Name,
  /** 168 marks, Monday 00:00 first. */
  hours: v.pipe(v.string(), v.regex(new RegExp(`^[01]{${WEEK_HOURS}}$`), 'is not 168 marks of 0 and 1')),
};
export const NewDaypart = v.strictObject(daypartFields);
export const DaypartPatch = v.strictObject({ revision: Revision, ...v.partial(v.object(daypartFields)).entries });
export const DaypartRow = v.object({ ...daypartFields, id: Id, revision: Revision });
export type DaypartRow = v.InferOutput<typeof DaypartRow>;

/** Rules of one place copied to another of its kind. */
export const CopyRules = v.strictObject({ kind: v.picklist(PLACE_KINDS), from: Id, to: Id });

const FileText = v.pipe(v.string(), v.trim(), v.maxLength(500, 'is longer than 500 characters'));
/** A rule in a file: its sentence, and names in place of ids, so that it can be taken to another station. */
export const RuleInFile = v.strictObject({
  sentence: v.pipe(FileText, v.minLength(1, 'is empty')),
  strength: v.optional(v.picklist(['must', 'wish']), 'must'),
  /** Of a wish, from 1. */
  rank: v.optional(
    v.pipe(v.number(), v.integer('is not whole'), v.minValue(1), v.maxValue(LAST_RANK, `is more than ${LAST_RANK}`)),
  ),
  resting: v.optional(v.boolean(), false),
  note: v.optional(FileText, ''),
  /** Names of the stations a rule across stations is about; all others where there are none. */
  stations: v.optional(v.array(FileText), []),
  places: v.optional(v.array(v.strictObject({ kind: v.picklist(PLACE_KINDS), name: FileText })), []),
  /** The amount in words, as in the sentence. */
  exceptions: v.optional(
    v.array(v.strictObject({ kind: v.picklist(PLACE_KINDS), name: FileText, amount: FileText })),
    [],
  ),
});
export type RuleInFile = v.InferOutput<typeof RuleInFile>;
export const RulesFile = v.strictObject({
  format: v.literal('fuller-rules'),
  version: v.literal(1),
  rules: v.pipe(v.array(RuleInFile), v.maxLength(500, 'are more than 500 rules')),
});
export type RulesFile = v.InferOutput<typeof RulesFile>;
/** A rules file to be taken in: besides the station's rules, or in place of them. */
export const RulesFileRequest = v.strictObject({ file: RulesFile, replace: v.boolean() });
