import { elementAt } from '../values/look-up.js';
/** Some of a list of lengths that together nearly make up a gap. */
export interface Reach {
  /** Places in the list, ascending. */
  readonly chosen: readonly number[];
  /** Their sum less the gap, milliseconds. */
  readonly offMs: number;
}

interface Part {
  readonly chosen: readonly number[];
  readonly sum: number;
}

/**
 * Ways to make up a gap from at most `most` of the lengths (milliseconds), each used once, nearest first. The very
 * nearest is always among them. This is subset sum over few parts, solved by meeting in the middle (Horowitz and
 * Sahni, Computing Partitions with Applications to the Knapsack Problem, 1974): the sums of all small subsets are
 * sorted, and for each the one that completes it best is sought.
 */
export function waysToReach(gapMs: number, lengths: readonly number[], most: number, keep = 40): Reach[] {
  const left = subsets(lengths, Math.ceil(most / 2));
  const right = subsets(lengths, Math.floor(most / 2)).sort((a, b) => a.sum - b.sum);
  const found: Reach[] = left.flatMap((part) => {
    const partner = partnerOf(part, gapMs - part.sum, right);
    if (!partner) return [];
    return [{ chosen: [...part.chosen, ...partner.chosen], offMs: part.sum + partner.sum - gapMs }];
  });
  return found
    .sort((a, b) => Math.abs(a.offMs) - Math.abs(b.offMs) || a.chosen.length - b.chosen.length)
    .slice(0, keep);
}

/** Every subset of up to so many places, the empty one too. */
function subsets(lengths: readonly number[], most: number): Part[] {
  let grown: Part[] = [{ chosen: [], sum: 0 }];
  const all = [...grown];
  for (let size = 1; size <= most; size++) {
    grown = grown.flatMap(({ chosen, sum }) => {
      const from = (chosen.at(-1) ?? -1) + 1;
      return lengths.slice(from).map((length, index) => ({ chosen: [...chosen, from + index], sum: sum + length }));
    });
    all.push(...grown);
  }
  return all;
}

/** Of sorted parts, the one nearest a sum that has later places only; the empty one always has. */
function partnerOf({ chosen }: Part, wanted: number, sorted: readonly Part[]): Part | undefined {
  const last = chosen.at(-1) ?? -1;
  const fits = (part: Part): boolean => part.chosen.length === 0 || elementAt(part.chosen, 0) > last;
  let high = lowerBound(sorted, wanted);
  let low = high - 1;
  while (low >= 0 || high < sorted.length) {
    const below = low >= 0 ? wanted - elementAt(sorted, low).sum : Infinity;
    const above = high < sorted.length ? elementAt(sorted, high).sum - wanted : Infinity;
    const part = below <= above ? elementAt(sorted, low--) : elementAt(sorted, high++);
    if (fits(part)) return part;
  }
  return undefined;
}

function lowerBound(sorted: readonly Part[], sum: number): number {
  let [from, to] = [0, sorted.length];
  while (from < to) {
    const middle = (from + to) >> 1;
    if (elementAt(sorted, middle).sum < sum) from = middle + 1;
    else to = middle;
  }
  return from;
}
