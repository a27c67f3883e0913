import type { Axis } from './axes.js';
import { freeCode, rangeName, type ProposedCategory } from './propose-categories.js';

type Parts = readonly ProposedCategory[];

/** Moves the border after a part to another place between values; every part keeps one value at least. */
export function moveBorder(parts: Parts, after: number, place: number): Parts {
  const [left, right] = [parts[after], parts[after + 1]];
  if (!left || !right) return parts;
  const to = Math.max(left.from + 1, Math.min(right.to - 1, place));
  return parts.map((part, n) => (n === after ? { ...part, to } : n === after + 1 ? { ...part, from: to } : part));
}

/** Cuts a part in two near its middle; the second is named by its values. A part of one value stays whole. */
export function splitPart(parts: Parts, n: number, values: Axis['values']): Parts {
  const part = parts[n];
  if (!part || part.to - part.from < 2) return parts;
  const middle = Math.ceil((part.from + part.to) / 2);
  const name = rangeName(values, middle, part.to);
  const code = freeCode(name, new Set(parts.map((one) => one.code)));
  return [
    ...parts.slice(0, n),
    { ...part, to: middle },
    { name, code, from: middle, to: part.to },
    ...parts.slice(n + 1),
  ];
}

/** Joins a part to the one before it. */
export function joinPart(parts: Parts, n: number): Parts {
  const part = parts[n];
  if (!part || n === 0) return parts;
  return parts.map((one, at) => (at === n - 1 ? { ...one, to: part.to } : one)).filter((_, at) => at !== n);
}
