/** The longest item Fuller takes, 24 hours, in milliseconds. */
export const LONGEST_ITEM_MS = 24 * 3_600_000;

const CLOCK_TIME = /^(?:(\d{1,2}):)?(\d{1,3}):(\d{1,2})(?:[.,](\d{1,3}))?$/;
const NUMBER_WITH_UNIT = /^(\d+(?:[.,]\d+)?) *(ms|msec|milliseconds?|s|sec|secs|seconds?|m|min|mins|minutes?)?$/i;
/** A bare number this large is taken as milliseconds: as seconds it would be over 2 h 46. */
const MILLISECONDS_FROM = 10_000;

/**
 * The length in milliseconds of a text such as `3:38`, `1:02:03`, `218`, `218.4 s` or `218000 ms`.
 * Null when the text is not a length.
 */
export function parseDuration(text: string): number | null {
  const trimmed = text.trim();
  const clock = CLOCK_TIME.exec(trimmed);
  if (clock) {
    const [, hours, minutes, seconds, fraction] = clock;
    if (Number(seconds) > 59 || (hours !== undefined && Number(minutes) > 59)) return null;
    const whole = Number(hours ?? 0) * 3600 + Number(minutes) * 60 + Number(seconds);
    return whole * 1000 + (fraction ? Number(fraction.padEnd(3, '0')) : 0);
  }
  const plain = NUMBER_WITH_UNIT.exec(trimmed);
  if (!plain) return null;
  const value = Number(plain[1]!.replace(',', '.'));
  const unit = plain[2]?.toLowerCase();
  if (unit?.startsWith('ms') || unit?.startsWith('milli')) return Math.round(value);
  if (unit?.startsWith('m')) return Math.round(value * 60_000);
  if (unit === undefined && value >= MILLISECONDS_FROM) return Math.round(value);
  return Math.round(value * 1000);
}

/** `m:ss`, or `h:mm:ss` from one hour up; a negative length carries a minus sign. */
export function formatDuration(durationMs: number): string {
  const sign = durationMs < 0 ? '−' : '';
  const total = Math.round(Math.abs(durationMs) / 1000);
  const hours = Math.floor(total / 3600);
  const minutes = Math.floor((total % 3600) / 60);
  const seconds = String(total % 60).padStart(2, '0');
  return hours > 0 ? `${sign}${hours}:${String(minutes).padStart(2, '0')}:${seconds}` : `${sign}${minutes}:${seconds}`;
}
