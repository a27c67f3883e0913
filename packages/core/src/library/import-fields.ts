import { foldText } from '../text/fold.js';

/** What a column of an imported table may mean. */
export const IMPORT_FIELDS = [
  'title',
  'artist',
  'album',
  'year',
  'duration',
  'intro',
  'outro',
  'cart',
  'file',
  'category',
  'kind',
  'isrc',
  'label',
  'notes',
  'startDate',
  'endDate',
] as const;
/** What a column of an import can mean. */
export type ImportField = (typeof IMPORT_FIELDS)[number];
/** A column of values of a tag family. */
export type TagColumn = `tag:${string}`;

/** The meaning of each column; null for a column that is skipped. */
export type ColumnMapping = readonly (ImportField | TagColumn | null)[];

const COLUMN_WORDS: Readonly<Record<ImportField, readonly string[]>> = {
  title: ['title', 'song', 'song title', 'name', 'track', 'track title'],
  artist: ['artist', 'artists', 'performer', 'act', 'interpreter'],
  album: ['album', 'record', 'release', 'album title'],
  year: ['year', 'released', 'release year', 'date released'],
  duration: ['duration', 'length', 'time', 'runtime', 'duration ms', 'length ms', 'seconds'],
  intro: ['intro', 'intro time', 'ramp'],
  outro: ['outro', 'outro time'],
  cart: ['cart', 'cart number', 'cart id', 'number', 'id'],
  file: ['file', 'filename', 'file name', 'path', 'location'],
  category: ['category', 'rotation', 'group'],
  kind: ['kind', 'type', 'item kind'],
  isrc: ['isrc'],
  label: ['label', 'record label', 'publisher'],
  notes: ['notes', 'note', 'comment', 'comments', 'remarks'],
  startDate: ['start', 'start date', 'on air from', 'from'],
  endDate: ['end', 'end date', 'on air until', 'until'],
};

/** The family a column is of; null when it is of none. */
export function familyOfColumn(meaning: string | null): string | null {
  return meaning?.startsWith('tag:') ? meaning.slice(4) : null;
}

/** The likely meaning of each heading, tag families by their names; a meaning is given to the first heading that fits. */
export function guessMapping(header: readonly string[], families: readonly string[] = []): ColumnMapping {
  const taken = new Set<string>();
  return header.map((heading) => {
    const words = foldText(heading)
      .replace(/[_().-]+/g, ' ')
      .trim();
    const field = IMPORT_FIELDS.find((candidate) => COLUMN_WORDS[candidate].includes(words) && !taken.has(candidate));
    const family = families.find((name) => foldText(name) === words);
    const meaning = field ?? (family === undefined ? null : (`tag:${family}` as const));
    if (meaning === null || taken.has(meaning)) return null;
    taken.add(meaning);
    return meaning;
  });
}

/** True when a first row looks like headings: at least two of its cells name a field. */
export function looksLikeHeader(cells: readonly string[]): boolean {
  return guessMapping(cells).filter((field) => field !== null).length >= 2;
}
