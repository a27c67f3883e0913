import type { LimitCheck } from '@fuller/contracts';

/** Where a limit is exceeded, in words: `5 songs by one artist in three hours; 4 are allowed`. */
export function violationWords({ limit, count, allowed }: LimitCheck['violations'][number]): string {
  const [subject] = limit.split('-');
  const of = subject === 'artist' ? 'by one artist' : subject === 'set' ? 'of one set' : 'of one album';
  const within = limit.endsWith('in-a-row') ? 'in a row' : 'in three hours';
  return `${count} songs ${of} ${within}; ${allowed} are allowed`;
}
