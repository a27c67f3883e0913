import type { ItemLife, MoveRow } from '@fuller/contracts';
import type { Life } from '@fuller/core';
import { plural } from '../shared/text/plural';
import { dayYearText, shortDayText } from '../shared/text/when';

/** How long songs stay in a category: `4 weeks, then Current B`. */
export function lifeWords({ after, unit, to }: Life, nameOf: (id: string) => string): string {
  const length = unit === 'weeks' ? plural(after, 'week') : plural(after, 'play');
  return `${length}, then ${to === null ? 'out of rotation' : nameOf(to)}`;
}

/** When and where a song goes: `To Current B on Mon 14 Dec 2026`; what is expected says about. */
export function moveWords(
  { to, date, expected }: NonNullable<ItemLife['next']>,
  nameOf: (id: string) => string,
): string {
  const where = to === null ? 'Out of rotation' : `To ${nameOf(to)}`;
  return `${where} ${expected ? 'about' : 'on'} ${dayYearText(date)}`;
}

/** Why a song moves, in a word or two. */
export function whyWords({ byHand, expected, plays, since }: MoveRow): string {
  if (byHand) return 'by hand';
  if (expected) return `${plural(plays, 'play')} so far`;
  return since === null ? plural(plays, 'play') : `since ${shortDayText(since)}`;
}
