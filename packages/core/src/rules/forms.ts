import { acrossForm } from './across/across-form.js';
import { apartForm } from './apart/apart-form.js';
import { atLeastForm } from './at-least/at-least-form.js';
import { atMostForm } from './at-most/at-most-form.js';
import type { RuleForm } from './form.js';
import { handOffForm } from './hand-off/hand-off-form.js';
import { otherHourForm } from './other-hour/other-hour-form.js';
import type { RuleShape } from './rule.js';
import { streakForm } from './streak/streak-form.js';

/** Each shape as people meet it. */
export const RULE_FORMS: Readonly<Record<RuleShape, RuleForm>> = {
  apart: apartForm,
  streak: streakForm,
  atMost: atMostForm,
  atLeast: atLeastForm,
  handOff: handOffForm,
  otherHour: otherHourForm,
  across: acrossForm,
};
