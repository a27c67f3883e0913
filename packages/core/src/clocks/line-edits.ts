import { lookUp } from '../values/look-up.js';
import type { ClockLine } from './line.js';

type Lines = readonly ClockLine[];

/** The lines with others put in before the given place (0 to length; beyond is the end). */
export function insertLines(lines: Lines, at: number, added: Lines): Lines {
  if (added.length === 0) return lines;
  const place = Math.max(0, Math.min(at, lines.length));
  return [...lines.slice(0, place), ...added, ...lines.slice(place)];
}

/** The lines without those of the given ids. */
export function removeLines(lines: Lines, ids: ReadonlySet<string>): Lines {
  const kept = lines.filter((line) => !ids.has(line.id));
  return kept.length === lines.length ? lines : kept;
}

/**
 * The lines with those of the given ids moved, in their order, to stand before the line now at
 * `before` (0 to length). The same array when nothing moves.
 */
export function moveLines(lines: Lines, ids: ReadonlySet<string>, before: number): Lines {
  const moved = lines.filter((line) => ids.has(line.id));
  if (moved.length === 0) return lines;
  const place = lines.slice(0, before).filter((line) => !ids.has(line.id)).length;
  const result = insertLines(removeLines(lines, ids), place, moved);
  return result.every((line, index) => line === lines[index]) ? lines : result;
}

/** Copies of lines with new ids, ready to be put into any clock. */
export function copyLines(lines: Lines, newId: () => string): ClockLine[] {
  const ids = new Map(lines.map(({ id }) => [id, newId()]));
  return lines.map((line): ClockLine => {
    const copy = { ...line, id: lookUp(ids, line.id) };
    if (copy.kind !== 'tease' || copy.target.to !== 'line') return copy;
    // A tease copied with what it announces announces the copy.
    return { ...copy, target: { to: 'line', lineId: ids.get(copy.target.lineId) ?? copy.target.lineId } };
  });
}

/** The lines with one replaced by another of the same id. */
export function replaceLine(lines: Lines, line: ClockLine): Lines {
  return lines.map((other) => (other.id === line.id ? line : other));
}
