import { type BackTestResult, type Headroom, type HeadroomState, type RuleRelation } from '@fuller/core';

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** What a state of headroom is called. */
export const STATE_WORDS: Readonly<Record<HeadroomState, string>> = {
  idle: 'Idle',
  easy: 'Easy',
  tight: 'Tight',
  impossible: 'Impossible',
};

/** Where in the week, as `Tue 14:00`. */
function at(second: number | null): string {
  if (second === null) return '';
  const minutes = Math.floor(second / 60);
  const two = (number: number): string => String(number).padStart(2, '0');
  return `${DAYS[Math.floor(minutes / 1440) % 7]} ${two(Math.floor(minutes / 60) % 24)}:${two(minutes % 60)}`;
}

function figure(number: number): string {
  return Number.isInteger(number) ? String(number) : number.toFixed(1);
}

function percent(share: number): string {
  return `${Math.round(share * 100)} %`;
}

/** A headroom in words: what is asked, what there is, and where it is tightest. */
export function headroomWords(headroom: Headroom, name: (categoryId: string) => string, value: string): string {
  const { demand, capacity, measure, categoryId, idle } = headroom;
  switch (idle) {
    case 'no slot':
      return 'The week has no slot where this rule applies.';
    case 'no item':
      return 'No item of the week’s categories has what this rule is about.';
    case 'never reached':
      return 'The week never comes near this limit.';
  }
  const where = categoryId === null ? '' : ` of ${name(categoryId)}`;
  const when = headroom.at === null ? '' : `, at its busiest ${at(headroom.at)}`;
  const subject = value === '' ? 'one value' : value;
  switch (measure) {
    case 'different values':
      return `The busiest stretch asks for ${figure(demand)} that differ${where}; there are ${figure(capacity)}${when}.`;
    case 'forced plays':
      return `${figure(demand)} slots on end can hold nothing but ${subject}; the rule allows ${figure(capacity)}${when}.`;
    case 'supply of a value':
      return `The rule asks for ${figure(demand)} of ${subject} an hour; ${figure(capacity)} slots can hold it${when}.`;
    case 'share of a value':
      return capacity < 1 || demand < 1
        ? `Taking turns evenly, ${subject} has ${percent(demand)} of the plays${where}; the rule leaves room for ${percent(capacity)}${when}.`
        : `Taking turns evenly, the busiest stretch plays ${subject}${where} ${figure(demand)} times; the rule’s figure is ${figure(capacity)}${when}.`;
  }
}

/** The classic trap, with its numbers and what would help. */
export function trapWords({ trap }: Headroom, name: (categoryId: string) => string, value: string): string | null {
  if (!trap) return null;
  const share = percent(trap.withValue / trap.items);
  const slots = trap.proposedSlots === 1 ? 'one slot' : `${trap.proposedSlots} slots`;
  return `${trap.withValue} of ${trap.items} in ${name(trap.categoryId)} (${share}) are ${value}. Even turns ask for ${figure(trap.askedPerHour)} an hour; the rule allows ${figure(trap.allowedPerHour)}. They fall behind, or hold the others up. Give them a category of their own with ${slots} an hour.`;
}

/** How one rule stands to another, in words. */
export function relationWords({ kind, otherId }: RuleRelation, sentence: (ruleId: string) => string): string {
  const other = `“${sentence(otherId)}”`;
  switch (kind) {
    case 'same':
      return `Asks the same as ${other}. One of the two is enough.`;
    case 'follows':
      return `This already follows from ${other}.`;
    case 'contradicts':
      return `Cannot be kept together with ${other}.`;
  }
}

/** A back-test in a few words. */
export function backTestWords({ breaks, days }: BackTestResult): string {
  const when = days === 1 ? 'yesterday' : `in ${days} days`;
  return breaks === 0 ? `Never broken ${when}` : `Broken ${breaks} ${breaks === 1 ? 'time' : 'times'} ${when}`;
}
