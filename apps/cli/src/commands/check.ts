import { readFile, stat } from 'node:fs/promises';
import path from 'node:path';
import type { LimitCheck } from '@fuller/contracts';
import {
  detectDelimiter,
  detectFormat,
  elementAt,
  limitReport,
  playlistSongs,
  readRows,
  type LimitReport,
  type PlaylistSong,
} from '@fuller/core';
import { decodeText } from '@fuller/core/decode-text';
import { Command, Option } from 'commander';
import { EXIT } from '../exit.js';
import { printJson, UsageError } from '../output.js';

interface Options {
  readonly pack: 'web-radio';
  readonly strict: boolean;
  readonly exempt?: readonly string[];
  readonly data?: string;
  readonly station?: string;
  readonly date?: string;
  readonly days: string;
  readonly json: boolean;
}

/** What is printed of a check. */
type Checked = LimitReport & Pick<LimitCheck, 'songs' | 'withoutLength' | 'withoutAlbum'>;

export function checkCommand(): Command {
  return new Command('check')
    .description('Check a playlist file, or logs of a data folder, against the statutory limits of web radio')
    .argument('[file]', 'playlist: CSV, M3U, PLS, XSPF or JSON')
    .addOption(new Option('--pack <pack>', 'which limits').choices(['web-radio']).default('web-radio'))
    .option('--strict', 'the stricter variant: 2 of an album, 3 of an artist or a set', false)
    .option('--exempt <album...>', 'albums that do not count, by name')
    .option('--data <dir>', 'data folder whose library tells what the file does not')
    .option('--station <station>', 'station; the first one otherwise')
    .option('--date <date>', 'check the log of this day instead of a file')
    .option('--days <number>', 'so many days from that day', '1')
    .option('--json', 'answer as JSON', false)
    .action(check);
}

async function check(file: string | undefined, options: Options): Promise<void> {
  if (file === undefined && options.date === undefined)
    throw new UsageError('name a file to check, or a day with --data and --date');
  if (file !== undefined && options.date !== undefined) throw new UsageError('name a file or a day, not both');
  if (options.date !== undefined && options.data === undefined) throw new UsageError('--date needs --data');
  const checked =
    options.data === undefined ? await checkAlone(file!, options) : await checkWithData(file, options, options.data);
  if (!checked.pass) process.exitCode = EXIT.checkFailed;
  if (options.json) {
    const { pass, pack, strict, entries, violations, mend } = checked;
    printJson({ pass, pack, strict, entries, violations, mend });
  } else process.stdout.write(inWords(checked, file ?? options.date!));
}

async function bytesOf(file: string): Promise<Buffer> {
  return readFile(file).catch((error: NodeJS.ErrnoException) => {
    throw new UsageError(`${file}: ${error.code === 'ENOENT' ? 'there is no such file' : error.message}`);
  });
}

/** Checks a file by what it tells itself and by the tags of the audio it names. */
async function checkAlone(file: string, { strict, exempt = [] }: Options): Promise<Checked> {
  const decoded = decodeText(await bytesOf(file));
  if (!decoded.ok) throw new UsageError(`${file}: ${decoded.why}`);
  const read = playlistSongs(readRows(decoded.text, detectFormat(decoded.text), detectDelimiter(decoded.text)));
  if (!read.ok)
    throw new UsageError(`${file}: line ${read.line}${read.column ? `, column ${read.column}` : ''}: ${read.why}`);
  const songs = await withOwnTags(read.songs, path.dirname(file));
  const { report } = limitReport(songs, { strict, exemptAlbums: exempt });
  const named = new Set(report.violations.flatMap(({ positions }) => positions));
  return {
    ...report,
    songs: songs.filter(({ position }) => named.has(position)).map((song) => ({ ...song, start: song.startText })),
    withoutLength: read.withoutLength,
    withoutAlbum: songs.filter(({ album }) => album === '').length,
  };
}

/** Songs completed by the tags of their files, as far as these are there. */
async function withOwnTags(songs: readonly PlaylistSong[], folder: string): Promise<readonly PlaylistSong[]> {
  const wanted: { readonly at: number; readonly absolute: string }[] = [];
  for (const [at, { file, album, artist }] of songs.entries()) {
    if (file === '' || (album !== '' && artist !== '') || /^[a-z]+:\/\//i.test(file)) continue;
    const absolute = path.resolve(folder, file);
    if (
      await stat(absolute).then(
        (found) => found.isFile(),
        () => false,
      )
    )
      wanted.push({ at, absolute });
  }
  if (wanted.length === 0) return songs;
  // The reader of tags is loaded only where there is something to read.
  const { inlineCompute } = await import('@fuller/server');
  const completed = [...songs];
  const files = wanted.map(({ at, absolute }) => ({ absolute, stored: String(at) }));
  const { drafts } = await inlineCompute.run('readAudio', [files, 1], new AbortController().signal);
  for (const draft of drafts) {
    const at = Number(draft.file);
    const song = elementAt(completed, at);
    completed[at] = {
      ...song,
      artist: song.artist || (draft.artist ?? ''),
      album: song.album || (draft.album ?? ''),
      title: song.title || (draft.title ?? ''),
    };
  }
  return completed;
}

async function checkWithData(file: string | undefined, options: Options, dataDir: string): Promise<Checked> {
  const { dateArgument, stationOf, wholeNumber, withData } = await import('../data.js');
  const { strict, exempt = [] } = options;
  if (exempt.length > 0)
    throw new UsageError('with --data the albums that do not count are those of the station; set them in Fuller');
  const days = wholeNumber(1, 31)(options.days);
  const bytes = file === undefined ? null : await bytesOf(file);
  const date = options.date === undefined ? null : dateArgument(options.date);
  return withData<LimitCheck>(dataDir, {
    async here(services) {
      const { id } = await stationOf(services, options.station);
      return bytes ? services.limits.checkFile(id, bytes, strict) : services.limits.checkDays(id, date!, days, strict);
    },
    async through(server) {
      const { id } = await stationOf(server, options.station);
      const where = `stations/${id}/limits/check`;
      return bytes
        ? server.send<LimitCheck>('POST', where, { name: file, content: bytes.toString('base64'), strict })
        : server.get<LimitCheck>(`${where}?from=${date}&days=${days}&strict=${strict}`);
    },
  });
}

const WORDS: Readonly<Record<string, (count: number) => string>> = {
  'album-3-in-3h': (count) => `${count} songs of one album in three hours`,
  'album-2-in-a-row': (count) => `${count} songs of one album in a row`,
  'artist-4-in-3h': (count) => `${count} songs by one artist in three hours`,
  'artist-3-in-a-row': (count) => `${count} songs by one artist in a row`,
  'set-4-in-3h': (count) => `${count} songs of one set in three hours`,
  'set-3-in-a-row': (count) => `${count} songs of one set in a row`,
};

function inWords(
  { pass, entries, strict, violations, mend, songs, withoutLength, withoutAlbum }: Checked,
  what: string,
): string {
  const known = new Map(songs.map((song) => [song.position, song]));
  const lines = violations.flatMap(({ limit, value, positions, start, count, allowed }) => [
    `${start}  ${value}: ${WORDS[limit]?.(count) ?? limit}, ${allowed} allowed`,
    ...positions.map((position) => {
      const song = known.get(position);
      return `    ${String(position).padStart(5)}  ${song?.start ?? ''}  ${[song?.artist, song?.title].filter(Boolean).join(' - ')}`;
    }),
  ]);
  return [
    `${what}: ${pass ? 'pass' : 'FAIL'}, ${entries} songs${strict ? ', stricter variant' : ''}`,
    ...lines,
    ...(pass ? [] : [`Without position ${mend.remove.join(', ')} it passes.`]),
    ...(withoutLength ? [`${withoutLength} songs without a length were taken to be 3:30.`] : []),
    ...(withoutAlbum ? [`${withoutAlbum} songs without an album count towards the limits on artists alone.`] : []),
    '',
  ].join('\n');
}
