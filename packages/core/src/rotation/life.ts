import { addDays } from '../time/local-day.js';

/** How long songs stay in a category, and where they go then; null takes them out of rotation. */
export interface Life {
  readonly after: number;
  readonly unit: 'weeks' | 'plays';
  readonly to: string | null;
}

/** What a person has planned for one song, in place of what its category says. */
export type PlannedMove =
  | { readonly kind: 'on'; readonly date: string; readonly to: string | null }
  | { readonly kind: 'plays'; readonly plays: number; readonly to: string | null }
  /** It stays, whatever its category says. */
  | { readonly kind: 'stays' };

/** A song in a category. */
export interface Placed {
  readonly categoryId: string;
  /** The date it came there; null where that is not known. */
  readonly since: string | null;
  readonly planned: PlannedMove | null;
  /** How often it has played since. */
  readonly plays: number;
}

/** A move that is to come. */
export interface DueMove {
  readonly to: string | null;
  /** From this day on. */
  readonly date: string;
  /** The date is worked out from how often the song plays. */
  readonly expected: boolean;
  /** Whether a person planned it for this song. */
  readonly byHand: boolean;
}

/**
 * When a song leaves its category; null where nothing says so. A count of plays that is not reached is expected at the rate
 * given, plays a week; without a rate there is no date for it.
 */
export function dueMove(
  { since, planned, plays }: Placed,
  life: Life | undefined,
  { today, playsPerWeek = 0 }: { readonly today: string; readonly playsPerWeek?: number },
): DueMove | null {
  if (planned?.kind === 'stays') return null;
  const afterPlays = (count: number, to: string | null, byHand: boolean): DueMove | null => {
    if (plays >= count) return { to, date: today, expected: false, byHand };
    if (playsPerWeek <= 0) return null;
    const days = Math.ceil(((count - plays) / playsPerWeek) * 7);
    return { to, date: addDays(today, days), expected: true, byHand };
  };
  if (planned?.kind === 'on') return { to: planned.to, date: planned.date, expected: false, byHand: true };
  if (planned?.kind === 'plays') return afterPlays(planned.plays, planned.to, true);
  if (!life) return null;
  if (life.unit === 'plays') return afterPlays(life.after, life.to, false);
  return since === null ? null : { to: life.to, date: addDays(since, 7 * life.after), expected: false, byHand: false };
}
