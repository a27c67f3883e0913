import { elementAt, lastOf, lookUpIn } from '../values/look-up.js';
import { XMLParser } from 'fast-xml-parser';
import { readCue } from './playlists/cue.js';
import { CUE_LINE } from './playlists/m3u.js';
import { readCsv, type CsvRow, type CsvTable } from './csv.js';
import type { Delimiter } from './delimiters.js';
import {
  isTooDeep,
  linesOf,
  MOST_COLUMNS,
  MOST_DEPTH,
  MOST_ROWS,
  rowTooLarge,
  TOO_DEEP,
  TOO_MANY_ROWS,
} from './limits.js';

/** What an imported text turns out to be; a table has a delimiter, the others name their own columns. */
export const TEXT_FORMATS = ['table', 'm3u', 'pls', 'xspf', 'json'] as const;
/** A format of text an import can read. */
export type TextFormat = (typeof TEXT_FORMATS)[number];

const AUDIO_PATH = /\.(?:wav|mp3|flac|ogg|oga|opus|m4a|mp4|aac|aif|aiff)$/i;
const HEADER = ['file', 'artist', 'title', 'album', 'duration'];

/** What a text is, by how it begins; a list of nothing but audio files is an M3U without its head line. */
export function detectFormat(text: string): TextFormat {
  const start = text
    .slice(0, 4000)
    .replace(/^\uFEFF/, '')
    .trimStart();
  if (start.startsWith('#EXTM3U')) return 'm3u';
  if (/^\[playlist\]/i.test(start)) return 'pls';
  if (/^<(?:\?xml|!--|playlist)/i.test(start)) return 'xspf';
  if (/^\[\s*[{\]]/.test(start) || /^\{\s*"/.test(start)) return 'json';
  const lines = start
    .split(/\r?\n/)
    .slice(0, 20)
    .filter((line) => line.trim() && !line.startsWith('#'));
  return lines.length > 0 && lines.every((line) => AUDIO_PATH.test(line.trim())) ? 'm3u' : 'table';
}

/** The rows of a text in any of the formats, of a table the first `most`; all but tables begin with a row that names the columns. */
export function readRows(text: string, format: TextFormat, delimiter: Delimiter, most = MOST_ROWS): CsvTable {
  const clean = text.replace(/^\uFEFF/, '');
  switch (format) {
    case 'm3u':
      return m3uRows(clean);
    case 'pls':
      return plsRows(clean);
    case 'xspf':
      return xspfRows(clean);
    case 'json':
      return jsonRows(clean);
    case 'table':
      return readCsv(text, delimiter, most);
  }
}

interface Entry {
  readonly line: number;
  readonly file: string;
  readonly artist?: string;
  readonly title?: string;
  readonly album?: string;
  /** As the importer reads lengths. */
  readonly duration?: string;
  /** As `writeCue` writes it. */
  readonly cue?: string;
}

function table(entries: readonly Entry[]): CsvTable {
  if (entries.length > MOST_ROWS) return refused(1, TOO_MANY_ROWS);
  const withCues = entries.some(({ cue }) => cue);
  const rows = entries.map(({ line, file, artist = '', title = '', album = '', duration = '', cue = '' }): CsvRow => {
    return { line, cells: [file, artist, title || nameOf(file), album, duration, ...(withCues ? [cue] : [])] };
  });
  const wrong = rows.find(({ cells }) => rowTooLarge(cells) !== null);
  if (wrong) return refused(wrong.line, rowTooLarge(wrong.cells)!);
  return { ok: true, rows: [{ line: 1, cells: withCues ? [...HEADER, 'cue'] : HEADER }, ...rows] };
}

function refused(line: number, why: string): CsvTable {
  return { ok: false, line, why };
}

/** The length and the words of an EXTINF line; null for any other. Read by hand: a pattern takes quadratic time on long ones. */
function readExtInf(line: string): { seconds: string; words: string } | null {
  if (!/^#EXTINF:/i.test(line)) return null;
  const comma = line.indexOf(',');
  if (comma < 0) return null;
  const seconds = /^\s*(-?\d{1,9}(?:\.\d{1,9})?)(?![\d.])/.exec(line.slice(8, Math.min(comma, 60)))?.[1] ?? '';
  return { seconds, words: line.slice(comma + 1) };
}

/** A file's name without folders and ending. */
function nameOf(file: string): string {
  return (file.split(/[\\/]/).at(-1) ?? file).replace(/\.[A-Za-z0-9]{1,5}$/, '');
}

/** `Artist - Title` in two; a text without the dash is all title. */
function artistAndTitle(text: string): { artist: string; title: string } {
  const dash = text.indexOf(' - ');
  return dash < 0
    ? { artist: '', title: text.trim() }
    : { artist: text.slice(0, dash).trim(), title: text.slice(dash + 3).trim() };
}

/** Seconds as a length; streams and unknown lengths are written as -1 or 0. */
function secondsText(text: string): string {
  return Number(text) > 0 ? `${Number(text)} s` : '';
}

/** A path as it is kept: `file:` URLs and relative URIs become paths, whatever cannot be decoded stays as it is. */
function pathOf(location: string, writtenAs: 'path' | 'uri' = 'path'): string {
  const isFile = /^file:/i.test(location);
  if (!isFile && (writtenAs === 'path' || /^[a-z][a-z0-9+.-]+:/i.test(location))) return location;
  // A host is a machine of a Windows network.
  const path = location.replace(/^file:\/\/(?:localhost)?(?=\/)/i, '').replace(/^file:/i, '');
  try {
    const decoded = decodeURIComponent(path);
    return /^\/[A-Za-z]:\//.test(decoded) ? decoded.slice(1) : decoded;
  } catch {
    return path;
  }
}

function m3uRows(text: string): CsvTable {
  const entries: Entry[] = [];
  let about: Pick<Entry, 'artist' | 'title' | 'duration'> = {};
  let album = '';
  let cue = '';
  const lines = linesOf(text);
  if (!lines) return refused(1, TOO_MANY_ROWS);
  lines.forEach((raw, index) => {
    const line = raw.trim();
    const info = readExtInf(line);
    if (info) about = { ...artistAndTitle(info.words), duration: secondsText(info.seconds) };
    else if (/^#EXTALB:/i.test(line)) album = line.slice(8).trim();
    else if (line.startsWith(CUE_LINE)) cue = line.slice(CUE_LINE.length);
    else if (line !== '' && !line.startsWith('#')) {
      entries.push({ line: index + 1, file: pathOf(line), album, cue, ...about });
      about = {};
      album = '';
      cue = '';
    }
  });
  return table(entries);
}

function plsRows(text: string): CsvTable {
  const found = new Map<number, { line: number; file?: string; title?: string; length?: string; cue?: string }>();
  const lines = linesOf(text);
  if (!lines) return refused(1, TOO_MANY_ROWS);
  lines.forEach((raw, index) => {
    const match = /^\s*(File|Title|Length|Cue)(\d{1,7})\s*=(.*)$/i.exec(raw);
    if (!match || Number(match[2]) > MOST_ROWS) return;
    const entry = found.get(Number(match[2])) ?? { line: index + 1 };
    entry[elementAt(match, 1).toLowerCase() as 'file' | 'title' | 'length' | 'cue'] = elementAt(match, 3).trim();
    found.set(Number(match[2]), entry);
  });
  const entries = [...found]
    .sort((a, b) => a[0] - b[0])
    .flatMap(([, { line, file, title, length, cue = '' }]): Entry[] => {
      if (!file) return [];
      return [{ line, file: pathOf(file), ...artistAndTitle(title ?? ''), duration: secondsText(length ?? ''), cue }];
    });
  return table(entries);
}

function xspfRows(text: string): CsvTable {
  const parser = new XMLParser({
    ignoreAttributes: true,
    parseTagValue: false,
    removeNSPrefix: true,
    // Entities of a file's own could grow without end.
    processEntities: false,
    isArray: (name) => name === 'track' || name === 'location' || name === 'meta',
  });
  if (isXmlTooDeep(text)) return refused(1, TOO_DEEP);
  let read: { playlist?: { trackList?: { track?: unknown[] } | string } };
  try {
    read = parser.parse(text, true) as typeof read;
  } catch (error) {
    const line = Number(/:(\d+):\d+$/.exec(String((error as Error).message))?.[1] ?? 1);
    return refused(line, 'The file is not well-formed XML.');
  }
  const list = read.playlist?.trackList;
  if (list === undefined)
    return { ok: false, line: 1, why: 'The file is XML, but not an XSPF playlist: it has no trackList.' };
  const tracks = typeof list === 'object' ? (list.track ?? []) : [];
  if (tracks.length > MOST_ROWS) return refused(1, TOO_MANY_ROWS);
  return table(
    tracks.map((track, index): Entry => {
      const fields = (typeof track === 'object' ? track : {}) as Record<string, unknown>;
      const say = (name: string): string => {
        const value = fields[name];
        return typeof value === 'string' ? decoded(value) : '';
      };
      const [location] = (fields['location'] as unknown[] | undefined) ?? [];
      return {
        line: index + 2,
        file: typeof location === 'string' ? pathOf(decoded(location), 'uri') : '',
        artist: say('creator'),
        title: say('title'),
        album: say('album'),
        cue: cueOf(fields['meta']),
        duration: Number(say('duration')) > 0 ? `${Number(say('duration'))} ms` : '',
      };
    }),
  );
}

/** The cue among the meta elements of a track; empty without one. */
function cueOf(metas: unknown): string {
  const texts = Array.isArray(metas) ? metas.flatMap((one) => (typeof one === 'string' ? [decoded(one)] : [])) : [];
  return texts.find((text) => readCue(text) !== null) ?? '';
}

const ENTITIES: Readonly<Record<string, string>> = { lt: '<', gt: '>', amp: '&', quot: '"', apos: "'" };

/** The five entities of XML and numbered characters; any other stays as written. */
function decoded(text: string): string {
  return text.replace(
    /&(?:#x([0-9a-f]{1,6})|#(\d{1,7})|(lt|gt|amp|quot|apos));/gi,
    (all, hex?: string, number?: string, name?: string) => {
      if (name) return lookUpIn(ENTITIES, name.toLowerCase());
      const code = hex ? Number.parseInt(hex, 16) : Number(number);
      return code <= 0x10ffff ? String.fromCodePoint(code) : all;
    },
  );
}

/** Whether elements stand too deep in each other. */
function isXmlTooDeep(text: string): boolean {
  let depth = 0;
  for (let at = text.indexOf('<'); at >= 0; at = text.indexOf('<', at + 1)) {
    const next = text[at + 1];
    if (next === '/') depth--;
    else if (next !== '!' && next !== '?') {
      const end = text.indexOf('>', at);
      if (end < 0) return false;
      if (text[end - 1] !== '/' && ++depth > MOST_DEPTH) return true;
    }
  }
  return false;
}

function jsonRows(text: string): CsvTable {
  if (isTooDeep(text)) return refused(1, TOO_DEEP);
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch (error) {
    const at = Number(/position (\d+)/.exec((error as Error).message)?.[1] ?? text.length);
    const before = text.slice(0, at).split('\n');
    return refused(before.length, `The file is not JSON: something is wrong at column ${lastOf(before).length + 1}.`);
  }
  const list = Array.isArray(read) ? read : Object.values(read as object).find((value) => Array.isArray(value));
  if (!Array.isArray(list)) return { ok: false, line: 1, why: 'The file holds no list of items.' };
  const wrong = list.findIndex((one) => typeof one !== 'object' || one === null || Array.isArray(one));
  if (wrong >= 0) return { ok: false, line: 1, why: `Item ${wrong + 1} of the list is not an object with fields.` };
  if (list.length > MOST_ROWS) return refused(1, TOO_MANY_ROWS);
  const columns = columnsOf(list as object[]);
  if (!columns) return refused(1, `The items of the file have more than ${MOST_COLUMNS} different fields.`);
  const rows = list.map((one, index): CsvRow => {
    return {
      line: index + 1,
      cells: columns.map((column) => cellOf(column, (one as Record<string, unknown>)[column])),
    };
  });
  const large = rows.find(({ cells }) => rowTooLarge(cells) !== null);
  if (large) return refused(large.line, rowTooLarge(large.cells)!);
  return { ok: true, rows: [{ line: 1, cells: columns.map((column) => column.replace(/Ms$/, ' ms')) }, ...rows] };
}

/** The fields of some objects in the order they come; null when there are too many. */
function columnsOf(list: readonly object[]): string[] | null {
  const columns = new Set<string>();
  for (const one of list) {
    for (const key of Object.keys(one)) columns.add(key);
    if (columns.size > MOST_COLUMNS) return null;
  }
  return [...columns];
}

function cellOf(column: string, value: unknown): string {
  if (value === null || value === undefined) return '';
  if (Array.isArray(value)) return value.map(String).join(', ');
  if (typeof value === 'object') return JSON.stringify(value);
  return typeof value === 'number' && column.endsWith('Ms')
    ? `${value} ms`
    : String(value as string | number | boolean);
}
