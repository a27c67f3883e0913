import { writeCue } from './cue.js';
import { creditOf, oneLine, type PlayerRow } from './player-row.js';

/** Begins the line before a row that tells its cue; other players take it for a comment. */
export const CUE_LINE = '#FULLER-CUE:';

/** An extended M3U playlist; written in UTF-8 it is an M3U8. EXTINF lengths are whole seconds. */
export function writeM3u(rows: readonly PlayerRow[]): string {
  const lines = rows.flatMap((row) => [
    ...(row.cue ? [`${CUE_LINE}${writeCue(row.cue)}`] : []),
    `#EXTINF:${Math.round(row.durationMs / 1000)},${creditOf(row)}`,
    asPlace(oneLine(row.file)),
  ]);
  return ['#EXTM3U', ...lines, ''].join('\n');
}

/** A path that begins like a comment is written from its folder. */
function asPlace(file: string): string {
  return file.startsWith('#') ? `./${file}` : file;
}
