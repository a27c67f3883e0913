import type { TextLayout } from '../formats/layouts/layout.js';
import { OUTPUT_ENCODINGS, type OutputEncoding } from '../formats/encodings.js';

/** The formats of a player's files; `text` is written by a layout. */
export const OUTPUT_FORMATS = ['m3u8', 'm3u', 'pls', 'xspf', 'csv', 'json', 'text'] as const;
export type OutputFormat = (typeof OUTPUT_FORMATS)[number];

/** How file names of a format end. */
export const FORMAT_ENDINGS: Readonly<Record<OutputFormat, string>> = {
  m3u8: '.m3u8',
  m3u: '.m3u',
  pls: '.pls',
  xspf: '.xspf',
  csv: '.csv',
  json: '.json',
  text: '.txt',
};

const ALWAYS_UTF8: ReadonlySet<OutputFormat> = new Set(['m3u8', 'xspf', 'json']);

/** The encodings a format may be written in, the usual one first. */
export function encodingsOf(format: OutputFormat): readonly OutputEncoding[] {
  if (ALWAYS_UTF8.has(format)) return ['utf-8'];
  if (format === 'm3u') return ['windows-1252', ...OUTPUT_ENCODINGS.filter((one) => one !== 'windows-1252')];
  return OUTPUT_ENCODINGS;
}

/** Layout of the text that is written where none is chosen. */
export const PLAIN_LAYOUT: TextLayout = {
  format: 'fuller-layout',
  version: 1,
  name: 'Plain text log',
  encoding: 'auto',
  delimiter: null,
  columns: [
    { means: 'time', from: 1, length: 8 },
    { means: 'cart', from: 11, length: 10 },
    { means: 'length', from: 22, length: 8 },
    { means: 'kind', from: 31, length: 15 },
    { means: 'artist', from: 47, length: 30 },
    { means: 'title', from: 78, length: 40 },
    { means: 'file', from: 119, length: null },
  ],
  times: 'clock',
  lengths: 'seconds',
  dayFirst: true,
  hourHeading: null,
  comments: ['#'],
  skipFirst: 0,
  writing: { time: 'hh:mm:ss', length: 'm:ss', header: ['# {stationName}  {date}'], footer: [] },
};
