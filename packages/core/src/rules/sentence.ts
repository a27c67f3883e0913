import { foldText } from '../text/fold.js';
import { formatSpan, parseSpan } from '../time/span.js';
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

const PASSED_OVER = /\b(?:keep|the|same|at least|apart|separate|separation|of|by|between)\b|[.:]/g;

/**
 * The rule in a sentence such as “keep the same artist at least 90 min apart”, “artist 90 min”
 * or “title: 2 days”; otherwise what was not understood.
 */
export function parseRuleSentence(text: string): SentenceResult {
  const folded = foldText(text).replace(PASSED_OVER, ' ');
  const tags = SEPARATED_TAGS.filter((tag) => pattern(tag).test(folded));
  const tag = tags[0];
  if (tag === undefined || tags.length > 1) {
    return { ok: false, why: 'Say one of title, artist or album, as in “artist 90 min”.' };
  }
  const distance = folded.replace(pattern(tag), ' ').trim();
  if (distance === '') return { ok: false, why: `Say how far apart, as in “${tag} 90 min”.` };
  const seconds = parseSpan(distance);
  if (seconds === null) {
    return { ok: false, why: `“${distance}” is not a distance; write it like 90 min, 12 h or 2 days.` };
  }
  if (seconds <= 0 || seconds > LONGEST_SEPARATION) {
    return { ok: false, why: 'The distance must be more than nothing and at most 28 days.' };
  }
  return { ok: true, tag, seconds };
}

/** How a tag is named in a sentence; “main artist” does not name the artist besides. */
function pattern(tag: SeparatedTag): RegExp {
  return new RegExp(`${tag === 'artist' ? '(?<!\\bmain )' : ''}\\b${tag}s?\\b`);
}
