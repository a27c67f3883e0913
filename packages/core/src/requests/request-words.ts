import { formatAirTime } from '../time/local-day.js';
import type { RequestAnswer } from './request.js';

/** What a listener is told, as a sentence. */
export function requestWords(answer: RequestAnswer, timeZone: string, nowMs: number): string {
  const clock = (ms: number): string => formatAirTime(ms, timeZone).slice(0, 5);
  switch (answer.is) {
    case 'planned':
      return `Will play about ${clock(answer.atMs)}.`;
    case 'held': {
      const free = answer.freeMs === null ? '' : `, free at ${clock(answer.freeMs)}`;
      return answer.playedMs === null
        ? `Cannot play yet${free}.`
        : `Played ${agoText(nowMs - answer.playedMs)} ago${free}.`;
    }
    case 'not in library':
      return 'Not in our library.';
    case 'not on air':
      return 'We have it, but it is not on the air at present.';
    case 'too many':
      return `You have asked often enough; ask again at ${clock(answer.freeMs)}.`;
    case 'no place':
      return 'There is no place for it in the coming hour. We keep trying.';
  }
}

function agoText(ms: number): string {
  const minutes = Math.max(1, Math.round(ms / 60_000));
  if (minutes < 120) return `${minutes} ${minutes === 1 ? 'minute' : 'minutes'}`;
  const hours = Math.round(minutes / 60);
  return hours < 48 ? `${hours} hours` : `${Math.round(hours / 24)} days`;
}
