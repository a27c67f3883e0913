const UNIT_SECONDS: Readonly<Record<string, number>> = { s: 1, m: 60, h: 3600, d: 86_400, w: 604_800 };
const PART = /(\d+(?:[.,]\d+)?) *([a-z]*)/g;
const UNIT_WORD = /^(?:s|secs?|seconds?|m|mins?|minutes?|h|hrs?|hours?|d|days?|w|weeks?)$/;
/** The unit a bare number takes after a part in another unit, as in `2 h 30`. */
const NEXT_UNIT: Readonly<Record<string, string>> = { '': 'm', d: 'h', h: 'm', m: 's' };

/**
 * Seconds in a distance as people say it: `90 min`, `12 h`, `2 days`, `2 h 30`, `1.5 hours`.
 * A bare number is minutes, or the next smaller unit after another part. Null when not a distance.
 */
export function parseSpan(text: string): number | null {
  const spoken = text.trim().toLowerCase();
  const between = spoken.replace(PART, '').replace(/\band\b|,/g, '');
  if (!/\d/.test(spoken) || between.trim() !== '') return null;
  let seconds = 0;
  let previousUnit = '';
  for (const [, number, word] of spoken.matchAll(PART)) {
    if (word && word !== 'and' && !UNIT_WORD.test(word)) return null;
    const unit = word && word !== 'and' ? word[0]! : NEXT_UNIT[previousUnit];
    if (unit === undefined) return null;
    seconds += Number(number!.replace(',', '.')) * UNIT_SECONDS[unit]!;
    previousUnit = unit;
  }
  return Math.round(seconds);
}

/** The shortest way people say a distance: `90 min`, `8 h`, `2 h 30`, `3 days`. */
export function formatSpan(seconds: number): string {
  if (seconds >= 172_800 && seconds % 86_400 === 0) return `${seconds / 86_400} days`;
  if (seconds % 3600 === 0 && seconds > 0) return `${seconds / 3600} h`;
  if (seconds < 60) return `${seconds} s`;
  const minutes = Math.floor(seconds / 60);
  if (seconds % 60 !== 0) return `${minutes} min ${seconds % 60} s`;
  return minutes > 120 ? `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')}` : `${minutes} min`;
}
