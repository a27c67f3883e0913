import type { LineFlags } from '../../clocks/line-flags.js';

/** How a player is to treat a row. */
export interface Cue extends Pick<LineFlags, 'waits' | 'noFade'> {
  /** Names its entry or spot among those of all days, as `entryOfDate` does. */
  readonly id: string;
  /** Planned start, UTC epoch milliseconds. */
  readonly startMs: number;
  /** Hard: begins at its start, cutting what plays. Soft: not before its start. Null: when what is before it ends. */
  readonly mark: 'hard' | 'soft' | null;
  /** How long before its end the next row begins, milliseconds. */
  readonly segueMs: number;
  /** Until the vocal, milliseconds. */
  readonly introMs: number;
  /** Plays over the intro of the row after it. */
  readonly over?: true;
  readonly kind: string;
  readonly cart: string;
}

const FLAGS = { 'then-wait': 'waits', 'no-fade': 'noFade', over: 'over' } as const;

/** A cue as one line of text: `id=… start=2026-11-24T06:00:00.000Z hard segue=3200 intro=12000 then-wait kind=song cart=A1`. */
export function writeCue(cue: Cue): string {
  const flags = Object.entries(FLAGS).flatMap(([word, flag]) => (cue[flag] ? [word] : []));
  const value = (name: string, text: string | number): string[] =>
    text ? [`${name}=${encodeURIComponent(text)}`] : [];
  return [
    `id=${encodeURIComponent(cue.id)}`,
    `start=${new Date(cue.startMs).toISOString()}`,
    ...(cue.mark ? [cue.mark] : []),
    ...value('segue', Math.round(cue.segueMs)),
    ...value('intro', Math.round(cue.introMs)),
    ...flags,
    ...value('kind', cue.kind),
    ...value('cart', cue.cart),
  ].join(' ');
}

/** The cue a text holds; null where it holds none. Unknown words are ignored. */
export function readCue(text: string): Cue | null {
  const words = text.trim().split(/\s+/);
  const values = new Map(
    words.flatMap((word) => {
      const at = word.indexOf('=');
      return at < 0 ? [] : [[word.slice(0, at), decoded(word.slice(at + 1))] as const];
    }),
  );
  const startMs = Date.parse(values.get('start') ?? '');
  const id = values.get('id');
  if (!id || Number.isNaN(startMs)) return null;
  const mark = words.includes('hard') ? 'hard' : words.includes('soft') ? 'soft' : null;
  return {
    id,
    startMs,
    mark,
    segueMs: lengthOf(values.get('segue')),
    introMs: lengthOf(values.get('intro')),
    ...Object.fromEntries(
      Object.entries(FLAGS).flatMap(([word, flag]) => (words.includes(word) ? [[flag, true]] : [])),
    ),
    kind: values.get('kind') ?? '',
    cart: values.get('cart') ?? '',
  };
}

function lengthOf(text: string | undefined): number {
  const ms = Number(text ?? 0);
  return Number.isFinite(ms) && ms > 0 ? ms : 0;
}

function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}
