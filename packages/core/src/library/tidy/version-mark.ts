import { elementAt } from '../../values/look-up.js';
const MARK =
  /\b(?:live|acoustic|demo|edit|mix|remix|version|remaster(?:ed)?|instrumental|session|mono|stereo|extended|reprise|unplugged|take \d|feat\.?|ft\.?|featuring)\b/i;
const IN_BRACKETS = /\s*[([]([^()[\]]*)[)\]]\s*$/;
const AFTER_DASH = /\s+[-–—]\s+([^-–—]+)$/;

/** A title without marks such as `(live)`, `[radio edit]` or `- 2019 remaster`, and the marks it had. */
export function withoutVersion(title: string): { readonly title: string; readonly marks: readonly string[] } {
  const marks: string[] = [];
  let rest = title;
  for (let found = true; found;) {
    found = false;
    for (const pattern of [IN_BRACKETS, AFTER_DASH]) {
      const match = pattern.exec(rest);
      const bare = match ? rest.slice(0, match.index).trim() : '';
      if (!match || !MARK.test(elementAt(match, 1)) || bare === '') continue;
      marks.unshift(elementAt(match, 1).trim());
      rest = bare;
      found = true;
    }
  }
  return { title: rest, marks };
}
