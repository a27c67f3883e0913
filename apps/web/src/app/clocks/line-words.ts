import {
  elementAt,
  FIRST_GROUP,
  lastOf,
  formatDuration,
  type ClockLine,
  type DrawAdvice,
  type Theme,
} from '@fuller/core';
import { flagWords } from '../shared/text/flag-words';
import { plural } from '../shared/text/plural';
import { restText } from '../shared/text/when';

/** The choices of a line that are not its name, in a few words. */
export function lineChoices(line: ClockLine): string {
  return [ownChoices(line), ...flagWords(line)].filter((words) => words !== '').join(', ');
}

function ownChoices(line: ClockLine): string {
  const filter = 'filter' in line && line.filter ? [line.filter] : [];
  switch (line.kind) {
    case 'pick':
      return [
        ...filter,
        line.turnOrder ?? '',
        line.rules ? 'no rules' : '',
        line.spare ? 'spare' : '',
        line.theme ? themeText(line.theme) : '',
        line.ask === undefined ? '' : `asks “${line.ask}”`,
      ]
        .filter((word) => word !== '')
        .join(', ');
    case 'item':
      return line.spare ? 'spare' : '';
    case 'moment':
      return [`${line.hard ? 'hard' : 'soft'} at ${formatDuration(line.atMs)}`, ...filter].join(', ');
    case 'break':
      return `booked ${formatDuration(line.bookedAtMs)}`;
    case 'fill':
      return ['to the next mark', ...filter].join(', ');
    case 'set list':
      return `${line.take === 'all' ? 'all of it' : `the next ${line.take}`}, ${line.from === 'top' ? 'from the top' : 'going on'}`;
    case 'sweeper':
      return ['over the intro', ...filter].join(', ');
    default:
      return '';
  }
}

/** A theme in a few words: `same artist`, with its group where that is not the first. */
export function themeText({ by, group }: Theme): string {
  return `same ${by}${group === FIRST_GROUP ? '' : `, ${group}`}`;
}

/** What kind of line it is. */
export const KIND_WORDS: Readonly<Record<ClockLine['kind'], string>> = {
  pick: 'Pick',
  item: 'Fixed item',
  break: 'Break',
  moment: 'Moment',
  fill: 'Fill',
  'set list': 'Set list',
  tease: 'Tease',
  sweeper: 'Sweeper over intro',
  'next show': 'Announcement',
  note: 'Note',
};

/** What is to be said of how much a line can draw from; empty where it is enough. */
export function adviceWords(advice: DrawAdvice, items: number, slotsPerWeek: number): string {
  switch (advice.is) {
    case 'enough':
      return '';
    case 'nothing':
      return 'Nothing fits, so this slot stays open.';
    case 'too few':
      return `${plural(items, 'item')} for ${slotsPerWeek} plays a week: each would be back after ${restText(advice.restSeconds * 1000)}, sooner than its title may. It takes ${advice.needed}.`;
    case 'tight':
      return `${plural(items, 'item')} for ${slotsPerWeek} plays a week: each is back after ${restText(advice.restSeconds * 1000)}, which leaves little to choose from.`;
  }
}

const DAY_NAMES = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** `06:00`, from a minute of a day; 24:00 where it ends one. */
export function minuteText(minute: number): string {
  const inDay = minute % 1440 === 0 && minute > 0 ? 1440 : minute % 1440;
  return `${String(Math.floor(inDay / 60)).padStart(2, '0')}:${String(inDay % 60).padStart(2, '0')}`;
}

/** When something is on in the week: `Mon–Fri 06:00–10:00, Sat 08:00–12:00`. */
export function weekTimes(stretches: readonly { readonly from: number; readonly to: number }[]): string {
  const daysOf = new Map<string, number[]>();
  for (const { from, to } of byDay(stretches)) {
    const day = Math.floor(from / 1440);
    const time = to - from === 1440 ? 'all day' : `${minuteText(from - day * 1440)}–${minuteText(to - day * 1440)}`;
    daysOf.set(time, [...(daysOf.get(time) ?? []), day]);
  }
  return [...daysOf].map(([time, days]) => `${dayRuns(days)} ${time}`).join(', ');
}

/** Stretches cut at midnight, and those of one day that touch joined. */
function byDay(stretches: readonly { readonly from: number; readonly to: number }[]): { from: number; to: number }[] {
  const parts: { from: number; to: number }[] = [];
  for (const stretch of [...stretches].sort((a, b) => a.from - b.from)) {
    for (let from = stretch.from; from < stretch.to;) {
      const to = Math.min(stretch.to, (Math.floor(from / 1440) + 1) * 1440);
      const last = parts.at(-1);
      if (last?.to === from && from % 1440 !== 0) last.to = to;
      else parts.push({ from, to });
      from = to;
    }
  }
  return parts;
}

/** Days of the week, runs of three and more joined: `Mon–Fri, Sun`. */
function dayRuns(days: readonly number[]): string {
  const sorted = [...new Set(days)].sort((a, b) => a - b);
  const runs: number[][] = [];
  for (const day of sorted) {
    const last = runs.at(-1);
    if (last && last.at(-1) === day - 1) last.push(day);
    else runs.push([day]);
  }
  return runs
    .flatMap((run) =>
      run.length > 2
        ? [`${DAY_NAMES[elementAt(run, 0)]}–${DAY_NAMES[lastOf(run)]}`]
        : run.map((day) => elementAt(DAY_NAMES, day)),
    )
    .join(', ');
}
