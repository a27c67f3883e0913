import type { ClockLine } from '../clocks/line.js';
import type { AirPlan } from '../week/air-plan.js';
import { HOUR_MS } from '../clocks/line.js';
import { NO_FRAMING } from '../week/show.js';
import { EMPTY_WEEK } from '../week/week-plan.js';
import type { ItemTag, Rule } from '../rules/rule.js';
import type { ScheduledItem, StationData } from '../station/station-data.js';

export const ZONE = 'Europe/Dublin';
export const DATE = '2026-11-24';

/** A hard rule of shape apart over the whole station. */
export function apart(tag: ItemTag, seconds: number, more: Partial<Rule> = {}): Rule {
  return { ...ruleOf('apart', tag, seconds), id: `${tag}-rule`, ...more };
}

/** A rule of any shape, hard, over the whole station. */
export function ruleOf(shape: Rule['shape'], tag: string, amount: number, more: Partial<Rule> = {}): Rule {
  return {
    id: `${shape} ${tag}`,
    shape,
    tag,
    value: null,
    followedBy: null,
    amount,
    windowSeconds: null,
    exceptions: [],
    strength: 'hard',
    rank: 0,
    resting: false,
    note: '',
    places: [],
    ...more,
  };
}

/** Songs by a number of artists, about three and a half minutes long, each length different. */
export function songs(count: number, artists: number): ScheduledItem[] {
  return Array.from({ length: count }, (_, index) => ({
    id: `song${index}`,
    title: `Title ${index}`,
    artist: `Artist ${index % artists}`,
    album: `Album ${index % (artists * 2)}`,
    artistIds: [`artist${index % artists}`],
    durationMs: 190_000 + ((index * 7919) % 60_000),
    segueMs: null,
    startDate: null,
    endDate: null,
    hours: null,
    pausedUntil: null,
    approved: true,
    weight: 1,
  }));
}

/** A plan with one clock, `day`, that runs all the time. */
export function planOf(lines: readonly ClockLine[], more: Partial<AirPlan> = {}): AirPlan {
  return {
    week: { ...EMPTY_WEEK, defaultClockId: 'day' },
    dates: [],
    shows: [],
    framing: NO_FRAMING,
    clocks: [{ id: 'day', name: 'Day', colour: '#000000', lengthMs: HOUR_MS, lines }],
    ...more,
  };
}

/** A station with one category of music, a clock of sixteen picks, a break and a note, and one rule. */
export function smallStation(more: Partial<StationData> = {}): StationData {
  const items = songs(120, 40);
  const picks = Array.from({ length: 16 }, (_, index): ClockLine => ({
    id: `p${index}`,
    kind: 'pick',
    categoryId: 'gold',
    comment: '',
  }));
  const lines: ClockLine[] = [
    { id: 'n', kind: 'note', text: 'Be kind', comment: '' },
    ...picks,
    { id: 'b', kind: 'break', bookedAtMs: 3_420_000, durationMs: 120_000, comment: '' },
  ];
  return {
    timeZone: ZONE,
    plan: planOf(lines),
    items,
    categories: { gold: items.map((item) => item.id) },
    musicCategories: ['gold'],
    approvedOnly: [],
    spreadHours: true,
    coolOffs: {},
    orders: {},
    filters: {},
    rules: [apart('artist', 3600), apart('title', 4 * 3600)],
    dayparts: [],
    exemptAlbums: [],
    history: [],
    nextLog: null,
    ...more,
  };
}
