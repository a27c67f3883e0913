import { foldText } from '../text/fold.js';
import { readTime } from '../time/read-time.js';
import { formatSpan } from '../time/span.js';
import { LONGEST_SEPARATION, SEPARATED_TAGS, type ApartRule, type SeparatedTag } from './rule.js';

/** A rule as a person reads it: “Keep the same artist at least 90 min apart”. */
export function sentenceOf(
  rule: Pick<ApartRule, 'tag' | 'seconds' | 'secondsByCategory'>,
  categoryName: (id: string) => string,
): string {
  const exceptions = Object.entries(rule.secondsByCategory)
    .map(([id, seconds]) => `, ${formatSpan(seconds)} in ${categoryName(id)}`)
    .join('');
  return `Keep the same ${rule.tag} at least ${formatSpan(rule.seconds)} apart${exceptions}`;
}

export type SentenceResult =
  | { readonly ok: true; readonly tag: SeparatedTag; readonly seconds: number }
  | { readonly ok: false; readonly why: string };

/** Words around the parts; a colon or full stop only where it is no part of a number. */
const FILLERS = /\b(?:keep|the|same|at least|apart|separate|separation|of|by|between)\b|[.:](?!\d)/g;

/**
 * The rule in a sentence such as “keep the same artist at least 90 min apart”, “artist 1.5 h”
 * or “title: 2 days”; otherwise what was not understood.
 */
export function parseRuleSentence(text: string): SentenceResult {
  const folded = foldText(text).replace(FILLERS, ' ');
  const tags = SEPARATED_TAGS.filter((tag) => pattern(tag).test(folded));
  const tag = tags[0];
  if (tag === undefined || tags.length > 1) {
    return { ok: false, why: 'Say one of title, artist or album, as in “artist 90 min”.' };
  }
  const distance = folded.replace(pattern(tag), ' ').trim();
  if (distance === '') return { ok: false, why: `Say how far apart, as in “${tag} 90 min”.` };
  const read = readSeparation(distance);
  return read.ok ? { ok: true, tag, seconds: read.seconds } : read;
}

export type SeparationRead =
  { readonly ok: true; readonly seconds: number } | { readonly ok: false; readonly why: string };

/** How far apart, as typed: more than nothing and at most 28 days. */
export function readSeparation(text: string): SeparationRead {
  const read = readTime(text, 'distance');
  if (!read.ok) return read;
  const seconds = Math.round(read.ms / 1000);
  if (seconds > 0 && seconds <= LONGEST_SEPARATION) return { ok: true, seconds };
  return { ok: false, why: `“${text}” is out of range; a separation is more than nothing and at most 28 days.` };
}

/** How a tag is named in a sentence; “main artist” does not name the artist besides. */
function pattern(tag: SeparatedTag): RegExp {
  return new RegExp(`${tag === 'artist' ? '(?<!\\bmain )' : ''}\\b${tag}s?\\b`);
}
