import { nameKey } from '../text/fold.js';

/** What a promise counts. */
export const PROMISED_PER = ['day', 'week'] as const;
/** What a promise counts. */
export type PromisedPer = (typeof PROMISED_PER)[number];

/** What a sponsor was promised: so many messages a day or a week. */
export interface SponsorPromise {
  readonly count: number;
  readonly per: PromisedPer;
  /** The daypart in which they are to air; null for any time. */
  readonly daypartId: string | null;
}

/** A sponsor and what was agreed. */
export interface Sponsor {
  readonly id: string;
  readonly name: string;
  /** What it advertises, as a code: those of one code are rivals. Empty for none. */
  readonly product: string;
  /** First and last station-local date of the agreement, both included. */
  readonly startDate: string | null;
  readonly endDate: string | null;
  readonly promises: readonly SponsorPromise[];
}

/** The sponsors of a station and how their messages are kept apart. */
export interface SponsorPolicy {
  readonly sponsors: readonly Sponsor[];
  /** Rivals are at least so far apart, start to start, milliseconds. */
  readonly rivalsApartMs: number;
  /** Of one sponsor in an hour at most; null for as many as there are. */
  readonly mostPerHour: number | null;
}

/** Where nothing is agreed. */
export const NO_SPONSORS: SponsorPolicy = { sponsors: [], rivalsApartMs: 0, mostPerHour: null };

/** The sponsor of a message: what it gives as its artist, whatever the case; a message without one is its own. */
export function sponsorKey({ id, artist }: { readonly id: string; readonly artist: string }): string {
  return nameKey(artist) || id;
}

/** Whether an agreement holds on a station-local date. */
export function holdsOn({ startDate, endDate }: Pick<Sponsor, 'startDate' | 'endDate'>, date: string): boolean {
  return (startDate === null || date >= startDate) && (endDate === null || date <= endDate);
}
