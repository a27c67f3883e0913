import type { Rule } from '@fuller/core';
import { OVERNIGHT, VALE } from './set-up.js';

const WEEK = Array.from({ length: 168 }, (_, hour) => hour);
const marks = (holds: (weekday: number, hour: number) => boolean): string =>
  WEEK.map((cell) => (holds(Math.floor(cell / 24), cell % 24) ? '1' : '0')).join('');

/** Parts of the week that rules differ in. */
export const DAYPARTS = [
  { id: 'part-night', name: 'Night', hours: marks((_, hour) => hour < 6) },
  { id: 'part-breakfast', name: 'Weekday breakfast', hours: marks((day, hour) => day < 5 && hour >= 6 && hour < 10) },
] as const;

const HARD = { strength: 'hard', rank: 0 } as const;
const wish = (rank: number) => ({ strength: 'soft' as const, rank });

function rule(id: string, parts: Partial<Rule>, stationId = VALE): Record<string, unknown> & { id: string } {
  return {
    id,
    revision: 1,
    scope: 'station',
    stationId,
    value: null,
    followedBy: null,
    windowSeconds: null,
    exceptions: [],
    ...HARD,
    resting: false,
    note: '',
    places: [],
    amount: 0,
    ...parts,
  };
}

/** The demo's rules in the order of the board. */
export const RULES = [
  rule('rule-artist', {
    shape: 'apart',
    tag: 'main artist',
    amount: 5400,
    exceptions: [
      { kind: 'clock', id: 'clock-local', amount: 3600 },
      { kind: 'daypart', id: 'part-night', amount: 2700 },
    ],
    note: 'Listeners ring in when an act comes round twice in a show',
  }),
  rule('rule-title', {
    shape: 'apart',
    tag: 'title',
    amount: 28_800,
    exceptions: [{ kind: 'category', id: 'cat-a', amount: 9000 }],
  }),
  rule('rule-album', { shape: 'apart', tag: 'album', amount: 3600, ...wish(1) }),
  rule('rule-featured', { shape: 'apart', tag: 'artist', amount: 2700, ...wish(1), note: 'Guests too' }),
  rule('rule-voice', { shape: 'streak', tag: 'voice', amount: 3, ...wish(2) }),
  rule('rule-tempo', { shape: 'handOff', tag: 'tempo', value: '5', followedBy: '1', ...wish(3) }),
  rule('rule-hour', { shape: 'otherHour', tag: 'title', amount: 3, ...wish(3) }),
  rule('rule-overnight-artist', { shape: 'apart', tag: 'main artist', amount: 5400 }, OVERNIGHT),
  rule('rule-overnight-title', { shape: 'apart', tag: 'title', amount: 28_800 }, OVERNIGHT),
];
