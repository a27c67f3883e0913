import {
  EMPTY_WEEK,
  foldText,
  nameKey,
  NO_FRAMING,
  paint,
  type BlockContent,
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
