import * as v from 'valibot';
import { foldText } from '../text/fold.js';
import { elementAt } from '../values/look-up.js';
import { detectFormat } from '../formats/playlist-rows.js';
import { isTooDeep } from '../formats/limits.js';
import { readPlayerRows, type PlayerFileAbout } from '../formats/playlists/read-player-rows.js';
import { PLAY_ENDS, PLAY_SOURCES, type AiredRow, type AsRun } from './as-run.js';

const text = v.pipe(v.string(), v.maxLength(1000));
const instant = v.pipe(v.number(), v.integer());
const Row = v.pipe(
  v.object({
    key: v.pipe(v.string(), v.minLength(1), v.maxLength(200)),
    startMs: instant,
    endMs: instant,
    kind: text,
    artist: text,
    title: text,
    cart: text,
    file: text,
    entryId: text,
    ended: v.picklist(PLAY_ENDS),
    by: v.picklist(PLAY_SOURCES),
  }),
  v.check(({ startMs, endMs }) => endMs >= startMs, 'ends before it begins'),
);
/** An as-run log as a player sends it: JSON of format `fuller-as-run`. */
export const AsRunSchema = v.object({
  format: v.literal('fuller-as-run'),
  version: v.literal(1),
  date: v.optional(text),
  rows: v.array(Row),
  missed: v.array(
    v.object({ key: v.pipe(v.string(), v.maxLength(200)), atMs: instant, entryId: text, title: text, why: text }),
  ),
  coveredUntilMs: instant,
});

/** An as-run log, or what is wrong with it and in which line. */
export type AsRunRead =
  { readonly ok: true; readonly asRun: AsRun } | { readonly ok: false; readonly line: number; readonly why: string };

/**
 * Reads what aired on a date: JSON of format `fuller-as-run`, any table or playlist whose rows tell their starts, or text
 * by a layout. Rows without a key of their own get one of what they say, so that the same file gives the same keys.
 */
export function readAsRun(given: string, about: PlayerFileAbout): AsRunRead {
  const own = detectFormat(given) === 'json' ? ownFormat(given) : null;
  if (own) {
    const { rows, missed, coveredUntilMs, date } = own;
    if (date !== undefined && date !== about.date) return { ok: false, line: 1, why: `The file is for ${date}.` };
    return { ok: true, asRun: { rows: inOrder(rows), missed, coveredUntilMs } };
  }
  const read = readPlayerRows(given, about);
  if (!read.ok) return read;
  const seen = new Map<string, number>();
  const rows = read.rows.map(({ startMs, durationMs, kind, artist, sponsor, title, cart, file, cue }): AiredRow => {
    const name = `${startMs} ${cart} ${foldText(artist || sponsor)} ${foldText(title)}`;
    const times = (seen.get(name) ?? 0) + 1;
    seen.set(name, times);
    const key = `${name}${times > 1 ? ` ${times}` : ''}`.slice(0, 200);
    const told = { kind, artist: artist || sponsor, title, cart, file, entryId: cue?.id ?? '' };
    return { key, startMs, endMs: startMs + durationMs, ...told, ended: 'whole', by: 'log' };
  });
  if (rows.length === 0) return { ok: false, line: 1, why: 'The file holds no play.' };
  const sorted = inOrder(rows);
  // A file that tells no cuts still tells them by what begins before the end.
  const ended = sorted.map((row, n): AiredRow => {
    const next = sorted[n + 1];
    return next && next.startMs < row.endMs - OVERLAP_MS ? { ...row, endMs: next.startMs, ended: 'cut' } : row;
  });
  return { ok: true, asRun: { rows: ended, missed: [], coveredUntilMs: Math.max(...ended.map(({ endMs }) => endMs)) } };
}

/** Plays may run into each other this far without being cut, milliseconds. */
const OVERLAP_MS = 15_000;

function inOrder<T extends AiredRow>(rows: readonly T[]): T[] {
  return [...rows].sort((a, b) => a.startMs - b.startMs);
}

function ownFormat(given: string): v.InferOutput<typeof AsRunSchema> | null {
  if (isTooDeep(given)) return null;
  try {
    const read = v.safeParse(AsRunSchema, JSON.parse(given));
    return read.success ? read.output : null;
  } catch {
    return null;
  }
}

/** Plays that begin this near are one, where they are the same, milliseconds. */
const SAME_MS = 1500;

/** The rows that are not known yet: neither by their key, nor as the same at the same time under another key. */
export function unknownRows<A extends AiredRow>(known: readonly AiredRow[], rows: readonly A[]): A[] {
  const keys = new Set(known.map(({ key }) => key));
  const sorted = inOrder(known);
  return rows.filter((row) => {
    if (keys.has(row.key)) return false;
    let from = 0;
    for (let to = sorted.length; from < to;) {
      const middle = (from + to) >> 1;
      if (elementAt(sorted, middle).startMs < row.startMs - SAME_MS) from = middle + 1;
      else to = middle;
    }
    for (let n = from; n < sorted.length && elementAt(sorted, n).startMs <= row.startMs + SAME_MS; n++)
      if (isSamePlay(elementAt(sorted, n), row)) return false;
    return true;
  });
}

function isSamePlay(a: AiredRow, b: AiredRow): boolean {
  if (a.cart !== '' && a.cart === b.cart) return true;
  return foldText(a.title) === foldText(b.title) && foldText(a.artist) === foldText(b.artist);
}
