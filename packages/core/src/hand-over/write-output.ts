import { checkLayout, type TextLayout } from '../formats/layouts/layout.js';
import { writeTextLog } from '../formats/layouts/write-text-log.js';
import { writeLogCsv, writeLogJson } from '../formats/playlists/log-tables.js';
import { writeM3u } from '../formats/playlists/m3u.js';
import type { PlaylistAbout, PlayerRow } from '../formats/playlists/player-row.js';
import { writePls } from '../formats/playlists/pls.js';
import { writeXspf } from '../formats/playlists/xspf.js';
import { PLAIN_LAYOUT, type OutputFormat } from './output-format.js';

/** The rows of a file in a format, and how many values a layout had to cut. */
export function writeFile(
  rows: readonly PlayerRow[],
  format: OutputFormat,
  layout: TextLayout | null,
  about: PlaylistAbout,
  named: (line: string) => string,
): { readonly text: string; readonly cut: number } {
  const whole = (text: string): { text: string; cut: number } => ({ text, cut: 0 });
  switch (format) {
    case 'm3u8':
    case 'm3u':
      return whole(writeM3u(rows));
    case 'pls':
      return whole(writePls(rows));
    case 'xspf':
      return whole(writeXspf(rows, about));
    case 'csv':
      return whole(writeLogCsv(rows, about));
    case 'json':
      return whole(writeLogJson(rows, about));
    case 'text':
      return writeTextLog(rows, layout ?? PLAIN_LAYOUT, about, named);
  }
}

/** What is wrong with a layout that is to write; null where nothing is. */
export function layoutFault(layout: TextLayout): string | null {
  const checked = checkLayout(layout);
  if (!checked.ok) return checked.why;
  const sorted = [...layout.columns].sort((a, b) => a.from - b.from);
  const clash = sorted.find(({ from, length }, n) => {
    const next = sorted[n + 1];
    if (!next) return false;
    return layout.delimiter === null ? from + (length ?? 0) > next.from : from === next.from;
  });
  return clash ? `The column for the ${clash.means} overlaps the next one.` : null;
}
