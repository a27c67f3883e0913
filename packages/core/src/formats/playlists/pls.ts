import { writeCue } from './cue.js';
import { creditOf, oneLine, type PlayerRow } from './player-row.js';

/** A PLS playlist, version 2. Lengths are whole seconds. */
export function writePls(rows: readonly PlayerRow[]): string {
  const lines = rows.flatMap((row, n) => [
    `File${n + 1}=${oneLine(row.file)}`,
    `Title${n + 1}=${creditOf(row)}`,
    `Length${n + 1}=${Math.round(row.durationMs / 1000)}`,
    ...(row.cue ? [`Cue${n + 1}=${writeCue(row.cue)}`] : []),
  ]);
  return ['[playlist]', ...lines, `NumberOfEntries=${rows.length}`, 'Version=2', ''].join('\n');
}
