import type { Outlook, OutlookLevel } from '@fuller/core';
import { columnName } from '../rules/columns';
import { plural } from '../shared/text/plural';

/** How a log stands against what could be had, in words. */
export interface OutlookWords {
  readonly verdict: string;
  /** What is left open or given up, and what of it must be. */
  readonly levels: readonly string[];
}

const VERDICTS: Readonly<Record<Outlook['state'], string>> = {
  best: 'Proven: no log of this day leaves fewer slots open or gives up fewer wishes.',
  better: 'A better log was found. Generate to get one; what was chosen by hand stays unless you replace it too.',
  unknown: 'No better log was found. It is not proven that there is none.',
};

const STOPPED = 'Stopped. No better log was found so far.';

/** Says what came of looking for a better log. */
export function outlookWords({ state, musts, levels }: Outlook, { isStopped = false } = {}): OutlookWords {
  return {
    verdict: isStopped && state === 'unknown' ? STOPPED : VERDICTS[state],
    levels: [
      ...(musts > 0 ? [`Must: broken in ${plural(musts, 'place')}, which need not be.`] : []),
      ...levels.filter(({ now, found }) => now > 0 || found > 0).map(levelWords),
    ],
  };
}

function levelWords({ rank, now, found, least }: OutlookLevel): string {
  const what = rank === null ? `Open: ${plural(now, 'slot')}` : `${columnName(rank)}: given up ${plural(now, 'time')}`;
  if (found < now) return `${what}; ${found === 0 ? 'none' : found} in the log that was found.`;
  if (found > now) return `${what}; ${found} in the log that was found.`;
  if (least === now) return `${what}, and no log has fewer.`;
  return least > 0 ? `${what}; at least ${least} in any log.` : `${what}; fewer are not ruled out.`;
}
