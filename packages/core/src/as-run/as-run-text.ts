import { writeTextLog } from '../formats/layouts/write-text-log.js';
import type { TextLayout } from '../formats/layouts/layout.js';
import type { PlaylistAbout } from '../formats/playlists/player-row.js';
import type { AsRun } from './as-run.js';

/** Layout of the as-run log that the playout stand-in writes. */
export const AS_RUN_LAYOUT: TextLayout = {
  format: 'fuller-layout',
  version: 1,
  name: 'As-run log',
  encoding: 'auto',
  delimiter: null,
  columns: [
    { means: 'time', from: 1, length: 8 },
    { means: 'length', from: 11, length: 9 },
    { means: 'cart', from: 21, length: 10 },
    { means: 'kind', from: 32, length: 15 },
    { means: 'artist', from: 48, length: 40 },
    { means: 'title', from: 89, length: null },
  ],
  times: 'clock',
  lengths: 'seconds',
  dayFirst: true,
  hourHeading: null,
  comments: ['#'],
  skipFirst: 0,
  writing: { time: 'hh:mm:ss', length: 'm:ss.SSS', header: [], footer: [] },
};

/** An as-run log as text: a line for each play, and a comment for what did not play. */
export function writeAsRunText({ rows, missed }: AsRun, about: PlaylistAbout): string {
  const played = rows.map(({ startMs, endMs, kind, artist, title, cart, file }) => {
    return {
      startMs,
      durationMs: endMs - startMs,
      kind,
      artist,
      title,
      cart,
      file,
      album: '',
      sponsor: '',
      product: '',
    };
  });
  const { text } = writeTextLog(played, AS_RUN_LAYOUT, about);
  const lost = missed.map(({ title, why }) => `# not played: ${title.replace(/\s+/g, ' ')} (${why})`);
  return [`# AS RUN  ${about.station}  ${about.date}`, text.trimEnd(), ...lost, ''].join('\n');
}
