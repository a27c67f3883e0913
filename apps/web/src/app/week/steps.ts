import { GRAIN_MINUTES } from '@fuller/core';

/** How finely a plan is painted. */
export const STEPS = [
  { minutes: 60, label: 'an hour' },
  { minutes: 30, label: 'half an hour' },
  { minutes: 15, label: 'a quarter' },
  { minutes: GRAIN_MINUTES, label: 'five minutes' },
];

/** Pixels an hour takes, by the step in minutes: smaller steps want more room. */
export const HOUR_PX: Readonly<Record<number, number>> = { 60: 22, 30: 34, 15: 56, 5: 132 };
