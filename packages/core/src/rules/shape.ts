import * as v from 'valibot';
import type { RuleContext } from '../sequence/rule-context.js';
import type { RuleBase, RuleEvaluator } from './evaluator.js';

/** One of the shapes a rule can have: everything there is to know of it. */
export interface Shape<R extends RuleBase, S extends v.GenericSchema<unknown, R>> {
  /** Its form in an instance file. */
  readonly schema: S;
  evaluator(rule: R, context: RuleContext): RuleEvaluator;
  /** Milder forms of a hard rule, the mildest change first. */
  loosened(rule: R): readonly Loosened<R>[];
}

/** A milder form of a rule. */
export interface Loosened<R> {
  /** What is said of it: the fields that change. */
  readonly to: Readonly<Record<string, number | boolean>>;
  /** Null where the rule rests altogether. */
  readonly rule: R | null;
}

const LONGEST_SECONDS = 366 * 86_400;
/** Seconds in an instance file: whole, up to a year. */
export const seconds = v.pipe(
  v.number('must be a number of seconds'),
  v.integer('must be whole seconds'),
  v.minValue(0, 'is negative'),
  v.maxValue(LONGEST_SECONDS, 'is more than a year'),
);
/** A count in an instance file: whole, up to 10,000. */
export const count = v.pipe(
  v.number('must be a number'),
  v.integer('must be whole'),
  v.minValue(0, 'is negative'),
  v.maxValue(10_000, 'is more than 10000'),
);
const name = v.pipe(v.string('must be a text'), v.nonEmpty('is empty'));
/** The fields every rule of an instance file has. */
export const ruleFields = {
  id: name,
  tag: name,
  strength: v.picklist(['hard', 'soft'], 'must be hard or soft'),
  rank: v.optional(v.pipe(v.number('must be a number'), v.integer('must be whole'), v.minValue(0, 'is negative'))),
};
