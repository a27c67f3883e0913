import {
  elementAt,
  EMPTY_WEEK,
  FIRST_GROUP,
  foldText,
  GRAIN_MS,
  HOUR_MS,
  nameKey,
  NO_FRAMING,
  paint,
  type BlockContent,
  type ClockLine,
  type TeaseTarget,
  type DatePlan,
  type Framing,
  type PlanBlock,
  type Show,
  type WeekPlan,
} from '@fuller/core';

/** The set list that is painted onto Sunday evening. */
export const SUNDAY_LIST = 'list-sunday';

/** Ids in the demo are readable, since people meet them in addresses. */
export interface DemoCategory {
  readonly id: string;
  readonly name: string;
  readonly code: string;
  readonly colour: string;
  readonly group: 'music' | 'imaging' | 'speech' | 'overnight';
  readonly station: string | null;
}

export const VALE = 'osier-vale';
export const OVERNIGHT = 'osier-overnight';

const CATEGORY_ROWS: readonly (readonly [string, string, string, DemoCategory['group'], string | null])[] = [
  ['F', 'Fresh', '#C96F4A', 'music', VALE],
  ['A', 'Current A', '#B5476B', 'music', VALE],
  ['B', 'Current B', '#D1862B', 'music', VALE],
  ['R', 'Recurrent', '#9A7B1C', 'music', VALE],
  ['G', 'Gold bright', '#5C8A3A', 'music', VALE],
  ['D', 'Gold deep', '#2E8B6F', 'music', VALE],
  ['L', 'Local hands', '#1F6FA8', 'music', VALE],
  ['W', 'World lane', '#7FA7C9', 'music', VALE],
  ['N', 'Night', '#6C5AA7', 'music', VALE],
  ['ID', 'Station IDs', '#4D4D4D', 'imaging', null],
  ['JG', 'Jingles', '#6B6F73', 'imaging', null],
  ['SW', 'Sweepers', '#8A8377', 'imaging', null],
  ['LN', 'Liners', '#5B7083', 'imaging', null],
  ['PR', 'Promos', '#7A6A5A', 'imaging', null],
  ['BD', 'Beds', '#7B8A6A', 'imaging', null],
  ['IN', 'Interludes', '#5F7F78', 'imaging', null],
  ['SP', 'Sponsor messages', '#A06A3B', 'speech', null],
  ['VT', 'Voice tracks', '#7D5A78', 'speech', null],
  ['PG', 'Programmes', '#50707A', 'speech', null],
  ['TS', 'Teases', '#8C6D46', 'speech', null],
  ['AN', 'Announcements', '#8A5A5A', 'speech', null],
  ['Q', 'Small hours', '#6C5AA7', 'overnight', OVERNIGHT],
  ['T', 'Drift', '#1F6FA8', 'overnight', OVERNIGHT],
  ['E', 'Embers', '#B5476B', 'overnight', OVERNIGHT],
];

export const GROUPS = ['music', 'imaging', 'speech', 'overnight'] as const;
export const CATEGORIES: readonly DemoCategory[] = CATEGORY_ROWS.map(([code, name, colour, group, station]) => ({
  id: `cat-${code.toLowerCase()}`,
  name,
  code,
  colour,
  group,
  station,
}));

export function categoryRow(category: DemoCategory, position: number): Record<string, unknown> & { id: string } {
  return {
    id: category.id,
    revision: 1,
    scope: category.station === null ? 'group' : 'station',
    stationId: category.station,
    groupId: `group-${category.group}`,
    name: category.name,
    nameKey: nameKey(category.name),
    code: category.code,
    codeKey: foldText(category.code),
    colour: category.colour,
    music: category.group === 'music' || category.group === 'overnight',
    turnOrder: 'even',
    approvedOnly: category.code === 'F',
    position,
  };
}

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

const clock = (id: string): BlockContent => ({ runs: 'clock', id });
const show = (id: string): BlockContent => ({ runs: 'show', id });
const block = (from: number, to: number, content: BlockContent): PlanBlock => ({
  at: from * 60,
  minutes: (to - from) * 60,
  ...content,
});

/** Hours of a day of the week and what runs in them; what is not named runs the default. */
function valeDay(day: number): PlanBlock[] {
  if (day >= 5) {
    const afternoon = [block(6, 18, clock('clock-weekend')), block(18, 23, clock('clock-evening'))];
    return day === 6 ? [...afternoon, block(16, 17, show('show-narrowboat'))] : afternoon;
  }
  return [
    block(6, 10, show('show-breakfast')),
    block(10, 12, clock('clock-morning')),
    block(12, 14, clock('clock-midday')),
    block(14, 16, clock('clock-afternoon')),
    ...(day === 2 ? [block(14, 15, clock('clock-local'))] : []),
    block(16, 19, clock('clock-drive')),
    block(19, 20, clock('clock-evening')),
    block(20, 23, show('show-long-lock')),
  ];
}

/** The week of Osier Vale Radio. */
export function valeWeek(): WeekPlan {
  const days = [0, 1, 2, 3, 4, 5, 6];
  const week = days.reduce<WeekPlan>(
    (week, day) =>
      valeDay(day).reduce(
        (plan, { at, minutes, runs, id }) => paint(plan, day * 1440 + at, minutes, { runs, id }),
        week,
      ),
    { ...EMPTY_WEEK, defaultClockId: 'clock-night' },
  );
  // Sunday from eight to ten plays a set list, without a clock.
  return paint(week, 6 * 1440 + 20 * 60, 120, { runs: 'set list', id: SUNDAY_LIST });
}

export const FRAMING: Framing = {
  ...NO_FRAMING,
  hourOpenerId: 'clock-top',
  showOpenerId: 'clock-show-open',
  showCloserId: 'clock-show-close',
  momentsId: 'clock-half-past',
};

const plainShow = {
  toleranceMs: 5000,
  after: 'next',
  presenter: '',
  openerId: null,
  closerId: null,
  hourOpenerId: null,
} as const;
export const SHOWS: readonly Show[] = [
  {
    ...plainShow,
    id: 'show-breakfast',
    name: 'Towpath Breakfast',
    colour: '#D1862B',
    clockIds: ['clock-breakfast'],
    minutes: 240,
    start: 'hard',
    end: 'exact',
    announcementId: 'item-a0001',
  },
  {
    ...plainShow,
    id: 'show-long-lock',
    name: 'The Long Lock',
    colour: '#1F6FA8',
    clockIds: ['clock-long-lock'],
    minutes: 180,
    start: 'hard',
    end: 'exact',
    announcementId: 'item-a0002',
  },
  {
    ...plainShow,
    id: 'show-narrowboat',
    name: 'Narrowboat Sessions',
    colour: '#4D6B3C',
    clockIds: ['clock-local'],
    minutes: 60,
    start: 'soft',
    end: 'exact',
    announcementId: 'item-a0003',
  },
];

/** What differs from the week, from the year in hand on. */
export function datesFrom(year: number): DatePlan[] {
  const plain = { repeat: '', like: null, instead: false, blocks: [] };
  return [
    {
      ...plain,
      id: 'date-christmas-eve',
      name: 'Christmas Eve',
      start: `${year}-12-24`,
      repeat: 'FREQ=YEARLY',
      like: 6,
      blocks: [block(18, 22, clock('clock-local'))],
    },
    {
      ...plain,
      id: 'date-christmas',
      name: 'Christmas Day',
      start: `${year}-12-25`,
      repeat: 'FREQ=YEARLY',
      instead: true,
      blocks: [block(8, 12, clock('clock-local')), block(12, 23, clock('clock-evening'))],
    },
    {
      ...plain,
      id: 'date-new-year',
      name: 'New Year’s Eve until two',
      start: `${year}-12-31`,
      repeat: 'FREQ=YEARLY',
      blocks: [block(21, 26, clock('clock-weekend'))],
    },
    {
      ...plain,
      id: 'date-market',
      name: 'Market Saturday',
      start: `${year}-01-03`,
      repeat: 'FREQ=MONTHLY;BYDAY=1SA',
      blocks: [block(10, 11.5, clock('clock-local'))],
    },
  ];
}

export const POOLS = [
  { id: 'pool-nineties', name: 'Nineties, fast', filter: 'kind:song year:1990..1999 tempo:4,5' },
  { id: 'pool-irish', name: 'In Irish, rested', filter: 'language:ga rested:2d' },
  { id: 'pool-intros', name: 'Long intros', filter: 'kind:song intro:0:20..' },
  { id: 'pool-water', name: 'Songs of the water', filter: 'theme:water -mood:dark' },
] as const;
