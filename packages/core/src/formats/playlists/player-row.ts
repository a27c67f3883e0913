import type { Cue } from './cue.js';

/** What plays, as a player's file names it. */
export interface PlayerRow {
  /** UTC epoch milliseconds. */
  readonly startMs: number;
  readonly durationMs: number;
  /** A kind of item; `spot` is a commercial in a break. */
  readonly kind: string;
  readonly artist: string;
  readonly title: string;
  readonly album: string;
  readonly cart: string;
  readonly sponsor: string;
  readonly product: string;
  /** As the player finds it; its cart where it has no file. */
  readonly file: string;
  /** Only in files that are written with cues. */
  readonly cue?: Cue;
}

/** What a file is for. */
export interface PlaylistAbout {
  readonly station: string;
  /** `2026-11-23` */
  readonly date: string;
  readonly timeZone: string;
  /** What a list is called that belongs to no day: its rows follow each other and have no time on the clock. */
  readonly listName?: string;
}

/** A text without halves of letters, which no encoding has. */
export function wellFormed(text: string): string {
  return text.replace(/\p{Surrogate}/gu, '\ufffd');
}

/** Printable ASCII with single spaces: nearly every text is, and needs nothing. */
const PLAIN = /^(?:[!-~]+(?: [!-~]+)*)?$/;

/** A text on one line, without characters that no file may hold. */
export function oneLine(text: string): string {
  if (PLAIN.test(text)) return text;
  return wellFormed(text)
    .replace(/[\u0000-\u0008\u000e-\u001f\u007f\ufffe\uffff]/g, '')
    .replace(/[\s\u0085]+/g, ' ')
    .trim();
}

/** `Artist - Title`; a sponsor stands where there is no artist. */
export function creditOf({ artist, sponsor, title }: Pick<PlayerRow, 'artist' | 'sponsor' | 'title'>): string {
  const who = artist || sponsor;
  return oneLine(who && title ? `${who} - ${title}` : title || who);
}
