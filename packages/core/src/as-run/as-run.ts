/** How a play came to its end. */
export const PLAY_ENDS = ['whole', 'faded', 'cut', 'skipped', 'player stopped'] as const;
export type PlayEnd = (typeof PLAY_ENDS)[number];

/** What put a play on the air. */
export const PLAY_SOURCES = ['log', 'presenter'] as const;
export type PlaySource = (typeof PLAY_SOURCES)[number];

/** A play as a player logged it. */
export interface AiredRow {
  /** Unique at its player, so that a row is never taken twice. */
  readonly key: string;
  /** UTC epoch milliseconds. */
  readonly startMs: number;
  readonly endMs: number;
  readonly kind: string;
  readonly artist: string;
  readonly title: string;
  readonly cart: string;
  readonly file: string;
  /** Its entry or spot as `entryOfDate` names it; empty where the player does not know it. */
  readonly entryId: string;
  readonly ended: PlayEnd;
  readonly by: PlaySource;
}

/** What was to play and did not. */
export interface MissedRow {
  readonly key: string;
  /** When it would have begun, UTC epoch milliseconds. */
  readonly atMs: number;
  readonly entryId: string;
  readonly title: string;
  /** In words: `file missing`. */
  readonly why: string;
}

/** What a player has logged: plays, what it missed, and until when it knows. */
export interface AsRun {
  readonly rows: readonly AiredRow[];
  readonly missed: readonly MissedRow[];
  /** UTC epoch milliseconds. */
  readonly coveredUntilMs: number;
}
