import { GRAIN_MINUTES } from '@fuller/core';
import type { ChoiceOption } from '../shared/ui/choice';

/** How finely a plan is painted. */
export const STEPS: readonly ChoiceOption[] = [
  { value: '60', label: 'an hour' },
  { value: '30', label: 'half an hour' },
  { value: '15', label: 'a quarter' },
  { value: String(GRAIN_MINUTES), label: 'five minutes' },
];

/** Pixels an hour takes, by the step in minutes: smaller steps want more room. */
export const HOUR_PX: Readonly<Record<number, number>> = { 60: 22, 30: 34, 15: 56, 5: 132 };
