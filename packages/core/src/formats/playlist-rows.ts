import { XMLParser } from 'fast-xml-parser';
import { readCsv, type CsvRow, type CsvTable } from './csv.js';
import type { Delimiter } from './delimiters.js';

/** What an imported text turns out to be; a table has a delimiter, the others name their own columns. */
export const TEXT_FORMATS = ['table', 'm3u', 'pls', 'xspf', 'json'] as const;
export type TextFormat = (typeof TEXT_FORMATS)[number];

const AUDIO_PATH = /\.(?:wav|mp3|flac|ogg|oga|opus|m4a|mp4|aac|aif|aiff)$/i;
const HEADER = ['file', 'artist', 'title', 'album', 'duration'];
const MOST_ENTRIES = 1_000_000;

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

/** The rows of a text in any of the formats; all but tables begin with a row that names the columns. */
export function readRows(text: string, format: TextFormat, delimiter: Delimiter): CsvTable {
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
      return readCsv(text, delimiter);
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
}

function table(entries: readonly Entry[]): CsvTable {
  const rows = entries.map(({ line, file, artist = '', title = '', album = '', duration = '' }): CsvRow => {
    return { line, cells: [file, artist, title || nameOf(file), album, duration] };
  });
  return { ok: true, rows: [{ line: 1, cells: HEADER }, ...rows] };
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

/** A path as it is kept: `file:` URLs become paths, whatever cannot be decoded stays as it is. */
function pathOf(location: string): string {
  if (!/^file:/i.test(location)) return location;
  const path = location.replace(/^file:(?:\/\/[^/]*)?/i, '');
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
  text.split(/\r\n|\n|\r/).forEach((raw, index) => {
    const line = raw.trim();
    const info = /^#EXTINF:\s*(-?[\d.]+)?[^,]*,(.*)$/i.exec(line);
    if (info) about = { ...artistAndTitle(info[2]!), duration: secondsText(info[1] ?? '') };
    else if (/^#EXTALB:/i.test(line)) album = line.slice(8).trim();
    else if (line !== '' && !line.startsWith('#')) {
      entries.push({ line: index + 1, file: pathOf(line), album, ...about });
      about = {};
      album = '';
    }
  });
  return table(entries);
}

function plsRows(text: string): CsvTable {
  const found = new Map<number, { line: number; file?: string; title?: string; length?: string }>();
  text.split(/\r\n|\n|\r/).forEach((raw, index) => {
    const match = /^\s*(File|Title|Length)(\d{1,7})\s*=(.*)$/i.exec(raw);
    if (!match || Number(match[2]) > MOST_ENTRIES) return;
    const entry = found.get(Number(match[2])) ?? { line: index + 1 };
    entry[match[1]!.toLowerCase() as 'file' | 'title' | 'length'] = match[3]!.trim();
    found.set(Number(match[2]), entry);
  });
  const entries = [...found]
    .sort((a, b) => a[0] - b[0])
    .flatMap(([, { line, file, title, length }]): Entry[] => {
      if (!file) return [];
      return [{ line, file: pathOf(file), ...artistAndTitle(title ?? ''), duration: secondsText(length ?? '') }];
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
    isArray: (name) => name === 'track' || name === 'location',
  });
  let read: { playlist?: { trackList?: { track?: unknown[] } | string } };
  try {
    read = parser.parse(text, true) as typeof read;
  } catch (error) {
    const line = Number(/:(\d+):\d+$/.exec(String((error as Error).message))?.[1] ?? 1);
    return { ok: false, line, why: `The file is not well-formed XML: ${(error as Error).message}` };
  }
  const list = read.playlist?.trackList;
  if (list === undefined)
    return { ok: false, line: 1, why: 'The file is XML, but not an XSPF playlist: it has no trackList.' };
  const tracks = typeof list === 'object' ? (list.track ?? []) : [];
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
        file: typeof location === 'string' ? pathOf(decoded(location)) : '',
        artist: say('creator'),
        title: say('title'),
        album: say('album'),
        duration: Number(say('duration')) > 0 ? `${Number(say('duration'))} ms` : '',
      };
    }),
  );
}

const ENTITIES: Readonly<Record<string, string>> = { lt: '<', gt: '>', amp: '&', quot: '"', apos: "'" };

/** The five entities of XML and numbered characters; any other stays as written. */
function decoded(text: string): string {
  return text.replace(
    /&(?:#x([0-9a-f]{1,6})|#(\d{1,7})|(lt|gt|amp|quot|apos));/gi,
    (all, hex?: string, number?: string, name?: string) => {
      if (name) return ENTITIES[name.toLowerCase()]!;
      const code = hex ? Number.parseInt(hex, 16) : Number(number);
      return code <= 0x10ffff ? String.fromCodePoint(code) : all;
    },
  );
}

function jsonRows(text: string): CsvTable {
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch (error) {
    const at = Number(/position (\d+)/.exec((error as Error).message)?.[1] ?? 0);
    return {
      ok: false,
      line: text.slice(0, at).split('\n').length,
      why: `The file is not JSON: ${(error as Error).message}`,
    };
  }
  const list = Array.isArray(read) ? read : Object.values(read as object).find((value) => Array.isArray(value));
  if (!Array.isArray(list)) return { ok: false, line: 1, why: 'The file holds no list of items.' };
  const wrong = list.findIndex((one) => typeof one !== 'object' || one === null || Array.isArray(one));
  if (wrong >= 0) return { ok: false, line: 1, why: `Item ${wrong + 1} of the list is not an object with fields.` };
  const columns = [...new Set(list.flatMap((one) => Object.keys(one as object)))];
  const rows = list.map((one, index): CsvRow => {
    return {
      line: index + 1,
      cells: columns.map((column) => cellOf(column, (one as Record<string, unknown>)[column])),
    };
  });
  return { ok: true, rows: [{ line: 1, cells: columns.map((column) => column.replace(/Ms$/, ' ms')) }, ...rows] };
}

function cellOf(column: string, value: unknown): string {
  if (value === null || value === undefined) return '';
  if (Array.isArray(value)) return value.map(String).join(', ');
  if (typeof value === 'object') return JSON.stringify(value);
  return typeof value === 'number' && column.endsWith('Ms')
    ? `${value} ms`
    : String(value as string | number | boolean);
}
