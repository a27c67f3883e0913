/** The period the limits speak of, seconds: any three hours, not hours of the clock. */
export const LIMIT_PERIOD_SECONDS = 3 * 3600;

/** What a limit counts recordings of. */
export type LimitSubject = 'album' | 'artist' | 'set';

/** One of the limits: at most so many different recordings of a subject, in any period or in a row. */
export interface Limit {
  readonly id: `${LimitSubject}-${number}-in-${'3h' | 'a-row'}`;
  readonly subject: LimitSubject;
  readonly allowed: number;
  readonly inARow: boolean;
}

/**
 * The statutory limits for web radio, 17 U.S.C. 114(j)(13): in any three hours on one channel at most three different
 * recordings from one album, no more than two of them in a row, and at most four by one featured artist or from one
 * set, no more than three of them in a row. The ids name the limit, even where the stricter variant lowers its count.
 */
const STATUTORY: readonly Limit[] = [
  { id: 'album-3-in-3h', subject: 'album', allowed: 3, inARow: false },
  { id: 'album-2-in-a-row', subject: 'album', allowed: 2, inARow: true },
  { id: 'artist-4-in-3h', subject: 'artist', allowed: 4, inARow: false },
  { id: 'artist-3-in-a-row', subject: 'artist', allowed: 3, inARow: true },
  { id: 'set-4-in-3h', subject: 'set', allowed: 4, inARow: false },
  { id: 'set-3-in-a-row', subject: 'set', allowed: 3, inARow: true },
];

/** The limits; the stricter variant stops one short in any period and leaves those in a row. */
export function statutoryLimits(strict: boolean): readonly Limit[] {
  return STATUTORY.map((limit) => (strict && !limit.inARow ? { ...limit, allowed: limit.allowed - 1 } : limit));
}

/** What is checked, and how. */
export interface LimitOptions {
  readonly strict: boolean;
  /** Albums that have a waiver, by name; every album of such a name. */
  readonly exemptAlbums: readonly string[];
}

export const STANDARD_LIMITS: LimitOptions = { strict: false, exemptAlbums: [] };
