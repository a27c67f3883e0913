import type { AsRunLine } from '@fuller/contracts';
import { formatDuration } from '@fuller/core';

/** From here on a row that is no difference tells how far it was from its time, ms. */
const WORTH_TELLING_MS = 5000;

/** How a row of the log and what aired differ, in a few words. */
export function differenceWords({ is, byMs, why, aired, planned }: AsRunLine): string {
  const by = formatDuration(Math.round(Math.abs(byMs) / 1000) * 1000);
  switch (is) {
    case 'not aired':
      return why === '' ? 'not aired' : `not aired: ${why}`;
    case 'added':
      return aired?.by === 'presenter' ? 'added by the presenter' : 'added';
    case 'cut short': {
      const short = (planned?.durationMs ?? 0) - (aired?.durationMs ?? 0);
      const how = aired?.ended === 'skipped' ? 'skipped' : aired?.ended === 'player stopped' ? 'player stopped' : 'cut';
      return `${how} ${formatDuration(Math.round(short / 1000) * 1000)} before its end`;
    }
    case 'late':
    case 'early':
      return `${by} ${is}, and what follows`;
    case 'as planned':
      return Math.abs(byMs) < WORTH_TELLING_MS ? '' : `${by} ${byMs > 0 ? 'late' : 'early'}`;
    case 'unknown':
      return 'not known';
  }
}
