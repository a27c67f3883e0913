import type { Rule } from '../rules/rule.js';

/** How much the rules ask: each step asks less of a small library. */
export interface RuleStep {
  /** Seconds between two plays of an artist. */
  readonly artist: number;
  /** Seconds between two plays of a title. */
  readonly title: number;
}

const MIN = 60;
const HOUR = 3600;
/** From what a big library can give down to what any can. */
export const RULE_STEPS: readonly RuleStep[] = [
  { artist: 90 * MIN, title: 8 * HOUR },
  { artist: 60 * MIN, title: 4 * HOUR },
  { artist: 45 * MIN, title: 3 * HOUR },
  { artist: 30 * MIN, title: 2 * HOUR },
  { artist: 15 * MIN, title: HOUR },
  { artist: 5 * MIN, title: 30 * MIN },
  { artist: 0, title: 15 * MIN },
];

/** Hours of music before a song must play again; a title can rest no longer. */
export function hoursOfMusic(songs: readonly { readonly durationMs: number }[]): number {
  return songs.reduce((ms, { durationMs }) => ms + durationMs, 0) / 3_600_000;
}

/**
 * The first step worth trying: a title may rest two thirds of a turn through the smallest category, and the artist with most
 * songs of all must fit in between.
 */
export function firstStep({
  shortestTurnHours,
  busiestArtistShare,
  songsAnHour,
}: {
  readonly shortestTurnHours: number;
  /** Of the plays, those of the artist who has most songs. */
  readonly busiestArtistShare: number;
  readonly songsAnHour: number;
}): number {
  const fits = ({ artist, title }: RuleStep): boolean =>
    title / HOUR <= shortestTurnHours * 0.66 && (artist / HOUR) * songsAnHour * busiestArtistShare <= 0.8;
  const found = RULE_STEPS.findIndex(fits);
  return found < 0 ? RULE_STEPS.length - 1 : found;
}

/** The rules of a step: two musts and three wishes. */
export function rulesOf({ artist, title }: RuleStep, newId: () => string): Rule[] {
  const rule = (fields: Pick<Rule, 'shape' | 'tag' | 'amount'> & Partial<Rule>): Rule => ({
    id: newId(),
    value: null,
    followedBy: null,
    windowSeconds: null,
    exceptions: [],
    strength: 'hard',
    rank: 0,
    resting: false,
    note: '',
    places: [],
    ...fields,
  });
  return [
    ...(artist > 0 ? [rule({ shape: 'apart', tag: 'artist', amount: artist })] : []),
    rule({ shape: 'apart', tag: 'title', amount: title }),
    rule({ shape: 'apart', tag: 'album', amount: Math.min(HOUR, title), strength: 'soft', rank: 1 }),
    ...(artist > 0 ? [rule({ shape: 'apart', tag: 'artist', amount: artist * 2, strength: 'soft', rank: 2 })] : []),
    ...(title >= 4 * HOUR ? [rule({ shape: 'otherHour', tag: 'title', amount: 2, strength: 'soft', rank: 3 })] : []),
  ];
}
