import { readFile, stat } from 'node:fs/promises';
import path from 'node:path';
import type { ImportSettings } from '@fuller/contracts';
import {
  albumDoubles,
  artistDoubles,
  clustersOf,
  detectDelimiter,
  detectFormat,
  guessMapping,
  looksLikeHeader,
  readRows,
  readRow,
  songDoubles,
  type CsvRow,
  type Delimiter,
  type ItemDraft,
  type KnownAlbum,
  type KnownArtist,
  type KnownFamily,
  type KnownSong,
  type RowError,
  type TextEncoding,
  type TextFormat,
} from '@fuller/core';
import { decodeText } from '@fuller/core/decode-text';
import { parseFile } from 'music-metadata';
import { FullerError } from '../errors.js';
import { rollOnce } from '@fuller/core';
import { tryDay } from '../begin/try-day.js';
import { forecastWeek } from '../insight/forecast-task.js';
import { generateStationDay, type GenerateStationDay } from './generate-task.js';

const PREVIEW_ROWS = 8;

export interface SniffedTable {
  readonly format: TextFormat;
  readonly settings: ImportSettings;
  readonly columns: readonly string[];
  readonly preview: readonly (readonly string[])[];
}

export interface DraftedRows {
  readonly read: number;
  readonly drafts: readonly ItemDraft[];
  readonly rejected: readonly RowError[];
}

/** What a table looks like: its encoding, delimiter, headings and first rows, or as told by settings. */
async function sniffTable(
  file: string,
  asked: Partial<ImportSettings>,
  families: readonly string[] = [],
): Promise<SniffedTable> {
  const decoded = await decodeFile(file, asked.encoding);
  const format = detectFormat(decoded.text);
  const delimiter = asked.delimiter ?? (format === 'table' ? detectDelimiter(decoded.text) : ',');
  const rows = tableRows(decoded.text, format, delimiter, PREVIEW_ROWS + 1);
  const first = rows[0]?.cells ?? [];
  const header = format !== 'table' || (asked.header ?? looksLikeHeader(first));
  const columns = header ? [...first] : first.map((_, index) => `Column ${index + 1}`);
  const fits = asked.mapping?.length === columns.length;
  return {
    format,
    settings: {
      encoding: decoded.encoding,
      delimiter,
      header,
      mapping: fits ? asked.mapping! : [...(header ? guessMapping(first, families) : columns.map(() => null))],
    },
    columns,
    preview: rows.slice(header ? 1 : 0, PREVIEW_ROWS + (header ? 1 : 0)).map((row) => [...row.cells]),
  };
}

/** Reads every row of a table under the settings; faults are told row by row. */
async function readTable(
  file: string,
  settings: ImportSettings,
  latestYear: number,
  families: readonly KnownFamily[],
): Promise<DraftedRows> {
  const { text } = await decodeFile(file, settings.encoding);
  const rows = tableRows(text, detectFormat(text), settings.delimiter).slice(settings.header ? 1 : 0);
  const drafts: ItemDraft[] = [];
  const rejected: RowError[] = [];
  for (const { line, cells } of rows) {
    const read = readRow(line, cells, settings.mapping, latestYear, families);
    if ('draft' in read) drafts.push(read.draft);
    else rejected.push(...read.errors);
  }
  return { read: rows.length, drafts, rejected };
}

async function decodeFile(file: string, encoding?: TextEncoding): Promise<{ text: string; encoding: TextEncoding }> {
  const decoded = decodeText(await readFile(file), encoding);
  if (!decoded.ok) throw new FullerError('NOT_A_TEXT', decoded.why);
  return decoded;
}

function tableRows(text: string, format: TextFormat, delimiter: Delimiter, most?: number): readonly CsvRow[] {
  const table = readRows(text, format, delimiter, most);
  if (!table.ok) throw new FullerError('NOT_A_TEXT', `Line ${table.line}: ${table.why}`);
  if (format !== 'table' && table.rows.length === 1)
    throw new FullerError('NOT_A_TEXT', 'The list in the file is empty.');
  if (table.rows.length === 0) throw new FullerError('NOT_A_TEXT', 'The file has no rows.');
  return table.rows;
}

/** Reads the tags of audio files; `first` is the place of the first of them in the whole folder, from 1. */
async function readAudio(files: readonly { absolute: string; stored: string }[], first: number): Promise<DraftedRows> {
  const drafts: ItemDraft[] = [];
  const rejected: RowError[] = [];
  for (const [index, { absolute, stored }] of files.entries()) {
    const row = first + index;
    try {
      if (!(await stat(absolute)).isFile()) throw new Error('it is no regular file');
      const { common, format } = await withinTime(parseFile(absolute, { duration: true, skipCovers: true }));
      const durationMs = Math.round((format.duration ?? 0) * 1000);
      if (durationMs <= 0) {
        rejected.push({ row, column: stored, why: 'has no length; is it a whole audio file?' });
        continue;
      }
      drafts.push({
        row,
        title: common.title?.trim() || path.basename(stored, path.extname(stored)),
        artist: common.artist?.trim() ?? null,
        album: common.album?.trim() ?? null,
        year: common.year ?? null,
        durationMs,
        introMs: null,
        outroMs: null,
        cart: null,
        file: stored,
        category: null,
        kind: null,
        isrc: common.isrc?.[0] ?? null,
        label: common.label?.[0] ?? null,
        notes: null,
        startDate: null,
        endDate: null,
        tags: {},
      });
    } catch (error) {
      rejected.push({
        row,
        column: stored,
        why: `cannot be read as audio: ${error instanceof Error ? error.message : String(error)}`,
      });
    }
  }
  return { read: files.length, drafts, rejected };
}

/** One file may take so long to read. */
const FILE_MS = 20_000;

function withinTime<T>(work: Promise<T>): Promise<T> {
  let timer: NodeJS.Timeout;
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new Error(`it takes longer than ${FILE_MS / 1000} s to read`)), FILE_MS);
  });
  return Promise.race([work, late]).finally(() => clearTimeout(timer));
}

/** What workers can be asked to do. */
export const tasks = {
  generateStationDay: async (one: GenerateStationDay) => generateStationDay(one),
  tryDay: async (...asked: Parameters<typeof tryDay>) => tryDay(...asked),
  forecastWeek: async (...asked: Parameters<typeof forecastWeek>) => forecastWeek(...asked),
  rollQueue: async (...asked: Parameters<typeof rollOnce>) => rollOnce(...asked),
  sniffTable,
  readTable,
  readAudio,
  findDoubles: async (artists: readonly KnownArtist[], songs: readonly KnownSong[], albums: readonly KnownAlbum[]) => ({
    albums: clustersOf(albumDoubles(albums)),
    artists: clustersOf(artistDoubles(artists)),
    songs: clustersOf(songDoubles(songs)),
  }),
};
export type Tasks = typeof tasks;
