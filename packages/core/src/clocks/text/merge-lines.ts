import { elementAt } from '../../values/look-up.js';
import type { ClockLine } from '../line.js';
import type { TextLine } from './read-clock.js';

/**
 * Lines read from text with ids: those of the clock they came from where a line is still the same, or stands where
 * one of its kind stood between the same neighbours; new ids for the rest. What was locked in a log stays in place.
 */
export function mergeLines(before: readonly ClockLine[], read: readonly TextLine[], newId: () => string): ClockLine[] {
  const ids = new Array<string | undefined>(read.length);
  const pairs = commonLines(before.map(textOf), read.map(textOf));
  for (const [old, now] of pairs) ids[now] = elementAt(before, old).id;
  // Between two lines that stayed, changed lines are paired one by one.
  let [fromOld, fromNow] = [0, 0];
  for (const [toOld, toNow] of [...pairs, [before.length, read.length] as const]) {
    for (let step = 0; fromOld + step < toOld && fromNow + step < toNow; step++) {
      if (elementAt(before, fromOld + step).kind === elementAt(read, fromNow + step).kind)
        ids[fromNow + step] = elementAt(before, fromOld + step).id;
    }
    [fromOld, fromNow] = [toOld + 1, toNow + 1];
  }
  return read.map((line, n) => ({ ...line, id: ids[n] ?? newId() }) as ClockLine);
}

function textOf(line: TextLine | ClockLine): string {
  const { id, ...rest } = line as ClockLine;
  void id;
  return JSON.stringify(Object.entries(rest).sort(([a], [b]) => a.localeCompare(b)));
}

/** The longest common subsequence of two lists, as pairs of places (the textbook dynamic programme). */
function commonLines(a: readonly string[], b: readonly string[]): [number, number][] {
  const length = Array.from({ length: a.length + 1 }, () => new Uint16Array(b.length + 1));
  for (let i = a.length - 1; i >= 0; i--)
    for (let j = b.length - 1; j >= 0; j--)
      elementAt(length, i)[j] =
        a[i] === b[j]
          ? elementAt(elementAt(length, i + 1), j + 1) + 1
          : Math.max(elementAt(elementAt(length, i + 1), j), elementAt(elementAt(length, i), j + 1));
  const pairs: [number, number][] = [];
  for (let [i, j] = [0, 0]; i < a.length && j < b.length;) {
    if (a[i] === b[j]) pairs.push([i++, j++]);
    else if (elementAt(elementAt(length, i + 1), j) >= elementAt(elementAt(length, i), j + 1)) i++;
    else j++;
  }
  return pairs;
}
