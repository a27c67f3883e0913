/** One line of a playlist. */
export interface PlaylistEntry {
  readonly file: string;
  readonly artist: string;
  readonly title: string;
  readonly durationMs: number;
}

/** An extended M3U playlist; written in UTF-8 it is an M3U8. EXTINF lengths are whole seconds. */
export function writeM3u(entries: readonly PlaylistEntry[]): string {
  const lines = entries.flatMap(({ file, artist, title, durationMs }) => [
    `#EXTINF:${Math.round(durationMs / 1000)},${oneLine(artist ? `${artist} - ${title}` : title)}`,
    oneLine(file),
  ]);
  return ['#EXTM3U', ...lines, ''].join('\n');
}

function oneLine(text: string): string {
  return text.replace(/[\r\n]+/g, ' ').trim();
}
