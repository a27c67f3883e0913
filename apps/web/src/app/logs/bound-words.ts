import type { LogItem } from '@fuller/contracts';
import { formatDuration, type BoundEntry } from '@fuller/core';

/** What a tease or a sweeper plays by, or why it plays nothing, in a sentence; `target` is what it is bound to. */
export function boundWords(entry: BoundEntry, target: LogItem | null): string {
  if (entry.missing) return `Left out: ${missingWords(entry, target)}.`;
  const title = target ? `“${target.title}”` : '';
  if (entry.kind === 'sweeper') return `Plays over the first ${introOf(target)} of ${title}, and takes no time.`;
  if (entry.target.to === 'show') return 'Announces the show that follows.';
  return title ? `Announces ${title}, which plays at` : '';
}

/** Why a tease or a sweeper plays nothing, in a few words. */
export function missingWords({ missing }: BoundEntry, target: LogItem | null): string {
  const title = target ? `“${target.title}”` : 'what comes';
  switch (missing) {
    case 'no audio':
      return `there is no tease for ${title} that may air now`;
    case 'no song':
      return 'what follows is no song, or starts hard';
    case 'no intro':
      return `${title} has no intro`;
    case 'intro too short':
      return `no sweeper is as short as the intro of ${title}, ${introOf(target)}`;
    default:
      return 'nothing it could announce comes later in the hour';
  }
}

function introOf(target: LogItem | null): string {
  return formatDuration(target?.introMs ?? 0);
}
