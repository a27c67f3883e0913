import { elementAt, weekdayOf } from '@fuller/core';
import { DAY_WORDS } from './plan-view';

const CODES = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];
const NTH = ['first', 'second', 'third', 'fourth', 'fifth'];
const MONTHS = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];

/** A way for a date to come again: a recurrence rule and how a person would say it. */
export interface Repeat {
  readonly rule: string;
  readonly words: string;
}

/** The ways a date is likely to come again, in plain words. */
export function likelyRepeats(date: string): Repeat[] {
  const [, month, day] = date.split('-').map(Number) as [number, number, number];
  const weekday = weekdayOf(date);
  const nth = Math.ceil(day / 7);
  const name = elementAt(DAY_WORDS, weekday);
  return [
    { rule: '', words: 'once' },
    { rule: 'FREQ=YEARLY', words: `every year on ${day} ${MONTHS[month - 1]}` },
    {
      rule: `FREQ=YEARLY;BYMONTH=${month};BYDAY=${nth}${CODES[weekday]}`,
      words: `every year on the ${NTH[nth - 1]} ${name} of ${MONTHS[month - 1]}`,
    },
    { rule: 'FREQ=MONTHLY', words: `every month on day ${day}` },
    { rule: `FREQ=MONTHLY;BYDAY=${nth}${CODES[weekday]}`, words: `every month on the ${NTH[nth - 1]} ${name}` },
    { rule: `FREQ=MONTHLY;BYDAY=-1${CODES[weekday]}`, words: `every month on the last ${name}` },
    { rule: `FREQ=WEEKLY;BYDAY=${CODES[weekday]}`, words: `every ${name}` },
    { rule: `FREQ=WEEKLY;INTERVAL=2;BYDAY=${CODES[weekday]}`, words: `every other ${name}` },
    { rule: 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR', words: 'Monday to Friday' },
    { rule: 'FREQ=WEEKLY;BYDAY=SA,SU', words: 'every Saturday and Sunday' },
    { rule: 'FREQ=DAILY', words: 'every day' },
  ];
}

/** A rule without its end, and the end, `2026-12-31` or empty. */
export function splitUntil(repeat: string): { rule: string; until: string } {
  const parts = repeat.split(';');
  const until = parts.find((part) => part.startsWith('UNTIL='))?.slice(6, 14) ?? '';
  return {
    rule: parts.filter((part) => !part.startsWith('UNTIL=')).join(';'),
    until: until ? `${until.slice(0, 4)}-${until.slice(4, 6)}-${until.slice(6, 8)}` : '',
  };
}

export function withUntil(rule: string, until: string): string {
  return rule && until ? `${rule};UNTIL=${until.replaceAll('-', '')}` : rule;
}

/** How a plan repeats, in words; rules a person wrote themselves stand as they are. */
export function repeatWords(start: string, repeat: string): string {
  const { rule, until } = splitUntil(repeat);
  const words = likelyRepeats(start).find((one) => one.rule === rule)?.words ?? rule;
  return until ? `${words}, until ${until}` : words;
}
