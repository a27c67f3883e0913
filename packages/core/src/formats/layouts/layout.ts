import * as v from 'valibot';

/** What a column of a text log can hold; `artist`, `file`, `kind` and `cue` do not matter to what traffic books. */
export const COLUMN_MEANINGS = [
  'time',
  'length',
  'cart',
  'sponsor',
  'title',
  'product',
  'sequence',
  'date',
  'artist',
  'file',
  'kind',
  'cue',
] as const;
export type ColumnMeaning = (typeof COLUMN_MEANINGS)[number];

/** The characters that can part the columns of a text log. */
export const LAYOUT_DELIMITERS = ['\t', ';', ',', '|'] as const;
export type LayoutDelimiter = (typeof LAYOUT_DELIMITERS)[number];

/** How a time of day is written: 06:12:00, 061200, 0612, 6:12:00 AM. */
export const TIME_NOTATIONS = ['hh:mm:ss', 'hhmmss', 'hhmm', 'h:mm:ss am'] as const;
/** How a length is written: 30, 30000, 0:30, 00:00:30, 0:30.000. */
export const LENGTH_NOTATIONS = ['seconds', 'milliseconds', 'm:ss', 'hh:mm:ss', 'm:ss.SSS'] as const;

const place = v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(10_000));

/** How a text log is read and written, as it is shared: JSON of format `fuller-layout`. */
export const TextLayoutSchema = v.strictObject({
  format: v.literal('fuller-layout'),
  version: v.literal(1),
  name: v.pipe(v.string(), v.trim(), v.minLength(1), v.maxLength(120)),
  /** `auto` takes UTF-8 where the bytes are that, and Windows-1252 otherwise. */
  encoding: v.picklist(['auto', 'utf-8', 'windows-1252']),
  /** What parts the columns; null where they stand at fixed places. */
  delimiter: v.nullable(v.picklist(LAYOUT_DELIMITERS)),
  /**
   * With a delimiter `from` is the number of the column, from 1; without one it is the first character, from 1, and `length` so
   * many characters, null to the end of the line.
   */
  columns: v.pipe(
    v.array(v.strictObject({ means: v.picklist(COLUMN_MEANINGS), from: place, length: v.nullable(place) })),
    v.minLength(1),
    v.maxLength(COLUMN_MEANINGS.length),
  ),
  /** A time of day, or minutes and seconds past the hour that a heading names. */
  times: v.picklist(['clock', 'past the hour']),
  /** What a bare number is in the column of lengths. */
  lengths: v.picklist(['seconds', 'milliseconds']),
  /** Whether 03/04 is the third of April. */
  dayFirst: v.boolean(),
  /** What lines begin with that name the hour of those after them; null without such headings. */
  hourHeading: v.nullable(v.pipe(v.string(), v.minLength(1), v.maxLength(40))),
  /** Lines that begin with one of these hold no spot. */
  comments: v.pipe(v.array(v.pipe(v.string(), v.minLength(1), v.maxLength(40))), v.maxLength(20)),
  /** So many lines at the top hold no spot. */
  skipFirst: v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(50)),
  /** How a file is written by it; nothing of this matters to one that is read. */
  writing: v.optional(
    v.strictObject({
      time: v.picklist(TIME_NOTATIONS),
      length: v.picklist(LENGTH_NOTATIONS),
      /** Lines before the rows and after them, which may name what a file name may. */
      header: v.pipe(v.array(v.pipe(v.string(), v.maxLength(500))), v.maxLength(20)),
      footer: v.pipe(v.array(v.pipe(v.string(), v.maxLength(500))), v.maxLength(20)),
    }),
  ),
});
export type TextLayout = v.InferOutput<typeof TextLayoutSchema>;

/** A layout, or what is wrong with it and where. */
export type LayoutCheck =
  | { readonly ok: true; readonly layout: TextLayout }
  | { readonly ok: false; readonly path: string; readonly why: string };

/** Whether something is a layout that spots can be read by. */
export function checkLayout(given: unknown): LayoutCheck {
  const parsed = v.safeParse(TextLayoutSchema, given);
  if (!parsed.success) {
    const [issue] = parsed.issues;
    return { ok: false, path: v.getDotPath(issue) ?? '', why: issue.message };
  }
  const layout = parsed.output;
  const wrong = contradiction(layout);
  return wrong ? { ok: false, ...wrong } : { ok: true, layout };
}

function contradiction({
  columns,
  times,
  hourHeading,
  delimiter,
}: TextLayout): { readonly path: string; readonly why: string } | null {
  const meanings = columns.map(({ means }) => means);
  const twice = meanings.findIndex((one, n) => meanings.indexOf(one) < n);
  if (twice >= 0) return { path: `columns.${twice}`, why: `There are two columns for the ${meanings[twice]}.` };
  for (const needed of ['time', 'length'] as const)
    if (!meanings.includes(needed)) return { path: 'columns', why: `There is no column for the ${needed}.` };
  if (times === 'past the hour' && hourHeading === null)
    return { path: 'hourHeading', why: 'Times past the hour need a heading that names the hour.' };
  const open = columns.findIndex(({ length }) => length === null && delimiter === null);
  const last = columns.reduce((most, { from }) => Math.max(most, from), 0);
  if (open >= 0 && (columns[open]?.from ?? 0) < last)
    return { path: `columns.${open}`, why: 'Only the last column may go on to the end of the line.' };
  return null;
}
