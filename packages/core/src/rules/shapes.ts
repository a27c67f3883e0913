import * as v from 'valibot';
import type { RuleContext } from '../sequence/rule-context.js';
import { across } from './across/across.js';
import { apart } from './apart/apart.js';
import { atLeast } from './at-least/at-least.js';
import { atMost } from './at-most/at-most.js';
import type { RuleEvaluator } from './evaluator.js';
import { handOff } from './hand-off/hand-off.js';
import { otherHour } from './other-hour/other-hour.js';
import type { Loosened } from './shape.js';
import { streak } from './streak/streak.js';

/** A rule as an instance file has it: one of the shapes. */
export const InstanceRule = v.variant(
  'shape',
  [apart.schema, streak.schema, atMost.schema, atLeast.schema, handOff.schema, otherHour.schema, across.schema],
  'must be one of apart, streak, atMost, atLeast, handOff, otherHour, across',
);
export type InstanceRule = v.InferOutput<typeof InstanceRule>;

/** The evaluator of a rule over the state of a search. */
export function evaluatorOf(rule: InstanceRule, context: RuleContext): RuleEvaluator {
  switch (rule.shape) {
    case 'apart':
      return apart.evaluator(rule, context);
    case 'streak':
      return streak.evaluator(rule, context);
    case 'atMost':
      return atMost.evaluator(rule, context);
    case 'atLeast':
      return atLeast.evaluator(rule, context);
    case 'handOff':
      return handOff.evaluator(rule, context);
    case 'otherHour':
      return otherHour.evaluator(rule, context);
    case 'across':
      return across.evaluator(rule, context);
  }
}

/** Milder forms of a rule, the mildest change first. */
export function loosenedForms(rule: InstanceRule): readonly Loosened<InstanceRule>[] {
  switch (rule.shape) {
    case 'apart':
      return apart.loosened(rule);
    case 'streak':
      return streak.loosened(rule);
    case 'atMost':
      return atMost.loosened(rule);
    case 'atLeast':
      return atLeast.loosened(rule);
    case 'handOff':
      return handOff.loosened(rule);
    case 'otherHour':
      return otherHour.loosened(rule);
    case 'across':
      return across.loosened(rule);
  }
}
