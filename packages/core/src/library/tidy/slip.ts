/** Shorter names differ by a letter because they are different names. */
const SHORTEST = 5;
const FIGURE = /\p{N}/u;

/**
 * Whether two keys are likely one, mistyped: one letter too many, missing, wrong, or two that changed places (one step of the
 * restricted Damerau-Levenshtein distance). A figure never makes a slip: `part 1` and `part 2` are two.
 */
export function isSlip(a: string, b: string): boolean {
  const [short, long] = a.length <= b.length ? [a, b] : [b, a];
  if (short.length < SHORTEST || long.length - short.length > 1 || a === b) return false;
  let head = 0;
  while (head < short.length && short[head] === long[head]) head++;
  let tail = 0;
  while (tail < short.length - head && short.at(-1 - tail) === long.at(-1 - tail)) tail++;
  const left = short.slice(head, short.length - tail);
  const right = long.slice(head, long.length - tail);
  if (FIGURE.test(left + right)) return false;
  if (left.length <= 1 && right.length <= 1) return true;
  return left.length === 2 && right.length === 2 && left[0] === right[1] && left[1] === right[0];
}

/**
 * Texts that two keys one slip apart have in common: the key, and the key without each of its letters (after SymSpell, Garbe
 * 2012). Figures stay, since they never make a slip.
 */
export function slipMarks(key: string): string[] {
  const marks = new Set([key]);
  if (key.length >= SHORTEST)
    for (let i = 0; i < key.length; i++) if (!FIGURE.test(key.charAt(i))) marks.add(key.slice(0, i) + key.slice(i + 1));
  return [...marks];
}
