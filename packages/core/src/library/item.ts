/** Kinds of audio a station keeps. */
export const ITEM_KINDS = [
  'song',
  'station ID',
  'jingle',
  'sweeper',
  'promo',
  'liner',
  'tease',
  'bed',
  'sponsor message',
  'spot',
  'voice track',
  'programme',
  'silence',
] as const;
/** What an item of the library is. */
export type ItemKind = (typeof ITEM_KINDS)[number];

/** What teases can announce. */
export const ANNOUNCED = ['song', 'artist', 'show'] as const;
/** What a tease announces: an item, an artist or a show, by its id. */
export interface Announced {
  readonly what: (typeof ANNOUNCED)[number];
  readonly id: string;
}

/** Who sees a thing: every station of the group, or one station. */
export type Scope = 'group' | 'station';

/** An item of the library as the computation sees it. Lengths are milliseconds. */
export interface LibraryItem {
  readonly id: string;
  readonly kind: ItemKind;
  readonly title: string;
  /** The credit as printed on the record. */
  readonly artist: string;
  readonly album: string;
  readonly year: number | null;
  readonly durationMs: number;
  readonly introMs: number | null;
  readonly outroMs: number | null;
  readonly cart: string | null;
  readonly file: string | null;
  readonly tags: Readonly<Record<string, readonly string[]>>;
  /** First and last station-local date on air, both included. */
  readonly startDate: string | null;
  readonly endDate: string | null;
  /** Hours of the week on air: 168 marks, Monday 00:00 first, 1 may and 0 may not; null for every hour. */
  readonly hours: string | null;
  /** Last day of a pause. */
  readonly pausedUntil: string | null;
}
