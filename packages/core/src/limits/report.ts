import { checkLimits } from './check-limits.js';
import type { LimitOptions } from './limits.js';
import { mendOf, type Mend } from './mend.js';
import type { PlaylistSong } from './playlist-entries.js';

/** What the check of a list answers; its fields are those other programs rely on. */
export interface LimitReport {
  readonly pass: boolean;
  readonly pack: 'web-radio';
  readonly strict: boolean;
  readonly entries: number;
  readonly violations: readonly ReportedViolation[];
  readonly mend: { readonly remove: readonly number[] };
}

/** Where a limit is exceeded. */
export interface ReportedViolation {
  readonly limit: string;
  readonly value: string;
  /** Counted from 1 in the file. */
  readonly positions: readonly number[];
  /** Of the first of these songs. */
  readonly start: string;
  readonly count: number;
  readonly allowed: number;
}

/** Checks the songs of a playlist against the statutory limits and finds the fewest that must go. */
export function limitReport(
  songs: readonly PlaylistSong[],
  options: LimitOptions,
  oneAct: readonly string[] = [],
): { readonly report: LimitReport; readonly mend: Mend } {
  const found = checkLimits(songs, options, oneAct);
  const mend: Mend = found.length === 0 ? { positions: [], smallest: true } : mendOf(songs, options, 'remove', oneAct);
  const first = new Map(songs.map(({ position, startText }) => [position, startText]));
  const violations = found.map(({ limit, value, positions, count, allowed }): ReportedViolation => {
    const start = positions.map((position) => first.get(position) ?? '').reduce((a, b) => (b < a ? b : a));
    return { limit, value, positions, start, count, allowed };
  });
  return {
    report: {
      pass: found.length === 0,
      pack: 'web-radio',
      strict: options.strict,
      entries: songs.length,
      violations,
      mend: { remove: mend.positions },
    },
    mend,
  };
}
