import { elementAt, FIRST_GROUP, GRAIN_MS, HOUR_MS, type ClockLine, type TeaseTarget } from '@fuller/core';
import { OVERNIGHT, VALE } from './set-up.js';

export interface DemoClock {
  readonly id: string;
  readonly name: string;
  readonly colour: string;
  readonly station: string;
  /**
   * Category codes, with `?` spare; `|mm:ss` a break, `@mm:ss` a soft moment of what comes next, `~` before fill,
   * `>` the announcement of the next show, `%` before what a tease announces (a category, `@mm:ss` or `>`), `^` before a
   * sweeper over the intro of the song after it, `=` before what it shares, `#` a note up to its full stop.
   */
  readonly recipe: string;
  readonly lengthMs?: number;
}

/** Four breaks an hour by day, two at night. */
export const CLOCKS: readonly DemoClock[] = [
  {
    id: 'clock-breakfast',
    name: 'Breakfast',
    colour: '#D1862B',
    station: VALE,
    recipe:
      '#Good morning; place and time first. A SW %F G VT R |12:00 JG D VT F ^SW G SP |27:00 SW B VT L LN G |42:00 JG R PR D SW G |56:00 PR LN? SW',
  },
  {
    id: 'clock-morning',
    name: 'Morning',
    colour: '#C96F4A',
    station: VALE,
    recipe: 'B SW %F G PR R |12:00 JG D W LN G SP |27:00 ^SW F D PR L |42:00 JG A G SW D |56:00 PR SW LN?',
  },
  {
    id: 'clock-midday',
    name: 'Midday',
    colour: '#9A7B1C',
    station: VALE,
    recipe: 'G ^SW A PR %F D |12:00 JG W R LN G SP |27:00 SW D B PR G |42:00 JG F W SW D |56:00 PR SW LN?',
  },
  {
    id: 'clock-afternoon',
    name: 'Afternoon',
    colour: '#5C8A3A',
    station: VALE,
    recipe: 'F SW %A D PR G |12:00 JG L R LN D SP |27:00 ^SW A G PR W |42:00 JG B D SW G |56:00 PR SW LN?',
  },
  {
    id: 'clock-drive',
    name: 'Drive',
    colour: '#B5476B',
    station: VALE,
    recipe:
      '#Travel comes in at :20 from the road desk. A ^SW G VT %@46:00 F |12:00 JG R VT G SW D SP |27:00 SW B VT W LN G |42:00 JG L PR A SW G |56:00 PR LN? SW',
  },
  {
    id: 'clock-evening',
    name: 'Evening',
    colour: '#2E8B6F',
    station: VALE,
    recipe: '%> D W ^SW R L VT LN D N SW G |27:00 JG D B ^SW W SP |42:00 W LN D R |56:00 PR SW LN?',
  },
  {
    id: 'clock-long-lock',
    name: 'Long evening',
    colour: '#1F6FA8',
    station: VALE,
    recipe:
      '#Three hours, one long breath: speak as little as you can. L D W VT D N SW L LN D SW |27:00 W L SW D N D LN W D |56:00 PR VT LN?',
  },
  {
    id: 'clock-night',
    name: 'Night',
    colour: '#6C5AA7',
    station: VALE,
    recipe: 'N D N SW W N PR D LN N SW |27:00 N D LN N W D SW N D |56:00 PR LN? SW',
  },
  {
    id: 'clock-weekend',
    name: 'Weekend',
    colour: '#7FA7C9',
    station: VALE,
    recipe: 'G SW %F W PR R |12:00 D A JG L SP |27:00 G ^SW D PR F |42:00 W B SW G |56:00 PR SW LN?',
  },
  {
    id: 'clock-local',
    name: 'Local hour',
    colour: '#4D4D4D',
    station: VALE,
    recipe:
      '#Every song from within a day’s walk. L SW %L L VT L |12:00 L=artist ^SW L=artist LN L SP |27:00 L SW L L PR |42:00 JG L L SW L |56:00 PR LN? SW',
  },
  {
    id: 'clock-top',
    name: 'Top of the hour',
    colour: '#4D4D4D',
    station: VALE,
    recipe: 'ID SP',
    lengthMs: GRAIN_MS,
  },
  {
    id: 'clock-show-open',
    name: 'Show opener',
    colour: '#6B6F73',
    station: VALE,
    recipe: 'JG',
    lengthMs: GRAIN_MS,
  },
  {
    id: 'clock-show-close',
    name: 'Show closer',
    colour: '#5F7F78',
    station: VALE,
    recipe: '> ~IN',
    lengthMs: GRAIN_MS,
  },
  {
    id: 'clock-half-past',
    name: 'In every hour',
    colour: '#8A8377',
    station: VALE,
    recipe: '@30:00 LN',
  },
  {
    id: 'clock-small-hours',
    name: 'Small hours',
    colour: '#6C5AA7',
    station: OVERNIGHT,
    recipe: 'ID Q T Q E SW Q T Q E LN T Q E Q SW T Q E Q LN SW',
  },
];

const LEAST_BREAK_MS = 60_000;

/**
 * Reads a recipe into lines. A break is as long as it takes for the next one, or the hour, to come
 * on its mark at the average lengths (milliseconds by category code).
 */
export function linesOf(clock: DemoClock, averageOf: (code: string) => number): ClockLine[] {
  const parts = clock.recipe.match(/#[^.]*\.|@\S+ \S+|\S+/g) ?? [];
  const isBreak = (part: string): boolean => part.startsWith('|');
  const source = (code: string): string => `cat-${code.toLowerCase()}`;
  return parts.map((part, index): ClockLine => {
    const base = { id: `${clock.id.slice(6)}-${index + 1}`, comment: '' };
    if (part.startsWith('#')) return { ...base, kind: 'note', text: part.slice(1) };
    if (part === '>') return { ...base, kind: 'next show' };
    if (part.startsWith('%')) return { ...base, kind: 'tease', target: teaseTarget(part.slice(1), source) };
    if (part.startsWith('^')) return { ...base, kind: 'sweeper', categoryId: source(part.slice(1)) };
    if (part.startsWith('~')) return { ...base, kind: 'fill', categoryId: source(part.slice(1)) };
    if (part.startsWith('@')) {
      const [at = '', code = ''] = part.split(' ');
      return { ...base, kind: 'moment', atMs: markOf(at), hard: false, itemId: null, categoryId: source(code) };
    }
    if (!isBreak(part)) {
      const spare = part.endsWith('?') ? { spare: true as const } : {};
      const [code = '', by] = part.replace('?', '').split('=');
      const theme = by === undefined ? {} : { theme: { by, group: FIRST_GROUP } };
      return { ...base, kind: 'pick', categoryId: source(code), ...spare, ...theme };
    }
    const after = parts.slice(index + 1);
    const next = after.findIndex(isBreak);
    const until = next < 0 ? HOUR_MS : markOf(elementAt(after, next));
    const between = after
      .slice(0, next < 0 ? after.length : next)
      .reduce((sum, code) => sum + lengthOfPart(code, averageOf), 0);
    const length = Math.round((until - markOf(part) - between) / 5000) * 5000;
    return { ...base, kind: 'break', bookedAtMs: markOf(part), durationMs: Math.max(LEAST_BREAK_MS, length) };
  });
}

/** What a tease is written to announce. */
function teaseTarget(text: string, source: (code: string) => string): TeaseTarget {
  if (text === '>') return { to: 'next show' };
  return text.startsWith('@') ? { to: 'time', atMs: markOf(text) } : { to: 'pick', categoryId: source(text) };
}

/** The average length of a part of a recipe, milliseconds; a sweeper over an intro takes none. */
function lengthOfPart(part: string, averageOf: (code: string) => number): number {
  if (part.startsWith('^')) return 0;
  return averageOf(part.startsWith('%') ? 'TS' : part.replace(/\?|=.*/g, ''));
}

/** Milliseconds into the hour of a break written `|12:00`. */
function markOf(part: string): number {
  const [minutes = 0, seconds = 0] = part.slice(1).split(':').map(Number);
  return (minutes * 60 + seconds) * 1000;
}
