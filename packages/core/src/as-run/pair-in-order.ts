import { elementAt } from '../values/look-up.js';

/**
 * Pairs of places in two lists that gain the most together, in the order of both: the alignment of Needleman and
 * Wunsch (J. Mol. Biol. 48, 1970) without a penalty for gaps. A pair that gains nothing is not made.
 */
export function pairInOrder<A, B>(
  left: readonly A[],
  right: readonly B[],
  gain: (a: A, b: B) => number,
): [number, number][] {
  const width = right.length + 1;
  const best = new Float64Array((left.length + 1) * width);
  const at = (i: number, j: number): number => best[i * width + j] ?? 0;
  const both = (i: number, j: number): number => {
    const won = gain(elementAt(left, i), elementAt(right, j));
    return won > 0 ? won + at(i + 1, j + 1) : 0;
  };
  for (let i = left.length - 1; i >= 0; i--)
    for (let j = right.length - 1; j >= 0; j--) best[i * width + j] = Math.max(both(i, j), at(i + 1, j), at(i, j + 1));
  const pairs: [number, number][] = [];
  for (let [i, j] = [0, 0]; i < left.length && j < right.length;) {
    const here = at(i, j);
    const won = both(i, j);
    if (won > 0 && won === here) pairs.push([i++, j++]);
    else if (here === at(i + 1, j)) i++;
    else j++;
  }
  return pairs;
}
