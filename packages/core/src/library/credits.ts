import { elementAt } from '../values/look-up.js';
import { nameKey } from '../text/fold.js';

/** One artist's part in a song. */
export interface Credit {
  readonly name: string;
  readonly role: 'main' | 'featured';
}

const FEATURED =
  /\s*[([]\s*(?:(?:feat|ft)\b\.?|featuring\b|(?:duet )?with\b)\s*|\s+(?:(?:feat|ft)\.\s*|(?:feat|ft|featuring)\s+)/i;
const AND = String.raw`[aA]nd|AND|&|\+|[wW]ith|WITH|agus|und|et|y`;
/** `Oona & the Otters` and `Piers and his Orchestra` are one act. */
const NOT_A_BAND = String.raw`(?!(?:[tT]he|THE|[hH]is|[hH]er|[tT]heir|[lL]os|[lL]as|[lL]es|[nN]a)\s)`;
/** Only a small x joins: `Generation X` is a name. */
const JOINERS = new RegExp(
  String.raw`\s*[,;]\s+(?:(?:${AND})\s+${NOT_A_BAND})?|\s+(?:${AND})\s+${NOT_A_BAND}|\s+(?:[x×/]|[vV](?:s\.?|ersus)|VS\.?|[mM]eets|[pP]resents|[pP]res\.)\s+`,
);

/**
 * The artists in a credit such as `A feat. B`, `A & B`, `A x B` or `A, B and C`, in order, each
 * once. Names in `exceptions` (any spelling) are one act and are never split.
 */
export function parseCredits(credit: string, exceptions: readonly string[] = []): Credit[] {
  const kept = new Set(exceptions.map(nameKey));
  const [mainPart = '', ...featuredParts] = kept.has(nameKey(credit)) ? [credit] : credit.split(FEATURED);
  const credits: Credit[] = [];
  const seen = new Set<string>();
  const add = (name: string, role: Credit['role']): void => {
    const clean = withoutLooseBracket(name.trim());
    const key = nameKey(clean);
    if (key === '' || seen.has(key)) return;
    seen.add(key);
    credits.push({ name: clean, role });
  };
  for (const name of splitNames(mainPart, kept)) add(name, 'main');
  for (const part of featuredParts) for (const name of splitNames(part, kept)) add(name, 'featured');
  return credits;
}

function splitNames(text: string, kept: ReadonlySet<string>): string[] {
  if (kept.has(nameKey(text)) || /,\s*the\s*$/i.test(text)) return [text];
  const joiner = JOINERS.exec(text);
  if (!joiner) return [text];
  // Try every joiner as the split, longest kept act first, so that "A, B & C" keeps "B & C" when it is one act.
  for (let end = text.length; end > 0;) {
    const head = text.slice(0, end);
    if (kept.has(nameKey(head))) {
      const rest = text.slice(end).replace(JOINERS, '');
      return rest.trim() === '' ? [head] : [head, ...splitNames(rest, kept)];
    }
    end = lastJoiner(text, end);
  }
  return [text.slice(0, joiner.index), ...splitNames(text.slice(joiner.index + joiner[0].length), kept)];
}

function lastJoiner(text: string, before: number): number {
  let last = 0;
  for (const match of text.matchAll(new RegExp(JOINERS.source, 'g'))) {
    if (match.index < before && match.index > 0) last = match.index;
  }
  return last;
}

/** The bracket that closes `(feat. B)` after the opening one has been cut away. */
function withoutLooseBracket(name: string): string {
  const last = name.at(-1);
  const opening = last === ')' ? '(' : last === ']' ? '[' : null;
  return opening === null || name.includes(opening) ? name : name.slice(0, -1).trim();
}

/** The part of a credit that names its main artists. */
export function mainCredit(credit: string): string {
  return elementAt(credit.split(FEATURED), 0).trim();
}
