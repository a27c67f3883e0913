import { elementAt } from '../../values/look-up.js';
import type { ClockLine } from '../line.js';
import type { TextLine } from './read-clock.js';

/**
 * Lines read from text with ids: those of the clock they came from where a line is still the same, or stands where
 * one of its kind stood between the same neighbours; new ids for the rest. What was locked in a log stays in place.
 */
export function mergeLines(before: readonly ClockLine[], read: readonly TextLine[], newId: () => string): ClockLine[] {
  const ids = new Array<string | undefined>(read.length);
  const pairs = commonLines(
    before.map((line) => textOf(line, before)),
    read.map((line) => textOf(line, before)),
  );
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
  const known = read.map((_, n) => ids[n] ?? newId());
  return read.map((line, n) => ({ ...bound(line, known), id: elementAt(known, n) }) as ClockLine);
}

/** A tease of a line by its place becomes one of that very line. */
function bound(line: TextLine, ids: readonly string[]): TextLine {
  if (line.kind !== 'tease' || line.target.to !== 'place') return line;
  return { ...line, target: { to: 'line', lineId: ids[line.target.place - 1] ?? NO_LINE } };
}

/** In place of the line a tease announces, where the clock has none. */
const NO_LINE = 'none';

function textOf(line: TextLine | ClockLine, among: readonly ClockLine[]): string {
  const { id, ...rest } = line as ClockLine;
  void id;
  if (rest.kind === 'tease' && rest.target.to === 'line') {
    const { lineId } = rest.target;
    return textOf({ ...rest, target: { to: 'place', place: among.findIndex((one) => one.id === lineId) + 1 } }, among);
  }
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
