import { elementAt } from '../values/look-up.js';
import { foldText } from '../text/fold.js';
import { LONGEST_ITEM_MS, parseDuration } from '../time/duration.js';
import { isDate } from '../time/local-day.js';
import { familyOfColumn, type ColumnMapping, type ImportField } from './import-fields.js';
import { ITEM_KINDS, type ItemKind } from './item.js';
import { valueMeant } from './tag-family.js';
import type { TagFamily } from './tags.js';

/** An item as a row of a table or a tagged file describes it; null is “not said”. */
export interface ItemDraft {
  /** Where it came from: a line of a file, or the place of a file in its folder, from 1. */
  readonly row: number;
  readonly title: string;
  readonly artist: string | null;
  readonly album: string | null;
  readonly year: number | null;
  readonly durationMs: number | null;
  readonly introMs: number | null;
  readonly outroMs: number | null;
  readonly cart: string | null;
  readonly file: string | null;
  readonly category: string | null;
  readonly kind: ItemKind | null;
  readonly isrc: string | null;
  readonly label: string | null;
  readonly notes: string | null;
  readonly startDate: string | null;
  readonly endDate: string | null;
  /** Values by tag family; a family that is not there is not said. */
  readonly tags: Readonly<Record<string, readonly string[]>>;
}

/** Why a row was not taken. */
export interface RowError {
  readonly row: number;
  readonly column: string;
  readonly why: string;
}

/** The earliest year an item can have: sound was first recorded in it. */
export const EARLIEST_YEAR = 1860;
const LONGEST_TEXT = 500;

/** Tag families as an import knows them. */
export type KnownFamily = Pick<TagFamily, 'name' | 'single' | 'values'>;

/**
 * Reads one row; every fault of the row is told, not only the first. `latestYear` is the last year taken.
 * Texts in tag columns mean values by name or code; others are values to be.
 */
export function readRow(
  row: number,
  cells: readonly string[],
  mapping: ColumnMapping,
  latestYear: number,
  families: readonly KnownFamily[] = [],
): { readonly draft: ItemDraft } | { readonly errors: readonly RowError[] } {
  const errors: RowError[] = [];
  const text = new Map<ImportField, string>();
  const tags: Record<string, readonly string[]> = {};
  if (cells.length !== mapping.length) {
    return { errors: [{ row, column: '', why: `${cells.length} cells where the first row has ${mapping.length}` }] };
  }
  mapping.forEach((field, index) => {
    const value = elementAt(cells, index).normalize('NFC').trim();
    if (field === null || value === '') return;
    if (value.length > LONGEST_TEXT && field !== 'notes') {
      errors.push({ row, column: field, why: `longer than ${LONGEST_TEXT} characters` });
    } else if (value.includes('\0')) {
      errors.push({ row, column: field, why: 'holds a character that no text has' });
    } else if (value.includes('\uFFFD')) {
      errors.push({ row, column: field, why: 'holds bytes that are not in the encoding of the file' });
    } else {
      const family = familyOfColumn(field);
      if (family === null) text.set(field as ImportField, value);
      else {
        const read = readTags(
          value,
          families.find(({ name }) => name === family),
        );
        if ('why' in read) errors.push({ row, column: family, why: read.why });
        else tags[family] = read.values;
      }
    }
  });
  const read = <T>(field: ImportField, parse: (value: string) => T | null, why: string): T | null => {
    const value = text.get(field);
    if (value === undefined) return null;
    const parsed = parse(value);
    if (parsed === null) errors.push({ row, column: field, why: `“${value.slice(0, 40)}” ${why}` });
    return parsed;
  };
  const length = (field: ImportField): number | null =>
    read(
      field,
      (value) => inRange(parseDuration(value), field === 'duration' ? 1 : 0, LONGEST_ITEM_MS),
      'is not a length between 0:00.001 and 24 hours',
    );
  const title = text.get('title') ?? '';
  if (title === '' && !errors.some((error) => error.column === 'title')) {
    errors.push({ row, column: 'title', why: 'is empty' });
  }
  const draft: ItemDraft = {
    row,
    title,
    artist: text.get('artist') ?? null,
    album: text.get('album') ?? null,
    year: read('year', (value) => parseYear(value, latestYear), `is not a year from ${EARLIEST_YEAR} to ${latestYear}`),
    durationMs: length('duration'),
    introMs: length('intro'),
    outroMs: length('outro'),
    cart: text.get('cart') ?? null,
    file: text.get('file') ?? null,
    category: text.get('category') ?? null,
    kind: read('kind', parseKind, 'is not a kind of item'),
    isrc: text.get('isrc') ?? null,
    label: text.get('label') ?? null,
    notes: text.get('notes') ?? null,
    startDate: read('startDate', parseDate, 'is not a date like 2026-11-23'),
    endDate: read('endDate', parseDate, 'is not a date like 2026-11-23'),
    tags,
  };
  if (draft.introMs !== null && draft.durationMs !== null && draft.introMs > draft.durationMs) {
    errors.push({ row, column: 'intro', why: 'is longer than the item' });
  }
  return errors.length ? { errors } : { draft };
}

const MOST_TAG_LETTERS = 60;

/** The values in a cell, between commas, semicolons or bars. */
function readTags(cell: string, family: KnownFamily | undefined): { values: string[] } | { why: string } {
  const whole = family && valueMeant(cell, family.values);
  const parts = whole ? [whole] : cell.split(/[;,|]/).map((part) => part.trim());
  const values = [...new Set(parts.filter(Boolean).map((part) => (family && valueMeant(part, family.values)) ?? part))];
  if (values.some((value) => value.length > MOST_TAG_LETTERS))
    return { why: `holds a value of more than ${MOST_TAG_LETTERS} letters` };
  if (family?.single && values.length > 1) return { why: 'has several values where there can be one' };
  return { values };
}

function inRange(value: number | null, low: number, high: number): number | null {
  return value !== null && value >= low && value <= high ? value : null;
}

function parseYear(value: string, latestYear: number): number | null {
  const match = /^(\d{4})(?:-\d{2}(?:-\d{2})?)?$/.exec(value);
  return match ? inRange(Number(match[1]), EARLIEST_YEAR, latestYear) : null;
}

function parseKind(value: string): ItemKind | null {
  return ITEM_KINDS.find((kind) => foldText(kind) === foldText(value)) ?? null;
}

function parseDate(value: string): string | null {
  return isDate(value) ? value : null;
}
